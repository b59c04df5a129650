import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import {
  analyseSession,
  bandResults,
  focusRows,
  mixFigures,
  monoRows,
  panForShift,
} from './analysis';
import { placesFor } from './analysis/recommend/candidates';
import { imageZones, MODELS } from './localisation';
import { readyArray } from './prepare/arrays';
import { readSession, type Session } from './session';
import { seededRandom } from './units/random';
import { everythingOf } from './test-everything';
import { numbersIn, withNumber } from './test-limits';
import { arched, crowded, turned } from './fixtures/set-ups';
import { steady } from './fixtures/told';

/**
 * The same set-ups with a fifth of their numbers moved, by seed: a mark of all that is said of each,
 * part by part. What the marks stand for is told word by word for the set-ups as they are.
 */

/** The set-up with some of its numbers moved; those that a file may not hold are left. */
function moved(session: Session, seed: number): Session {
  const random = seededRandom(seed);
  let now = session;
  for (const [path, value] of numbersIn(session)) {
    if (random() > 0.2) continue;
    const wanted = value === 0 ? random() * 0.6 - 0.3 : value * (0.6 + random());
    const next = withNumber(now, path, Number(wanted.toPrecision(4)));
    if (readSession(next).ok) now = next;
  }
  return now;
}

function whole<T>(steps: Generator<number, T, undefined>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

function moreOf(session: Session): Record<string, unknown> {
  const [main] = session.arrays;
  if (!main) throw new Error('an array is expected');
  const [figures] = analyseSession(session).arrays;
  return {
    'in the mix': session.sources.map((source) => mixFigures(session, source)),
    focus: whole(focusRows(session, null)),
    'focus of the main array': whole(focusRows(session, main.id)),
    'mono table': [null, main.id].map((id) => whole(monoRows(session, id))),
    wanted:
      figures &&
      bandResults(
        session,
        new Map(figures.sources.map((of) => [of.id, of])),
        session.settings.model,
      ),
    places: placesFor(session, session.sources),
    zones: session.arrays.map((array) => imageZones(readyArray(array), 343)),
    pans: MODELS.map((model) => [-0.9, -0.2, 0, 0.6].map((shift) => panForShift(model, shift))),
  };
}

const mark = (value: unknown): string =>
  createHash('sha1')
    .update(JSON.stringify(value ?? null, steady))
    .digest('hex')
    .slice(0, 8);

describe('what is said of a set-up with its numbers moved', () => {
  it.each([crowded, turned, arched].map((session) => [session.id, session] as const))(
    '%s',
    async (id, session) => {
      const lines = [1, 2, 3, 4].map((seed) => {
        const now = moved(session, seed);
        const parts = Object.entries({ ...everythingOf(now), ...moreOf(now) });
        return [
          `# ${id}, moved ${seed}`,
          ...parts.map(([name, of]) => `${name}: ${mark(of)}`),
        ].join('\n');
      });
      await expect(`${lines.join('\n\n')}\n`).toMatchFileSnapshot(
        `fixtures/pinned-moved-${id}.txt`,
      );
    },
  );
});
