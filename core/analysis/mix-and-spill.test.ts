import { describe, expect, it } from 'vitest';
import { nearArrivals, prepareArray } from '../localisation';
import { newArray, sessionFrom } from '../session';
import {
  arrivalsOf,
  heardArrays,
  ownedSource,
  prepareMix,
  proposedStrips,
  spillMatrix,
  threeToOne,
} from '.';

const single = (id: string, x: number, y: number, change: object = {}) => ({
  id,
  name: `Spot ${id}`,
  role: 'spot',
  x,
  y,
  z: 1,
  technique: { kind: 'single', pattern: 'omni' },
  ...change,
});
const session = sessionFrom({
  sources: [
    { id: 'a', name: 'A', x: -1, y: 3, z: 1, levelDb: 80 },
    { id: 'b', name: 'B', x: 1, y: 3, z: 1, levelDb: 86 },
  ],
  arrays: [
    { id: 'm', name: 'Main', role: 'main', x: 0, y: 0, z: 1, mix: { faderDb: -6 } },
    single('sa', -1, 2.5, { mix: { faderDb: 3, capsules: [{ pan: 0.5, gainDb: 2, delayMs: 4 }] } }),
    single('sb', 1, 2),
    single('off', 0, 2, { enabled: false }),
    single('mute', 0, 2, { mix: { mute: true } }),
  ],
});

describe('the mix', () => {
  it('is made of what is enabled and not muted', () => {
    expect(heardArrays(session).map(({ id }) => id)).toEqual(['m', 'sa', 'sb']);
    expect(prepareMix({ arrays: [] })).toBeNull();
  });

  it('routes every capsule by pan, gain and fader, with its energy as its weight', () => {
    const mix = prepareMix(session);
    expect(mix?.capsules).toHaveLength(4);
    const six = 10 ** (-6 / 20);
    expect(mix?.routes[0]?.left).toBeCloseTo(six, 12);
    expect(mix?.routes[0]?.right).toBeCloseTo(0, 12);
    const five = 10 ** (5 / 20);
    const turn = (1.5 * Math.PI) / 4;
    expect(mix?.routes[2]?.left).toBeCloseTo(five * Math.cos(turn), 12);
    expect(mix?.routes[2]?.right).toBeCloseTo(five * Math.sin(turn), 12);
    expect(mix?.routes[2]?.delayMs).toBe(4);
    expect(mix?.weights[0]).toBeCloseTo(six * six, 12);
    expect(mix?.weights[2]).toBeCloseTo(five * five, 12);
    expect(mix?.weights[3]).toBeCloseTo(1, 12);
    expect(mix?.symmetric).toBe(false);
    expect(mix?.plainPair).toBe(false);
  });
});

describe('spill', () => {
  it('is the level of each player against the loudest, by distance and level', () => {
    const row = spillMatrix(session).find(({ arrayId }) => arrayId === 'sa');
    expect(row?.ownSourceId).toBe('a');
    expect(row?.spillDb.a).toBe(0);
    // 0.5 m against √(2² + 0.5²) m, and 6 dB louder.
    expect(row?.spillDb.b).toBeCloseTo(6 - 20 * Math.log10(Math.hypot(2, 0.5) / 0.5), 9);
    expect(spillMatrix(session).map(({ arrayId }) => arrayId)).toEqual(['m', 'm', 'sa', 'sb']);
  });

  it('of two spots for two players is judged by the rule and by its real level, once', () => {
    const [rule, ...more] = threeToOne(session);
    expect(more).toEqual([]);
    expect(rule).toMatchObject({ firstArrayId: 'sa', secondArrayId: 'sb' });
    expect(rule?.ratio).toBeCloseTo(Math.hypot(2, 0.5) / 1, 9);
    const [into, other] = [
      6 - 20 * Math.log10(Math.hypot(2, 0.5) / 0.5),
      -6 - 20 * Math.log10(Math.hypot(2, 1) / 1),
    ];
    expect(rule?.spillDb).toBeCloseTo(Math.max(into, other), 9);
  });

  it('is not judged between two microphones of one player', () => {
    const twice = { ...session, arrays: session.arrays.filter(({ id }) => id !== 'sb') };
    const second = newArray({
      ...single('sc', -1.2, 2.6),
      role: 'spot',
      technique: { kind: 'single', pattern: 'omni' },
    });
    expect(threeToOne({ ...twice, arrays: [...twice.arrays, second] })).toEqual([]);
  });
});

