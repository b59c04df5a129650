import { readSession } from './read';
import {
  CURRENT_VERSION,
  FORMAT,
  type MicArray,
  type Section,
  type Session,
  type Source,
} from './schema';

/** Fills in every default of hand-written content that is known to be valid. */
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

const PLAIN_SOURCE = sessionFrom({ sources: [{}] }).sources[0];
const PLAIN_ARRAY = sessionFrom({ arrays: [{}] }).arrays[0];

/** A player with every default, changed as given. */
export function newSource(change: Partial<Source>): Source {
  if (!PLAIN_SOURCE) throw new TypeError('the schema gave no source');
  return { ...structuredClone(PLAIN_SOURCE), ...change };
}

/** A section with every default, changed as given. */
export function sectionFrom(change: Partial<Section>): Section {
  const [section] = sessionFrom({ sections: [{ ...change }] }).sections;
  if (!section) throw new TypeError('the schema gave no section');
  return section;
}

/** An array with every default, changed as given. */
export function newArray(change: Partial<MicArray>): MicArray {
  if (!PLAIN_ARRAY) throw new TypeError('the schema gave no array');
  return { ...structuredClone(PLAIN_ARRAY), ...change };
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
