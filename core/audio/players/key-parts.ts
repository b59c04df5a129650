import type { Note } from './score';

/** How much of a phrase's sound a note is, at about. */
const weightOf = ({ force, lengthS }: Note): number => force ** 2 * Math.min(1, lengthS + 0.3);

/**
 * Which part of an instrument each note belongs to, whose keys lie side by side: as much sounds at one
 * place as at another, low notes at the one end and high ones at the other.
 * @param count of places, 2 … 8
 * @returns by note 0 … count − 1; null where fewer keys are played than there are places
 */
export function keyParts(notes: readonly Note[], count: number): number[] | null {
  const weights = new Map<number, number>();
  for (const note of notes) {
    const key = Math.round(note.key);
    weights.set(key, (weights.get(key) ?? 0) + weightOf(note));
  }
  const keys = [...weights.keys()].sort((a, b) => a - b);
  if (keys.length < count) return null;
  const total = [...weights.values()].reduce((sum, weight) => sum + weight, 0);
  const parts = new Map<number, number>();
  let [before, part] = [0, 0];
  keys.forEach((key, i) => {
    const weight = weights.get(key) ?? 0;
    const wanted = Math.floor(((before + weight / 2) / total) * count);
    // None is left out: not by going too far, nor by leaving too few keys for those that follow.
    const least = count - (keys.length - i);
    part = Math.max(least, Math.min(count - 1, part + 1, Math.max(part, wanted)));
    if (i === 0) part = 0;
    parts.set(key, part);
    before += weight;
  });
  return notes.map(({ key }) => parts.get(Math.round(key)) ?? 0);
}
