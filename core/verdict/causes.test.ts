import { describe, expect, it } from 'vitest';
import { demoSession } from '../demo';
import { newArray, newSource, type Session } from '../session';
import { seededRandom } from '../units/random';
import { causesOf } from './causes';
import { figuresOf, placesOf } from './figures';
import type { Freedom } from './fit';
import { hot, late, seat, spread, turn } from './freedoms';
import { channelsOf, cuesAt, plannedStand, type Stand } from './stand';
import { usualFreedoms } from './usual';
import { verdictOf } from './verdict';

/** Rigs that are off by what is usual of a tape, measured as well as onsets are. */

const SEATS = [
  [-2.2, 3],
  [-1.1, 3.6],
  [0.2, 4],
  [1.2, 3.5],
  [2.3, 3],
] as const;

const session: Session = {
  ...demoSession('2026-01-01T00:00:00Z'),
  sections: [],
  sources: SEATS.map(([x, y], i) =>
    newSource({ id: `p${i}`, name: `P${i}`, kind: 'viola', x, y, z: 1.2 }),
  ),
  arrays: [
    newArray({
      ...{ id: 'main', name: 'Main', role: 'main' as const, x: 0, y: 0, z: 2.8, tiltDeg: -15 },
      technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
    }),
    newArray({
      ...{ id: 'spot', name: 'Spot', role: 'spot' as const, x: 2, y: 2.2, z: 1.6, aimDeg: 20 },
      technique: { kind: 'single', pattern: 'cardioid' },
    }),
    newArray({
      ...{ id: 'hall', name: 'Hall', role: 'ambience' as const, x: 0, y: -6, z: 3 },
      technique: { kind: 'pair', pattern: 'omni', spacingM: 0.6, includedAngleDeg: 0 },
    }),
  ],
};
const channels = channelsOf(session, [1, 2, 3, 4, 5]);
const NOISE = {
  claps: { together: [0.002, 0.15], apart: [0.01, 0.4] },
  players: { together: [0.004, 0.5], apart: [0.05, 1.2] },
} as const;
const TRIALS = 12;

/** So many rigs set by tape, with one thing more that is wrong: the causes that are named of each. */
function trials(who: keyof typeof NOISE, wrong: readonly [Freedom, number] | null, seed: number) {
  const random = seededRandom(seed);
  const normal = (): number =>
    Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const places = session.sources.map(({ id, name, x, y, z }) => ({
    ...{ id, name, x, y, z },
    taped: who === 'claps',
  }));
  const planned = plannedStand(session, channels, places);
  const usual = usualFreedoms(session, planned);
  return Array.from({ length: TRIALS }, () => {
    // Gains of other arrays are whatever they are.
    let stand: Stand = usual.reduce(
      (so, { apply, usual: sd }) => apply(so, sd > 5 ? 0 : normal() * sd),
      planned,
    );
    if (wrong) stand = wrong[0].apply(stand, wrong[1]);
    const measured = stand.places.map((place) =>
      cuesAt(stand, place).map((cue, k) => {
        const [ms, db] = NOISE[who][k === 0 ? 'together' : 'apart'];
        return (
          cue && {
            ...cue,
            delayMs: cue.delayMs + normal() * ms,
            levelDb: cue.levelDb + normal() * db,
            delayWithinMs: ms,
            levelWithinDb: db,
          }
        );
      }),
    );
    const figures = figuresOf(session, planned, measured);
    const departs = figures.filter(({ agreement }) => agreement === 'departs');
    return {
      kinds: causesOf(session, planned, measured).found.map(({ kind }) => kind),
      usual: departs.filter((one) => one.usual).length / Math.max(1, departs.length),
    };
  });
}

describe('causes of a rig that is set by tape', () => {
  for (const who of ['claps', 'players'] as const) {
    it(`${who}: what is usual has no cause, and what departs is called usual`, () => {
      const found = trials(who, null, 3);
      expect(found.filter(({ kinds }) => kinds.length > 0).length).toBeLessThanOrEqual(1);
      if (who !== 'claps') return;
      const share = found.reduce((sum, { usual }) => sum + usual, 0) / found.length;
      expect(share).toBeGreaterThan(0.8);
    });

    for (const [name, wrong, kind] of [
      ['8° more', [turn('main', 1), 8], 'turned'],
      ['5 cm wider', [spread('main', 1), 0.05], 'wider'],
      ['4 dB louder', [hot([1], 1), 4], 'hot'],
      ['0.6 m aside', [seat(1, 'x', 1), 0.6], 'seat'],
      ['1 ms late', [late(2, 1), 1], 'late'],
    ] as const) {
      it(`${who}: ${name} beside it is named`, () => {
        const found = trials(who, wrong, 5);
        const named = found.filter(({ kinds }) => kinds.includes(kind));
        expect(named.length).toBeGreaterThanOrEqual(TRIALS - 1);
      });
    }
  }

  it('half of what can be told is never called something else by claps', () => {
    for (const [wrong, kind] of [
      [[turn('main', 1), 3], 'turned'],
      [[spread('main', 1), 0.025], 'wider'],
      [[hot([1], 1), 1], 'hot'],
    ] as const) {
      const others = trials('claps', wrong, 7).filter(
        ({ kinds }) => kinds.length > 0 && !kinds.includes(kind),
      );
      expect(others.length).toBeLessThanOrEqual(1);
    }
  });

  it('from one place alone nobody is told that the rig stands as planned', () => {
    const said = (count: number): string => {
      const places = placesOf(session, true).slice(0, count);
      const planned = plannedStand(session, channels, places);
      const measured = places.map((place) =>
        cuesAt(planned, place).map(
          (cue) => cue && { ...cue, delayWithinMs: 0.002, levelWithinDb: 0.15 },
        ),
      );
      return verdictOf(session, planned, measured).sentence;
    };
    expect(said(1)).toMatch(/^Nothing departs, and from so few places little of how Main stands/);
    expect(said(3)).toBe('Main stands as planned.');
  });

  it('a side that is turned over mirrors the image, and is named', () => {
    const [main] = session.arrays;
    if (!main) throw new Error('an array is expected');
    const technique = { kind: 'mid-side', midPattern: 'cardioid', sideGainDb: 0 } as const;
    const plan: Session = {
      ...session,
      arrays: [{ ...main, technique: { ...technique, sidePositive: 'left' } }],
    };
    const places = placesOf(plan, true);
    const planned = plannedStand(plan, channelsOf(plan, [1, 2]), places);
    const measured = places.map((place) =>
      cuesAt({ ...planned, inverted: [false, true] }, place).map(
        (cue) => cue && { ...cue, delayWithinMs: 0.002, levelWithinDb: 0.15 },
      ),
    );
    const { sentence, figures } = verdictOf(plan, planned, measured);
    expect(sentence).toMatch(/^Not as planned: the polarity of Main S is turned over;/);
    for (const { what, planned: expected, measured: found } of figures) {
      if (what === 'image') expect(found).toBeCloseTo(-expected, 6);
    }
  });
});
