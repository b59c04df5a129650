import type { BlobReference, Session } from '../../core/session';
import { tableNamed } from './database';
import { hashesIn } from './summaries';
import { exclusively } from './tabs';

/**
 * Pictures and sounds are large and hardly ever change: each is stored once, under the hash of its
 * content, beside the sessions, and a session only refers to it.
 */
export interface BlobContent {
  type: string;
  content: Uint8Array;
}

interface StoredBlob extends BlobContent {
  at: string;
}

const blobs = tableNamed<StoredBlob>('blobs');
/** What nothing refers to is kept this long: somebody may undo, or bring a session back. */
const KEPT_MS = 3_600_000;

/** What this page has made or read, by hash: there also where the database refuses it. */
const inPage = new Map<string, BlobContent>();
/** Hashes that are known to be in the database. */
const kept = new Set<string>();

/** The means to hash are loaded when something is there to hash; some origins give none of their own. */
async function hashOf(content: Uint8Array): Promise<string> {
  const [{ sha256 }, { bytesToHex }] = await Promise.all([
    import('@noble/hashes/sha2.js'),
    import('@noble/hashes/utils.js'),
  ]);
  return bytesToHex(sha256(content));
}

const ID_DIGITS = 20;

/** Takes a content in and says how a session refers to it; stored at the latest with that session. */
export async function takeInBlob(
  content: Uint8Array,
  type: string,
  name = '',
): Promise<BlobReference> {
  const hash = await hashOf(content);
  inPage.set(hash, { type, content });
  await keep(hash).catch(() => undefined);
  const id = `b-${hash.slice(0, ID_DIGITS)}`;
  return { id, hash, type, bytes: content.length, name, data: null };
}

async function keep(hash: string): Promise<void> {
  const content = inPage.get(hash);
  if (!content || kept.has(hash)) return;
  if (!(await blobs.keys()).includes(hash)) {
    await blobs.set(hash, { ...content, at: new Date().toISOString() });
  }
  kept.add(hash);
}

/** Stores what a session refers to and the database does not have yet. */
export async function keepBlobsOf({ blobs: references }: Session): Promise<void> {
  for (const { hash } of references) await keep(hash);
}

/** A content by its hash; null where it is not here. */
export async function blobContent(hash: string): Promise<BlobContent | null> {
  const known = inPage.get(hash);
  if (known) return known;
  const stored = await blobs.get(hash).catch(() => null);
  if (!stored) return null;
  kept.add(hash);
  inPage.set(hash, stored);
  return stored;
}

function fromBase64(text: string): Uint8Array | null {
  try {
    return Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0));
  } catch {
    return null;
  }
}

function toBase64(content: Uint8Array): string {
  const PART = 0x8000;
  const parts: string[] = [];
  for (let at = 0; at < content.length; at += PART) {
    parts.push(String.fromCharCode(...content.subarray(at, at + PART)));
  }
  return btoa(parts.join(''));
}

const DATA_URL = /^data:(image\/(?:png|jpeg));base64,/;

/**
 * A session from a file: what the file holds itself is stored, and the session refers to it.
 * @param beside contents that came beside the file, by hash
 */
export async function withReferences(
  session: Session,
  beside: ReadonlyMap<string, Uint8Array> = new Map(),
): Promise<Session> {
  let references = session.blobs;
  for (const { hash, type } of references) {
    const content = beside.get(hash);
    if (content && (await hashOf(content)) === hash) inPage.set(hash, { type, content });
  }
  if (references.some(({ data }) => data !== null)) {
    references = await Promise.all(
      references.map(async (reference) => {
        const content = reference.data === null ? null : fromBase64(reference.data);
        if (!content) return { ...reference, data: null };
        // The content says what it is, whatever the file calls it; its id stays.
        const { hash, bytes } = await takeInBlob(content, reference.type);
        return { ...reference, hash, bytes, data: null };
      }),
    );
  }
  const { underlay } = session.venue;
  const [head, type] = DATA_URL.exec(underlay?.picture ?? '') ?? [];
  if (!underlay || head === undefined || type === undefined) {
    return references === session.blobs ? session : { ...session, blobs: references };
  }
  const content = fromBase64(underlay.picture.slice(head.length));
  if (!content)
    return { ...session, blobs: references, venue: { ...session.venue, underlay: null } };
  const reference = await takeInBlob(content, type);
  return {
    ...session,
    blobs: [...references.filter(({ id }) => id !== reference.id), reference],
    venue: { ...session.venue, underlay: { ...underlay, picture: reference.id } },
  };
}

/** What a file holds itself at most, bytes before they are text. */
const MOST_EMBEDDED = 8_000_000;

/** A session as one file: small contents stand in it. */
export async function withContents(session: Session): Promise<Session> {
  if (session.blobs.length === 0) return session;
  let room = MOST_EMBEDDED;
  const references: BlobReference[] = [];
  for (const reference of session.blobs) {
    const fits = reference.bytes <= room;
    const content = fits ? await blobContent(reference.hash) : null;
    if (content) room -= content.content.length;
    references.push({ ...reference, data: content ? toBase64(content.content) : null });
  }
  return { ...session, blobs: references };
}

const FOLDER = 'blobs/';

/** What a session refers to, as the files of an archive. */
export async function contentsOf({
  blobs: references,
}: Session): Promise<Record<string, Uint8Array>> {
  const files: Record<string, Uint8Array> = {};
  for (const { hash } of references) {
    const stored = await blobContent(hash);
    if (stored) files[`${FOLDER}${hash}`] = stored.content;
  }
  return files;
}

/** The hash that a file of an archive stands for; null where it is something else. */
export const hashOfFile = (path: string): string | null =>
  /^blobs\/([0-9a-f]{64})$/.exec(path)?.[1] ?? null;

const TEXT = 'application/json';

/** A content that is a text may name others: what a kept one names is kept, and what that one names. */
async function follow(doubtful: Set<string>): Promise<void> {
  const open = (await blobs.keys()).filter((hash) => !doubtful.has(hash));
  for (let hash = open.pop(); hash !== undefined && doubtful.size > 0; hash = open.pop()) {
    const blob = await blobs.get(hash);
    if (blob?.type !== TEXT) continue;
    for (const named of hashesIn(new TextDecoder().decode(blob.content))) {
      if (doubtful.delete(named)) open.push(named);
    }
  }
}

/** What may name a content. */
export interface Named {
  /** by hash: used without doubt, but more may be */
  likely(): Promise<ReadonlySet<string>>;
  /** all hashes that anything stored names, piece by piece */
  everything(): AsyncIterable<readonly string[]>;
}

/**
 * Removes contents that nothing has referred to for an hour. What is stored is read only where some
 * content may have to go.
 */
export function sweepBlobs(named: Named, now: number): Promise<number> {
  return exclusively('blobs', async () => {
    const likely = await named.likely();
    const doubtful = new Set((await blobs.keys()).filter((hash) => !likely.has(hash)));
    for (const hash of doubtful) {
      const blob = await blobs.get(hash);
      if (blob && now - Date.parse(blob.at) < KEPT_MS) doubtful.delete(hash);
    }
    if (doubtful.size === 0) return 0;
    for await (const hashes of named.everything()) {
      for (const hash of hashes) doubtful.delete(hash);
      if (doubtful.size === 0) return 0;
    }
    await follow(doubtful);
    for (const hash of doubtful) {
      await blobs.remove(hash);
      kept.delete(hash);
    }
    return doubtful.size;
  });
}
