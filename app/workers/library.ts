import { Collection } from '../../core/recall/collection';
import { readSession } from '../../core/session';
import type { Help } from './serve';
import type { Tasks } from './tasks';

/** The library beside the page: read once, then kept as it changes. */
const collection = new Collection();

export async function libraryTaken(
  { put, pieces, ids }: Tasks['libraryTaken']['ask'],
  { step }: Help,
): Promise<Tasks['libraryTaken']['answer']> {
  for (const [i, { id, title, raw }] of put.entries()) {
    const read = readSession(raw);
    if (read.ok) collection.put({ ...read.session, id });
    else collection.putUnread(id, title);
    await step((i + 1) / put.length);
  }
  if (pieces) collection.putPieces(pieces);
  if (ids) collection.keepOnly(new Set(ids));
  return ids ? collection.overview() : null;
}

export const librarySearch = ({
  query,
  narrowed,
  most,
}: Tasks['librarySearch']['ask']): Tasks['librarySearch']['answer'] =>
  collection.index.search(query, narrowed, most);
