import { inRange } from '../../units/guard';
import { utf8Bytes } from './bytes';
import type { Planes } from './decode';
import { frameBytes, type BroadcastInfo, type CuePoint } from './format';
import { BROADCAST_BYTES } from './metadata';

/** What is written: integers of 16, 24 or 32 bits, or floats of 32 or 64. */
export interface WrittenFormat {
  kind: 'integer' | 'float';
  bits: 16 | 24 | 32 | 64;
  channels: number;
  sampleRateHz: number;
  /** for which loudspeakers the channels are, bit by bit; 0 or absent: for none in particular */
  channelMask?: number;
}

/** What a written file says of itself beside its samples. */
export interface WrittenMetadata {
  broadcast?: BroadcastInfo;
  /** by channel */
  channelNames?: readonly string[];
  /** a remark in iXML: that it is a simulation, of which session */
  note?: string;
  /** marked places with their names */
  cues?: readonly CuePoint[];
  /** LIST INFO: INAM, ICRD, … four characters each */
  info?: Readonly<Record<string, string>>;
}

const MOST_RIFF = 0xffffffff;
const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
/** The rest of a sub-format's identifier, after its two bytes. */
const SUBFORMAT = [0, 0, 0, 0, 0x10, 0, 0x80, 0, 0, 0xaa, 0, 0x38, 0x9b, 0x71];
const DS64_BYTES = 28;

function ascii(bytes: Uint8Array, at: number, text: string, length = text.length): void {
  bytes.set(utf8Bytes(text).subarray(0, length), at);
}

function chunk(id: string, content: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(8 + content.length + (content.length % 2));
  ascii(bytes, 0, id);
  new DataView(bytes.buffer).setUint32(4, content.length, true);
  bytes.set(content, 8);
  return bytes;
}

function formatChunk({
  kind,
  bits,
  channels,
  sampleRateHz,
  channelMask = 0,
}: WrittenFormat): Uint8Array {
  const extended = channels > 2 || bits > 16 || channelMask !== 0;
  const content = new Uint8Array(extended ? 40 : 16);
  const view = new DataView(content.buffer);
  const tag = kind === 'integer' ? PCM : FLOAT;
  const frame = frameBytes({ bits, channels });
  view.setUint16(0, extended ? EXTENSIBLE : tag, true);
  view.setUint16(2, channels, true);
  view.setUint32(4, sampleRateHz, true);
  view.setUint32(8, sampleRateHz * frame, true);
  view.setUint16(12, frame, true);
  view.setUint16(14, bits, true);
  if (extended) {
    view.setUint16(16, 22, true);
    view.setUint16(18, bits, true);
    view.setUint32(20, channelMask, true);
    view.setUint16(24, tag, true);
    content.set(SUBFORMAT, 26);
  }
  return chunk('fmt ', content);
}

function broadcastChunk(info: BroadcastInfo): Uint8Array {
  const history = utf8Bytes(info.codingHistory);
  const content = new Uint8Array(BROADCAST_BYTES + history.length);
  ascii(content, 0, info.description, 256);
  ascii(content, 256, info.originator, 32);
  ascii(content, 288, info.originatorReference, 32);
  ascii(content, 320, info.date, 10);
  ascii(content, 330, info.time, 8);
  const view = new DataView(content.buffer);
  view.setUint32(338, info.timeReference >>> 0, true);
  view.setUint32(342, Math.floor(info.timeReference / 2 ** 32), true);
  view.setUint16(346, 1, true);
  content.set(history, BROADCAST_BYTES);
  return chunk('bext', content);
}

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

