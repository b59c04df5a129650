import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { demoSessions } from '../demo';
import {
  analyseSession,
  arrivalsOf,
  distanceSweep,
  gainPlan,
  spillMatrix,
  mixFigures,
  reverberationFromSurfaces,
  setUpTolerance,
} from '.';
import { standPlans, clashes } from '../mechanics';
import type { Session } from '../session';
import { positionSheet } from '../rig';

/**
 * The figures of the demo sessions, frozen: whatever is renamed, moved or made faster, they stay, to
 * a billionth. A figure that is mended on purpose is frozen anew, and the change says why.
 */
const SAME = 1e-9;

/** Every number of a result in the order in which it stands, names left out. */
function numbersOf(value: unknown): (number | boolean | null)[] {
  if (typeof value === 'number') return [value === 0 ? 0 : value];
  if (typeof value === 'boolean' || value === null) return [value];
  if (typeof value !== 'object') return [];
  // The consensus is made of the others, whose figures are what is frozen; on a bar, as in every
  // demo, nothing is ahead of it or above it.
  const left = ['consensus', 'barAheadM', 'barUpM'];
  return Object.entries(value).flatMap(([key, of]) => (left.includes(key) ? [] : numbersOf(of)));
}

function figuresOf(session: Session): Record<string, (number | boolean | null)[]> {
  const { arrays } = analyseSession(session);
  const [main] = session.arrays;
  if (!main) throw new Error('a demo has an array');
  return {
    ...Object.fromEntries(
      arrays.map((array) => [`array ${array.id}`, numbersOf({ ...array, own: [] })]),
    ),
    arrivals: numbersOf(session.sources.map((source) => arrivalsOf(session, source))),
    spill: numbersOf(spillMatrix(session)),
    mix: numbersOf(session.sources.map((source) => mixFigures(session, source))),
    clashes: numbersOf(clashes(session)),
    gain: numbersOf(gainPlan(session).map(({ capsule: _place, ...row }) => row)),
    stands: numbersOf(standPlans(session)),
    room: numbersOf(reverberationFromSurfaces(session)),
    sweep: numbersOf(distanceSweep(session, main, [1, 3, 6])),
    tolerance: numbersOf(setUpTolerance(session, main, undefined, 200)),
    positions: numbersOf(positionSheet(session)),
  };
}

const FROZEN = new URL('./fixtures/demo-figures.json', import.meta.url);

/** They were frozen when the traded cues led wherever nothing else was chosen. */
function inTraded(session: Session): Session {
  const { model } = session.settings;
  const settings = { ...session.settings, model: model === 'consensus' ? 'traded' : model };
  return { ...session, settings };
}

describe('the figures of the demo sessions', () => {
  const frozen = JSON.parse(readFileSync(FROZEN, 'utf8')) as Record<
    string,
    ReturnType<typeof figuresOf>
  >;

  it.each(
    demoSessions('2026-11-23T12:00:00.000Z')
      .map(inTraded)
      .map((session) => [session.id, session] as const),
  )('%s: as they were', (id, session) => {
    const now = figuresOf(session);
    expect(Object.keys(now)).toEqual(Object.keys(frozen[id] ?? {}));
    for (const [name, figures] of Object.entries(now)) {
      const before = frozen[id]?.[name] ?? [];
      expect(figures, `${id}, ${name}`).toHaveLength(before.length);
      // Rounding alone may differ: what is as before is told as before.
      const as = figures.map((value, i) => {
        const was = before[i];
        if (typeof value !== 'number' || typeof was !== 'number') return value;
        return Math.abs(value - was) <= SAME * Math.max(1, Math.abs(was)) ? was : value;
      });
      expect(as, `${id}, ${name}`).toEqual(before);
    }
  });
});
