import { mean, min } from 'd3-array';
import { FlatTopFinder, type FlatTops } from './flat-tops';
import { LoudnessMeter, channelWeights, type Loudness } from './loudness';
import { likeness, ProductMeter } from './products';
import { STRETCH, TruePeakMeter } from './true-peak';
import type { Planes } from '../wav/decode';
import type { SoundInfo } from '../sound';

/** A stretch at full scale. */
export interface Clip {
  channel: number;
  /** s from the beginning */
  atS: number;
  /** samples in a row at full scale */
  samples: number;
}

/** Levels of one channel. */
export interface ChannelLevels {
  name: string;
  /** largest sample, dBFS; null in silence */
  peakDb: number | null;
  /** largest value between the samples as well, dBTP */
  truePeakDb: number | null;
  /** from the true peak to full scale, dB; below zero where it goes beyond */
  headroomDb: number | null;
  rmsDb: number | null;
  /** mean of the samples, of full scale */
  offset: number;
  clips: number;
  /** cut off below full scale; null where nothing is */
  flatTops: FlatTops | null;
}

/** Likeness of the first two channels over each 0.4 s, −1 … 1; null in silence. */
export interface CorrelationFigures {
  least: number | null;
  mean: number | null;
  belowZeroPct: number;
  /** means of so many seconds each, null where one is silent: at most 600 of them */
  overTime: { stepS: number; values: (number | null)[] };
}

/** Levels of a recording. */
export interface LevelFigures {
  channels: ChannelLevels[];
  /** the first of all clips, at most 100 */
  clips: Clip[];
  loudness: Loudness;
  correlation: CorrelationFigures | null;
}

/** So many samples in a row at full scale are a clip. */
const CLIP_SAMPLES = 3;
const REST = CLIP_SAMPLES - 1;
/** Clips that are listed where nothing else is asked for. */
export const MOST_CLIPS = 100;
const WINDOW_S = 0.4;
const MOST_VALUES = 600;
const SILENT = 1e-10;
/** Power below which two channels are not compared: −140 dB. */
const SILENT_POWER = 1e-14;

const dbOf = (value: number): number | null => (value > SILENT ? 20 * Math.log10(value) : null);

/** Runs of samples at full scale, across blocks. */
class ClipFinder {
  private run = 0;
  private from = 0;
  count = 0;

  constructor(
    private readonly channel: number,
    private readonly limit: number,
    private readonly sampleRateHz: number,
    private readonly clips: Clip[],
    private readonly most: number,
  ) {}

  /** @param tops largest sample of every stretch: only those at full scale are looked at */
  add(samples: Float32Array, frames: number, position: number, tops: Float32Array): void {
    const count = Math.ceil(frames / STRETCH);
    for (let j = 0; j < count; j++) {
      if ((tops[j] as number) >= this.limit) {
        this.look(samples, j * STRETCH, Math.min(frames, (j + 1) * STRETCH), position);
      } else if (this.run > 0) this.end();
    }
  }

  private look(samples: Float32Array, from: number, to: number, position: number): void {
    const { limit } = this;
    let { run } = this;
    for (let i = from; i < to; i++) {
      if (run === 0) {
        // A clip from here on has its third sample there: where that is none of it, it begins behind.
        for (let ahead = i + REST; ahead < to; ahead = i + REST) {
          const there = samples[ahead] as number;
          if (there >= limit || there <= -limit) break;
          i = ahead + 1;
        }
        if (i >= to) break;
      }
      const value = samples[i] as number;
      if (value < limit && value > -limit) {
        if (run === 0) continue;
        this.run = run;
        this.end();
        run = 0;
      } else {
        if (run === 0) this.from = position + i;
        run += 1;
      }
    }
    this.run = run;
  }

  end(): void {
    if (this.run >= CLIP_SAMPLES) {
      this.count += 1;
      if (this.clips.length < this.most) {
        const atS = this.from / this.sampleRateHz;
        this.clips.push({ channel: this.channel, atS, samples: this.run });
      }
    }
    this.run = 0;
  }
}

/** Likeness of two channels, window by window. */
class CorrelationMeter {
  private readonly values: (number | null)[] = [];
  private readonly products: ProductMeter;

