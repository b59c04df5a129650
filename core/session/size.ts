import { done, refused, type Outcome } from '../units/outcome';

/**
 * How large and how deep the content of a file may be. Checked before anything else looks at it,
 * without recursion, so that no file can stop the reader.
 */
export const MOST_BYTES = 64_000_000;
const MOST_DEPTH = 60;
export const MOST_VALUES = 500_000;
const MOST_FIELDS = 5_000;

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
    const count = Array.isArray(value) ? value.length : Object.keys(value).length;
    values += count;
    if (!Array.isArray(value) && count > MOST_FIELDS) {
      return refused(`${at(opened)}${count} fields in one object; allowed: up to ${MOST_FIELDS}`);
    }
    if (values > MOST_VALUES) {
      return refused(
        `${at(opened)}more than ${MOST_VALUES} values in all; allowed: up to ${MOST_VALUES}`,
      );
    }
    for (const [key, inner] of Object.entries(value) as [string, unknown][]) {
      if (typeof inner !== 'object' || inner === null) continue;
      if (depth >= MOST_DEPTH) {
        return refused(
          `${at({ value: inner, depth, parent: opened, key })}nested deeper than ${MOST_DEPTH} levels; allowed: up to ${MOST_DEPTH}`,
        );
      }
      open.push({ value: inner, depth: depth + 1, parent: opened, key });
    }
  }
  return done(values);
}
