import type { ByteSource } from '../wav/bytes';

/** A frame of a FLAC file: where it begins, and with which sample. */
export interface FramePlace {
  /** bytes from the beginning of the file */
  offset: number;
  sample: number;
}

/** What a FLAC file says of its frames. */
export interface FlacStream {
  /** STREAMINFO as it stands in the file */
  streamInfo: Uint8Array;
  /** where the frames begin, bytes */
  framesAt: number;
  /** from its table, in order; empty where it has none */
  seekPoints: FramePlace[];
  /** samples of a frame where all are alike */
  blockSize: number;
  channels: number;
  bits: number;
}

const NO_POINT = 0xffffffff;

/**
 * Places of a SEEKTABLE; those that were only kept free are left out.
 * @param framesAt where the frames begin, 4 … 2^50 bytes
 */
export function readSeekPoints(bytes: Uint8Array, framesAt: number): FramePlace[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const points: FramePlace[] = [];
  for (let at = 0; at + 18 <= bytes.length; at += 18) {
    const high = view.getUint32(at);
    if (high === NO_POINT) continue;
    const sample = high * 2 ** 32 + view.getUint32(at + 4);
    const offset = view.getUint32(at + 8) * 2 ** 32 + view.getUint32(at + 12) + framesAt;
    points.push({ sample, offset });
  }
  return points.sort((a, b) => a.sample - b.sample);
}

const CRC8 = ((): Uint8Array => {
  const table = new Uint8Array(256);
  for (let i = 0; i < 256; i++) {
    let sum = i;
    for (let bit = 0; bit < 8; bit++) sum = (sum & 0x80 ? (sum << 1) ^ 0x07 : sum << 1) & 0xff;
    table[i] = sum;
  }
  return table;
})();

/** Bytes of a sample's depth in a frame's header. */
const DEPTHS = [0, 8, 12, 0, 16, 20, 24, 32];

/** The header of a frame, where one begins; null where none does. */
function frameAt(bytes: Uint8Array, at: number, stream: FlacStream): number | null {
  if (bytes[at] !== 0xff || ((bytes[at + 1] ?? 0) & 0xfe) !== 0xf8) return null;
  const [sizes = 0, kinds = 0] = [bytes[at + 2], bytes[at + 3]];
  const [block, rate] = [sizes >> 4, sizes & 15];
  const [assigned, depth] = [kinds >> 4, (kinds >> 1) & 7];
  if (block === 0 || rate === 15 || assigned > 10 || depth === 3 || (kinds & 1) === 1) return null;
  if ((assigned < 8 ? assigned + 1 : 2) !== stream.channels) return null;
  if (depth !== 0 && DEPTHS[depth] !== stream.bits) return null;
  // The number as UTF-8 has it, up to 36 bits.
  let to = at + 4;
  const first = bytes[to] ?? 0;
  let more = 0;
  while (more < 7 && (first & (0x80 >> more)) !== 0) more += 1;
  if (more === 1 || more > 7) return null;
  let number = more === 0 ? first : first & (0x7f >> more);
  to += 1;
  for (let i = 1; i < more; i++, to++) {
    const next = bytes[to] ?? 0;
    if ((next & 0xc0) !== 0x80) return null;
    number = number * 64 + (next & 0x3f);
  }
  to += block === 6 ? 1 : block === 7 ? 2 : 0;
  to += rate === 12 ? 1 : rate === 13 || rate === 14 ? 2 : 0;
  if (to >= bytes.length) return null;
  let sum = 0;
  for (let i = at; i < to; i++) sum = CRC8[sum ^ (bytes[i] as number)] as number;
  if (sum !== bytes[to]) return null;
  return (bytes[at + 1] as number) & 1 ? number : number * stream.blockSize;
}

/** The longest frame that is looked for, bytes. */
const WINDOW = 262_144;

/** The first frame behind a place: one that another follows, so that no sound is taken for it. */
async function frameBehind(
  source: ByteSource,
  offset: number,
  stream: FlacStream,
): Promise<FramePlace | null> {
  const bytes = await source.read(offset, WINDOW);
  let last: FramePlace | null = null;
  for (let at = bytes.indexOf(0xff); at >= 0; at = bytes.indexOf(0xff, at + 1)) {
    const sample = frameAt(bytes, at, stream);
    if (sample === null) continue;
    if (last && sample > last.sample && sample - last.sample <= 65_535) return last;
    last = { offset: offset + at, sample };
  }
  return null;
}

/** Nearer than this it is read on rather than looked for, bytes. */
const NEAR = 2 ** 20;

/**
 * A frame at or before a sample, as near to it as is worth looking for: by the file's table, then by
 * halving what lies between.
 * @returns the first frame where nothing else can be found
 */
export async function placeBefore(
  source: ByteSource,
  stream: FlacStream,
  sample: number,
): Promise<FramePlace> {
  let low: FramePlace = { offset: stream.framesAt, sample: 0 };
  let high = source.size;
  for (const point of stream.seekPoints) {
    if (point.sample <= sample && point.offset < source.size) low = point;
    else {
      high = Math.min(high, point.offset);
      break;
    }
  }
  while (high - low.offset > NEAR) {
    const middle = Math.floor((low.offset + high) / 2);
    const found = await frameBehind(source, middle, stream);
    if (found && found.sample <= sample && found.sample > low.sample) low = found;
    else high = middle;
  }
  return low;
}
