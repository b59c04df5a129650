import type { Session } from '../../core/session';
import type { Step } from '../document/steps';
import { tableNamed } from './database';

/**
 * What a list of sessions shows, beside them: a list reads no session. A summary may be behind its
 * session where a page went away between both; such a one is marked, and made anew.
 */
export interface SessionSummary {
  id: string;
  title: string;
  venue: string;
  date: string;
  updatedAt: string;
  players: number;
  deletedAt: string | null;
  archivedAt: string | null;
  /** why it cannot be read; null where it can */
  damage: string | null;
  /** it lives in this page only, because the database refused it */
  unstored: boolean;
}

/** With the contents that the session and its history name, by hash: more may be named by its entries. */
export interface StoredSummary extends SessionSummary {
  hashes: string[];
}

export const summaries = tableNamed<StoredSummary>('summaries');

const PREFIX = 'rotunda-summary:';

/** Says that a session is being written, and its summary is not yet. */
export function markSummary(id: string): void {
  try {
    localStorage.setItem(`${PREFIX}${id}`, '1');
  } catch {
    // Without it a summary may be behind until the session is opened.
  }
}

export function unmarkSummary(id: string): void {
  try {
    localStorage.removeItem(`${PREFIX}${id}`);
  } catch {
    // It was not there either.
  }
}

/** Sessions whose summary may be behind. */
export function markedSummaries(): Set<string> {
  try {
    const keys = Object.keys(localStorage).filter((key) => key.startsWith(PREFIX));
    return new Set(keys.map((key) => key.slice(PREFIX.length)));
  } catch {
    return new Set();
  }
}

const HASH = /\b[0-9a-f]{64}\b/g;

/** All that may be hashes of contents in anything that is stored. */
export const hashesIn = (value: unknown): string[] =>
  JSON.stringify(value ?? null).match(HASH) ?? [];

const ofSteps = new WeakMap<Step, string[]>();

function hashesOfStep(step: Step): string[] {
  const known = ofSteps.get(step) ?? hashesIn(step);
  ofSteps.set(step, known);
  return known;
}

/** The contents that a session and the steps of its history name. */
export function hashesNamed(
  session: Pick<Session, 'blobs'> | null | undefined,
  steps: readonly Step[],
): string[] {
  const named = Array.isArray(session?.blobs) ? hashesIn(session.blobs) : [];
  return [...new Set([...named, ...steps.flatMap(hashesOfStep)])];
}
