import { frameBytes, type SampleFormat } from './format';

/** One block of samples, a Float32Array a channel, full scale ±1. */
export type Planes = Float32Array[];

/**
 * Room for a block; kept and filled again, so that a long file costs no more memory.
 * @param channels 1 … 64
 * @param frames of the block, 1 and more
 */
export const planesFor = (channels: number, frames: number): Planes =>
  Array.from({ length: channels }, () => new Float32Array(frames));

const SHIFT_31 = 2 ** -31;
const SHIFT_15 = 2 ** -15;
const SHIFT_7 = 2 ** -7;

/** Planes to be filled; those that nobody wants are left out. */
type Wanted = readonly (Float32Array | null)[];
type Decoder = (bytes: Uint8Array, planes: Wanted, frames: number) => void;

/** Is the engine's own order of bytes the file's? */
const LITTLE = new Uint8Array(new Uint16Array([1]).buffer)[0] === 1;

/** Two channels of 24 bits, two frames from every three words. */
function pairs24(words: Int32Array, left: Float32Array, right: Float32Array, frames: number): void {
  for (let i = 0, k = 0; i < frames; i += 2, k += 3) {
    const a = words[k] as number;
    const b = words[k + 1] as number;
    const c = words[k + 2] as number;
    left[i] = (a << 8) * SHIFT_31;
    right[i] = (((a >>> 16) & 0xff00) | (b << 16)) * SHIFT_31;
    left[i + 1] = (((b >>> 8) & 0xffff00) | (c << 24)) * SHIFT_31;
    right[i + 1] = (c & 0xffffff00) * SHIFT_31;
  }
}

function integers24(bytes: Uint8Array, planes: Wanted, frames: number): void {
  const channels = planes.length;
  const [left, right] = planes;
  // All but an odd last frame by words, where they lie on the engine's own borders.
  let even = 0;
  if (LITTLE && channels === 2 && bytes.byteOffset % 4 === 0 && left && right) {
    even = frames - (frames % 2);
    pairs24(new Int32Array(bytes.buffer, bytes.byteOffset, (even / 2) * 3), left, right, even);
  }
  const step = channels * 3;
  for (let c = 0; c < channels; c++) {
    const plane = planes[c];
    if (!plane) continue;
    let at = even * step + c * 3;
    for (let i = even; i < frames; i++) {
      const value =
        ((bytes[at] as number) << 8) |
        ((bytes[at + 1] as number) << 16) |
        ((bytes[at + 2] as number) << 24);
      plane[i] = value * SHIFT_31;
      at += step;
    }
  }
}

function integers16(bytes: Uint8Array, planes: Wanted, frames: number): void {
  const channels = planes.length;
  const step = channels * 2;
  for (let c = 0; c < channels; c++) {
    const plane = planes[c];
    if (!plane) continue;
    let at = c * 2;
    for (let i = 0; i < frames; i++) {
      const value = ((bytes[at] as number) << 16) | ((bytes[at + 1] as number) << 24);
      plane[i] = (value >> 16) * SHIFT_15;
      at += step;
    }
  }
}

function integers8(bytes: Uint8Array, planes: Wanted, frames: number): void {
  const channels = planes.length;
  planes.forEach((plane, c) => {
    if (!plane) return;
    for (let i = 0; i < frames; i++) {
      plane[i] = ((bytes[i * channels + c] as number) - 128) * SHIFT_7;
    }
  });
}

/** What is beyond this is no sound, of full scale: a number that was written wrongly. */
const MOST_SIZE = 1e9;

/** Floats of one plane that are no sound become silence; returns how many. */
function silenced(plane: Float32Array, frames: number): number {
  let faults = 0;
  for (let i = 0; i < frames; i++) {
    const value = plane[i] as number;
    if (value <= MOST_SIZE && value >= -MOST_SIZE) continue;
    plane[i] = 0;
    faults += 1;
  }
  return faults;
}

/** Words of 32 bits in the engine's own order, where they lie on its borders. */
const words32 =
  (kind: SampleFormat['kind']): Decoder =>
  (bytes, planes, frames) => {
    const count = frames * planes.length;
    const words =
      kind === 'float'
        ? new Float32Array(bytes.buffer, bytes.byteOffset, count)
        : new Int32Array(bytes.buffer, bytes.byteOffset, count);
    const gain = kind === 'float' ? 1 : SHIFT_31;
    const step = planes.length;
    planes.forEach((plane, c) => {
      if (!plane) return;
      for (let i = 0, at = c; i < frames; i++, at += step) plane[i] = (words[at] as number) * gain;
    });
  };

/** Every other kind, sample by sample. */
const byView =
  ({ kind, bits, bigEndian }: SampleFormat): Decoder =>
  (bytes, planes, frames) => {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const little = !bigEndian;
    const size = bits / 8;
    const read = (at: number): number => {
      if (kind === 'float')
        return bits === 32 ? view.getFloat32(at, little) : view.getFloat64(at, little);
      if (bits === 16) return view.getInt16(at, little) * SHIFT_15;
      if (bits === 32) return view.getInt32(at, little) * SHIFT_31;
      // 24 bits, the most significant byte first.
      return (
        (view.getInt8(at) * 65_536 + view.getUint8(at + 1) * 256 + view.getUint8(at + 2)) * 2 ** -23
      );
    };
    const channels = planes.length;
    planes.forEach((plane, c) => {
      if (!plane) return;
      for (let i = 0; i < frames; i++) plane[i] = read((i * channels + c) * size);
    });
  };

function decoderFor(format: SampleFormat, aligned: boolean): Decoder {
  const { kind, bits, bigEndian } = format;
  if (kind === 'integer' && bits === 8) return integers8;
  if (kind === 'integer' && !bigEndian && bits === 16) return integers16;
  if (kind === 'integer' && !bigEndian && bits === 24) return integers24;
  if (bits === 32 && LITTLE && !bigEndian && aligned) return words32(kind);
  return byView(format);
}

/**
 * Turns bytes into samples.
 * @param bytes whole frames from the beginning; what is left over is not read
 * @param planes one a channel, each at least as long as the frames
 * @param only channels that are wanted, from 0: the others keep what they held; all where it is left out
 * @returns how many frames were read, and how many floats among them were no sound (none, infinite, or
 * beyond 1e9 of full scale): they are silence
 */
export function decodeFrames(
  bytes: Uint8Array,
  format: SampleFormat,
  planes: Planes,
  only?: readonly number[],
): { frames: number; faults: number } {
  const wanted = only ? planes.map((plane, c) => (only.includes(c) ? plane : null)) : planes;
  const frames = Math.min(Math.floor(bytes.length / frameBytes(format)), planes[0]?.length ?? 0);
  decoderFor(format, bytes.byteOffset % 4 === 0)(bytes, wanted, frames);
  const faults =
    format.kind === 'float'
      ? wanted.reduce((sum, plane) => sum + (plane ? silenced(plane, frames) : 0), 0)
      : 0;
  return { frames, faults };
}
