import { inRange } from '../../units/guard';
import { utf8Bytes } from './bytes';
import type { Planes } from './decode';
import { frameBytes, type BroadcastInfo } from './format';
import { BROADCAST_BYTES } from './metadata';

/** What is written: integers of 16, 24 or 32 bits, or floats of 32. */
export interface WrittenFormat {
  kind: 'integer' | 'float';
  bits: 16 | 24 | 32;
  channels: number;
  sampleRateHz: number;
}

/** What a written file says of itself beside its samples. */
export interface WrittenMetadata {
  broadcast?: BroadcastInfo;
  /** by channel */
  channelNames?: readonly string[];
  /** a remark in iXML: that it is a simulation, of which session */
  note?: string;
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

function formatChunk({ kind, bits, channels, sampleRateHz }: WrittenFormat): Uint8Array {
  const extended = channels > 2 || bits > 16;
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

function checkFormat({ kind, bits, channels, sampleRateHz }: WrittenFormat): void {
  inRange('channels', channels, 1, 64);
  inRange('sampleRateHz', sampleRateHz, 1000, 1_000_000, 'Hz');
  if (kind === 'float' && bits !== 32) {
    throw new RangeError(`bits is ${bits}; allowed: 32 for floats`);
  }
}

/**
 * Everything that stands before the samples. RIFF up to 4 GiB, RF64 beyond; of more than two
 * channels or 16 bits as EXTENSIBLE.
 * @param frames that will follow, 0 and more
 * @throws RangeError where channels is outside 1 … 64, sampleRateHz is outside 1000 … 1000000 Hz
 */
export function wavHeader(
  format: WrittenFormat,
  frames: number,
  { broadcast, channelNames = [], note = '' }: WrittenMetadata = {},
): Uint8Array {
  checkFormat(format);
  inRange('frames', frames, 0, 2 ** 50);
  const dataBytes = frames * frameBytes(format);
  const before = [
    ...(broadcast ? [broadcastChunk(broadcast)] : []),
    ...(channelNames.length > 0 || note !== '' ? [ixmlChunk(channelNames, note)] : []),
    formatChunk(format),
  ];
  // Room for the long sizes is kept in every file, as a recorder does.
  const inner = 4 + 8 + DS64_BYTES + before.reduce((total, { length }) => total + length, 0) + 8;
  const whole = inner + dataBytes + (dataBytes % 2);
  const long = whole > MOST_RIFF;
  const bytes = new Uint8Array(8 + inner);
  const view = new DataView(bytes.buffer);
  ascii(bytes, 0, long ? 'RF64' : 'RIFF');
  view.setUint32(4, long ? MOST_RIFF : whole, true);
  ascii(bytes, 8, 'WAVE');
  ascii(bytes, 12, long ? 'ds64' : 'JUNK');
  view.setUint32(16, DS64_BYTES, true);
  if (long) {
    [whole, dataBytes, frames].forEach((value, i) => {
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
  view.setUint32(at + 4, long ? MOST_RIFF : dataBytes, true);
  return bytes;
}

/**
 * The pad behind samples of an odd number of bytes: one zero, or nothing.
 * @param frames that were written, 0 … 2^50
 */
export const wavEnd = (format: WrittenFormat, frames: number): Uint8Array =>
  new Uint8Array((frames * frameBytes(format)) % 2);

/**
 * Samples as they are written. Integers are rounded and clipped at full scale.
 * @param planes one a channel, full scale ±1
 * @param frames of them that are written, 0 … their length
 * @param dither a stream of numbers in [0, 1); triangular noise of two steps is added to integers
 */
export function encodeFrames(
  planes: Planes,
  frames: number,
  format: WrittenFormat,
  dither: (() => number) | null = null,
): Uint8Array {
  const { kind, bits } = format;
  const size = bits / 8;
  const channels = planes.length;
  const bytes = new Uint8Array(frames * channels * size);
  const view = new DataView(bytes.buffer);
  const full = 2 ** (bits - 1);
  for (let i = 0; i < frames; i++) {
    for (let c = 0; c < channels; c++) {
      const at = (i * channels + c) * size;
      const sample = planes[c]?.[i] ?? 0;
      if (kind === 'float') {
        view.setFloat32(at, sample, true);
        continue;
      }
      const noise = dither ? dither() + dither() - 1 : 0;
      const value = Math.max(-full, Math.min(full - 1, Math.round(sample * full + noise)));
      if (bits === 16) view.setInt16(at, value, true);
      else if (bits === 32) view.setInt32(at, value, true);
      else {
        bytes[at] = value & 0xff;
        bytes[at + 1] = (value >> 8) & 0xff;
        bytes[at + 2] = (value >> 16) & 0xff;
      }
    }
  }
  return bytes;
}
