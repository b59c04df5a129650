import { cacheNamed } from './caches';

/** Curves of recordings, packed, by the fingerprints of their files: a recording that is opened again is drawn at once. */
const overviews = cacheNamed<{ packed: Blob }>('overviews', 200 * 2 ** 20);

export const keptOverview = async (key: string): Promise<Blob | null> =>
  (await overviews.get(key))?.packed ?? null;

export const keepOverview = (key: string, packed: Blob): Promise<void> =>
  overviews.keep(key, { packed }, packed.size);
