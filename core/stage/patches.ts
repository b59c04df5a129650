/** One change of a JSON document: what stands at a path is put there, put in its place, or taken away. */
export interface DocumentPatch {
  op: 'add' | 'remove' | 'replace';
  path: (string | number)[];
  value?: unknown;
}

const isList = (value: unknown): value is readonly unknown[] => Array.isArray(value);
const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !isList(value);

function listPatches(
  before: readonly unknown[],
  after: readonly unknown[],
  path: DocumentPatch['path'],
  into: DocumentPatch[],
): void {
  const both = Math.min(before.length, after.length);
  for (let i = 0; i < both; i++) compare(before[i], after[i], [...path, i], into);
  for (let i = both; i < after.length; i++) {
    into.push({ op: 'add', path: [...path, i], value: after[i] });
  }
  for (let i = before.length - 1; i >= both; i--) into.push({ op: 'remove', path: [...path, i] });
}

function compare(
  before: unknown,
  after: unknown,
  path: DocumentPatch['path'],
  into: DocumentPatch[],
): void {
  if (before === after) return;
  if (isList(before) && isList(after)) return listPatches(before, after, path, into);
  if (isRecord(before) && isRecord(after)) {
    for (const key of Object.keys(before)) {
      if (!Object.hasOwn(after, key)) into.push({ op: 'remove', path: [...path, key] });
    }
    for (const [key, value] of Object.entries(after)) {
      if (Object.hasOwn(before, key)) compare(before[key], value, [...path, key], into);
      else into.push({ op: 'add', path: [...path, key], value });
    }
    return;
  }
  into.push({ op: 'replace', path, value: after });
}

/**
 * What makes one document of another, as few and small as comparing place by place gives.
 * @param before, after JSON: records, lists, texts, numbers, flags and null
 * @returns in the order in which they are to be done; empty where the two are the same
 */
export function patchesBetween(before: unknown, after: unknown): DocumentPatch[] {
  const patches: DocumentPatch[] = [];
  compare(before, after, [], patches);
  return patches;
}