function ixmlChunk(names: readonly string[], note: string): Uint8Array {
  const tracks = names.map(
    (name, i) =>
      `<TRACK><CHANNEL_INDEX>${i + 1}</CHANNEL_INDEX><INTERLEAVE_INDEX>${i + 1}</INTERLEAVE_INDEX><NAME>${escaped(name)}</NAME></TRACK>`,
  );
  return chunk(
    'iXML',
    utf8Bytes(
      `<?xml version="1.0" encoding="UTF-8"?>\n<BWFXML><IXML_VERSION>2.0</IXML_VERSION><NOTE>${escaped(note)}</NOTE><TRACK_LIST><TRACK_COUNT>${names.length}</TRACK_COUNT>${tracks.join('')}</TRACK_LIST></BWFXML>`,
    ),
  );
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

const zeroEnded = (text: string): Uint8Array => joined([utf8Bytes(text), new Uint8Array(1)]);

/** Marked places, and their names in a list of their own. */
function cueChunks(cues: readonly CuePoint[]): Uint8Array[] {
  if (cues.length === 0) return [];
  const points = new Uint8Array(4 + 24 * cues.length);
  const view = new DataView(points.buffer);
  view.setUint32(0, cues.length, true);
  cues.forEach(({ id, position }, i) => {
    const at = 4 + 24 * i;
    view.setUint32(at, id, true);
    view.setUint32(at + 4, position, true);
    ascii(points, at + 8, 'data');
    view.setUint32(at + 20, position, true);
  });
  const labels = cues
    .filter(({ label }) => label !== '')
    .map(({ id, label }) => {
      const number = new Uint8Array(4);
      new DataView(number.buffer).setUint32(0, id, true);
      return chunk('labl', joined([number, zeroEnded(label)]));
    });
  const list = labels.length > 0 ? [chunk('LIST', joined([utf8Bytes('adtl'), ...labels]))] : [];
  return [chunk('cue ', points), ...list];
}

function infoChunks(info: Readonly<Record<string, string>>): Uint8Array[] {
  const texts = Object.entries(info);
  for (const [id] of texts) {
    if (!/^[ -~]{4}$/.test(id)) {
      throw new RangeError(`info holds ${JSON.stringify(id)}; allowed: names of four characters`);
    }
  }
  const parts = texts.map(([id, text]) => chunk(id, zeroEnded(text)));
  return parts.length > 0 ? [chunk('LIST', joined([utf8Bytes('INFO'), ...parts]))] : [];
}

function checkFormat({ kind, bits, channels, sampleRateHz }: WrittenFormat): void {
  inRange('channels', channels, 1, 64);
  inRange('sampleRateHz', sampleRateHz, 1000, 1_000_000, 'Hz');
  const allowed = kind === 'float' ? [32, 64] : [16, 24, 32];
  if (!allowed.includes(bits)) {
    const kinds = kind === 'float' ? 'floats' : 'integers';
    throw new RangeError(`bits is ${bits}; allowed: ${allowed.join(', ')} for ${kinds}`);
  }
}

/**
 * Everything that stands before the samples. RIFF up to 4 GiB, RF64 beyond; of more than two
 * channels or 16 bits as EXTENSIBLE.
 * @param frames that will follow, 0 and more; null where that is not known yet: readers take all up to the end
 * @throws RangeError where channels is outside 1 … 64, sampleRateHz is outside 1000 … 1000000 Hz, bits are none
 * of the format's, a name in info has not four characters
 */
export function wavHeader(
  format: WrittenFormat,
  frames: number | null,
  { broadcast, channelNames = [], note = '', cues = [], info = {} }: WrittenMetadata = {},
): Uint8Array {
  checkFormat(format);
  if (frames !== null) inRange('frames', frames, 0, 2 ** 50);
  const dataBytes = (frames ?? 0) * frameBytes(format);
  const before = [
    ...(broadcast ? [broadcastChunk(broadcast)] : []),
    ...(channelNames.length > 0 || note !== '' ? [ixmlChunk(channelNames, note)] : []),
    ...cueChunks(cues),
    ...infoChunks(info),
    formatChunk(format),
  ];
  // Room for the long sizes is kept in every file, as a recorder does.
  const inner = 4 + 8 + DS64_BYTES + before.reduce((total, { length }) => total + length, 0) + 8;
  const whole = inner + dataBytes + (dataBytes % 2);
  const long = whole > MOST_RIFF;
  const bytes = new Uint8Array(8 + inner);
  const view = new DataView(bytes.buffer);
  ascii(bytes, 0, long ? 'RF64' : 'RIFF');
  view.setUint32(4, long || frames === null ? MOST_RIFF : whole, true);
  ascii(bytes, 8, 'WAVE');
  ascii(bytes, 12, long ? 'ds64' : 'JUNK');
  view.setUint32(16, DS64_BYTES, true);
  if (long) {
    [whole, dataBytes, frames ?? 0].forEach((value, i) => {
      view.setUint32(20 + i * 8, value >>> 0, true);
      view.setUint32(24 + i * 8, Math.floor(value / 2 ** 32), true);
    });
  }
  let at = 20 + DS64_BYTES;
  for (const part of before) {
    bytes.set(part, at);
    at += part.length;
  }
  ascii(bytes, at, 'data');
  view.setUint32(at + 4, long || frames === null ? MOST_RIFF : dataBytes, true);
  return bytes;
}

/**
 * The pad behind samples of an odd number of bytes: one zero, or nothing.
 * @param frames that were written, 0 … 2^50
 */
export const wavEnd = (format: WrittenFormat, frames: number): Uint8Array =>
  new Uint8Array((frames * frameBytes(format)) % 2);

/** Triangular noise of two steps, the same for the same seed, in whatever blocks it is added. */
export class Dither {
  /** of each channel, a xorshift of 32 bits: never 0 */
  readonly states: number[] = [];

  /** @param seed any whole number, 0 … 2^32 */
  constructor(private readonly seed: number) {}

  stateOf(channel: number): number {
    const seed = this.seed + 7919 * channel;
    return this.states[channel] ?? Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) | 1;
  }
}

