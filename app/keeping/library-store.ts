import { MOST_PIECES, readPiece, type Piece } from '../../core/session';
import { tableNamed } from './database';

/** The library of this browser: a record a piece, beside the sessions. */
const pieces = tableNamed<unknown>('library');

/** Keeps a piece, or says why it may not be kept. */
export async function keepPiece(piece: Piece): Promise<string | null> {
  const read = readPiece(piece);
  if (!read.ok) {
    const [first] = read.problems;
    return `${first?.path ?? ''}: ${first?.message ?? ''}`;
  }
  const keys = await pieces.keys();
  if (keys.length >= MOST_PIECES && !keys.includes(piece.id)) {
    return `the library holds ${keys.length} pieces; allowed: up to ${MOST_PIECES}`;
  }
  await pieces.set(piece.id, read.piece);
  return null;
}

/** All pieces, the newest first; one that cannot be read is left where it is. */
export async function keptPieces(): Promise<Piece[]> {
  const keys = await pieces.keys();
  const stored = await Promise.all(keys.map((key) => pieces.get(key)));
  return stored
    .flatMap((raw) => {
      const read = readPiece(raw);
      return read.ok ? [read.piece] : [];
    })
    .sort((a, b) => b.at.localeCompare(a.at));
}

export const removePiece = (id: string): Promise<void> => pieces.remove(id);

/** Keeps pieces that came from elsewhere: of one that is here already the newer one stays. */
export async function takeInPieces(incoming: readonly Piece[]): Promise<number> {
  const known = new Map((await keptPieces()).map((piece) => [piece.id, piece.at]));
  let taken = 0;
  for (const piece of incoming) {
    const before = known.get(piece.id);
    if (before !== undefined && before >= piece.at) continue;
    if ((await keepPiece(piece)) === null) taken += 1;
  }
  return taken;
}
