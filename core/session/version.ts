import type { Session } from './schema';

/** Keys in one order, so that what is equal is written equally. */
function ordered(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(ordered);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, of]) => [key, ordered(of)]),
  );
}

/**
 * A version of the plan as it is kept: canonical JSON, so that two equal plans are one content. Without
 * journals, times of saving and the contents themselves; pictures are named by their hashes.
 */
export function versionText(session: Session): string {
  const { log: _log, takes: _takes, marks: _marks, acknowledgements: _read, ...plan } = session;
  const { createdAt: _made, updatedAt: _saved, id: _id, blobs, ...kept } = plan;
  const text = JSON.stringify(ordered(kept));
  // Only what it names itself: what entries of the journals name comes and goes without it.
  const named = blobs.filter(({ id }) => text.includes(JSON.stringify(id)));
  return JSON.stringify(
    ordered({ ...kept, blobs: named.map((blob) => ({ ...blob, data: null })) }),
  );
}
