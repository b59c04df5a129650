import { capsulesInFrame } from '../arrays/capsules';
import type { CustomCapsule, Technique } from '../arrays/technique';

/** Capsules that a listener hears as one event, by their places in the list of all capsules. */
export type EventGroup =
  | { kind: 'pair'; left: number; right: number; origin: number }
  | { kind: 'decoded'; capsules: readonly number[]; origin: number }
  | { kind: 'single'; capsule: number; origin: number };

/** Capsules lie as mirror images where they do within 1 mm and 1°. */
const MIRRORED_M = 1e-3;
const MIRRORED_DEG = 1;
const ONE_POINT_M = 1e-9;

/** The label of a capsule's other half: L and R, Ls and Rs, Ltf and Rtf, left and right. */
function mirroredLabel(label: string): string | null {
  const words = label.replace(/\b(left|right)\b/gi, (word) =>
    word.toLowerCase() === 'left' ? 'right' : 'left',
  );
  if (words !== label) return words.toLowerCase();
  const letters = /^([LR]+)(?=[a-z0-9 ]*$)/.exec(label)?.[1];
  if (!letters) return null;
  const swapped = letters.replace(/./g, (letter) => (letter === 'L' ? 'R' : 'L'));
  return (swapped + label.slice(letters.length)).toLowerCase();
}

const turn = (a: number, b: number): number => Math.abs(((((a - b) % 360) + 540) % 360) - 180);

function areMirrored(a: CustomCapsule, b: CustomCapsule): boolean {
  return (
    Math.abs(a.dx) > MIRRORED_M &&
    Math.abs(a.dx + b.dx) <= MIRRORED_M &&
    Math.abs(a.dy - b.dy) <= MIRRORED_M &&
    Math.abs(a.dz - b.dz) <= MIRRORED_M &&
    turn(a.azimuthDeg, -b.azimuthDeg) <= MIRRORED_DEG
  );
}

/** How far to the right a capsule stands or looks: what says which of two is the left one. */
const rightness = ({ dx, azimuthDeg }: CustomCapsule): number =>
  Math.abs(dx) > MIRRORED_M ? dx * 1000 : Math.sin((azimuthDeg * Math.PI) / 180);

function customGroups(capsules: readonly CustomCapsule[], origin: number): EventGroup[] {
  const partnerOf = (i: number): number => {
    const one = capsules[i];
    if (!one) return -1;
    if (capsules.length === 2) return 1 - i;
    const label = mirroredLabel(one.label);
    const named = capsules.findIndex(
      (other, j) => j !== i && label !== null && other.label.toLowerCase() === label,
    );
    return named >= 0
      ? named
      : capsules.findIndex((other, j) => j !== i && areMirrored(one, other));
  };
  const groups: EventGroup[] = [];
  const taken = new Set<number>();
  capsules.forEach((one, i) => {
    if (taken.has(i)) return;
    const partner = partnerOf(i);
    const other = capsules[partner];
    taken.add(i);
    if (!other || taken.has(partner)) {
      groups.push({ kind: 'single', capsule: i, origin });
      return;
    }
    taken.add(partner);
    const [left, right] = rightness(one) <= rightness(other) ? [i, partner] : [partner, i];
    groups.push({ kind: 'pair', left, right, origin });
  });
  return groups;
}

/** Whether three or more capsules sit at one point: whatever their pans, they add as waves. */
const areAtOnePoint = (capsules: readonly CustomCapsule[]): boolean =>
  capsules.length > 2 &&
  capsules.every(
    ({ dx, dy, dz }) =>
      Math.abs(dx - (capsules[0]?.dx ?? 0)) < ONE_POINT_M &&
      Math.abs(dy - (capsules[0]?.dy ?? 0)) < ONE_POINT_M &&
      Math.abs(dz - (capsules[0]?.dz ?? 0)) < ONE_POINT_M,
  );

/**
 * How the capsules of a technique are heard: the two of a pair together, mid and side and whatever
 * else sits at one point decoded together, in larger arrays those whose loudspeakers mirror each other, and every other alone.
 * @param origin the array's place among those that are mixed, 0 and up
 */
export function eventGroups(technique: Technique, origin = 0): EventGroup[] {
  if (technique.kind === 'pair') return [{ kind: 'pair', left: 0, right: 1, origin }];
  const capsules = capsulesInFrame(technique);
  if (technique.kind === 'mid-side' || areAtOnePoint(capsules)) {
    return [{ kind: 'decoded', capsules: capsules.map((_, i) => i), origin }];
  }
  return customGroups(capsules, origin);
}

/**
 * The same groups of capsules that come later in a longer list.
 * @param by places later, 0 … 999
 * @param origin of which array, 0 … 999
 */
export function movedGroups(
  groups: readonly EventGroup[],
  by: number,
  origin: number,
): EventGroup[] {
  return groups.map((group): EventGroup => {
    switch (group.kind) {
      case 'pair':
        return { ...group, left: group.left + by, right: group.right + by, origin };
      case 'decoded':
        return { ...group, capsules: group.capsules.map((i) => i + by), origin };
      case 'single':
        return { ...group, capsule: group.capsule + by, origin };
    }
  });
}
