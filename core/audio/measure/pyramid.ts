import type { Sound } from '../sound';
import { walked, type Work } from '../work';

/** Lowest and highest sample and mean square of stretches of one length, of one channel. */
export interface Cells {
  least: Float32Array;
  most: Float32Array;
  square: Float32Array;
}

/** A recording as curves at several scales: any stretch of it can be drawn at once. */
export interface Pyramid {
  frames: number;
  /** frames that are in it by now: of the rest nothing is known yet */
  known: number;
  /** from fine to coarse, each by the same factor; one entry a channel */
  levels: { framesEach: number; channels: Cells[] }[];
}

/** Frames of the finest cells of short recordings, and how many cells make one of the next level. */
const FINEST = 256;
const FACTOR = 4;
/** Of all channels together so many of the finest cells are held at most. */
const MOST_CELLS = 2 ** 20;
/** A level of fewer cells is not worth one. */
const FEWEST = 64;

/** Bytes of a packed pyramid before its cells. */
const HEAD_BYTES = 24;
const MAGIC = 0x31_72_79_70;

/** Frames of the finest cells: the more there is of a recording, the coarser, so that memory is bounded. */
function finestOf(channels: number, frames: number): number {
  let each = FINEST;
  while ((frames / each) * channels > MOST_CELLS) each *= FACTOR;
  return each;
}

function emptyPyramid(channels: number, frames: number): Pyramid {
  const levels: Pyramid['levels'] = [];
  for (let each = finestOf(channels, frames); ; each *= FACTOR) {
    const count = Math.ceil(frames / each);
    if (levels.length > 0 && count < FEWEST) break;
    const cells = (): Cells => ({
      least: new Float32Array(count),
      most: new Float32Array(count),
      square: new Float32Array(count),
    });
    levels.push({ framesEach: each, channels: Array.from({ length: channels }, cells) });
  }
  return { frames, known: 0, levels };
}

/** Lowest, highest and mean square of some cells of one level. */
function over(
  { least, most, square }: Cells,
  each: number,
  frames: number,
  from: number,
  to: number,
): { least: number; most: number; square: number } {
  let [low, high, sum, count] = [Infinity, -Infinity, 0, 0];
  for (let i = from; i < to; i++) {
    const length = Math.min(each, frames - i * each);
    low = Math.min(low, least[i] ?? 0);
    high = Math.max(high, most[i] ?? 0);
    sum += (square[i] ?? 0) * length;
    count += length;
  }
  return count > 0
    ? { least: low, most: high, square: sum / count }
    : { least: 0, most: 0, square: 0 };
}

/** Coarser cells from finer ones, between two frames; the last one may be shorter. */
function raise(pyramid: Pyramid, from: number, to: number): void {
  const { frames, levels } = pyramid;
  for (let l = 1; l < levels.length; l++) {
    const [fine, coarse] = [levels[l - 1], levels[l]];
    if (!fine || !coarse) return;
    const first = Math.floor(from / coarse.framesEach);
    const last =
      to >= frames ? Math.ceil(frames / coarse.framesEach) : Math.floor(to / coarse.framesEach);
    coarse.channels.forEach((cells, c) => {
      const below = fine.channels[c];
      if (!below) return;
      for (let i = first; i < last; i++) {
        const end = Math.min(below.least.length, (i + 1) * FACTOR);
        const found = over(below, fine.framesEach, frames, i * FACTOR, end);
        cells.least[i] = found.least;
        cells.most[i] = found.most;
        cells.square[i] = found.square;
      }
    });
  }
}

/** The finest cells of one channel, sample by sample. */
class Finest {
  private low = Infinity;
  private high = -Infinity;
  private sum = 0;
  private count = 0;
  private at = 0;

  constructor(
    private readonly cells: Cells,
    private readonly each: number,
  ) {}

  add(plane: Float32Array, frames: number): void {
    let { low, high, sum, count } = this;
    const { each } = this;
    for (let i = 0; i < frames; i++) {
      const value = plane[i] as number;
      if (value < low) low = value;
      if (value > high) high = value;
      sum += value * value;
      count += 1;
      if (count < each) continue;
      this.put(low, high, sum / count);
      [low, high, sum, count] = [Infinity, -Infinity, 0, 0];
    }
    [this.low, this.high, this.sum, this.count] = [low, high, sum, count];
  }

