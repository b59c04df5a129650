/** Something that can be read in slices: a File of the page, a file of the machine, memory. */
export interface ByteSource {
  /** bytes in all */
  readonly size: number;
  /**
   * @param into as long as asked for, or longer: where the bytes may be put, until it is given again
   * @returns the bytes asked for, fewer at the end of what there is
   */
  read(offset: number, length: number, into?: Uint8Array): Promise<Uint8Array>;
}

/** As much of a Blob or a File as is needed to read it in slices. */
export interface Sliceable {
  readonly size: number;
  slice(from: number, to: number): { arrayBuffer(): Promise<ArrayBuffer> };
}

/** A File of a page, or any Blob: read slice by slice, never whole. */
export const blobSource = (blob: Sliceable): ByteSource => ({
  size: blob.size,
  async read(offset, length) {
    const to = Math.min(blob.size, offset + length);
    return new Uint8Array(await blob.slice(Math.min(offset, to), to).arrayBuffer());
  },
});

/** Bytes of both ends, and of each slice between, that a fingerprint looks at. */
const [END_BYTES, SLICE_BYTES, SLICES] = [2 ** 20, 2 ** 16, 16];

/**
 * What tells one recording from another without reading all of it: SHA-256 over its size, its first and
 * last MiB and sixteen slices of 64 KiB spread between.
 * @returns 64 hexadecimal digits
 */
export async function fingerprintOf(source: ByteSource): Promise<string> {
  const [{ sha256 }, { bytesToHex }] = await Promise.all([
    import('@noble/hashes/sha2.js'),
    import('@noble/hashes/utils.js'),
  ]);
  const { size } = source;
  const hash = sha256.create();
  const length = new Uint8Array(8);
  new DataView(length.buffer).setFloat64(0, size, true);
  hash.update(length);
  hash.update(await source.read(0, Math.min(size, END_BYTES)));
  if (size > END_BYTES) {
    hash.update(await source.read(Math.max(END_BYTES, size - END_BYTES), END_BYTES));
  }
  const between = size - 2 * END_BYTES - SLICE_BYTES;
  for (let i = 0; i < SLICES && between > 0; i++) {
    const at = END_BYTES + Math.floor((between * (i + 0.5)) / SLICES);
    hash.update(await source.read(at, SLICE_BYTES));
  }
  return bytesToHex(hash.digest());
}

/** Small reads are served from one larger slice, bytes. */
const WINDOW = 65_536;

/** Reads near each other, as a walk over chunks makes them, cost one read of the source. */
export function windowed(source: ByteSource): ByteSource {
  let from = 0;
  let held: Uint8Array = new Uint8Array(0);
  return {
    size: source.size,
    async read(offset, length) {
      if (length > WINDOW) return source.read(offset, length);
      if (offset < from || offset + length > from + held.length) {
        held = await source.read(offset, WINDOW);
        from = offset;
      }
      return held.subarray(offset - from, offset - from + length);
    },
  };
}

/** Four characters as they stand in a file; what is no character is a point. */
export const fourCharacters = (bytes: Uint8Array, at = 0): string =>
  String.fromCharCode(
    ...Array.from(bytes.subarray(at, at + 4), (byte) => (byte >= 32 && byte < 127 ? byte : 46)),
  );

/** A text of fixed length, up to its first zero; single bytes where it is not UTF-8. */
export function fixedText(bytes: Uint8Array): string {
  const end = bytes.indexOf(0);
  const kept = end < 0 ? bytes : bytes.subarray(0, end);
  return (utf8(kept) ?? Array.from(kept, (byte) => String.fromCharCode(byte)).join('')).trim();
}

/** UTF-8 as text; null where it is none. */
export function utf8(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
}

/** Text as UTF-8. */
export const utf8Bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
