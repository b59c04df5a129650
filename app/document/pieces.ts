import { current } from 'immer';
import { joinedPieces, replacePlayers, splitIntoPieces } from '../../core/ensembles';
import type { Session, Source } from '../../core/session';
import { selectMany } from '../view/choice';
import { newId } from './new-id';
import { edit } from './session-store';

function replaced(gone: readonly Source[], come: readonly Source[]): void {
  const done = edit((draft) => {
    const session = structuredClone<Session>(current(draft));
    replacePlayers(session, new Set(gone.map(({ id }) => id)), structuredClone([...come]));
    draft.sources = session.sources;
    draft.arrays = session.arrays;
  });
  if (done) selectMany(come.map(({ id }) => ({ kind: 'source' as const, id })));
}

/** A player's set of instruments as pieces of their own, each to be moved and heard alone. */
export function splitPlayer(source: Source): void {
  const pieces = splitIntoPieces(source, newId);
  if (pieces.length > 0) replaced([source], pieces);
}

/** The pieces of a set as the one player that they were. */
export function joinPieces(pieces: readonly Source[]): void {
  const whole = joinedPieces(pieces);
  if (whole) replaced(pieces, [whole]);
}
