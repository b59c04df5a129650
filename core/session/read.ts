import type * as z from 'zod';
import { fillIds, idProblems, usableId } from './ids';
import { JOURNALS } from './journals';
import { migrate } from './migrate';
import { MOST_ENTRIES, MOST_CAPSULES } from './bounds';
import { sessionSchema, type Session } from './schema';
import { logSchemaOf } from './schema-journals';
import { checkSize, MOST_BYTES } from './size';
import { capsulesInFrame } from '../arrays/capsules';

/** One thing that is wrong with a file: where, what was found, what is allowed. */
export interface Problem {
  /** path inside the file, e.g. `sources[2].x`; empty for the file as a whole */
  path: string;
  message: string;
}

export type ReadResult =
  | {
      ok: true;
      session: Session;
      /** a file of version 1 that names no model: its images were another model's */
      modelAssumed?: true;
      /** led by a listener's own model that the file does not carry: the consensus leads instead */
      ownMissing?: true;
    }
  | { ok: false; problems: Problem[] };

/** Version 1 had another model where none was named. */
function namesNoModel(raw: unknown): boolean {
  const { version, settings } = raw as { version?: unknown; settings?: unknown };
  return (
    version === 1 &&
    !(
      typeof settings === 'object' &&
      settings !== null &&
      ('school' in settings || 'model' in settings)
    )
  );
}

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

/** What stood there, in a few characters; large content is counted, not copied. */
function received(value: unknown): string {
  if (value === undefined) return 'missing';
  if (Array.isArray(value) && value.length > 20) return `a list of ${value.length} entries`;
  if (typeof value === 'object' && value !== null && Object.keys(value).length > 20) {
    return 'an object';
  }
  const text =
    typeof value === 'string' ? JSON.stringify(value.slice(0, 80)) : (JSON.stringify(value) ?? '?');
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}

/** An issue of the schema as a problem of the file. */
export function problemOf(
  issue: z.core.$ZodIssue,
  raw: unknown,
  before: readonly PropertyKey[] = [],
): Problem {
  return {
    path: pathText([...before, ...issue.path]),
    message: `${received(valueAt(raw, issue.path))}; ${issue.message}`,
  };
}

/** As many problems as anybody reads; a file can hold millions. */
const MOST_PROBLEMS = 100;

type Raw = Record<string, unknown>;
const LISTS = ['sources', 'sections', 'arrays', 'candidates', 'blobs', ...JOURNALS] as const;
type ListName = (typeof LISTS)[number];

/** The long lists, entry by entry, until there are enough problems. */
function readLists(raw: Raw): { lists: Map<ListName, unknown[]>; problems: Problem[] } {
  const lists = new Map<ListName, unknown[]>();
  const problems: Problem[] = [];
  for (const name of LISTS) {
    const list = sessionSchema.shape[name].unwrap();
    const entries = raw[name];
    // A list that is none, or is too long, is reported with the rest of the session.
    if (!Array.isArray(entries) || entries.length > MOST_ENTRIES[name]) continue;
    const read: unknown[] = [];
    for (const [index, entry] of (entries as unknown[]).entries()) {
      if (problems.length >= MOST_PROBLEMS) break;
      const element = name === 'log' ? logSchemaOf(entry) : (list.element as z.ZodType);
      const parsed = element.safeParse(entry);
      if (parsed.success) read.push(parsed.data);
      else
        problems.push(
          ...parsed.error.issues.map((issue) => problemOf(issue, entry, [name, index])),
        );
    }
    lists.set(name, read);
  }
  return { lists, problems };
}