describe('arrivals', () => {
  it('are sorted by time, with delay and fader, and against the loudest', () => {
    const [a] = session.sources;
    if (!a) throw new Error('a player');
    const { arrivals } = arrivalsOf(session, a);
    expect(arrivals.map(({ arrivalMs }) => arrivalMs)).toEqual(
      [...arrivals.map(({ arrivalMs }) => arrivalMs)].sort((x, y) => x - y),
    );
    const own = arrivals.find(({ arrayId }) => arrayId === 'sa');
    const speed = 331.3 * Math.sqrt(1 + 20 / 273.15);
    expect(own?.distanceM).toBeCloseTo(0.5, 9);
    expect(own?.arrivalMs).toBeCloseTo((0.5 / speed) * 1000 + 4, 6);
    expect(own?.levelDb).toBeCloseTo(80 + 20 * Math.log10(2) + 5, 9);
    expect(own?.belowLoudestDb).toBe(0);
    expect(Math.min(...arrivals.map(({ belowLoudestDb }) => belowLoudestDb))).toBe(0);
  });

  it('know whom each microphone hears loudest', () => {
    expect(['sa', 'sb', 'nobody'].map((id) => ownedSource(session, id)?.id ?? null)).toEqual([
      'a',
      'b',
      null,
    ]);
    const at = { ...session, sources: session.sources.map((s) => ({ ...s, x: -1, y: 2.5 })) };
    expect(ownedSource(at, 'sa')?.id).toBe('a');
  });

  it('are proposed a delay for a spot that leads, and its pan stays where none is proposed', () => {
    const [a] = session.sources;
    if (!a) throw new Error('a player');
    const bare = {
      ...session,
      arrays: session.arrays.map((array) => ({ ...array, mix: { ...array.mix, capsules: [] } })),
    };
    const [proposal] = arrivalsOf(bare, a).proposals;
    const [main, spot] = bare.arrays.map((array) => nearArrivals(prepareArray(array), a, 343));
    const ms = (list: typeof main) => Math.min(...(list ?? []).map(({ timeS }) => timeS)) * 1000;
    expect(proposal?.leadsByMs).toBeCloseTo(ms(main) - ms(spot), 1);
    expect(proposal?.delayMs).toBeCloseTo(proposal?.leadsByMs ?? 0, 9);
    const pair = newArray({ id: 'x', role: 'spot' });
    const strips = proposedStrips(pair, { arrayId: 'x', leadsByMs: 3, delayMs: 3.14159, pan: 0.2 });
    expect(strips.map(({ pan, delayMs }) => [pan, delayMs])).toEqual([
      [0, 3.14],
      [0.4, 3.14],
    ]);
    // A narrow base keeps its width at the edge; pans that somebody set stay.
    const far = proposedStrips(pair, { arrayId: 'x', leadsByMs: 3, delayMs: 3, pan: -1 });
    expect(far.map(({ pan }) => pan)).toEqual([-1, -0.6]);
    const own = [-0.5, 0.9].map((pan) => ({ pan, gainDb: 0, polarity: 1 as const, delayMs: 0 }));
    const kept = { ...pair, mix: { ...pair.mix, capsules: own } };
    const again = proposedStrips(kept, { arrayId: 'x', leadsByMs: 3, delayMs: 3, pan: 0.2 });
    expect(again.map(({ pan }) => pan)).toEqual([-0.5, 0.9]);
    const mono = newArray({ id: 'y', technique: { kind: 'single', pattern: 'omni' } });
    expect(
      proposedStrips(mono, { arrayId: 'y', leadsByMs: 3, delayMs: 2000, pan: 0.12345 }),
    ).toMatchObject([{ pan: 0.123, delayMs: 1000 }]);
  });
});
