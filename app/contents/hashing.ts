import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** A content is hashed in pieces of so many bytes: never all of it in memory. */
const PIECE = 2 ** 22;

/** A hash that grows. */
export const hashing = (): { add(bytes: Uint8Array): void; hex(): string } => {
  const hash = sha256.create();
  return { add: (bytes) => void hash.update(bytes), hex: () => bytesToHex(hash.digest()) };
};

/**
 * The SHA-256 of a content as 64 hexadecimal digits.
 * @param step told 0 … 1 after each piece, and waited for; rejects where the work was given up
 */
export async function hashOfBlob(
  content: Blob,
  step: (fraction: number) => Promise<void> | void = () => undefined,
): Promise<string> {
  const hash = hashing();
  for (let at = 0; at < content.size; at += PIECE) {
    hash.add(new Uint8Array(await content.slice(at, at + PIECE).arrayBuffer()));
    await step(Math.min(1, (at + PIECE) / content.size));
  }
  return hash.hex();
}
