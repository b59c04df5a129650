import type { Doc, Step } from '../document/steps';

/** As many steps of undo are kept with a session, and so many characters of them. */
const KEPT_STEPS = 100;
const KEPT_CHARACTERS = 2_000_000;

const sizes = new WeakMap<Step, number>();

function sizeOf(step: Step): number {
  const known = sizes.get(step) ?? JSON.stringify(step).length;
  sizes.set(step, known);
  return known;
}

/** The steps next to the present that are worth their room, nearest first. */
function nearest(steps: readonly Step[]): Step[] {
  let room = KEPT_CHARACTERS;
  const near: Step[] = [];
  for (const step of steps.slice(0, KEPT_STEPS)) {
    room -= sizeOf(step);
    if (room < 0) break;
    near.push(step);
  }
  return near;
}

/** What of a history is stored with its session. */
export const keptHistory = ({ past, future }: Pick<Doc, 'past' | 'future'>) => ({
  past: nearest(past.slice().reverse()).reverse(),
  future: nearest(future),
});
