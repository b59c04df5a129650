import type { Session, Underlay } from '../../core/session';
import { tableNamed } from './database';
import { exclusively } from './tabs';

/**
 * Pictures are large and hardly ever change: each is stored once, under the hash of its content,
 * and a stored session only names it.
 */
interface StoredPicture {
  content: string;
  at: string;
}

const pictures = tableNamed<StoredPicture>('pictures');
const PREFIX = 'stored:';
/** A picture that nothing names is kept this long: somebody may undo, or bring a session back. */
const KEPT_MS = 3_600_000;

const names = new Map<string, string>();
const MOST_NAMES = 4;

/** The hash of a content; the means to hash are loaded when a picture is there. */
async function nameOf(content: string): Promise<string> {
  const known = names.get(content);
  if (known !== undefined) return known;
  const [{ sha256 }, { bytesToHex, utf8ToBytes }] = await Promise.all([
    import('@noble/hashes/sha2.js'),
    import('@noble/hashes/utils.js'),
  ]);
  const name = bytesToHex(sha256(utf8ToBytes(content)));
  if (names.size >= MOST_NAMES) names.delete(names.keys().next().value ?? '');
  names.set(content, name);
  return name;
}

/** Pictures that are known to be in the database, by content. */
const kept = new Set<string>();

function withUnderlay(session: Session, underlay: Underlay): Session {
  return { ...session, venue: { ...session.venue, underlay } };
}

/** A session that names its picture instead of holding it, once the picture is stored. */
export async function withoutPicture(session: Session): Promise<Session> {
  const { underlay } = session.venue;
  if (!underlay || underlay.picture.startsWith(PREFIX)) return session;
  const name = await nameOf(underlay.picture);
  if (!(await pictures.keys()).includes(name)) {
    await pictures.set(name, { content: underlay.picture, at: new Date().toISOString() });
  }
  kept.add(name);
  return withUnderlay(session, { ...underlay, picture: `${PREFIX}${name}` });
}

/** As withoutPicture, at once: only where its picture is known to be stored. */
export function namingStored(session: Session): Session {
  const { underlay } = session.venue;
  const name = underlay ? names.get(underlay.picture) : undefined;
  if (!underlay || name === undefined || !kept.has(name)) return session;
  return withUnderlay(session, { ...underlay, picture: `${PREFIX}${name}` });
}

interface MaybeSession {
  venue?: { underlay?: { picture?: unknown } | null };
}

const pictureIn = (raw: unknown): string | null => {
  const picture = (raw as MaybeSession | null)?.venue?.underlay?.picture;
  return typeof picture === 'string' && picture.startsWith(PREFIX)
    ? picture.slice(PREFIX.length)
    : null;
};

/** Stored content with its picture in it again; without the underlay where the picture is gone. */
export async function withPicture(raw: unknown): Promise<{ raw: unknown; missing: boolean }> {
  const name = pictureIn(raw);
  if (name === null) return { raw, missing: false };
  const stored = await pictures.get(name);
  const session = raw as { venue: Record<string, unknown> & { underlay: object } };
  if (stored) {
    names.set(stored.content, name);
    kept.add(name);
  }
  const underlay = stored ? { ...session.venue.underlay, picture: stored.content } : null;
  return { raw: { ...session, venue: { ...session.venue, underlay } }, missing: !stored };
}

/** Removes pictures that nothing has named for an hour. */
export function sweepPictures(everything: () => Promise<unknown[]>, now: number): Promise<number> {
  return exclusively('pictures', async () => {
    const stored = await pictures.keys();
    if (stored.length === 0) return 0;
    const used = new Set((await everything()).map(pictureIn));
    let removed = 0;
    for (const name of stored.filter((key) => !used.has(key))) {
      const picture = await pictures.get(name);
      if (picture && now - Date.parse(picture.at) < KEPT_MS) continue;
      await pictures.remove(name);
      kept.delete(name);
      removed += 1;
    }
    return removed;
  });
}
