import { capsulesInFrame, microphoneName, placeCapsules } from '../arrays/capsules';
import { remembered } from '../units/remember';
import { distance, planDistance, type Vec3 } from '../units/vector';
import type { MicArray } from '../session/schema';

/** Capsules up to this apart hang on one bar, m; what is farther apart stands on stands of its own. */
export const ONE_STAND_M = 1.2;

/** A bar is level: what is higher hangs on it only where it is right above, m. */
const LEVEL_M = 0.4;
const ABOVE_M = 0.3;

function onOneStand(a: Vec3, b: Vec3): boolean {
  if (distance(a, b) > ONE_STAND_M + 1e-9) return false;
  return Math.abs(a.z - b.z) <= LEVEL_M || planDistance(a, b) <= ABOVE_M;
}

/** Microphones of an array that one stand carries. */
export interface Mount {
  /** "Outriggers L" where an array has several, else the array's name */
  name: string;
  /** places in the technique's order */
  capsules: readonly number[];
  /** below the middle of its microphones, m */
  x: number;
  y: number;
  /** of its highest microphone, m */
  z: number;
}

const middle = (low: number, high: number): number => (low + high) / 2;

/**
 * The stands of an array: all on one where they are within a bar, else each group on its own. A
 * capsule joins the first group all of whose capsules are within reach of it.
 */
export const mountsOf: (array: MicArray) => readonly Mount[] = remembered((array) => {
  const placed = placeCapsules(array);
  const groups: number[][] = [];
  placed.forEach(({ position }, i) => {
    const near = groups.find((group) =>
      group.every((j) => {
        const other = placed[j]?.position;
        return other !== undefined && onOneStand(position, other);
      }),
    );
    if (near) near.push(i);
    else groups.push([i]);
  });
  if (groups.length <= 1) {
    const { name, x, y, z } = array;
    return [{ name, capsules: placed.map((_, i) => i), x, y, z }];
  }
  const labels = capsulesInFrame(array.technique).map(({ label }) => label);
  return groups.map((group): Mount => {
    const own = group.flatMap((i) => placed[i]?.position ?? []);
    const [xs, ys] = [own.map(({ x }) => x), own.map(({ y }) => y)];
    return {
      name: microphoneName(array.name, group.map((i) => labels[i] || `${i + 1}`).join(' and ')),
      capsules: group,
      x: middle(Math.min(...xs), Math.max(...xs)),
      y: middle(Math.min(...ys), Math.max(...ys)),
      z: Math.max(...own.map(({ z }) => z)),
    };
  });
});

/** How wide the microphones of one stand are apart on the plan, m: what its bar must span. */
export function mountSpanM(array: MicArray, { capsules }: Mount): number {
  const placed = placeCapsules(array);
  const own = capsules.flatMap((i) => placed[i]?.position ?? []);
  return Math.max(0, ...own.flatMap((a) => own.map((b) => planDistance(a, b))));
}
