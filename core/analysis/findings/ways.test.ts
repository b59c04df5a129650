import { describe, expect, it } from 'vitest';
import { beside, calmWith, OUT, pair, player, SPOT, type Plain } from '../../fixtures/calm';
import { sessionFrom, type Session } from '../../session';
import { analyseSession } from '..';
import { applyFix, mendable, type Finding } from '.';

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
const mended = (session: Session, code: string) => mendable(session, only(session, code));

describe('a crowded picture', () => {
  const session = wide(pair('cardioid', 0.17, 130));

  it('says what each way makes of it and costs, the gentlest first', () => {
    const { message, ways } = mended(session, 'outside-recording-angle');
    expect(message).toMatch(/outside the recording angle of Main by [\d.]+°, so heard at the loud/);
    expect(ways.map(({ label }) => label.replace(/[\d.]+/g, 'n')).slice(0, 3)).toEqual([
      'Move it back by n m, to n m from the players’ middle',
      'Set the included angle to n°',
      'Set the spacing to n cm',
    ]);
    expect(ways[0]?.becomes).toMatch(/^outermost player \d[\d.]*° beyond → \d[\d.]*° inside$/);
    expect(ways[0]?.price.join()).toMatch(/dB less direct sound against the room/);
  });

  it('every way out leads out, and brings nothing graver', () => {
    const before = new Set(analyseSession(session).findings.map(({ key }) => key));
    for (const way of mended(session, 'outside-recording-angle').ways) {
      const after = analyseSession(applyFix(session, way)).findings;
      expect(after.filter(({ code }) => code === 'outside-recording-angle')).toEqual([]);
      const graver = after.filter(
        ({ key, severity }) => !before.has(key) && severity !== 'note' && severity !== 'caution',
      );
      expect(graver.map(({ message }) => message)).toEqual([]);
    }
  });

  it('offers no spacing of a coincident pair, and no angle of omnis', () => {
    const labels = (technique: Plain) =>
      mended(wide(technique), 'outside-recording-angle')
        .ways.map(({ label }) => label)
        .join('; ');
    expect(labels(pair('supercardioid', 0, 130))).toMatch(/included angle/);
    expect(labels(pair('supercardioid', 0, 130))).not.toMatch(/spacing/);
    expect(labels(pair('omni', 0.8, 0))).toMatch(/spacing/);
    expect(labels(pair('omni', 0.8, 0))).not.toMatch(/included angle/);
  });

  it('does not send an array through a wall', () => {
    const near = { ...session, venue: { ...session.venue, origin: { x: 9, y: 1.2 } } };
    const { ways } = mended(near, 'outside-recording-angle');
    expect(ways.map(({ label }) => label).join()).not.toMatch(/back by/);
    expect(ways[0]?.label).toMatch(/^Set the included angle/);
  });

  it('nor through the players who sit behind it', () => {
    const row = [-1.2, -0.6, 0, 0.6, 1.2].map((x, i) => player(`r${i}`, x, -2.4, { facingDeg: 0 }));
    const { sources } = sessionFrom({ sources: row });
    const crowded = { ...session, sources: [...session.sources, ...sources] };
    const whom = {
      kind: 'some' as const,
      groups: [],
      sources: session.sources.map(({ id }) => id),
    };
    const arrays = crowded.arrays.map((array) => ({ ...array, for: whom }));
    const all = analyseSession({ ...crowded, arrays }).findings;
    const finding = all.find(({ code }) => code === 'outside-recording-angle');
    if (!finding) throw new Error('crowded');
    for (const { changes } of mendable({ ...crowded, arrays }, finding).ways) {
      for (const { set } of changes) {
        if ('y' in set && typeof set.y === 'number') expect(set.y).toBeGreaterThan(-2.4);
      }
    }
  });
});