/** From the difference of two halves of 32 bits to −1 … 1 steps. */
const HALF = 2 ** -16;

/** One channel as whole numbers; returns where its dither goes on. */
function quantised(
  plane: Float32Array,
  out: Int32Array,
  full: number,
  state: number | null,
): number {
  const frames = out.length;
  const [least, most] = [-full, full - 1];
  const dithered = state !== null;
  let next = state ?? 0;
  for (let i = 0; i < frames; i++) {
    let value = (plane[i] as number) * full;
    if (dithered) {
      next ^= next << 13;
      next ^= next >>> 17;
      next ^= next << 5;
      value += ((next & 0xffff) - (next >>> 16)) * HALF;
    }
    // A number that is none, and none at all, is silence.
    value = value >= most ? most : value <= least ? least : Math.floor(value + 0.5);
    out[i] = value;
  }
  return next;
}

/**
 * Samples as they are written. Integers are rounded and clipped at full scale.
 * @param planes one a channel, full scale ±1
 * @param frames of them that are written, 0 … their length
 * @param dither triangular noise of two steps that is added to integers
 */
export function encodeFrames(
  planes: Planes,
  frames: number,
  format: WrittenFormat,
  dither: Dither | null = null,
): Uint8Array {
  const { kind, bits } = format;
  const size = bits / 8;
  const channels = planes.length;
  const step = channels * size;
  const bytes = new Uint8Array(frames * step);
  const view = new DataView(bytes.buffer);
  const whole = new Int32Array(frames);
  planes.forEach((plane, c) => {
    const first = c * size;
    const end = frames * step;
    if (kind === 'float') {
      for (let i = 0, at = first; at < end; i++, at += step) {
        if (bits === 64) view.setFloat64(at, plane[i] ?? 0, true);
        else view.setFloat32(at, plane[i] ?? 0, true);
      }
      return;
    }
    const state = quantised(plane, whole, 2 ** (bits - 1), dither?.stateOf(c) ?? null);
    if (dither) dither.states[c] = state;
    if (bits === 16) {
      for (let i = 0, at = first; at < end; i++, at += step) {
        view.setInt16(at, whole[i] as number, true);
      }
    } else if (bits === 32) {
      for (let i = 0, at = first; at < end; i++, at += step) {
        view.setInt32(at, whole[i] as number, true);
      }
    } else {
      for (let i = 0, at = first; at < end; i++, at += step) {
        const value = whole[i] as number;
        bytes[at] = value;
        bytes[at + 1] = value >> 8;
        bytes[at + 2] = value >> 16;
      }
    }
  });
  return bytes;
}
