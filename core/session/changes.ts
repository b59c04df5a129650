import { sum } from 'd3-array';
import type * as z from 'zod';
import { capsulesInFrame } from '../arrays/capsules';
import { MOST_ENTRIES, MOST_CAPSULES } from './bounds';
import { idProblems } from './ids';
import { JOURNALS } from './journals';
import { problemOf, type Problem } from './read';
import { sessionSchema, type Session } from './schema';
import { logSchemaOf } from './schema-journals';

/**
 * Whether an edit leaves a session that can be stored and read again. Only what the edit changed is
 * looked at, so that it costs a drag nothing.
 */

const PARTS = ['settings', 'brief', 'venue', 'kit', 'rig'] as const;
const LISTS = ['sources', 'sections', 'arrays', 'candidates', 'blobs', ...JOURNALS] as const;

function partProblems(name: (typeof PARTS)[number], after: Session): Problem[] {
  const part: z.ZodType = sessionSchema.shape[name];
  const parsed = part.safeParse(after[name]);
  if (parsed.success) return [];
  return parsed.error.issues.map((issue) => problemOf(issue, after[name], [name]));
}

function listProblems(name: (typeof LISTS)[number], before: Session, after: Session): Problem[] {
  const entries: readonly { id: string }[] = after[name];
  const most = MOST_ENTRIES[name];
  if (entries.length > most) {
    const message = `${entries.length} entries; allowed: a list of up to ${most} entries`;
    return [{ path: name, message }];
  }
  const known = new Set<unknown>(before[name]);
  const element: z.ZodType = sessionSchema.shape[name].unwrap().element;
  const problems = entries.flatMap((entry, index) => {
    if (known.has(entry)) return [];
    const parsed = (name === 'log' ? logSchemaOf(entry) : element).safeParse(entry);
    return parsed.success
      ? []
      : parsed.error.issues.map((issue) => problemOf(issue, entry, [name, index]));
  });
  const sameIds =
    entries.length === before[name].length &&
    entries.every(({ id }, index) => before[name][index]?.id === id);
  return sameIds ? problems : [...problems, ...idProblems(entries, name)];
}

/**
 * What is wrong with a session after an edit, given that it was right before.
 * @returns an empty list where it may be kept
 */
export function changeProblems(before: Session, after: Session): Problem[] {
  const problems: Problem[] = [];
  if (after.title !== before.title) {
    const parsed = sessionSchema.shape.title.safeParse(after.title);
    if (!parsed.success) {
      problems.push(
        ...parsed.error.issues.map((issue) => problemOf(issue, after.title, ['title'])),
      );
    }
  }
  for (const name of PARTS) {
    if (after[name] !== before[name]) problems.push(...partProblems(name, after));
  }
  for (const name of LISTS) {
    if (after[name] !== before[name]) problems.push(...listProblems(name, before, after));
  }
  if (after.arrays !== before.arrays) {
    const count = sum(after.arrays, (array) => capsulesInFrame(array.technique).length);
    if (count > MOST_CAPSULES) {
      const message = `${count} capsules in all; allowed: up to ${MOST_CAPSULES}`;
      problems.push({ path: 'arrays', message });
    }
  }
  return problems;
}
