import { inRange } from '../../units/guard';
import { chosenChannels } from '../chosen';
import type { Sound } from '../sound';
import type { ByteSource } from '../wav/bytes';
import type { Planes } from '../wav/decode';
import { readWavInfo } from '../wav/header';
import { wavParts } from '../wav/stream';
import { Dither, type WrittenFormat, type WrittenMetadata } from '../wav/writer';
import { frameBytes } from '../wav/format';
import { Cancelled, partOf, stepDone, type Work } from '../work';
import { processedSound, type Processing } from './processed';
import { resampledSound } from './resampled';

/** What is to be written of a recording. */
export interface ExportAsk {
  /** s from its beginning; null is its end */
  fromS: number;
  toS: number | null;
  processing: Partial<Processing>;
  /** of what comes out of the processing, from 0, in this order; null: all of them */
  channels: readonly number[] | null;
  /** null: as it is */
  sampleRateHz: number | null;
  format: Pick<WrittenFormat, 'kind' | 'bits'>;
  /** integers get noise of two steps, so that what is softer than a step is not bent */
  dither: boolean;
  metadata?: WrittenMetadata;
}

/** A recording as it will be written. */
export interface Exported {
  sound: Sound;
  from: number;
  to: number;
  ask: ExportAsk;
  /** bytes of the samples */
  bytes: number;
  /** frames by which the time stamp was moved in the place of the sound */
  stampMoved: number;
}

/** Nearer to a whole frame than this, a shift is one. */
const WHOLE = 1e-6;

/**
 * Where all that is written moves by one whole number of frames, the time stamp is moved and the samples
 * stay as they were recorded.
 */
function stampInstead(sound: Sound, ask: ExportAsk): { ask: ExportAsk; moved: number } {
  const { shiftMs = [], decode = null, fold = [] } = ask.processing;
  const { broadcast, format } = sound.info;
  const none = { ask, moved: 0 };
  if (!broadcast || decode || fold.length > 0 || ask.sampleRateHz !== null) return none;
  const written = ask.channels ?? Array.from({ length: format.channels }, (_, c) => c);
  const [first = 0, ...others] = written.map(
    (c) => ((shiftMs[c] ?? 0) / 1000) * format.sampleRateHz,
  );
  const moved = Math.round(first);
  const together = others.every((shift) => Math.abs(shift - first) < WHOLE);
  if (!together || moved === 0 || Math.abs(first - moved) > WHOLE) return none;
  if (broadcast.timeReference + moved < 0) return none;
  return { ask: { ...ask, processing: { ...ask.processing, shiftMs: [] } }, moved };
}

/**
 * A stretch of a recording with something done to it, ready to be written.
 * @throws RangeError where the stretch holds nothing, a channel is not there, or a figure is outside what
 *   its field allows
 */
export function exported(sound: Sound, wanted: ExportAsk): Exported {
  const { ask, moved } = stampInstead(sound, wanted);
  const rate = ask.sampleRateHz ?? sound.info.format.sampleRateHz;
  const processed = processedSound(resampledSound(sound, rate), ask.processing);
  const chosen = ask.channels ? chosenChannels(processed, ask.channels) : processed;
  const { frames, format, broadcast } = chosen.info;
  inRange('channels', format.channels, 1, 64);
  const at = (s: number): number => Math.min(frames, Math.max(0, Math.round(s * rate)));
  const [from, to] = [at(ask.fromS), ask.toS === null ? frames : at(ask.toS)];
  if (to <= from) throw new RangeError('the stretch holds no sample; allowed: from before to');
  const stamped = broadcast && {
    ...broadcast,
    timeReference: broadcast.timeReference + moved,
    codingHistory: historyOf(broadcast.codingHistory, ask, rate, format.channels),
  };
  return {
    sound: { ...chosen, info: { ...chosen.info, broadcast: stamped } },
    from,
    to,
    ask,
    bytes: (to - from) * frameBytes({ bits: ask.format.bits, channels: format.channels }),
    stampMoved: moved,
  };
}

/** A line more of what was done to the samples, as broadcast files tell it. */
const historyOf = (before: string, { format }: ExportAsk, rate: number, channels: number): string =>
  `${before}A=PCM,F=${rate},W=${format.bits},M=${channels === 1 ? 'mono' : channels === 2 ? 'stereo' : `multi-${channels}`}\r\n`;

/** What goes through while a file is written: a sum over its bytes, and what does not fit into it. */
export class ByteSum {
  private a = 1;
  private b = 0;
  bytes = 0;
  /** the largest sample, of full scale, and how many are beyond it: integers cut those off */
  peak = 0;
  over = 0;

