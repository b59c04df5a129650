import type * as z from 'zod';
import { migrate } from './migrate';
import { MOST_CAPSULES } from './fields';
import { sessionSchema, type Session } from './schema';
import { capsulesInFrame } from '../arrays/capsules';

/** One thing that is wrong with a file: where, what was found, what is allowed. */
export interface Problem {
  /** path inside the file, e.g. `sources[2].x`; empty for the file as a whole */
  path: string;
  message: string;
}

export type ReadResult = { ok: true; session: Session } | { ok: false; problems: Problem[] };

/** `sources[2].x` */
export function pathText(path: readonly PropertyKey[]): string {
  return path.reduce<string>((text, key) => {
    if (typeof key === 'number') return `${text}[${key}]`;
    return text === '' ? String(key) : `${text}.${String(key)}`;
  }, '');
}

function valueAt(raw: unknown, path: readonly PropertyKey[]): unknown {
  return path.reduce<unknown>(
    (value, key) =>
      typeof value === 'object' && value !== null
        ? (value as Record<PropertyKey, unknown>)[key]
        : undefined,
    raw,
  );
}

function received(value: unknown): string {
  if (value === undefined) return 'missing';
  const text = JSON.stringify(value) ?? typeof value;
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}

function problemOf(issue: z.core.$ZodIssue, raw: unknown): Problem {
  return {
    path: pathText(issue.path),
    message: `${received(valueAt(raw, issue.path))}; ${issue.message}`,
  };
}

/** Gives entries without an id a stable one (`s1`, `s2` …) and refuses doubles. */
function settleIds(
  entries: { id: string; name: string }[],
  list: string,
  prefix: string,
  word: string,
): Problem[] {
  const taken = new Set(entries.map(({ id }) => id));
  const seen = new Set<string>();
  const problems: Problem[] = [];
  for (const [index, entry] of entries.entries()) {
    if (entry.id === '') {
      let number = index + 1;
      while (taken.has(`${prefix}${number}`)) number += 1;
      entry.id = `${prefix}${number}`;
      taken.add(entry.id);
    }
    if (entry.name === '') entry.name = `${word} ${index + 1}`;
    if (seen.has(entry.id)) {
      const message = `"${entry.id}" is used twice; allowed: an id of its own for each`;
      problems.push({ path: `${list}[${index}].id`, message });
    }
    seen.add(entry.id);
  }
  return problems;
}

function checkWhole(session: Session): Problem[] {
  const problems = [
    ...settleIds(session.sources, 'sources', 's', 'Source'),
    ...settleIds(session.arrays, 'arrays', 'm', 'Array'),
    ...settleIds(session.sections, 'sections', 'n', 'Section'),
    ...settleIds(session.venue.datumPoints, 'venue.datumPoints', 'd', 'Point'),
    ...settleIds(session.venue.obstacles, 'venue.obstacles', 'o', 'Object'),
    ...settleIds(session.venue.seats, 'venue.seats', 'b', 'Seats'),
    ...settleIds(session.kit.microphones, 'kit.microphones', 'k', 'Microphone'),
    ...settleIds(session.kit.stands, 'kit.stands', 't', 'Stand'),
    ...settleIds(session.kit.bars, 'kit.bars', 'r', 'Bar'),
  ];
  const capsules = session.arrays.reduce(
    (count, { technique }) => count + capsulesInFrame(technique).length,
    0,
  );
  if (capsules > MOST_CAPSULES) {
    const message = `${capsules} capsules in all; allowed: up to ${MOST_CAPSULES}`;
    problems.push({ path: 'arrays', message });
  }
  return problems;
}

/**
 * Reads a session from already parsed JSON: migrated, validated once, defaults filled in.
 * What it returns may be trusted afterwards.
 */
export function readSession(raw: unknown): ReadResult {
  const migrated = migrate(raw);
  if (!migrated.ok) return { ok: false, problems: [{ path: '', message: migrated.message }] };
  const parsed = sessionSchema.safeParse(migrated.value);
  if (!parsed.success) {
    const problems = parsed.error.issues.map((issue) => problemOf(issue, migrated.value));
    return { ok: false, problems };
  }
  const problems = checkWhole(parsed.data);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, session: parsed.data };
}

/** As readSession, from the text of a file. */
export function readSessionText(text: string): ReadResult {
  let raw: unknown;
  try {
    raw = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    const message = `not JSON, so the file is damaged or of another kind (${reason}); allowed: a *.rotunda.json file`;
    return { ok: false, problems: [{ path: '', message }] };
  }
  return readSession(raw);
}

/** A session as the text of its file. */
export function writeSessionText(session: Session): string {
  return `${JSON.stringify(session, null, 2)}\n`;
}
