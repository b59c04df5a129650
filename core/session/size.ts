import { done, refused, type Outcome } from '../units/outcome';

/**
 * How large and how deep the content of a file may be. Checked before anything else looks at it,
 * without recursion, so that no file can stop the reader.
 */
export const MOST_BYTES = 64_000_000;
export const MOST_DEPTH = 60;
export const MOST_VALUES = 1_000_000;
export const MOST_FIELDS = 5_000;

interface Opened {
  value: object;
  depth: number;
  /** path of the object that holds it, and its key there */
  parent: Opened | null;
  key: string;
}

const FIRST_STEPS = 4;

/** `venue.later.a`: the beginning of the way to a value. */
function pathOf(opened: Opened): string {
  const keys: string[] = [];
  for (let at: Opened | null = opened; at?.parent; at = at.parent) {
    keys.push(Array.isArray(at.parent.value) ? `[${at.key}]` : `.${at.key.slice(0, 40)}`);
  }
  const first = keys.reverse().slice(0, FIRST_STEPS).join('').replace(/^\./, '');
  return keys.length > FIRST_STEPS ? `${first} …` : first;
}

const at = (opened: Opened): string => {
  const path = pathOf(opened);
  return path === '' ? '' : `${path}: `;
};

/**
 * Walks through already parsed JSON once.
 * @returns the number of values, or why the content is not looked at any further
 */
export function checkSize(raw: unknown): Outcome<number> {
  if (typeof raw !== 'object' || raw === null) return done(1);
  const open: Opened[] = [{ value: raw, depth: 0, parent: null, key: '' }];
  let values = 1;
  for (let opened = open.pop(); opened; opened = open.pop()) {
    const { value, depth } = opened;
    const keys = Object.keys(value);
    if (!Array.isArray(value) && keys.length > MOST_FIELDS) {
      return refused(
        `${at(opened)}${keys.length} fields in one object; allowed: up to ${MOST_FIELDS}`,
      );
    }
    values += keys.length;
    if (values > MOST_VALUES) {
      return refused(
        `${at(opened)}more than ${MOST_VALUES} values in all; allowed: up to ${MOST_VALUES}`,
      );
    }
    for (const key of keys) {
      const inner = (value as Record<string, unknown>)[key];
      if (typeof inner !== 'object' || inner === null) continue;
      const next = { value: inner, depth: depth + 1, parent: opened, key };
      if (next.depth > MOST_DEPTH) {
        return refused(
          `${at(next)}nested deeper than ${MOST_DEPTH} levels; allowed: up to ${MOST_DEPTH}`,
        );
      }
      open.push(next);
    }
  }
  return done(values);
}
