import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { sessionFrom, type Session } from '../../session';
import { analyseSession } from '..';
import { RULES } from '.';
import { checksTable } from './checks-table';

/**
 * A set-up in which nothing is wrong, and for every rule the same with one fault planted in it:
 * exactly that is found. What every set-up raises (cables, phantom power) is left out.
 */

type Plain = Record<string, unknown>;
const player = (id: string, x: number, y: number, rest: Plain = {}): Plain => ({
  id,
  name: `Player ${id}`,
  kind: 'violin',
  x,
  y,
  z: 1.2,
  facingDeg: 180,
  levelDb: 82,
  ...rest,
});
const pair = (pattern: string, spacingM: number, includedAngleDeg: number): Plain => ({
  kind: 'pair',
  pattern,
  spacingM,
  includedAngleDeg,
});
const single = (pattern: string): Plain => ({ kind: 'single', pattern });
const strip = (rest: Plain): Plain => ({ pan: 0, gainDb: 0, polarity: 1, delayMs: 0, ...rest });
const MAIN = {
  id: 'main',
  name: 'Main',
  role: 'main',
  x: 0,
  y: -1.6,
  z: 2.6,
  tiltDeg: -15,
  technique: pair('cardioid', 0.17, 110),
};
const PLAYERS = [
  player('a', -2.1, 1.2),
  player('b', -1.1, 1.9),
  player('c', 0, 2.2),
  player('d', 1.1, 1.9),
  player('e', 2.1, 1.2),
];
const HALL = {
  widthM: 18,
  depthM: 30,
  heightM: 10,
  rt60S: 1.6,
  origin: { x: 9, y: 16 },
};
const mics = (rest: Plain = {}): Plain => ({
  id: 'm',
  name: 'Small',
  kind: 'small condenser',
  patterns: ['omni', 'cardioid', 'figure-eight', 'hypercardioid'],
  count: 8,
  matched: true,
  sensitivityMvPa: 12,
  maxSplDb: 138,
  ...rest,
});
const KIT = {
  microphones: [mics()],
  stands: [
    {
      id: 's',
      name: 'Stand',
      count: 8,
      minHeightM: 0.5,
      maxHeightM: 4,
      reachM: 2.5,
      baseM: 0.6,
      massKg: 14,
    },
  ],
};
const CALM: Plain = {
  id: 'calm',
  brief: { intent: { mono: 'should-survive' } },
  venue: HALL,
  sources: PLAYERS,
  arrays: [MAIN],
  kit: KIT,
};

const calmWith = (change: Plain): Session => sessionFrom({ ...CALM, ...change });
const main = (change: Plain): Session => calmWith({ arrays: [{ ...MAIN, ...change }] });
const beside = (...arrays: Plain[]): Plain => ({ arrays: [MAIN, ...arrays] });
const SPOT = {
  id: 'spot',
  name: 'Spot',
  role: 'spot',
  x: 0,
  y: 1.5,
  z: 1.5,
  aimDeg: 0,
  tiltDeg: -20,
  technique: single('cardioid'),
  mix: { faderDb: -6, capsules: [strip({ delayMs: 11 })] },
};
const OUT = {
  id: 'out',
  name: 'Outriggers',
  role: 'outrigger',
  x: 0,
  y: -2.4,
  z: 2.6,
  technique: pair('omni', 4, 0),
  mix: { faderDb: -14, capsules: [] },
};
const AMBIENCE = {
  id: 'amb',
  name: 'Ambience',
  role: 'ambience',
  x: 0,
  y: -9,
  z: 2.8,
  technique: pair('omni', 1.6, 0),
  mix: { faderDb: -12, capsules: [] },
};
const DRUMS = player('drums', 4.5, 3, { kind: 'drum kit', widthM: 1.4, z: 0.9, levelDb: 86 });
const OVER = {
  id: 'over',
  name: 'Overheads',
  role: 'overhead',
  x: 4.5,
  y: 3,
  z: 2.4,
  tiltDeg: -90,
  technique: pair('cardioid', 0.6, 0),
  mix: {
    faderDb: -10,
    capsules: [strip({ pan: -1, delayMs: 14 }), strip({ pan: 1, delayMs: 14 })],
  },
};
const withDrums = (over: Plain): Session =>
  calmWith({ sources: [...PLAYERS, DRUMS], arrays: [MAIN, { ...OVER, ...over }] });
const intent = (change: Plain): Plain => ({
  brief: { intent: { mono: 'should-survive', ...change } },
});

