import type { Sound } from '../sound';
import { stepDone, type Work } from '../work';
import type { Planes } from '../wav/decode';

/** A recording as a curve over time: what lies in each of its columns. */
export interface Overview {
  columns: number;
  /** frames of a column; the last one may be shorter */
  framesEach: number;
  /** one list a channel: lowest and highest sample, mean square, of full scale */
  channels: { least: Float32Array; most: Float32Array; square: Float32Array }[];
  /** from every sample, or only from some of each column? */
  whole: boolean;
}

/** Frames read at once: small enough to stay in the engine's near memory. */
const BLOCK = 16_384;
/** Frames of each column that a first sketch looks at. */
const SKETCH_FRAMES = 256;

function emptyOverview({ info }: Sound, columns: number): Overview {
  const framesEach = Math.max(1, Math.ceil(info.frames / columns));
  const count = Math.max(1, Math.ceil(info.frames / framesEach));
  return {
    columns: count,
    framesEach,
    channels: Array.from({ length: info.format.channels }, () => ({
      least: new Float32Array(count),
      most: new Float32Array(count),
      square: new Float32Array(count),
    })),
    whole: false,
  };
}

/** Puts a stretch of one channel into its column. */
class Column {
  private least = Infinity;
  private most = -Infinity;
  private sum = 0;
  private count = 0;

  /** @param from, to which samples of the plane */
  add(plane: Float32Array, from: number, to: number): void {
    let { least, most } = this;
    // Two at a time: one sum would wait for itself.
    let [sum, other] = [0, 0];
    const even = to - ((to - from) % 2);
    for (let i = from; i < even; i += 2) {
      const a = plane[i] as number;
      const b = plane[i + 1] as number;
      if (a < least) least = a;
      if (a > most) most = a;
      if (b < least) least = b;
      if (b > most) most = b;
      sum += a * a;
      other += b * b;
    }
    if (even < to) {
      const last = plane[even] as number;
      least = Math.min(least, last);
      most = Math.max(most, last);
      sum += last * last;
    }
    this.least = least;
    this.most = most;
    this.sum += sum + other;
    this.count += to - from;
  }

  /** Writes what it holds, and is empty again. */
  end({ least, most, square }: Overview['channels'][number], at: number): void {
    if (this.count > 0) {
      least[at] = this.least;
      most[at] = this.most;
      square[at] = this.sum / this.count;
    }
    this.least = Infinity;
    this.most = -Infinity;
    this.sum = this.count = 0;
  }
}

/** Columns of a sketch that are one step of the work; they are read at once, as each read waits for the disk. */
const SKETCHED = 32;

/**
 * A first sketch of a recording, from a few samples of each column: quick, and lower than the truth
 * where peaks are short. FLAC has no places to jump to: it is read whole.
 * @param columns 1 … 100000
 * @throws Cancelled where it was given up
 */
export async function sketchOf(
  sound: Sound,
  columns: number,
  work: Partial<Work> = {},
): Promise<Overview> {
  if (sound.info.container === 'FLAC') return overviewOf(sound, columns, work);
  const overview = emptyOverview(sound, columns);
  const { frames } = sound.info;
  if (overview.framesEach <= SKETCH_FRAMES) return overviewOf(sound, columns, work);
  const sketch = async (at: number): Promise<void> => {
    const middle = at * overview.framesEach + overview.framesEach / 2;
    const from = Math.max(0, Math.min(frames - SKETCH_FRAMES, Math.round(middle)));
    for await (const block of sound.blocks({ from, to: from + SKETCH_FRAMES })) {
      overview.channels.forEach((channel, c) => {
        const column = new Column();
        const plane = block.planes[c];
        if (plane) column.add(plane, 0, block.frames);
        column.end(channel, at);
      });
    }
  };
  for (let at = 0; at < overview.columns; at += SKETCHED) {
    const count = Math.min(SKETCHED, overview.columns - at);
    await Promise.all(Array.from({ length: count }, (_, i) => sketch(at + i)));
    work.progress?.((at + count) / overview.columns);
    await stepDone(work);
  }
  return overview;
}

/**
 * A recording as a curve over time, from every sample, in one pass.
 * @param columns 1 … 100000
 * @throws Cancelled where it was given up
 */
export async function overviewOf(
  sound: Sound,
  columns: number,
  work: Partial<Work> = {},
): Promise<Overview> {
  const overview = emptyOverview(sound, columns);
  const meters = overview.channels.map(() => new Column());
  const each = overview.framesEach;
  let end = 0;
  for await (const { position, frames, planes } of sound.blocks({ blockFrames: BLOCK })) {
    fillColumns(overview, meters, planes, position, frames);
    end = position + frames;
    work.progress?.(end / Math.max(1, sound.info.frames));
    await stepDone(work);
  }
  if (end % each !== 0) {
    overview.channels.forEach((channel, c) => meters[c]?.end(channel, Math.floor(end / each)));
  }
  return { ...overview, whole: true };
}

function fillColumns(
  { channels, framesEach }: Overview,
  meters: readonly Column[],
  planes: Planes,
  position: number,
  frames: number,
): void {
  for (let from = 0; from < frames;) {
    const at = Math.floor((position + from) / framesEach);
    const to = Math.min(frames, (at + 1) * framesEach - position);
    const ends = to === (at + 1) * framesEach - position;
    channels.forEach((channel, c) => {
      const [meter, plane] = [meters[c], planes[c]];
      if (!meter || !plane) return;
      // Whole numbers to the engine too: a loop over doubles takes three times as long.
      meter.add(plane, from | 0, to | 0);
      if (ends) meter.end(channel, at);
    });
    from = to;
  }
}
