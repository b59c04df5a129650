/** Something that can be read in slices: a File of the page, a file of the machine, memory. */
export interface ByteSource {
  /** bytes in all */
  readonly size: number;
  /** @returns the bytes asked for, fewer at the end of what there is */
  read(offset: number, length: number): Promise<Uint8Array>;
}

/** Bytes that are in memory already. */
export const memorySource = (bytes: Uint8Array): ByteSource => ({
  size: bytes.length,
  read: (offset, length) =>
    Promise.resolve(bytes.subarray(Math.min(offset, bytes.length), offset + length)),
});

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