describe('players all round crossed figure-eights', () => {
  const round = (count: number) =>
    sessionFrom({
      venue: { widthM: 9, depthM: 9, heightM: 4, origin: { x: 4.5, y: 4.5 } },
      sources: Array.from({ length: count }, (_, i) => {
        const turn = (2 * Math.PI * i) / count + 0.2;
        return player(`p${i}`, 2 * Math.sin(turn), 2 * Math.cos(turn), {
          facingDeg: ((turn * 180) / Math.PI + 180) % 360,
        });
      }),
      kit: { microphones: [{ id: 'e', name: 'E', patterns: ['figure-eight'], count: 2 }] },
      arrays: [
        {
          id: 'm',
          name: 'Main',
          role: 'main',
          x: 0,
          y: 0,
          z: 1.4,
          technique: pair('figure-eight', 0, 90),
        },
      ],
    });
  const antiphaseIn = (session: Session): number =>
    found(session, 'antiphase')[0]?.sourceIds.length ?? 0;

  it.each([8, 12, 16])(
    '%i: what is offered leaves fewer of them in antiphase, by a fifth',
    (count) => {
      const session = round(count);
      const before = antiphaseIn(session);
      expect(before).toBeGreaterThan(2);
      const { ways, nothingHelps, instead } = mended(session, 'antiphase');
      for (const way of ways) {
        expect(antiphaseIn(applyFix(session, way))).toBeLessThanOrEqual(0.8 * before);
        expect(way.becomes).toMatch(/^players in antiphase \d+ → \d+$/);
      }
      if (ways.length === 0) expect([nothingHelps, instead]).toEqual([true, expect.any(String)]);
    },
  );

  it('who turns his back to a wall is not asked to play through it', () => {
    for (const { label } of mended(round(8), 'antiphase').ways)
      expect(label).not.toMatch(/NaN|−0 /);
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
      'Player a is 0.10 m beyond the left wall.',
      'Main is 0.20 m above the ceiling.',
    ]);
  });

  it('is brought in, 30 cm clear of the wall', () => {
    const [player, array] = found(low, 'outside-hall').map((finding) => mendable(low, finding).fix);
    if (!player || !array) throw new Error('two fixes');
    const moved = applyFix(low, player);
    expect(moved.sources[0]).toMatchObject({ x: -1.7, y: 1.2 });
    expect(applyFix(moved, array).arrays[0]).toMatchObject({ z: 2.1 });
    expect(found(applyFix(moved, array), 'outside-hall')).toEqual([]);
  });

  it('nothing is, while nobody knows where the walls are', () => {
    expect(found({ ...low, venue: { ...low.venue, origin: null } }, 'outside-hall')).toEqual([]);
  });
});

describe('beside the main array', () => {
  it('outriggers that lead are delayed behind it, and no second note says the same', () => {
    const session = calmWith(beside({ ...OUT, y: -0.4, mix: { faderDb: -4, capsules: [] } }));
    const { fix } = mended(session, 'outrigger-leads');
    expect(found(session, 'outrigger-blend')).toEqual([]);
    expect(fix && found(applyFix(session, fix), 'outrigger-leads')).toEqual([]);
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
    const { fix } = mendable(session, one);
    expect(fix && found(applyFix(session, fix), 'spot-leads')).toEqual([]);
    expect(fix && found(applyFix(session, fix), 'spot-pan')).toEqual([]);
  });

  it('a spot too soft to be heard pulls nobody', () => {
    const session = calmWith(beside({ ...SPOT, mix: { faderDb: -40, capsules: [] } }));
    expect(found(session, 'spot-leads')).toEqual([]);
  });

  it('two microphones of one instrument are no 3 : 1 pair, whichever parts they hear', () => {
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
    const session = sessionFrom({
      sources: [{ id: 'p', name: 'Piano', kind: 'grand piano', x: 0, y: 2, z: 0.9, widthM: 1.6 }],
      arrays: [over('low', -0.4), over('high', 0.4)],
    });
    expect(found(session, 'three-to-one')).toEqual([]);
  });
});
