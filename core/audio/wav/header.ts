import { done, refused, type Outcome } from '../../units/outcome';
import { fourCharacters, windowed, type ByteSource } from './bytes';
import { frameBytes, type SampleFormat, type WavInfo } from './format';
import { readBroadcast, readCues, readIxml, readList, trackNames } from './metadata';

/** Files beyond these are refused. */
export const MOST_CHANNELS = 64;
const LEAST_RATE_HZ = 1000;
const MOST_RATE_HZ = 1_000_000;
/** Text around the samples is read up to so many bytes a chunk. */
const MOST_META = 2 ** 20;
/** A file of more chunks is damaged. */
const MOST_CHUNKS = 10_000;

const CONTAINERS = ['RIFF', 'RF64', 'BW64', 'RIFX'] as const;
const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
const UNKNOWN_SIZE = 0xffffffff;

/** A stretch of the file with a name. */
interface Chunk {
  id: string;
  /** of its content, bytes */
  offset: number;
  size: number;
}

interface Sizes64 {
  riff: number;
  data: number;
  table: Map<string, number>;
}

const viewOf = (bytes: Uint8Array): DataView =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

const CUT_OFF = 'the file ends';
const mebibytes = (bytes: number): string =>
  bytes < 2 ** 20 ? `${bytes} bytes` : `${(bytes / 2 ** 20).toFixed(1)} MiB`;

function readSizes(bytes: Uint8Array): Sizes64 | null {
  if (bytes.length < 24) return null;
  const view = viewOf(bytes);
  const long = (at: number) => view.getUint32(at, true) + view.getUint32(at + 4, true) * 2 ** 32;
  const table = new Map<string, number>();
  const count = bytes.length >= 28 ? view.getUint32(24, true) : 0;
  for (let i = 0; i < count && 28 + i * 12 + 12 <= bytes.length; i++) {
    table.set(fourCharacters(bytes, 28 + i * 12), long(32 + i * 12));
  }
  return { riff: long(0), data: long(8), table };
}

const SPOKEN = /^[ -~]{4}$/;
const KNOWN = new Set([
  'fmt ',
  'data',
  'bext',
  'iXML',
  'LIST',
  'cue ',
  'fact',
  'JUNK',
  'junk',
  'PAD ',
  'ds64',
  'axml',
  'chna',
  'umid',
  'id3 ',
  'smpl',
  'inst',
  'levl',
  'PEAK',
  'cart',
  '_PMX',
]);

/** Chunks that stand behind samples. */
const BEHIND = new Set([...KNOWN].filter((id) => !['data', 'fmt ', 'ds64', 'fact'].includes(id)));
const FIRST = new Set([...BEHIND].map((id) => id.charCodeAt(0)));
const WRAP = 2 ** 32;

/** Walks the chunks of a file, however their sizes and pads were written. */
async function chunksOf(
  source: ByteSource,
  littleEndian: boolean,
  warnings: string[],
): Promise<{ chunks: Chunk[]; sizes: Sizes64 | null }> {
  const chunks: Chunk[] = [];
  let sizes: Sizes64 | null = null;
  let at = 12;
  while (at + 8 <= source.size) {
    if (chunks.length >= MOST_CHUNKS) {
      warnings.push(`more than ${MOST_CHUNKS} chunks: what follows is left out`);
      break;
    }
    const head = await source.read(at, 8);
    if (head.length < 8) break;
    const id = fourCharacters(head);
    let size = viewOf(head).getUint32(4, littleEndian);
    const offset = at + 8;
    if (id === 'ds64') sizes = readSizes(await source.read(offset, Math.min(size, MOST_META)));
    else if (size === UNKNOWN_SIZE && sizes) {
      size = id === 'data' ? sizes.data : (sizes.table.get(id) ?? size);
    }
    const rest = source.size - offset;
    if (id === 'data')
      size = await soundBytes(
        source,
        { offset, said: size, long: sizes !== null, littleEndian },
        warnings,
      );
    if (size > rest) {
      warnings.push(
        id === 'data'
          ? `${CUT_OFF} ${mebibytes(size - rest)} before its samples do: what is there is read`
          : `the chunk “${id}” goes beyond the end of the file`,
      );
      size = rest;
    }
    chunks.push({ id, offset, size });
    const end = offset + size;
    at = end + (size % 2);
    if (size % 2 === 1 && (await startsChunk(source, end)) && !(await startsChunk(source, at))) {
      warnings.push(`the chunk “${id}” of odd length is not padded`);
      at = end;
    }
  }
  return { chunks, sizes };
}

/** What a file says of where its samples are. */
interface Said {
  offset: number;
  said: number;
  /** was it said with 64 bits? */
  long: boolean;
  littleEndian: boolean;
}