  private put(low: number, high: number, square: number): void {
    this.cells.least[this.at] = low;
    this.cells.most[this.at] = high;
    this.cells.square[this.at] = square;
    this.at += 1;
  }

  end(): void {
    if (this.count > 0) this.put(this.low, this.high, this.sum / this.count);
    this.count = 0;
  }
}

/** So often what is there by now is told, of the whole. */
const PARTIAL = 1 / 50;

/**
 * The pyramid of a recording, in one pass over its samples.
 * @param partial told now and then: the same pyramid, with more of it known
 * @throws Cancelled where it was given up
 */
export async function pyramidOf(
  sound: Sound,
  work: Partial<Work & { partial(pyramid: Pyramid): void }> = {},
): Promise<Pyramid> {
  const { frames, format } = sound.info;
  const pyramid = emptyPyramid(format.channels, frames);
  const [level] = pyramid.levels;
  const finest = (level?.channels ?? []).map(
    (cells) => new Finest(cells, level?.framesEach ?? FINEST),
  );
  let [raised, told] = [0, 0];
  let end = 0;
  for await (const { planes, position, frames: count } of walked(
    sound,
    { from: 0, to: frames },
    work,
  )) {
    finest.forEach((cells, c) => {
      const plane = planes[c];
      if (plane) cells.add(plane, count);
    });
    end = position + count;
    if (!work.partial || end - told < frames * PARTIAL) continue;
    told = end;
    raise(pyramid, raised, end);
    raised = end;
    pyramid.known = end;
    work.partial(pyramid);
  }
  for (const cells of finest) cells.end();
  raise(pyramid, raised, frames);
  pyramid.known = end;
  return pyramid;
}

/** A stretch of a recording in columns. */
export interface Columns {
  /** one a channel, one entry a column */
  channels: Cells[];
  /** columns of which all is known, from the first on */
  known: number;
}

/** What of a recording is drawn: frames, fractions are allowed, in 1 … 20000 columns. */
export interface Drawn {
  from: number;
  to: number;
  columns: number;
}

const emptyCells = (count: number): Cells => ({
  least: new Float32Array(count),
  most: new Float32Array(count),
  square: new Float32Array(count),
});

function put(cells: Cells, at: number, found: ReturnType<typeof over>): void {
  cells.least[at] = found.least;
  cells.most[at] = found.most;
  cells.square[at] = found.square;
}

/**
 * A stretch of a recording in columns, at once.
 * @param drawn frames, 0 … the recording's, and how many columns
 * @returns null where the pyramid is not fine enough for it
 */
export function columnsFrom(pyramid: Pyramid, { from, to, columns }: Drawn): Columns | null {
  const count = Math.max(1, Math.floor(columns));
  const width = Math.max(0, to - from) / count;
  const fit = pyramid.levels.filter(({ framesEach }) => framesEach <= width);
  const level = fit[fit.length - 1];
  if (!level) return null;
  const edge = (column: number): number => from + column * width;
  const { framesEach, channels } = level;
  const known = Array.from({ length: count }, (_, k) => edge(k + 1)).filter(
    (end) => end <= pyramid.known + 1e-6,
  ).length;
  const made = channels.map((cells) => {
    const columnsOfOne = emptyCells(count);
    for (let k = 0; k < known; k++) {
      const first = Math.floor(edge(k) / framesEach);
      const last = Math.min(cells.least.length, Math.ceil(edge(k + 1) / framesEach));
      put(columnsOfOne, k, over(cells, framesEach, pyramid.frames, first, last));
    }
    return columnsOfOne;
  });
  return { channels: made, known };
}

/** Of more samples than these a few of each column are looked at. */
const MOST_READ = 2 ** 23;
/** So many frames of each. */
const LOOKED_AT = 256;

/** A stretch that is too long to be read while one waits: a few samples of each column. */
async function columnsOfSome(sound: Sound, { from, to, columns }: Drawn): Promise<Columns> {
  const count = Math.max(1, Math.floor(columns));
  const width = (to - from) / count;
  const made = Array.from({ length: sound.info.format.channels }, () => emptyCells(count));
  for (let k = 0; k < count; k++) {
    const middle = Math.round(from + (k + 0.5) * width - LOOKED_AT / 2);
    const part = await columnsOfSamples(sound, {
      from: middle,
      to: middle + LOOKED_AT,
      columns: 1,
    });
    part.channels.forEach(({ least, most, square }, c) => {
      const cells = made[c];
      if (!cells) return;
      put(cells, k, { least: least[0] ?? 0, most: most[0] ?? 0, square: square[0] ?? 0 });
    });
  }
  return { channels: made, known: count };
}