/** What is planted, and which else of the rules rightly speaks of the same. */
const PLANTED: Record<string, { session: Session; also?: string[] }> = {
  'same-signal': { session: main({ technique: pair('cardioid', 0, 0) }) },
  'at-capsule': {
    session: calmWith({
      sources: [...PLAYERS, player('f', 0, -1.6, { z: 2.6 })],
      arrays: [{ ...MAIN, technique: pair('cardioid', 0, 90) }],
    }),
    also: ['clash', 'proximity'],
  },
  antiphase: {
    session: calmWith({
      sources: [...PLAYERS, player('f', 5, -1.6)],
      arrays: [{ ...MAIN, technique: pair('figure-eight', 0, 90) }],
    }),
    also: ['mono-loss'],
  },
  reversed: {
    session: calmWith({
      sources: [...PLAYERS, player('f', 0.6, -5)],
      arrays: [{ ...MAIN, technique: pair('figure-eight', 0, 70) }],
    }),
  },
  'outside-recording-angle': {
    session: calmWith({
      sources: [...PLAYERS, player('f', -3.6, 0.2), player('g', 3.6, 0.2)],
    }),
  },
  'narrow-picture': { session: main({ technique: pair('cardioid', 0, 30) }) },
  gap: {
    session: calmWith({
      sources: PLAYERS.filter(({ id }) => id !== 'b' && id !== 'c' && id !== 'd').concat(
        player('f', -1.8, 2),
      ),
    }),
  },
  lopsided: {
    session: main({ technique: pair('cardioid', 0.17, 110), aimDeg: 35 }),
    also: ['outside-recording-angle'],
  },
  'standard-mismatch': { session: main({ name: 'ORTF', technique: pair('cardioid', 0.19, 110) }) },
  'pan-contradicts': {
    session: main({ mix: { capsules: [strip({ pan: 1 }), strip({ pan: -1 })] } }),
  },
  'faces-away': { session: calmWith(beside({ ...AMBIENCE, aimDeg: 180 })) },
  'mono-loss': {
    session: main({ mix: { capsules: [strip({ pan: -1 }), strip({ pan: 1, polarity: -1 })] } }),
    also: ['antiphase'],
  },
  'mono-comb': {
    session: calmWith({
      ...intent({ mono: 'must-survive' }),
      arrays: [{ ...MAIN, technique: pair('omni', 0.5, 0) }],
    }),
  },
  'mono-of-mix': {
    session: calmWith(
      beside({ ...SPOT, mix: { faderDb: -6, capsules: [strip({ polarity: -1, delayMs: 9.58 })] } }),
    ),
  },
  'level-balance': {
    session: calmWith({ sources: PLAYERS.map((s, i) => (i === 2 ? { ...s, levelDb: 94 } : s)) }),
  },
  'room-balance': { session: calmWith({ ...intent({ room: 'close' }) }) },
  proximity: {
    session: calmWith(beside({ ...SPOT, y: 1.95, z: 1.35, technique: single('figure-eight') })),
    also: ['hearing'],
  },
  'three-to-one': {
    session: calmWith(
      beside(
        {
          ...SPOT,
          id: 's1',
          name: 'Spot 1',
          x: 0.5,
          y: 0.9,
          technique: single('omni'),
          forWhom: { kind: 'chosen', ids: ['c'] },
        },
        {
          ...SPOT,
          id: 's2',
          name: 'Spot 2',
          x: 1.1,
          y: 0.9,
          technique: single('omni'),
          forWhom: { kind: 'chosen', ids: ['d'] },
          mix: { faderDb: -6, capsules: [strip({ pan: 0.25, delayMs: 11 })] },
        },
      ),
    ),
    also: ['spill'],
  },
  'spot-leads': {
    session: calmWith(beside({ ...SPOT, mix: { faderDb: -6, capsules: [strip({})] } })),
  },
  'spot-pan': {
    session: calmWith(
      beside({ ...SPOT, mix: { faderDb: -6, capsules: [strip({ pan: 0.8, delayMs: 11 })] } }),
    ),
  },
  spill: {
    session: calmWith({
      ...beside(SPOT),
      sources: [...PLAYERS, player('f', 0.5, 2.6, { levelDb: 89 })],
    }),
  },
  echo: { session: calmWith(beside({ ...AMBIENCE, y: -14, mix: { faderDb: 9, capsules: [] } })) },
  clash: {
    session: calmWith(beside({ ...SPOT, y: 2.15, z: 1.3 })),
    also: ['hearing', 'proximity'],
  },
  'outrigger-leads': {
    session: calmWith(beside({ ...OUT, y: -0.4, mix: { faderDb: -4, capsules: [] } })),
    also: ['outrigger-blend'],
  },
  'outrigger-blend': {
    session: calmWith(beside({ ...OUT, y: -2.6, mix: { faderDb: -5, capsules: [] } })),
  },
  'overhead-distance': { session: withDrums({ x: 4.7 }), also: ['over-people'] },
  'overhead-coverage': {
    session: withDrums({ z: 1.4, technique: pair('hypercardioid', 0.1, 0) }),
    also: ['moving-parts'],
  },
  'hall-direct': {
    session: calmWith({ ...beside({ ...AMBIENCE, y: -3 }), venue: { ...HALL, rt60S: 0.4 } }),
  },
  'hall-narrow': { session: calmWith(beside({ ...AMBIENCE, technique: pair('omni', 0.4, 0) })) },
  'strong-reflection': {
    session: calmWith({
      venue: {
        ...HALL,
        origin: { x: 2.8, y: 16 },
        stage: { widthM: 4, depthM: 5 },
        datumPoints: [],
      },
    }),
  },
  'outside-hall': { session: calmWith({ venue: { ...HALL, heightM: 2.5 } }) },
  'player-wish': {
    session: calmWith({
      sources: PLAYERS.map((s, i) =>
        i === 0 ? { ...s, constraints: [{ kind: 'near', sourceId: 'b', mostM: 0.8 }] } : s,
      ),
    }),
  },
  'kit-short': { session: calmWith({ kit: { ...KIT, microphones: [mics({ count: 1 })] } }) },
  'address-side': {
    session: calmWith({ kit: { ...KIT, microphones: [mics({ kind: 'large condenser' })] } }),
  },
  'name-twice': {
    session: calmWith({
      sources: PLAYERS.map((s) => ({ ...s, name: s['id'] === 'b' ? 'Player a' : s['name'] })),
    }),
  },
  'channels-short': { session: calmWith({ brief: { channelLimit: 1 } }) },
  'hall-unknown': { session: calmWith({ venue: { ...HALL, rt60S: null } }) },
  'phantom-on-ribbon': {
    session: calmWith({
      kit: { ...KIT, microphones: [mics({ phantom: 'must not' })] },
      arrays: [{ ...MAIN, equipment: { phantom: 'on' } }],
    }),
  },
  'phantom-missing': { session: main({ equipment: { phantom: 'off' } }) },
  overload: { session: calmWith({ kit: { ...KIT, microphones: [mics({ maxSplDb: 90 })] } }) },
  pad: {
    session: calmWith({
      kit: { ...KIT, microphones: [mics({ sensitivityMvPa: 200 })] },
      sources: PLAYERS.map((s) => ({ ...s, levelDb: 112 })),
    }),
    also: ['hearing'],
  },
  'stand-short': {
    session: calmWith({ kit: { ...KIT, stands: [{ id: 'low', name: 'Low', maxHeightM: 1.5 }] } }),
  },
  'inputs-short': { session: calmWith({ kit: { ...KIT, preampChannels: 1 } }) },
  'mixed-pair': {
    session: calmWith({
      kit: {
        ...KIT,
        microphones: [mics(), mics({ id: 'r', name: 'Ribbon', kind: 'ribbon', address: 'end' })],
      },
      arrays: [{ ...MAIN, equipment: { microphoneIds: ['m', 'r'] } }],
    }),
  },
  'phantom-on-tolerant': {
    session: calmWith({
      kit: {
        ...KIT,
        microphones: [mics({ kind: 'ribbon', address: 'side', phantom: 'tolerates' })],
      },
      arrays: [{ ...MAIN, equipment: { phantom: 'on' } }],
    }),
  },
  'lid-closed': {
    session: calmWith({
      sources: [
        ...PLAYERS,
        player('p', 5, 4, { kind: 'grand piano', lid: 'closed', widthM: 1.4, z: 0.9 }),
      ],
      ...beside({
        ...SPOT,
        x: 5,
        y: 3.8,
        z: 1,
        mix: { faderDb: -45, capsules: [strip({ pan: 0.8, delayMs: 30 })] },
      }),
    }),
    also: ['clash', 'hearing', 'proximity', 'moving-parts'],
  },
  'over-people': {
    session: calmWith(beside({ ...SPOT, y: 2, z: 2.2, tiltDeg: -80 })),
    also: ['spill'],
  },
  high: { session: main({ z: 3.4 }) },
  flown: {
    session: calmWith({
      kit: { microphones: [mics()] },
      sources: PLAYERS,
      sections: [],
      venue: {
        ...HALL,
        obstacles: [
          {
            id: 'pit',
            name: 'Pit',
            kind: 'furniture',
            x: 0,
            y: -1.6,
            widthM: 8,
            depthM: 8,
            heightM: 0.5,
          },
        ],
      },
    }),
  },
  'among-seats': {
    session: calmWith({ venue: { ...HALL, seats: [{ id: 'b', name: 'Stalls', x: 0, y: -1.5 }] } }),
  },
  'tip-over': {
    session: calmWith({
      ...beside({ ...SPOT, y: 2.05, z: 1.75, tiltDeg: -70 }),
      kit: {
        ...KIT,
        stands: [
          {
            id: 's',
            name: 'Stand',
            count: 8,
            minHeightM: 0.5,
            maxHeightM: 4,
            reachM: 2.5,
            baseM: 0.2,
            massKg: 2,
          },
        ],
      },
    }),
  },
  lid: {
    session: calmWith({
      sources: [...PLAYERS.slice(0, 4), player('e', 2.1, 1.2, { lid: 'full-stick' })],
    }),
  },
  'moving-parts': {
    session: calmWith({
      ...beside(SPOT),
      sources: PLAYERS.map((s) => (s['id'] === 'c' ? { ...s, kind: 'percussion', y: 2 } : s)),
    }),
  },
  hearing: {
    session: calmWith({ sources: PLAYERS.map((s) => ({ ...s, levelDb: 104 })) }),
  },
  lifting: {
    session: calmWith({
      kit: {
        ...KIT,
        stands: [
          { id: 's', name: 'Stand', count: 8, maxHeightM: 4, reachM: 2.5, baseM: 0.6, massKg: 18 },
        ],
      },
    }),
  },
  cables: { session: calmWith({}) },
  phantom: { session: calmWith({}) },
};

