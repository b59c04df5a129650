import * as z from 'zod';
import { list, record, text } from './fields';
import { problemOf, type Problem } from './read';
import { sessionSchema } from './schema';
import { heardFields, mark } from './schema-journals';
import { ownModel } from './schema-own';
import { checkSize } from './size';

/**
 * What stands beside the sessions: pieces that were kept to be put into others, and what was learned. A
 * session carries copies of what it uses and works without it.
 */

const kept = {
  id: text(100),
  /** when it was kept, ISO 8601 */
  at: text(40).default(''),
  name: text(200).default(''),
  /** the session that it comes from, and the version of its plan; empty where none is known */
  from: record({
    session: text(100).default(''),
    title: text(200).default(''),
    version: text(64).default(''),
  }).prefault({}),
};
const { shape } = sessionSchema;

/** Kinds of pieces. One of another kind is kept as it is. */
export const PIECES = {
  hall: record({
    ...kept,
    kind: z.literal('hall'),
    venue: shape.venue,
    /** how its reverberation was measured, in words; empty where nobody said */
    measured: text(2000).default(''),
    marks: shape.marks,
  }),
  /** who plays, and where they sit */
  ensemble: record({
    ...kept,
    kind: z.literal('ensemble'),
    sources: shape.sources,
    sections: shape.sections,
  }),
  /** where they sit alone, for whoever plays */
  seating: record({
    ...kept,
    kind: z.literal('seating'),
    sources: shape.sources,
  }),
  /** what is put up: its arrays */
  arrays: record({ ...kept, kind: z.literal('arrays'), arrays: shape.arrays }),
  /** arrays with their strips, and how they are rigged */
  rig: record({
    ...kept,
    kind: z.literal('rig'),
    arrays: shape.arrays,
    rig: shape.rig,
  }),
  kit: record({ ...kept, kind: z.literal('kit'), kit: shape.kit }),
  /** levels and delays of a mix, with the names of the arrays that they are of */
  blend: record({
    ...kept,
    kind: z.literal('blend'),
    strips: record({}).prefault({}),
    arrays: shape.arrays,
  }),
  /** a good place in a hall */
  spot: record({ ...kept, kind: z.literal('spot'), mark }),
  /** where somebody heard a player: one answer; `by` is who listened */
  heard: record({ ...kept, kind: z.literal('heard'), by: text(200).default(''), ...heardFields }),
  /** how well somebody heard */
  drill: record({ ...kept, kind: z.literal('drill'), results: record({}).prefault({}) }),
  /** where somebody hears what: a localisation model of their own */
  model: record({ ...kept, kind: z.literal('model'), points: ownModel }),
} as const;
const otherPiece = record({ ...kept, kind: text(40).default('') });

export type PieceKind = keyof typeof PIECES;
export type Piece = z.output<(typeof PIECES)[PieceKind]> | z.output<typeof otherPiece>;

/** Most pieces of a library. */
export const MOST_PIECES = 20_000;

const LIBRARY = 'rotunda-library';
const librarySchema = record({
  format: z.literal(LIBRARY, { error: `allowed: "${LIBRARY}"` }),
  version: z.literal(1, { error: 'allowed: 1' }),
  pieces: list(z.unknown(), MOST_PIECES).default([]),
  /** sessions beside it that are filed away, by id */
  archived: list(text(100), MOST_PIECES).default([]),
});

/** A library as it is in a file. */
export interface Library {
  pieces: Piece[];
  archived: string[];
}

/** A piece that may be kept, or what is wrong with it. */
export function readPiece(
  raw: unknown,
  path: readonly PropertyKey[] = [],
): { ok: true; piece: Piece } | { ok: false; problems: Problem[] } {
  const { kind } = (typeof raw === 'object' && raw !== null ? raw : {}) as { kind?: unknown };
  const known = typeof kind === 'string' && Object.hasOwn(PIECES, kind);
  const schema: z.ZodType<Piece> = known ? PIECES[kind as PieceKind] : otherPiece;
  const parsed = schema.safeParse(raw);
  return parsed.success
    ? { ok: true, piece: parsed.data }
    : { ok: false, problems: parsed.error.issues.map((issue) => problemOf(issue, raw, path)) };
}

/**
 * Reads a library: pieces that are right are kept, and what is wrong with others is said.
 * @throws nothing; a text that is no library is a problem of the whole
 */
export function readLibrary(content: string): { library: Library; problems: Problem[] } {
  const library: Library = { pieces: [], archived: [] };
  let raw: unknown;
  try {
    raw = JSON.parse(content);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    return {
      library,
      problems: [{ path: '', message: `not JSON (${reason}); allowed: a library` }],
    };
  }
  const size = checkSize(raw);
  if (!size.ok) return { library, problems: [{ path: '', message: size.message }] };
  const parsed = librarySchema.safeParse(raw);
  if (!parsed.success) {
    return { library, problems: parsed.error.issues.map((issue) => problemOf(issue, raw)) };
  }
  const problems: Problem[] = [];
  library.archived = parsed.data.archived;
  for (const [index, each] of parsed.data.pieces.entries()) {
    const read = readPiece(each, ['pieces', index]);
    if (read.ok) library.pieces.push(read.piece);
    else problems.push(...read.problems);
  }
  return { library, problems };
}

/** A library as the text of its file. */
export const writeLibrary = ({ pieces, archived }: Library): string =>
  `${JSON.stringify({ format: LIBRARY, version: 1, pieces, archived }, null, 2)}\n`;
