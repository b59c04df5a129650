import { makeRoomBy, tableNamed } from './database';

/** What can be made again: kept while there is room, and the first to go where there is none. */
interface Kept {
  bytes: number;
  usedAt: string;
}

export interface Cache<T> {
  get(key: string): Promise<T | null>;
  /** where there is no room it is made again next time */
  keep(key: string, value: T, bytes: number): Promise<void>;
}

const emptying: (() => Promise<number>)[] = [];
makeRoomBy(async () => {
  let gone = 0;
  for (const empty of emptying) gone += await empty();
  return gone > 0;
});

/**
 * A table of what can be made again, those unused for longest the first to go.
 * @param mostBytes of all of it together
 */
export function cacheNamed<T extends object>(name: string, mostBytes: number): Cache<T> {
  const table = tableNamed<T & Kept>(name);
  const now = (): string => new Date().toISOString();

  /** Lets go until they take up so many bytes. @returns how many went */
  async function shrink(most: number): Promise<number> {
    const all = await Promise.all(
      (await table.keys()).map(async (key) => ({
        key,
        value: await table.get(key).catch(() => null),
      })),
    );
    all.sort((a, b) => (b.value?.usedAt ?? '').localeCompare(a.value?.usedAt ?? ''));
    let [bytes, gone] = [0, 0];
    for (const { key, value } of all) {
      bytes += value?.bytes ?? 0;
      if (value && bytes <= most) continue;
      await table.remove(key);
      gone += 1;
    }
    return gone;
  }

  emptying.push(() => shrink(0));
  return {
    async get(key) {
      const kept = await table.get(key).catch(() => null);
      if (!kept) return null;
      await table.set(key, { ...kept, usedAt: now() }).catch(() => undefined);
      return kept;
    },
    async keep(key, value, bytes) {
      if (bytes > mostBytes) return;
      await shrink(mostBytes - bytes).catch(() => 0);
      await table.set(key, { ...value, bytes, usedAt: now() }).catch(() => undefined);
    },
  };
}
