import { done, refused, type Outcome } from '../../units/outcome';
import { fourCharacters, utf8, type ByteSource } from '../wav/bytes';
import { readBroadcast, trackNames } from '../wav/metadata';
import type { SoundInfo } from '../sound';
import { readSeekPoints, type FlacStream } from './seek';

const STREAMINFO = 0;
const APPLICATION = 2;
const SEEKTABLE = 3;
const COMMENT = 4;
const MOST_BLOCKS = 200;
const MOST_META = 2 ** 20;

const view = (bytes: Uint8Array): DataView =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** A FLAC file with what stands before its frames. */
export interface FlacHeader {
  info: SoundInfo;
  /** was the length written down? */
  counted: boolean;
  stream: FlacStream;
  /** MD5 of its samples, in hexadecimal digits; null where it was not written */
  md5: string | null;
}

/** "TITLE=…" lines of a comment block, names in capitals. */
function readComments(bytes: Uint8Array): Record<string, string> {
  const comments: Record<string, string> = {};
  if (bytes.length < 8) return comments;
  const words = view(bytes);
  let at = 4 + words.getUint32(0, true);
  if (at + 4 > bytes.length) return comments;
  const count = words.getUint32(at, true);
  at += 4;
  for (let i = 0; i < count && at + 4 <= bytes.length; i++) {
    const length = words.getUint32(at, true);
    const text = utf8(bytes.subarray(at + 4, at + 4 + length));
    at += 4 + length;
    const equals = text?.indexOf('=') ?? -1;
    if (text && equals > 0) comments[text.slice(0, equals).toUpperCase()] = text.slice(equals + 1);
  }
  return comments;
}

/** Loudspeakers of 3 to 8 channels, as masks (RFC 9639, 9.1.3); one and two say nothing of surround. */
const USUAL_MASKS = [0, 0, 0, 0x7, 0x33, 0x37, 0x3f, 0x70f, 0x63f];
const MASK_TAG = 'WAVEFORMATEXTENSIBLE_CHANNEL_MASK';

/** The mask that a tag gives, 0 for none in particular; else the one that the format means by its count. */
function maskOf(tags: Readonly<Record<string, string>>, channels: number): number | null {
  const given = /^\s*0x([0-9a-f]{1,8})\s*$/i.exec(tags[MASK_TAG] ?? '')?.[1];
  return (given === undefined ? USUAL_MASKS[channels] : parseInt(given, 16)) || null;
}

/**
 * Reads what a FLAC file says of itself (RFC 9639): its format, comments, and a broadcast or iXML chunk
 * where it was made from a WAV file that had them.
 * @returns why it cannot be read, where it cannot
 */
export async function readFlacHeader(source: ByteSource): Promise<Outcome<FlacHeader>> {
  const warnings: string[] = [];
  let stream: Uint8Array | null = null;
  let table: Uint8Array | null = null;
  let info: Record<string, string> = {};
  let broadcast: SoundInfo['broadcast'] = null;
  let ixml: string | null = null;
  let at = 4;
  for (let i = 0; ; i++) {
    const head = await source.read(at, 4);
    if (head.length < 4 || i === MOST_BLOCKS) {
      warnings.push('what stands before the samples has no end');
      break;
    }
    const [kind = 0, a = 0, b = 0, c = 0] = head;
    const length = (a << 16) | (b << 8) | c;
    const content = async (): Promise<Uint8Array> =>
      source.read(at + 4, Math.min(length, MOST_META));
    if ((kind & 127) === STREAMINFO) stream ??= await content();
    if ((kind & 127) === SEEKTABLE) table ??= await content();
    if ((kind & 127) === COMMENT) info = { ...info, ...readComments(await content()) };
    if ((kind & 127) === APPLICATION) {
      // Chunks of the WAV file that it was made from: "riff", then the chunk as it was.
      const bytes = await content();
      if (bytes.length > 12 && fourCharacters(bytes) === 'riff') {
        if (fourCharacters(bytes, 4) === 'bext')
          broadcast = readBroadcast(bytes.subarray(12), true);
        if (fourCharacters(bytes, 4) === 'iXML') ixml = utf8(bytes.subarray(12));
      }
    }
    at += 4 + length;
    if (kind >= 128) break;
  }
  if (!stream || stream.length < 18) {
    return refused(
      'this FLAC file does not say its format (STREAMINFO is missing); allowed: one that does',
    );
  }
  const words = view(stream);
  const packed = words.getUint32(10);
  const sampleRateHz = packed >>> 12;
  const channels = ((packed >>> 9) & 7) + 1;
  const bits = ((packed >>> 4) & 31) + 1;
  const frames = (packed & 15) * 2 ** 32 + words.getUint32(14);
  if (!(sampleRateHz >= 1000 && sampleRateHz <= 655_350)) {
    return refused(`the sample rate is ${sampleRateHz} Hz; allowed: 1000 to 655350 Hz`);
  }
  if (![8, 16, 24].includes(bits)) {
    return refused(
      `a sample of this FLAC file has ${bits} bits; allowed: 8, 16 or 24. Save it as WAV to have it read`,
    );
  }
  const md5 = Array.from(stream.subarray(18, 34), (byte) => byte.toString(16).padStart(2, '0'));
  return done({
    counted: frames > 0,
    md5: md5.length === 16 && md5.some((byte) => byte !== '00') ? md5.join('') : null,
    stream: {
      streamInfo: stream,
      framesAt: at,
      seekPoints: table ? readSeekPoints(table, at) : [],
      blockSize: words.getUint16(2),
      channels,
      bits,
    },
    info: {
      container: 'FLAC',
      format: {
        kind: 'integer',
        bits: Math.ceil(bits / 8) * 8,
        channels,
        sampleRateHz,
        bigEndian: false,
      },
      validBits: bits,
      frames,
      broadcast,
      ixml,
      channelMask: maskOf(info, channels),
      channelNames: trackNames(ixml ?? '', channels),
      cues: [],
      info,
      warnings,
    },
  });
}
