import { Unzip, UnzipInflate, UnzipPassThrough } from 'fflate';

/** An archive that was cut off has no table of its files any more: they are found one after the other. */

/** So much of the archive is looked at at a time, bytes. */
const PIECE = 2 ** 22;

/**
 * The files of an archive as far as they are there; the last one may be a part. A file that cannot be
 * unpacked ends the search.
 * @param wanted by name
 * @param most bytes that they may be, all together
 * @param step told 0 … 1
 */
export async function salvagedFiles(
  archive: Blob,
  wanted: (name: string) => boolean,
  most: number,
  step: (fraction: number) => Promise<void> | void,
): Promise<Map<string, Blob>> {
  const found = new Map<string, Blob[]>();
  let [bytes, over] = [0, false];
  const unzip = new Unzip((file) => {
    if (over || !wanted(file.name) || found.has(file.name)) return;
    const parts: Blob[] = [];
    file.ondata = (error, chunk) => {
      if (error || over) {
        over = true;
        return;
      }
      bytes += chunk.length;
      if (bytes > most) over = true;
      else parts.push(new Blob([chunk.slice()]));
    };
    found.set(file.name, parts);
    file.start();
  });
  unzip.register(UnzipInflate);
  unzip.register(UnzipPassThrough);
  try {
    for (let at = 0; at < archive.size && !over; at += PIECE) {
      const piece = new Uint8Array(await archive.slice(at, at + PIECE).arrayBuffer());
      unzip.push(piece, at + PIECE >= archive.size);
      await step(at / archive.size);
    }
  } catch {
    // As far as it could be read.
  }
  return new Map([...found].map(([name, parts]) => [name, new Blob(parts)]));
}
