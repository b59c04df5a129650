import { readSession } from './read';
import {
  CURRENT_VERSION,
  FORMAT,
  type MicArray,
  type Section,
  type Session,
  type Source,
} from './schema';

/**
 * Fills in every default of hand-written content that is known to be valid.
 * @throws TypeError naming the fields that are not valid, and what is allowed
 */
export function sessionFrom(content: Record<string, unknown>): Session {
  const result = readSession({ format: FORMAT, version: CURRENT_VERSION, ...content });
  if (result.ok) return result.session;
  const list = result.problems.map(({ path, message }) => `${path}: ${message}`).join('; ');
  throw new TypeError(`session content is not valid: ${list}`);
}

const FIRST_PAIR = { name: 'Main pair', role: 'main', x: 0, y: -0.5, z: 2.7 } as const;

/** An empty session with one main pair in front of an empty stage. */
export function newSession(id: string, title: string, now: string): Session {
  return sessionFrom({
    id,
    title,
    createdAt: now,
    updatedAt: now,
    arrays: [{ id: 'main', ...FIRST_PAIR }],
  });
}

/** The pair that a new session begins with, as nobody has touched it yet. */
export function isUntouchedPair(array: MicArray): boolean {
  const first = newArray({ ...FIRST_PAIR, id: array.id });
  return JSON.stringify(inOrder(array)) === JSON.stringify(inOrder(first));
}

/** With its fields by name, so that their order does not matter. */
function inOrder(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(inOrder);
  if (value === null || typeof value !== 'object') return value;
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(entries.map(([key, inside]) => [key, inOrder(inside)]));
}

/** Made when it is first asked for: nothing is parsed while the page loads. */
function onFirstUse<T>(what: string, make: () => T | undefined): () => T {
  let made: T | undefined;
  return () => {
    made ??= make();
    if (made === undefined) throw new TypeError(`the schema gave no ${what}`);
    return made;
  };
}

const plainSource = onFirstUse('source', () => sessionFrom({ sources: [{}] }).sources[0]);
const plainArray = onFirstUse('array', () => sessionFrom({ arrays: [{}] }).arrays[0]);

/** A player with every default, changed as given. */
export function newSource(change: Partial<Source>): Source {
  return { ...structuredClone(plainSource()), ...change };
}

/**
 * A section with every default, changed as given.
 * @throws TypeError naming the fields that are not valid, and what is allowed
 */
export function sectionFrom(change: Partial<Section>): Section {
  const [section] = sessionFrom({ sections: [{ ...change }] }).sections;
  if (!section) throw new TypeError('the schema gave no section');
  return section;
}

/** An array with every default, changed as given. */
export function newArray(change: Partial<MicArray>): MicArray {
  return { ...structuredClone(plainArray()), ...change };
}

/** A copy under another id and title. */
export function duplicateSession(
  session: Session,
  id: string,
  title: string,
  now: string,
): Session {
  return { ...structuredClone(session), id, title, createdAt: now, updatedAt: now };
}
