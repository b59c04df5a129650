import { describe, expect, it } from 'vitest';
import { calmWith, OUT, beside, SPOT } from '../../fixtures/calm';
import { sessionFrom, type Session } from '../../session';
import { analyseSession } from '..';
import { applyFix, type Finding, type Fix } from '.';

const found = (session: Session, code: string): Finding[] =>
  analyseSession(session).findings.filter((finding) => finding.code === code);
const only = (session: Session, code: string): Finding => {
  const [one, more] = found(session, code);
  if (!one || more) throw new Error(`one ${code} is expected`);
  return one;
};

const wide = (technique: object, rest: object = {}): Session =>
  calmWith({
    sources: [-3.4, -1.7, 0, 1.7, 3.4].map((x, i) => ({
      id: `p${i}`,
      name: `Player ${i}`,
      x,
      y: 1.2 + (i % 2) / 2,
      levelDb: 82,
    })),
    arrays: [{ id: 'main', name: 'Main', role: 'main', x: 0, y: -1, z: 2.4, technique, ...rest }],
  });
const pair = (pattern: string, spacingM: number, includedAngleDeg: number): object => ({
  kind: 'pair',
  pattern,
  spacingM,
  includedAngleDeg,
});

describe('a crowded picture', () => {
  it('says who moves, and what each way costs, the gentlest first', () => {
    const one = only(wide(pair('cardioid', 0.17, 130)), 'outside-recording-angle');
    expect(one.message).toMatch(
      /Move Main back by [\d.]+ m, to [\d.]+ m from the players \([\d.]+ dB less direct sound against the room\), or set the included angle to \d+° \([\d.]+ instead of [\d.]+ dB between the channels at Player [04]\), or set the spacing to [\d.]+ cm/,
    );
    expect(one.fix?.label).toMatch(/^Move it back by/);
    expect(one.others.map(({ label }) => label.replace(/[\d.]+/, 'n'))).toEqual([
      'Set the included angle to n°',
      'Set the spacing to n cm',
    ]);
  });

  it('every way out leads out', () => {
    const session = wide(pair('cardioid', 0.17, 130));
    const { fix, others } = only(session, 'outside-recording-angle');
    for (const way of [fix, ...others]) {
      expect(found(applyFix(session, way as Fix), 'outside-recording-angle')).toEqual([]);
    }
  });

  it('asks for no smaller spacing of a coincident pair, and no smaller angle of omnis', () => {
    const crossed = only(wide(pair('supercardioid', 0, 130)), 'outside-recording-angle');
    expect(crossed.message).toContain('included angle');
    expect(crossed.message).not.toContain('spacing');
    const omnis = only(wide(pair('omni', 0.8, 0)), 'outside-recording-angle');
    expect(omnis.message).toContain('spacing');
    expect(omnis.message).not.toContain('included angle');
  });

  it('does not send an array through a wall', () => {
    const session = wide(pair('cardioid', 0.17, 130));
    const near = { ...session, venue: { ...session.venue, origin: { x: 9, y: 1.2 } } };
    const one = only(near, 'outside-recording-angle');
    expect(one.message).not.toContain('back by');
    expect(one.fix?.label).toMatch(/^Set the included angle/);
  });
});

describe('what stands outside of the hall', () => {
  const low = calmWith({
    venue: {
      widthM: 6,
      depthM: 30,
      heightM: 2.4,
      rt60S: 1,
      origin: { x: 2, y: 16 },
      stage: { widthM: 3, depthM: 3 },
      datumPoints: [],
    },
  });

  it('is named with how far, players and arrays each as one', () => {
    const messages = found(low, 'outside-hall').map(({ message }) => message);
    expect(messages).toEqual([
      'Player a is 0.10 m beyond the left wall. Move it in, or correct the hall or its datum.',
      'Main is 0.20 m above the ceiling. Move it in, or correct the hall or its datum.',
    ]);
  });

  it('is brought in, 30 cm clear of the wall', () => {
    const [player, array] = found(low, 'outside-hall');
    const moved = applyFix(low, player?.fix as Fix);
    expect(moved.sources[0]).toMatchObject({ x: -1.7, y: 1.2 });
    expect(applyFix(moved, array?.fix as Fix).arrays[0]).toMatchObject({ z: 2.1 });
    expect(found(applyFix(moved, array?.fix as Fix), 'outside-hall')).toEqual([]);
  });

  it('nothing is, while nobody knows where the walls are', () => {
    expect(found({ ...low, venue: { ...low.venue, origin: null } }, 'outside-hall')).toEqual([]);
  });
});

describe('beside the main array', () => {
  it('outriggers that lead are delayed behind it, and no second note says the same', () => {
    const session = calmWith(beside({ ...OUT, y: -0.4, mix: { faderDb: -4, capsules: [] } }));
    const one = only(session, 'outrigger-leads');
    expect(found(session, 'outrigger-blend')).toEqual([]);
    expect(found(applyFix(session, one.fix as Fix), 'outrigger-leads')).toEqual([]);
  });

  it('a spot for several players is delayed once, behind the farthest', () => {
    const session = calmWith(
      beside({ ...SPOT, for: { kind: 'some', sources: ['b', 'c', 'd'] }, mix: { capsules: [] } }),
    );
    const one = only(session, 'spot-leads');
    expect(one.members).toEqual([]);
    expect(one.sourceIds).toEqual(['b', 'c', 'd']);
    expect(one.message).toMatch(
      /^Spot: Player b, Player c, Player d arrive up to [\d.]+ ms before/,
    );
    expect(found(applyFix(session, one.fix as Fix), 'spot-leads')).toEqual([]);
    expect(found(applyFix(session, one.fix as Fix), 'spot-pan')).toEqual([]);
  });

  it('a spot too soft to be heard pulls nobody', () => {
    const session = calmWith(beside({ ...SPOT, mix: { faderDb: -40, capsules: [] } }));
    expect(found(session, 'spot-leads')).toEqual([]);
  });

  it('two string groups of one instrument count as two sources', () => {
    const over = (id: string, x: number): object => ({
      id,
      name: id,
      role: 'spot',
      x,
      y: 2,
      z: 1.3,
      tiltDeg: -90,
      technique: { kind: 'single', pattern: 'omni' },
    });
    const piano = (apart: number): Session =>
      sessionFrom({
        sources: [{ id: 'p', name: 'Piano', kind: 'grand piano', x: 0, y: 2, z: 0.9, widthM: 1.6 }],
        arrays: [over('low', -apart / 2), over('high', apart / 2)],
      });
    expect(only(piano(0.8), 'three-to-one').message).toMatch(/low and high: 2\.0 : 1 apart/);
    expect(found(piano(1.2), 'three-to-one')).toEqual([]);
    expect(found(piano(0.06), 'three-to-one')).toEqual([]);
  });
});
