import { createStore } from 'zustand/vanilla';
import type { LogEntry, Piece } from '../../core/session';
import { keepPiece, keptPieces, removePiece } from './library-store';

export type PlaceEntry = Extract<LogEntry, { kind: 'place' }>;
type HeardPiece = Extract<Piece, { kind: 'heard'; shift: number }>;

/** Where listeners heard players, of all sessions of this browser; null until it was read. */
export const heardStore = createStore<{ places: readonly HeardPiece[] | null }>(() => ({
  places: null,
}));

const isHeard = (piece: Piece): piece is HeardPiece => piece.kind === 'heard' && 'shift' in piece;

/** Reads them from the library. */
export async function readHeard(): Promise<void> {
  heardStore.setState({ places: (await keptPieces()).filter(isHeard) });
}

/**
 * Keeps an answer in the library, under the id of its entry.
 * @returns what stands in its way; null where nothing does
 */
export async function keepHeard(
  entry: PlaceEntry,
  from: { session: string; title: string },
): Promise<string | null> {
  const { id, at, by, name, through, passage, levelDb, delayMs, coincident, shift } = entry;
  const heard = { by, through, passage, levelDb, delayMs, coincident, shift };
  const problem = await keepPiece({
    ...{ kind: 'heard', id, at, name, ...heard },
    from: { ...from, version: '' },
  });
  await readHeard();
  return problem;
}

/** Takes answers out of the library. */
export async function forgetHeard(ids: readonly string[]): Promise<void> {
  await Promise.all(ids.map(removePiece));
  await readHeard();
}