/** Bytes of the samples: as they are written, where that can be. */
async function soundBytes(
  source: ByteSource,
  { offset, said, long, littleEndian }: Said,
  warnings: string[],
): Promise<number> {
  const rest = source.size - offset;
  const unknown = said === UNKNOWN_SIZE && !long;
  if (unknown || (said === 0 && rest > 0 && !(await startsChunk(source, offset)))) {
    const behind = await chunksBehind(source, offset, littleEndian);
    const to = behind ? `up to the chunk “${behind.id}” behind them` : 'to the end of the file';
    warnings.push(
      unknown
        ? `the length of the samples was never written: they are read ${to}`
        : `the samples are said to be none: they are read ${to}`,
    );
    return (behind?.at ?? source.size) - offset;
  }
  // Sizes of 32 bits begin again at 4 GiB.
  if (long || rest - said < WRAP || (await startsChunk(source, offset + said + (said % 2)))) {
    return said;
  }
  for (let size = said + WRAP; size <= rest; size += WRAP) {
    if (!(await startsChunk(source, offset + size + (size % 2)))) continue;
    warnings.push(
      `the length of the samples was written ${(size - said) / WRAP} × 4 GiB too small, as 32 bits hold no more: all of them are read`,
    );
    return size;
  }
  return said;
}

/** Behind samples of unknown length: the chunks that end with the file, if there are any. */
async function chunksBehind(
  source: ByteSource,
  from: number,
  littleEndian: boolean,
): Promise<{ id: string; at: number } | null> {
  const first = Math.max(from, source.size - MOST_META);
  const bytes = await source.read(first, source.size - first);
  const view = viewOf(bytes);
  const ends = (at: number): boolean => {
    while (at + 8 <= bytes.length) {
      if (!BEHIND.has(fourCharacters(bytes, at))) return false;
      const size = view.getUint32(at + 4, littleEndian);
      at += 8 + size + (size % 2);
    }
    // The last pad may be missing.
    return at === bytes.length || at === bytes.length + 1;
  };
  for (let at = 0; at + 8 <= bytes.length; at++) {
    if (FIRST.has(bytes[at] as number) && BEHIND.has(fourCharacters(bytes, at)) && ends(at)) {
      return { id: fourCharacters(bytes, at), at: first + at };
    }
  }
  return null;
}

/** Does a chunk of a known name begin here, or the file end? */
async function startsChunk(source: ByteSource, at: number): Promise<boolean> {
  if (at >= source.size) return true;
  return KNOWN.has(fourCharacters(await source.read(at, 4)));
}

interface ReadFormat {
  format: SampleFormat;
  validBits: number;
  channelMask: number | null;
}

/** Codings that are met and not read. */
const CODINGS: Readonly<Record<number, string>> = {
  2: 'ADPCM, compressed',
  6: 'A-law, as telephones have it',
  7: 'µ-law, as telephones have it',
  0x11: 'ADPCM, compressed',
  0x50: 'MPEG, compressed',
  0x55: 'MP3, compressed',
};

function readFormat(
  bytes: Uint8Array,
  bigEndian: boolean,
  warnings: string[],
): Outcome<ReadFormat> {
  if (bytes.length < 16) return refused(`fmt holds ${bytes.length} bytes; allowed: 16 or more`);
  const view = viewOf(bytes);
  const [little, short] = [!bigEndian, (at: number) => view.getUint16(at, !bigEndian)];
  let tag = short(0);
  const channels = short(2);
  const sampleRateHz = view.getUint32(4, little);
  const [align, bits] = [short(12), short(14)];
  let validBits = bits;
  let channelMask: number | null = null;
  if (tag === EXTENSIBLE && bytes.length >= 26) {
    tag = short(24);
    if (short(18) > 0) validBits = Math.min(bits, short(18));
    channelMask = view.getUint32(20, little) || null;
  }
  if (tag !== PCM && tag !== FLOAT) {
    const coding = CODINGS[tag] ?? `0x${tag.toString(16)}`;
    return refused(`the samples are coded as ${coding}; allowed: PCM and float`);
  }
  if (!(channels >= 1 && channels <= MOST_CHANNELS)) {
    return refused(`channels is ${channels}; allowed: 1 to ${MOST_CHANNELS}`);
  }
  if (!(sampleRateHz >= LEAST_RATE_HZ && sampleRateHz <= MOST_RATE_HZ)) {
    return refused(
      `the sample rate is ${sampleRateHz} Hz; allowed: ${LEAST_RATE_HZ} to ${MOST_RATE_HZ} Hz`,
    );
  }
  // 20 bits lie in a container of 24.
  const container = Math.ceil(bits / 8) * 8;
  const allowed = tag === PCM ? [8, 16, 24, 32] : [32, 64];
  if (!allowed.includes(container)) {
    return refused(`a sample has ${bits} bits; allowed: ${allowed.join(', ')}`);
  }
  const format: SampleFormat = {
    kind: tag === PCM ? 'integer' : 'float',
    bits: container,
    channels,
    sampleRateHz,
    bigEndian,
  };
  if (align !== frameBytes(format)) {
    warnings.push(
      `a frame is said to have ${align} bytes: ${frameBytes(format)} are read, as its channels and bits have`,
    );
  }
  return done({ format, validBits, channelMask });
}