  constructor(sampleRateHz: number) {
    this.products = new ProductMeter(Math.round(sampleRateHz * WINDOW_S), (found) =>
      this.values.push(likeness(found, SILENT_POWER)),
    );
  }

  add(first: Float32Array, second: Float32Array, frames: number): void {
    this.products.add(first, second, frames);
  }

  result(): CorrelationFigures {
    const heard = this.values.filter((value) => value !== null);
    const each = Math.max(1, Math.ceil(this.values.length / MOST_VALUES));
    const groups = Math.ceil(this.values.length / each);
    return {
      least: min(heard) ?? null,
      mean: mean(heard) ?? null,
      belowZeroPct:
        heard.length === 0 ? 0 : (heard.filter((value) => value < 0).length / heard.length) * 100,
      overTime: {
        stepS: each * WINDOW_S,
        values: Array.from(
          { length: groups },
          (_, i) => mean(this.values.slice(i * each, (i + 1) * each)) ?? null,
        ),
      },
    };
  }
}

/** Peaks, clips, loudness and correlation of a recording, block by block. */
export class LevelMeter {
  private readonly each: { peak: TruePeakMeter; clip: ClipFinder; flat: FlatTopFinder }[];
  private readonly loudness: LoudnessMeter;
  private readonly correlation: CorrelationMeter;
  private readonly clips: Clip[] = [];
  private frames = 0;

  /** @param mostClips that are listed, Infinity for all of them; all are counted */
  constructor(
    private readonly info: Pick<SoundInfo, 'format' | 'validBits' | 'channelNames'> &
      Partial<Pick<SoundInfo, 'channelMask'>>,
    mostClips = MOST_CLIPS,
  ) {
    const { format, validBits, channelNames, channelMask = null } = info;
    const { channels, sampleRateHz, kind } = format;
    // The largest positive sample of integers; one for floats.
    const limit = kind === 'integer' ? 1 - 1.5 / 2 ** (validBits - 1) : 1;
    const step = kind === 'integer' ? 2 ** (1 - validBits) : 0;
    this.each = Array.from({ length: channels }, (_, c) => ({
      peak: new TruePeakMeter(),
      clip: new ClipFinder(c, limit, sampleRateHz, this.clips, mostClips),
      flat: new FlatTopFinder(limit, step, sampleRateHz),
    }));
    this.loudness = new LoudnessMeter(channelWeights(channelNames, channelMask), sampleRateHz);
    this.correlation = new CorrelationMeter(sampleRateHz);
  }

  /** @param position of the block's first frame in the recording */
  add(planes: Planes, frames: number, position: number): void {
    this.loudness.add(planes, frames);
    this.each.forEach(({ peak, clip, flat }, c) => {
      const plane = planes[c];
      if (!plane) return;
      const tops = peak.add(plane.subarray(0, frames), frames);
      clip.add(plane, frames, position, tops);
      flat.add(plane, frames, position, tops, peak.samplePeak);
    });
    const [first, second] = planes;
    if (first && second) this.correlation.add(first, second, frames);
    this.frames += frames;
  }

  result(): LevelFigures {
    for (const { peak, clip } of this.each) {
      peak.end();
      clip.end();
    }
    return this.soFar();
  }

  /** What is known of what was read so far; more may follow. */
  soFar(): LevelFigures {
    const count = Math.max(1, this.frames);
    return {
      channels: this.each.map(({ peak, clip, flat }, c) => {
        const truePeakDb = dbOf(peak.peak);
        return {
          name: this.info.channelNames[c] ?? '',
          peakDb: dbOf(peak.samplePeak),
          truePeakDb,
          headroomDb: truePeakDb === null ? null : 0 - truePeakDb,
          rmsDb: dbOf(Math.sqrt(peak.square / count)),
          offset: peak.sum / count,
          clips: clip.count,
          flatTops: flat.result(),
        };
      }),
      clips: [...this.clips].sort((a, b) => a.atS - b.atS),
      loudness: this.loudness.result(),
      correlation: this.each.length > 1 ? this.correlation.result() : null,
    };
  }
}