  /** Looks at what is to be written. @param frames that count */
  look(planes: Planes, frames: number): void {
    for (const plane of planes) {
      for (let i = 0; i < frames; i++) {
        const size = Math.abs(plane[i] as number);
        if (size > this.peak) this.peak = size;
        if (size > 1) this.over++;
      }
    }
  }

  add(piece: Uint8Array): void {
    let { a, b } = this;
    // Remainders are taken before a sum can leave 32 bits.
    for (let at = 0; at < piece.length;) {
      const end = Math.min(piece.length, at + 3800);
      for (; at < end; at++) {
        a += piece[at] as number;
        b += a;
      }
      a %= 65_521;
      b %= 65_521;
    }
    this.a = a;
    this.b = b;
    this.bytes += piece.length;
  }

  get value(): number {
    return this.b * 65_536 + this.a;
  }
}

/**
 * The bytes of the file, piece by piece, with their sum.
 * @param sum what goes through is added to
 * @throws Cancelled where it was given up
 */
export async function* exportParts(
  { sound, from, to, ask }: Exported,
  sum: ByteSum,
  work: Partial<Work> = {},
): AsyncGenerator<Uint8Array, void, undefined> {
  const { format, dither, metadata } = ask;
  const noise = dither && format.kind === 'integer' && format.bits < 32 ? new Dither(1) : null;
  const options = { ...work, from, to, dither: noise, ...(metadata ? { metadata } : {}) };
  const looked: Sound = {
    ...sound,
    async *blocks(range) {
      for await (const block of sound.blocks(range)) {
        sum.look(block.planes, block.frames);
        yield block;
      }
    },
  };
  for await (const part of wavParts(looked, format, options)) {
    sum.add(part);
    yield part;
  }
}

const READ_BACK = 1 << 20;

/**
 * Reads back what was written.
 * @param source the file as it lies there
 * @returns what is wrong with it; null where every byte is the one that was written
 * @throws Cancelled where it was given up
 */
export async function readBack(
  source: ByteSource,
  { sound, from, to }: Exported,
  sum: ByteSum,
  work: Partial<Work> = {},
): Promise<string | null> {
  if (source.size !== sum.bytes) {
    return `the file has ${source.size} bytes; written were ${sum.bytes}`;
  }
  const read = new ByteSum();
  for (let at = 0; at < source.size; at += READ_BACK) {
    const piece = await source.read(at, Math.min(READ_BACK, source.size - at));
    if (piece.length === 0) return `the file cannot be read at ${at} bytes`;
    read.add(piece);
    work.progress?.(Math.min(1, (at + piece.length) / source.size));
    await stepDone(work);
  }
  if (read.value !== sum.value) return 'the file is not what was written: some bytes are others';
  const info = await readWavInfo(source);
  if (!info.ok) return info.message;
  const { frames, format } = info.value;
  const { channels, sampleRateHz } = sound.info.format;
  const as = frames === to - from && format.channels === channels;
  return as && format.sampleRateHz === sampleRateHz ? null : 'the file says other than was written';
}

/** Whatever takes the bytes of a file: nothing is under its final name before it is closed. */
export interface Sink {
  write(part: Uint8Array): Promise<void>;
  close(): Promise<void>;
  /** nothing of it is left */
  abort(): Promise<void>;
  /** what was written, to be read back; null where that cannot be */
  source(): Promise<ByteSource | null>;
}

/** A file that was written. */
export interface Written {
  bytes: number;
  /** largest sample, of full scale; and how many were beyond it */
  peak: number;
  over: number;
  /** whether it could be read back, and was the same */
  readBack: boolean;
}

/**
 * Writes a file and reads it back.
 * @throws Cancelled where it was given up: nothing half-written is left
 * @throws Error where it cannot be written, or reads back as something else
 */
export async function writeExport(
  made: Exported,
  sink: Sink,
  work: Partial<Work> = {},
): Promise<Written> {
  const sum = new ByteSum();
  try {
    for await (const part of exportParts(made, sum, partOf(work, 0, 0.8))) await sink.write(part);
    if (work.signal?.aborted) throw new Cancelled();
    await sink.close();
  } catch (error) {
    await sink.abort();
    throw error;
  }
  const source = await sink.source();
  const { bytes, peak, over } = sum;
  if (!source) return { bytes, peak, over, readBack: false };
  const wrong = await readBack(source, made, sum, partOf(work, 0.8, 1)).catch(
    async (error: unknown) => {
      await sink.abort();
      throw error;
    },
  );
  if (wrong !== null) {
    await sink.abort();
    throw new Error(wrong);
  }
  return { bytes, peak, over, readBack: true };
}
