import type { BlobReference, Session } from '../../core/session';
import { run } from '../workers/run';
import { tableNamed } from './database';
import { hashesIn } from './summaries';
import { exclusively } from './tabs';
import { pathOfHash, type PackedFile } from '../contents/names';

/**
 * Pictures and sounds are large and hardly ever change: each is stored once, under the hash of its
 * content, beside the sessions, and a session only refers to it.
 */
export interface BlobContent {
  type: string;
  content: Blob;
}

interface StoredBlob {
  type: string;
  /** bytes in what was stored long ago */
  content: Blob | Uint8Array<ArrayBuffer>;
  at: string;
}

const blobs = tableNamed<StoredBlob>('blobs');
/** What nothing refers to is kept this long: somebody may undo, or bring a session back. */
const KEPT_MS = 3_600_000;

/** What this page has made, or read lately, by hash: there also where the database refuses it. */
const inPage = new Map<string, BlobContent>();
/** Hashes that are known to be in the database. */
const kept = new Set<string>();
/** Of what is in the database as well, so many bytes at most stay in the page. */
const MOST_IN_PAGE = 2 ** 25;

/** Remembers a content; what was stored is let go, the oldest first, where it becomes much. */
function remember(hash: string, content: BlobContent): void {
  inPage.delete(hash);
  inPage.set(hash, content);
  let bytes = 0;
  for (const [known, { content: of }] of [...inPage].reverse()) {
    if (!kept.has(known)) continue;
    bytes += of.size;
    if (bytes > MOST_IN_PAGE) inPage.delete(known);
  }
}

/** The hash of a content, beside the page. */
async function hashOf(content: Blob): Promise<string> {
  if (typeof Worker !== 'undefined') return run('hash', content);
  return (await import('../contents/hashing')).hashOfBlob(content);
}

const ID_DIGITS = 20;

function referenceTo(hash: string, { type, size }: Blob, name: string): BlobReference {
  return { id: `b-${hash.slice(0, ID_DIGITS)}`, hash, type, bytes: size, name, data: null };
}

/** Takes a content in and says how a session refers to it; stored at the latest with that session. */
export async function takeInBlob(content: Blob, name = ''): Promise<BlobReference> {
  const hash = await hashOf(content);
  remember(hash, { type: content.type, content });
  await keep(hash).catch(() => undefined);
  return referenceTo(hash, content, name);
}

/** The same of a content whose hash is known, at once: it is stored with the session. */
export function takeInNow(hash: string, content: Blob, name: string): BlobReference {
  remember(hash, { type: content.type, content });
  void keep(hash).catch(() => undefined);
  return referenceTo(hash, content, name);
}

async function keep(hash: string): Promise<void> {
  const known = inPage.get(hash);
  if (!known || kept.has(hash)) return;
  if (!(await blobs.keys()).includes(hash)) {
    await blobs.set(hash, { ...known, at: new Date().toISOString() }, known.content.size);
  }
  kept.add(hash);
  remember(hash, known);
}

/** The database may be another one by now: what it was known to hold is looked for again. */
export function forgetKept(): void {
  kept.clear();
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
  const { type, content } = stored;
  const found = {
    type,
    content: content instanceof Blob ? content : new Blob([content], { type }),
  };
  remember(hash, found);
  return found;
}

/** Takes in contents that are known to be what their hash says; stored with the session that names them. */
export async function takeInHashed(
  contents: readonly { hash: string; file: Blob }[],
  { blobs: references }: Pick<Session, 'blobs'>,
): Promise<void> {
  const types = new Map(references.map(({ hash, type }) => [hash, type]));
  for (const { hash, file } of contents) {
    const type = types.get(hash) ?? TEXT;
    remember(hash, { type, content: file.slice(0, file.size, type) });
    await keep(hash).catch(() => undefined);
  }
}

function fromBase64(text: string, type: string): Blob | null {
  try {
    return new Blob([Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0))], { type });
  } catch {
    return null;
  }
}

async function toBase64(blob: Blob): Promise<string> {
  const content = new Uint8Array(await blob.arrayBuffer());
  const PART = 0x8000;
  const parts: string[] = [];
  for (let at = 0; at < content.length; at += PART) {
    parts.push(String.fromCharCode(...content.subarray(at, at + PART)));
  }
  return btoa(parts.join(''));
}

const DATA_URL = /^data:(image\/(?:png|jpeg));base64,/;

/** A session from a file: what the file holds itself is stored, and the session refers to it. */
export async function withReferences(session: Session): Promise<Session> {
  let references = session.blobs;
  if (references.some(({ data }) => data !== null)) {
    references = await Promise.all(
      references.map(async (reference) => {
        const { data, type } = reference;
        const content = data === null ? null : fromBase64(data, type);
        if (!content) return { ...reference, data: null };
        // The content says what it is, whatever the file calls it; its id stays.
        const { hash, bytes } = await takeInBlob(content);
        return { ...reference, hash, bytes, data: null };
      }),
    );
  }
  const { underlay } = session.venue;
  const [head, type] = DATA_URL.exec(underlay?.picture ?? '') ?? [];
  if (!underlay || head === undefined || type === undefined) {
    return references === session.blobs ? session : { ...session, blobs: references };
  }
  const content = fromBase64(underlay.picture.slice(head.length), type);
  if (!content)
    return { ...session, blobs: references, venue: { ...session.venue, underlay: null } };
  const reference = await takeInBlob(content);
  return {
    ...session,
    blobs: [...references.filter(({ id }) => id !== reference.id), reference],
    venue: { ...session.venue, underlay: { ...underlay, picture: reference.id } },
  };
}

/** Contents that a session refers to and that are not here. */
export async function missingOf({ blobs: references }: Session): Promise<BlobReference[]> {
  const stored = new Set(await blobs.keys().catch((): string[] => []));
  return references.filter(({ hash }) => !inPage.has(hash) && !stored.has(hash));
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
    if (content) room -= content.content.size;
    references.push({ ...reference, data: content ? await toBase64(content.content) : null });
  }
  return { ...session, blobs: references };
}

/**
 * What a session refers to, as the files of an archive: contents that a kept text names as well.
 * @returns the references as well whose content is not here
 */
export async function contentsOf(
  session: Session,
): Promise<{ files: PackedFile[]; missing: BlobReference[] }> {
  const open = hashesIn(session);
  const seen = new Set(open);
  const files: PackedFile[] = [];
  for (let hash = open.pop(); hash !== undefined; hash = open.pop()) {
    const stored = await blobContent(hash);
    if (!stored) continue;
    files.push({ path: pathOfHash(hash), content: stored.content });
    if (stored.type !== TEXT) continue;
    for (const named of hashesIn(await stored.content.text())) {
      if (seen.has(named)) continue;
      seen.add(named);
      open.push(named);
    }
  }
  return { files, missing: await missingOf(session) };
}

const TEXT = 'application/json';

/** A content that is a text may name others: what a kept one names is kept, and what that one names. */
async function follow(doubtful: Set<string>): Promise<void> {
  const open = (await blobs.keys()).filter((hash) => !doubtful.has(hash));
  for (let hash = open.pop(); hash !== undefined && doubtful.size > 0; hash = open.pop()) {
    const blob = await blobs.get(hash);
    if (blob?.type !== TEXT) continue;
    const { content } = blob;
    const text = content instanceof Blob ? await content.text() : new TextDecoder().decode(content);
    for (const named of hashesIn(text)) {
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
