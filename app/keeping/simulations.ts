import type { RenderOptions } from '../../core/audio/render/options';
import type { NamedTurn } from '../../core/audio/render/take-kinds';
import type { Session } from '../../core/session';
import { makeRoomBy, tableNamed } from './database';

/**
 * Simulated takes that were made: a cache and nothing more. They are never part of a session or of an
 * export, are the first to go when the browser's storage is full, and are made again when wanted.
 */
export interface KeptTake {
  file: Blob;
  /** by which transforms it was made */
  path: 'fast' | 'plain';
  /** what is left out, and why */
  notes: string[];
  /** who is heard when, of a take in turns */
  turns?: NamedTurn[];
}

interface Stored extends KeptTake {
  bytes: number;
  usedAt: string;
}

const takes = tableNamed<Stored>('simulations');

/** All of them together, bytes. */
const MOST_BYTES = 400 * 2 ** 20;
/** Changes whenever the same plan sounds otherwise. */
const SOUND = 6;

/** Everything of a plan that can be heard or stands in the file, and how it is made. */
export async function takeKey(session: Session, options: Partial<RenderOptions>): Promise<string> {
  const { id, title, venue, sources, arrays } = session;
  const [{ sha256 }, { bytesToHex, utf8ToBytes }] = await Promise.all([
    import('@noble/hashes/sha2.js'),
    import('@noble/hashes/utils.js'),
  ]);
  const plan = JSON.stringify([SOUND, id, title, venue, sources, arrays, options]);
  return bytesToHex(sha256(utf8ToBytes(plan)));
}

/** By either path: the fast one first, which every later take of this browser is made by as well. */
const PATHS = ['fast', 'plain'] as const;

/** A take that is still kept; null where it is to be made again. */
export async function keptTake(key: string): Promise<KeptTake | null> {
  for (const path of PATHS) {
    const kept = await takes.get(`${key} ${path}`).catch(() => null);
    if (!kept) continue;
    await takes
      .set(`${key} ${path}`, { ...kept, usedAt: new Date().toISOString() })
      .catch(() => undefined);
    return kept;
  }
  return null;
}

/**
 * Lets takes go, those unused for longest first, until they take up so many bytes.
 * @returns how many went
 */
export async function evictTakes(mostBytes: number): Promise<number> {
  const all = await Promise.all(
    (await takes.keys()).map(async (key) => ({
      key,
      take: await takes.get(key).catch(() => null),
    })),
  );
  all.sort((a, b) => (b.take?.usedAt ?? '').localeCompare(a.take?.usedAt ?? ''));
  let [bytes, gone] = [0, 0];
  for (const { key, take } of all) {
    bytes += take?.bytes ?? 0;
    if (take && bytes <= mostBytes) continue;
    await takes.remove(key);
    gone += 1;
  }
  return gone;
}

makeRoomBy(async () => (await evictTakes(0)) > 0);

/** Keeps a take as long as there is room; where there is none, it is made again next time. */
export async function keepTake(key: string, take: KeptTake): Promise<void> {
  const bytes = take.file.size;
  if (bytes > MOST_BYTES) return;
  await evictTakes(MOST_BYTES - bytes).catch(() => 0);
  const { file, path, notes } = take;
  await takes
    .set(`${key} ${path}`, { file, path, notes, bytes, usedAt: new Date().toISOString() })
    .catch(() => undefined);
}
