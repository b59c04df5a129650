import type { RenderOptions } from '../../core/audio/render/options';
import type { NamedTurn } from '../../core/audio/render/take-kinds';
import type { Session } from '../../core/session';
import { cacheNamed } from './caches';

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

/** All of them together, bytes. */
const MOST_BYTES = 400 * 2 ** 20;
const takes = cacheNamed<KeptTake>('simulations', MOST_BYTES);
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
    const kept = await takes.get(`${key} ${path}`);
    if (kept) return kept;
  }
  return null;
}

/** Keeps a take as long as there is room; where there is none, it is made again next time. */
export async function keepTake(key: string, { file, path, notes }: KeptTake): Promise<void> {
  await takes.keep(`${key} ${path}`, { file, path, notes }, file.size);
}
