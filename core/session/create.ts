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

/** An empty session with one main pair in front of an empty stage. */
export function newSession(id: string, title: string, now: string): Session {
  return sessionFrom({
    id,
    title,
    createdAt: now,
    updatedAt: now,
    arrays: [{ id: 'main', name: 'Main pair', role: 'main', x: 0, y: -0.5, z: 2.7 }],
  });
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