const ROUTINE = new Set(['cables', 'phantom']);
const codesOf = (session: Session): string[] => [
  ...new Set(
    analyseSession(session)
      .findings.map(({ code }) => code)
      .filter((code) => !ROUTINE.has(code)),
  ),
];

describe('a set-up in which nothing is wrong', () => {
  it.each([
    ['a main pair', calmWith({})],
    ['with a spot', calmWith(beside(SPOT))],
    ['with outriggers', calmWith(beside(OUT))],
    ['with microphones for the hall', calmWith(beside(AMBIENCE))],

    ['with all of them', calmWith(beside(SPOT, OUT, AMBIENCE))],
  ])('%s: nothing is found', (_name, session) => {
    expect(
      analyseSession(session)
        .findings.filter(({ code }) => !ROUTINE.has(code))
        .map(({ code, message }) => `${code}: ${message}`),
    ).toEqual([]);
  });
});

describe('one planted fault', () => {
  it.each(Object.entries(PLANTED))(
    '%s: is found, and nothing that it does not make',
    (code, { session, also = [] }) => {
      const found = codesOf(session);
      const expected = ROUTINE.has(code) ? also : [code, ...also];
      expect([...found].sort().join(' ')).toBe([...expected].sort().join(' '));
    },
  );

  it('is there for every rule, and every rule speaks only as it says', () => {
    expect(RULES.map(({ code }) => code).filter((code) => !(code in PLANTED))).toEqual([]);
    const severities = new Map(RULES.map((rule) => [rule.code, rule.severities]));
    for (const { session } of Object.values(PLANTED)) {
      for (const { code, severity } of analyseSession(session).findings) {
        expect(severities.get(code), code).toContain(severity);
      }
    }
  });

  it('stands in the published table (npm run schema)', () => {
    const published = new URL('../../../docs/checks.md', import.meta.url);
    expect(readFileSync(published, 'utf8')).toBe(checksTable());
  });

  it('is the same whichever array stands first, and none names what is not in use', () => {
    const all = calmWith(beside(SPOT, OUT, { ...AMBIENCE, aimDeg: 180 }));
    const words = (session: Session) =>
      analyseSession(session)
        .findings.map(({ message }) => message)
        .sort();
    const [first, ...rest] = all.arrays;
    if (!first) throw new Error('an array is expected');
    expect(words({ ...all, arrays: [...rest, first] }).join('\n')).toContain('faces the hall');
    const off = { ...all, arrays: all.arrays.map((a) => ({ ...a, enabled: a.id === 'main' })) };
    expect(words(off).join(' ')).not.toMatch(/Spot|Outriggers|Ambience/);
  });
});
