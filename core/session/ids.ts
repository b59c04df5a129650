import type { Problem } from './read';

/**
 * Ids stand in addresses, in keys of fields and in file names, so they must not hold what would
 * mean something there. Everything else is allowed, other alphabets included.
 */
const FORBIDDEN = /[\p{Cc}\p{Cs}/\\%?#\u2028\u2029]/u;
const RESERVED: readonly string[] = ['.', '..', '__proto__'];

const ID_ALLOWED = 'up to 100 characters without line breaks, control characters or / \\ % ? #';

/** Whether an id can be opened, stored and linked to. */
export function usableId(id: string): boolean {
  return (
    id.length > 0 &&
    id.length <= 100 &&
    id.trim() === id &&
    !FORBIDDEN.test(id) &&
    !RESERVED.includes(id)
  );
}

/** Gives entries without an id a stable one (`s1`, `s2` …). */
export function fillIds(entries: readonly { id: string }[], prefix: string): void {
  const taken = new Set(entries.map(({ id }) => id));
  for (const [index, entry] of entries.entries()) {
    if (entry.id !== '') continue;
    let number = index + 1;
    while (taken.has(`${prefix}${number}`)) number += 1;
    entry.id = `${prefix}${number}`;
    taken.add(entry.id);
  }
}

/** Ids that cannot be used, and ids that stand twice. */
export function idProblems(entries: readonly { id: string }[], list: string): Problem[] {
  const seen = new Set<string>();
  const problems: Problem[] = [];
  for (const [index, { id }] of entries.entries()) {
    const path = `${list}[${index}].id`;
    if (!usableId(id)) {
      problems.push({ path, message: `${JSON.stringify(id)}; allowed: ${ID_ALLOWED}` });
    } else if (seen.has(id)) {
      const message = `${JSON.stringify(id)} is used twice; allowed: an id of its own for each`;
      problems.push({ path, message });
    }
    seen.add(id);
  }
  return problems;
}