/**
 * A stretch of a recording in columns, from its samples: all of them, of a long stretch a few of each column.
 * @param drawn frames, 0 … the recording's, and how many columns
 */
export async function columnsOfSamples(
  sound: Sound,
  { from, to, columns }: Drawn,
): Promise<Columns> {
  const count = Math.max(1, Math.floor(columns));
  const width = Math.max(0, to - from) / count;
  const edge = (column: number): number => from + column * width;
  const first = Math.max(0, Math.floor(from));
  const last = Math.min(sound.info.frames, Math.ceil(to));
  if ((last - first) * sound.info.format.channels > MOST_READ && width > LOOKED_AT) {
    return columnsOfSome(sound, { from, to, columns });
  }
  const planes = sound.info.format.channels;
  const held = Array.from({ length: planes }, () => new Float32Array(Math.max(0, last - first)));
  for await (const block of sound.blocks({ from: first, to: last })) {
    held.forEach((plane, c) => {
      const piece = block.planes[c]?.subarray(0, block.frames);
      if (piece) plane.set(piece, block.position - first);
    });
  }
  const made = held.map((plane) => {
    const cells = emptyCells(count);
    const samples: Cells = { least: plane, most: plane, square: plane.map((x) => x * x) };
    for (let k = 0; k < count; k++) {
      const begin = Math.max(0, Math.floor(edge(k)) - first);
      // A column between two samples shows the one before it.
      const end = Math.min(plane.length, Math.max(begin + 1, Math.ceil(edge(k + 1)) - first));
      put(cells, k, over(samples, 1, plane.length, begin, end));
    }
    return cells;
  });
  return { channels: made, known: count };
}

/**
 * A stretch of a recording in columns, from the pyramid where that is fine enough, else from its samples.
 * @param drawn frames, 0 … the recording's, and how many columns
 */
export async function columnsOf(sound: Sound, pyramid: Pyramid, drawn: Drawn): Promise<Columns> {
  return columnsFrom(pyramid, drawn) ?? (await columnsOfSamples(sound, drawn));
}

/** A pyramid as bytes, to be kept by the recording's fingerprint: its finest cells, in the machine's order of bytes. */
export function packedPyramid({ frames, levels }: Pyramid): Uint8Array<ArrayBuffer> {
  const { channels = [], framesEach = FINEST } = levels[0] ?? {};
  const count = channels[0]?.least.length ?? 0;
  const bytes = new Uint8Array(HEAD_BYTES + channels.length * 3 * count * 4);
  const view = new DataView(bytes.buffer);
  [MAGIC, channels.length, framesEach].forEach((value, i) => view.setUint32(4 * i, value, true));
  view.setFloat64(16, frames, true);
  const all = new Float32Array(bytes.buffer, HEAD_BYTES);
  channels
    .flatMap(({ least, most, square }) => [least, most, square])
    .forEach((list, i) => all.set(list, i * count));
  return bytes;
}

/** @returns null where the bytes are no whole pyramid of this kind */
export function unpackedPyramid(bytes: Uint8Array): Pyramid | null {
  if (bytes.length < HEAD_BYTES) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [magic, channels = 0, each] = [0, 4, 8].map((at) => view.getUint32(at, true));
  const frames = view.getFloat64(16, true);
  if (magic !== MAGIC || channels < 1 || channels > 64) return null;
  if (!Number.isSafeInteger(frames) || frames < 0 || each !== finestOf(channels, frames))
    return null;
  const count = Math.ceil(frames / each);
  if (bytes.length !== HEAD_BYTES + channels * 3 * count * 4) return null;
  const pyramid = emptyPyramid(channels, frames);
  // Copied: where they stood need not be a place for floats.
  const all = new Float32Array(bytes.slice(HEAD_BYTES).buffer);
  (pyramid.levels[0]?.channels ?? [])
    .flatMap(({ least, most, square }) => [least, most, square])
    .forEach((list, i) => list.set(all.subarray(i * count, (i + 1) * count)));
  raise(pyramid, 0, frames);
  pyramid.known = frames;
  return pyramid;
}
