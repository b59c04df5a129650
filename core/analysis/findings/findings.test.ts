import { describe, expect, it } from 'vitest';
import { newSource, sessionFrom, type MicArray, type Session } from '../../session';
import { demoSession } from '../../demo';
import { analyseSession } from '..';
import { applyFix, mendable, RULES, type Finding } from '.';

const demo = demoSession('2026-11-23T12:00:00.000Z');

function mainOf(session: Session): MicArray {
  const [array] = session.arrays;
  if (!array) throw new Error('an array is expected');
  return array;
}

function found(session: Session, code: string): Finding[] {
  return analyseSession(session).findings.filter((finding) => finding.code === code);
}

describe('findings', () => {
  const change = (array: Partial<MicArray>): Session => ({
    ...demo,
    arrays: [{ ...mainOf(demo), ...array }],
  });

  it('a wider ensemble: the fix makes the recording angle hold it', () => {
    const wide = { ...demo, sources: demo.sources.map((s) => ({ ...s, x: s.x * 1.6 })) };
    const [finding] = found(wide, 'outside-recording-angle');
    const fix = finding && mendable(wide, finding).fix;
    if (!finding || !fix) throw new Error('a fix is expected');
    expect(finding.figures.overDeg).toBeGreaterThan(1);
    const mended = applyFix(wide, fix);
    expect(found(mended, 'outside-recording-angle')).toEqual([]);
    expect(wide.arrays[0]?.technique).toMatchObject({ spacingM: 0.17 });
  });

  it('a named standard with another number: said with both angles, mended by its numbers', () => {
    const technique = {
      kind: 'pair',
      pattern: 'cardioid',
      spacingM: 0.25,
      includedAngleDeg: 110,
    } as const;
    const session = change({ name: 'ORTF main', technique });
    const [finding] = found(session, 'standard-mismatch');
    expect(finding?.message).toMatch(
      /another spacing\. The recording angle is ±\d\d\.\d° instead of ±47\.8°/,
    );
    const fix = finding && mendable(session, finding).fix;
    if (!fix) throw new Error('a fix is expected');
    expect(found(applyFix(session, fix), 'standard-mismatch')).toEqual([]);
  });

  it.each([
    [
      'same-signal',
      change({ technique: { kind: 'pair', pattern: 0.5, spacingM: 0, includedAngleDeg: 0 } }),
    ],
    [
      'side-lobe',
      change({
        technique: {
          kind: 'mid-side',
          midPattern: 'cardioid',
          sideGainDb: 0,
          sidePositive: 'right',
        },
      }),
    ],
    ['name-twice', { ...demo, sources: demo.sources.map((s) => ({ ...s, name: 'Player' })) }],
    [
      'pan-contradicts',
      change({
        mix: {
          faderDb: 0,
          mute: false,
          capsules: [
            { pan: 1, gainDb: 0, polarity: 1, delayMs: 0 },
            { pan: -1, gainDb: 0, polarity: 1, delayMs: 0 },
          ],
        },
      }),
    ],
  ] as const)('%s is mended by its fix', (code, session) => {
    const [finding] = found(session, code);
    const fix = finding && mendable(session, finding).fix;
    if (!fix) throw new Error('a fix is expected');
    expect(found(applyFix(session, fix), code)).toEqual([]);
  });

  it.each([
    ['channels-short', { ...demo, brief: { ...demo.brief, channelLimit: 1 } }],
    [
      'level-balance',
      { ...demo, sources: demo.sources.map((s, i) => (i === 0 ? { ...s, levelDb: 100 } : s)) },
    ],
    ['hall-unknown', { ...demo, venue: { ...demo.venue, rt60S: null } }],
    ['high', change({ z: 4.2 })],
    ['over-people', change({ x: -2.1, y: 1.2, z: 2.7 })],
    ['lopsided', change({ aimDeg: 30 })],
    ['narrow-picture', change({ y: -9 })],
    ['clash', change({ x: -2.1, y: 1.4, z: 1.4 })],
    ['proximity', change({ x: -2.1, y: 1.3, z: 1.4 })],
    [
      'mono-loss',
      {
        ...change({
          z: 1.2,
          x: 0,
          y: 3.2,
          technique: { kind: 'pair', pattern: 0, spacingM: 0, includedAngleDeg: 90 },
        }),
        brief: { ...demo.brief, intent: { ...demo.brief.intent, mono: 'must-survive' as const } },
      },
    ],
    [
      'room-balance',
      {
        ...change({ y: -10 }),
        brief: { ...demo.brief, intent: { ...demo.brief.intent, room: 'close' as const } },
      },
    ],
    [
      'mono-comb',
      {
        ...change({
          technique: { kind: 'pair', pattern: 'omni', spacingM: 0.6, includedAngleDeg: 0 },
        }),
        brief: { ...demo.brief, intent: { ...demo.brief.intent, mono: 'must-survive' as const } },
      },
    ],
  ] as const)('%s is found where it was planted, and not in the demo', (code, session) => {
    expect(found(session, code).length).toBeGreaterThan(0);
    if (code !== 'room-balance') expect(found(demo, code)).toEqual([]);
  });

  it('a hole is found between two far groups', () => {
    const sources = [-2, -1.9, 2, 1.9].map((x, i) =>
      newSource({ id: `s${i}`, name: `S${i}`, x, y: 2, z: 1.2 }),
    );
    expect(found({ ...demo, sources }, 'gap')[0]?.figures.largestGapPct).toBeGreaterThan(40);
  });

  it('preferences can be switched off, physics cannot', () => {
    const off = (code: string, session: Session): Session => ({
      ...session,
      settings: { ...session.settings, preferencesOff: [{ code, reason: 'wanted so' }] },
    });
    const narrow = change({ y: -9 });
    expect(found(off('narrow-picture', narrow), 'narrow-picture')).toEqual([]);
    const same = change({
      technique: { kind: 'pair', pattern: 0.5, spacingM: 0, includedAngleDeg: 0 },
    });
    expect(found(off('same-signal', same), 'same-signal')).toHaveLength(1);
  });

  it('asks where the front of a large microphone is, and warns of two kinds in one array', () => {
    const microphones = (address: 'end' | 'side' | null) => {
      const { kit } = sessionFrom({
        kit: {
          microphones: [
            { id: 'l', name: 'Large', kind: 'large condenser', patterns: ['cardioid'], count: 1 },
            { id: 'r', name: 'Ribbon', kind: 'ribbon', patterns: ['figure-eight'], count: 1 },
          ],
        },
      });
      const [first, ribbon] = kit.microphones;
      if (!first || !ribbon) throw new Error('two microphones are expected');
      const list = [
        { ...first, address },
        { ...ribbon, address: 'side' as const },
      ];
      const midSide = change({
        technique: {
          kind: 'mid-side',
          midPattern: 'cardioid',
          sideGainDb: 0,
          sidePositive: 'left',
        },
      });
      return { ...midSide, kit: { ...kit, microphones: list } };
    };
    expect(found(microphones(null), 'address-side').map(({ message }) => message)).toEqual([
      expect.stringMatching(/^Is Large addressed at its end or on its side\?/),
    ]);
    expect(found(microphones('side'), 'address-side')).toEqual([]);
    expect(found(microphones('end'), 'address-side')[0]).toMatchObject({ severity: 'caution' });
  });

  it('every rule has a code of its own and a reason', () => {
    expect(new Set(RULES.map(({ code }) => code)).size).toBe(RULES.length);
    for (const { reason } of RULES) expect(reason.length).toBeGreaterThan(20);
  });
});
