import { sum as sumOf } from 'd3-array';
import { done, refused, type Outcome } from '../units/outcome';
import { resampledSound } from './process/resampled';
import type { Sound } from './sound';
import { planesFor, type Planes } from './wav/decode';
import { blockFramesOf, type Block, type BlockRange } from './wav/reader';
import type { RecordedTake, TakeFile } from './wav/takes';

/** Files that go on in one another, read as one, as many frames at a time as are wanted. */
class Row {
  private readonly blocks: AsyncGenerator<Block, void, undefined>;
  private block: Block | null = null;
  private at = 0;
  /** samples of its files so far that were no sound */
  faults = 0;

  constructor(
    sounds: readonly Sound[],
    readonly channels: number,
    from: number,
    to: number,
  ) {
    this.blocks = inTurn(sounds, from, to);
  }

  /** Fills its planes from a place on; what is no longer there is silence. */
  async fill(planes: Planes, frames: number): Promise<void> {
    let filled = 0;
    while (filled < frames) {
      if (!this.block || this.at >= this.block.frames) {
        const next = await this.blocks.next();
        if (next.done) break;
        this.block = next.value;
        this.faults += next.value.faults ?? 0;
        this.at = 0;
      }
      const { block } = this;
      const count = Math.min(frames - filled, block.frames - this.at);
      planes.forEach((plane, c) => {
        const piece = block.planes[c]?.subarray(this.at, this.at + count);
        if (piece) plane.set(piece, filled);
      });
      this.at += count;
      filled += count;
    }
    if (filled < frames) planes.forEach((plane) => plane.fill(0, filled, frames));
  }

  async close(): Promise<void> {
    await this.blocks.return(undefined);
  }
}

/** No more is read than is asked for: of a few frames, not the block around them. */
async function* inTurn(
  sounds: readonly Sound[],
  from: number,
  to: number,
): AsyncGenerator<Block, void, undefined> {
  let start = 0;
  for (const sound of sounds) {
    const { frames } = sound.info;
    const [first, end] = [Math.max(0, from - start), Math.min(frames, to - start)];
    if (first < end) yield* sound.blocks({ from: first, to: end });
    start += frames;
  }
}

/**
 * One recording from the files of a take: pieces after one another, tracks beside one another, the
 * shorter ones ended in silence, all at the highest of their rates.
 * @param soundOf the opened file of each
 * @returns why they cannot be read together, where they cannot
 */
export function joinedSound(
  take: RecordedTake,
  soundOf: (file: TakeFile) => Sound,
): Outcome<Sound> {
  const rows = [...new Set(take.tracks.map(({ files }) => files))];
  const opened = rows.map((files) => files.map(soundOf));
  const rate = Math.max(...opened.flat().map(({ info }) => info.format.sampleRateHz));
  const sounds = opened.map((row) => row.map((sound) => resampledSound(sound, rate)));
  const all = sounds.flat();
  const [first] = all;
  if (!first) return refused(`${take.name}: no files; allowed: one or more`);
  if (all.length === 1) return done(first);
  const counts = sounds.map((row) => row[0]?.info.format.channels ?? 0);
  const channels = take.tracks.length;
  return done({
    info: {
      ...first.info,
      format: { ...first.info.format, channels },
      frames: take.frames,
      // Full scale of the coarsest counts as full scale.
      validBits: Math.min(...all.map(({ info }) => info.validBits)),
      // What one file says of itself is not of all of them.
      channelMask: null,
      channelNames: take.tracks.map(({ name }) => name),
      warnings: [...take.warnings, ...new Set(all.flatMap(({ info }) => info.warnings))],
    },
    async *blocks({
      from = 0,
      to = take.frames,
      blockFrames = blockFramesOf(channels),
    }: BlockRange = {}) {
      const planes = planesFor(channels, Math.min(blockFrames, Math.max(1, to - from)));
      const readers = sounds.map((row, i) => new Row(row, counts[i] ?? 0, from, to));
      try {
        for (let position = from; position < to; position += blockFrames) {
          const frames = Math.min(blockFrames, to - position);
          const before = sumOf(readers, ({ faults }) => faults);
          let channel = 0;
          for (const reader of readers) {
            await reader.fill(planes.slice(channel, channel + reader.channels), frames);
            channel += reader.channels;
          }
          const faults = sumOf(readers, (reader) => reader.faults) - before;
          yield { position, frames, planes, faults };
        }
      } finally {
        await Promise.all(readers.map((reader) => reader.close()));
      }
    },
  });
}