function otherKind(id: string): string {
  const known: Readonly<Record<string, string>> = {
    FORM: 'an AIFF file, which is not read: save it as WAV',
    fLaC: 'a FLAC file, which goes through its own door',
    OggS: 'an Ogg file, which is not read: save it as WAV or FLAC',
    riff: 'a Wave64 file, which is not read: save it as WAV, RF64 or FLAC',
  };
  if (id.startsWith('ID3')) {
    return 'it begins with an ID3 tag, as MP3 files do, which are not read: save it as WAV or FLAC without the tag';
  }
  return known[id] ?? `it begins with “${id}”`;
}

/**
 * Reads what a WAV file says of itself: RIFF, RF64, BW64 and RIFX, PCM of 8 to 32 bits, float of 32
 * and 64, up to 64 channels. Whatever is readable is read, with a warning that says what was wrong.
 * @returns why it cannot be read, where it cannot
 */
export async function readWavInfo(file: ByteSource): Promise<Outcome<WavInfo>> {
  const source = windowed(file);
  const warnings: string[] = [];
  const head = await source.read(0, 12);
  const container = CONTAINERS.find((name) => name === fourCharacters(head));
  if (head.length < 12 || !container) {
    const why = head.length < 12 ? `it has ${file.size} bytes` : otherKind(fourCharacters(head));
    return refused(`this is no WAV file: ${why}; allowed: ${CONTAINERS.join(', ')}`);
  }
  if (fourCharacters(head, 8) !== 'WAVE') {
    return refused(`the file holds “${fourCharacters(head, 8)}”; allowed: WAVE`);
  }
  const bigEndian = container === 'RIFX';
  const said = viewOf(head).getUint32(4, !bigEndian);
  const { chunks, sizes } = await chunksOf(source, !bigEndian, warnings);
  const whole = said === UNKNOWN_SIZE && sizes ? sizes.riff : said;
  const unwritten = said === UNKNOWN_SIZE && !sizes;
  // A file that was cut off is told of once.
  const cut = warnings.some((warning) => warning.startsWith(CUT_OFF));
  if (!cut && !unwritten && whole + 8 !== file.size && whole + 9 !== file.size) {
    warnings.push(`the file is said to have ${whole + 8} bytes, and has ${file.size}`);
  }
  if ((container === 'RF64' || container === 'BW64') && !sizes && said === UNKNOWN_SIZE) {
    warnings.push('the chunk of long sizes (ds64) is missing');
  }
  const find = (id: string) => chunks.find((chunk) => chunk.id === id);
  const contentOf = async (id: string): Promise<Uint8Array | null> => {
    const chunk = find(id);
    if (!chunk) return null;
    if (chunk.size > MOST_META) {
      warnings.push(`the chunk “${id}” has ${mebibytes(chunk.size)}: its beginning is read`);
    }
    return source.read(chunk.offset, Math.min(chunk.size, MOST_META));
  };
  const [fmt, data] = [find('fmt '), find('data')];
  if (!fmt) return refused(whatIsThere('fmt', chunks));
  if (!data) return refused(whatIsThere('data', chunks));
  if (fmt.offset > data.offset) warnings.push('the format stands behind the samples');
  const read = readFormat(
    await source.read(fmt.offset, Math.min(fmt.size, 64)),
    bigEndian,
    warnings,
  );
  if (!read.ok) return read;
  const { format, validBits, channelMask } = read.value;
  const bytes = frameBytes(format);
  const frames = Math.floor(data.size / bytes);
  if (!cut && data.size % bytes !== 0) {
    warnings.push(`the last frame is not whole: ${data.size % bytes} of ${bytes} bytes`);
  }
  const bext = await contentOf('bext');
  const broadcast = bext && readBroadcast(bext, !bigEndian);
  if (bext && !broadcast) warnings.push('the broadcast chunk is too short to be read');
  const xml = await contentOf('iXML');
  const ixml = xml && readIxml(xml);
  if (xml && ixml === null) warnings.push('the iXML chunk is not UTF-8 text');
  const cue = await contentOf('cue ');
  const cues = cue ? readCues(cue, !bigEndian) : [];
  const info: Record<string, string> = {};
  for (const chunk of chunks.filter(({ id }) => id === 'LIST').slice(0, 20)) {
    const list = readList(
      await source.read(chunk.offset, Math.min(chunk.size, MOST_META)),
      !bigEndian,
    );
    Object.assign(info, list.info);
    for (const point of cues) point.label = list.labels.get(point.id) ?? point.label;
  }
  return done({
    container,
    format,
    validBits,
    channelMask,
    dataOffset: data.offset,
    frames,
    broadcast,
    ixml,
    channelNames: trackNames(ixml ?? '', format.channels),
    cues: cues.filter(({ position }) => position <= frames),
    info,
    warnings,
  });
}

function whatIsThere(missing: string, chunks: readonly Chunk[]): string {
  const names = [...new Set(chunks.map(({ id }) => id))]
    .filter((id) => SPOKEN.test(id))
    .slice(0, 8);
  return `the chunk “${missing}” is missing; there are: ${names.join(', ') || 'none'}`;
}