/** Fills in ids and names, and checks what only shows when the session is seen as a whole. */
function checkWhole(session: Session): Problem[] {
  const { venue, kit, brief } = session;
  const named = [
    [session.sources, 'sources', 's', 'Source'],
    [session.arrays, 'arrays', 'm', 'Array'],
    [session.sections, 'sections', 'n', 'Section'],
    [session.candidates, 'candidates', 'c', 'Candidate'],
    [venue.datumPoints, 'venue.datumPoints', 'd', 'Point'],
    [venue.obstacles, 'venue.obstacles', 'o', 'Object'],
    [venue.seats, 'venue.seats', 'b', 'Seats'],
    [venue.areas, 'venue.areas', 'h', 'Area'],
    [kit.microphones, 'kit.microphones', 'k', 'Microphone'],
    [kit.stands, 'kit.stands', 't', 'Stand'],
    [kit.bars, 'kit.bars', 'r', 'Bar'],
  ] as const;
  const problems: Problem[] = [];
  for (const [entries, list, prefix, word] of named) {
    fillIds(entries, prefix);
    entries.forEach((entry, index) => {
      if (entry.name === '') entry.name = `${word} ${index + 1}`;
    });
    problems.push(...idProblems(entries, list));
  }
  for (const [i, { setUp }] of session.candidates.entries()) {
    fillIds(setUp, 'm');
    problems.push(...idProblems(setUp, `candidates[${i}].setUp`));
  }
  for (const [entries, list, prefix] of [
    [session.blobs, 'blobs', 'blob'],
    [session.log, 'log', 'entry'],
    [session.takes, 'takes', 'take'],
    [session.marks, 'marks', 'mark'],
    [session.acknowledgements, 'acknowledgements', 'read'],
    [brief.timetable.entries, 'brief.timetable.entries', 'step'],
  ] as const) {
    fillIds(entries, prefix);
    problems.push(...idProblems(entries, list));
  }
  // Nothing refers to the identity of the whole: whoever takes the session in gives another.
  if (session.id !== '' && !usableId(session.id)) session.id = '';
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

function refusedWith(problems: readonly Problem[]): ReadResult {
  if (problems.length <= MOST_PROBLEMS) return { ok: false, problems: [...problems] };
  const message = `more problems follow; allowed: none, and only the first ${MOST_PROBLEMS} are listed`;
  return { ok: false, problems: [...problems.slice(0, MOST_PROBLEMS), { path: '', message }] };
}

/**
 * Reads a session from already parsed JSON: its size checked, migrated, validated once, defaults
 * filled in. What it returns may be trusted afterwards. At most 100 problems are listed.
 */
export function readSession(raw: unknown): ReadResult {
  const size = checkSize(raw);
  if (!size.ok) return { ok: false, problems: [{ path: '', message: size.message }] };
  const migrated = migrate(raw);
  if (!migrated.ok) return { ok: false, problems: [{ path: '', message: migrated.message }] };
  const { lists, problems } = readLists(migrated.value);
  const rest = { ...migrated.value, ...Object.fromEntries([...lists.keys()].map((n) => [n, []])) };
  const parsed = sessionSchema.safeParse(rest);
  if (!parsed.success) {
    problems.push(...parsed.error.issues.map((issue) => problemOf(issue, migrated.value)));
  }
  if (!parsed.success || problems.length > 0) return refusedWith(problems);
  const session = Object.assign(parsed.data, Object.fromEntries(lists)) as Session;
  const whole = checkWhole(session);
  if (whole.length > 0) return refusedWith(whole);
  const ownMissing = session.settings.model === 'own' && session.settings.own === null;
  if (ownMissing) session.settings.model = 'consensus';
  return {
    ok: true,
    session,
    ...(namesNoModel(raw) && { modelAssumed: true as const }),
    ...(ownMissing && { ownMissing: true as const }),
  };
}

/** As readSession, from the text of a file. */
export function readSessionText(text: string): ReadResult {
  if (text.length > MOST_BYTES) {
    const message = `${Math.round(text.length / 1e6)} MB; allowed: a file of up to ${MOST_BYTES / 1e6} MB`;
    return { ok: false, problems: [{ path: '', message }] };
  }
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
