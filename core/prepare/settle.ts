import type { Session } from '../session/schema';

type Listed = { id: string };

function settledList<T extends Listed>(known: readonly T[], list: T[]): T[] {
  const byId = new Map(known.map((entry) => [entry.id, entry]));
  const settled = list.map((entry) => {
    const same = byId.get(entry.id);
    return same && JSON.stringify(same) === JSON.stringify(entry) ? same : entry;
  });
  const unchanged =
    settled.length === known.length && settled.every((entry, index) => entry === known[index]);
  return unchanged ? (known as T[]) : settled;
}

/**
 * A session that came as a copy, with those of its players and arrays that an earlier one already
 * has: what was prepared for them, by identity, holds on.
 */
export function settledOn(known: Session | null, session: Session): Session {
  if (known?.id !== session.id) return session;
  const sameOwn = JSON.stringify(known.settings.own) === JSON.stringify(session.settings.own);
  const sameHall = JSON.stringify(known.venue) === JSON.stringify(session.venue);
  return {
    ...session,
    settings: sameOwn ? { ...session.settings, own: known.settings.own } : session.settings,
    venue: sameHall ? known.venue : session.venue,
    sources: settledList(known.sources, session.sources),
    arrays: settledList(known.arrays, session.arrays),
  };
}
