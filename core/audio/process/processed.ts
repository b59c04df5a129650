import { inRange } from '../../units/guard';
import { Between } from '../signal/between';
import { biquadFor, Filtered, type FilterSetting } from '../signal/biquad';
import type { Sound } from '../sound';
import { planesFor, type Planes } from '../wav/decode';
import { blockFramesOf } from '../wav/reader';
import { Sliding } from './sliding';

/** Mid and side made into left and right: one side, so that what is done to it is done to both. */
export interface SideDecode {
  /** channels, from 0 */
  mid: number;
  side: number;
  /** level of the side, −60 … 24 dB */
  sideDb: number;
  /** high-pass of the side, of second order, Hz; null for none */
  sideHighPassHz: number | null;
}

/** What is done to a recording, in this order; what is left out is not done. */
export interface Processing {
  /** by channel: later by so many ms, −2000 … 2000; between the samples by a windowed sinc */
  shiftMs: readonly number[];
  /** by channel, −120 … 60 dB */
  gainDb: readonly number[];
  /** by channel: turned over? */
  inverted: readonly boolean[];
  /** one after the other */
  filters: readonly { channel: number; filter: FilterSetting }[];
  /** left goes where mid was, right where the side was */
  decode: SideDecode | null;
  /** gains of the channels in each channel that comes out, as factors, with its name */
  fold: readonly { name: string; gains: readonly number[] }[];
}

/** A filter has forgotten what was before after so long, s: shorter only below 10 Hz. */
const WARM_S = 0.5;
const MOST_SHIFT_MS = 2000;

/** What is done to one stretch, from its beginning on. */
class Chain {
  private readonly filters: { channel: number; filtered: Filtered }[];
  private readonly side: Filtered | null;
  private readonly factors: number[];
  readonly channels: number;

  constructor(
    private readonly processing: Partial<Processing>,
    channels: number,
    sampleRateHz: number,
  ) {
    const { gainDb, inverted, filters = [], decode, fold } = processing;
    this.factors = Array.from({ length: channels }, (_, c) => {
      const gain = inRange('gainDb', gainDb?.[c] ?? 0, -120, 60, 'dB');
      return (inverted?.[c] ? -1 : 1) * 10 ** (gain / 20);
    });
    this.filters = filters.map(({ channel, filter }) => ({
      channel,
      filtered: new Filtered(biquadFor(filter, sampleRateHz)),
    }));
    const hz = decode?.sideHighPassHz ?? null;
    const pass = { kind: 'high-pass', gainDb: 0, q: Math.SQRT1_2 } as const;
    this.side = hz === null ? null : new Filtered(biquadFor({ ...pass, hz }, sampleRateHz));
    this.channels = fold && fold.length > 0 ? fold.length : channels;
  }

  /** In place, but for what is folded: that goes into planes of its own. */
  apply(planes: Planes, frames: number): Planes {
    planes.forEach((plane, c) => {
      const factor = this.factors[c] ?? 1;
      if (factor !== 1) for (let i = 0; i < frames; i++) plane[i] = factor * (plane[i] as number);
    });
    for (const { channel, filtered } of this.filters) {
      const plane = planes[channel];
      if (plane) filtered.apply(plane, frames);
    }
    const { decode, fold } = this.processing;
    if (decode) this.decoded(planes, frames, decode);
    if (!fold || fold.length === 0) return planes;
    return fold.map(({ gains }) => {
      const out = new Float32Array(frames);
      planes.forEach((plane, c) => {
        const gain = gains[c] ?? 0;
        if (gain === 0) return;
        for (let i = 0; i < frames; i++) out[i] = (out[i] as number) + gain * (plane[i] as number);
      });
      return out;
    });
  }

  private decoded(planes: Planes, frames: number, decode: SideDecode): void {
    const [mid, side] = [planes[decode.mid], planes[decode.side]];
    if (!mid || !side) return;
    this.side?.apply(side, frames);
    const gain = 10 ** (decode.sideDb / 20);
    for (let i = 0; i < frames; i++) {
      const m = mid[i] as number;
      const s = gain * (side[i] as number);
      mid[i] = m + s;
      side[i] = m - s;
    }
  }
}

/**
 * A recording with something done to it, as a recording: shifted, turned over, made louder, filtered,
 * decoded, folded down; block by block, as long as it was.
 * @throws RangeError where a figure of the processing is outside what its field allows
 */
export function processedSound(sound: Sound, processing: Partial<Processing>): Sound {
  const { format, frames, channelNames } = sound.info;
  const { channels, sampleRateHz } = format;
  const { shiftMs = [], decode, fold, filters = [] } = processing;
  for (const ms of shiftMs) inRange('shiftMs', ms, -MOST_SHIFT_MS, MOST_SHIFT_MS, 'ms');
  if (decode) inRange('sideDb', decode.sideDb, -60, 24, 'dB');
  // Refuses what is out of range before anything is read.
  const made = (): Chain => new Chain(processing, channels, sampleRateHz);
  const outChannels = made().channels;
  const shifts = Array.from(
    { length: channels },
    (_, c) => ((shiftMs[c] ?? 0) / 1000) * sampleRateHz,
  );
  const between = new Between(1);
  const [earliest, latest] = [Math.min(0, ...shifts), Math.max(0, ...shifts)];
  const filtered = filters.length > 0 || (decode?.sideHighPassHz ?? null) !== null;
  const warm = filtered ? Math.round(WARM_S * sampleRateHz) : 0;
  return {
    info: {
      ...sound.info,
      format: { ...format, kind: 'float', bits: 32, channels: outChannels },
      validBits: 32,
      channelMask: outChannels === channels ? sound.info.channelMask : null,
      channelNames:
        fold && fold.length > 0
          ? fold.map(({ name }) => name)
          : channelNames.map((name, c) =>
              c === decode?.mid ? 'L' : c === decode?.side ? 'R' : name,
            ),
    },
    async *blocks({ from = 0, to = frames, blockFrames = blockFramesOf(channels) } = {}) {
      const chain = made();
      const begin = Math.max(0, from - warm);
      const { reach } = between;
      const [before, behind] = [Math.ceil(latest) + reach, Math.ceil(-earliest) + reach];
      const source = new Sliding(sound, begin - before, to + behind);
      const planes = planesFor(channels, blockFrames);
      try {
        for (let position = begin; position < to;) {
          // The run-up ends where the stretch begins.
          const end = Math.min(to, position < from ? from : to, position + blockFrames);
          const count = end - position;
          const held = await source.window(position - before, count + before + behind);
          planes.forEach((plane, c) => {
            const late = shifts[c] ?? 0;
            const whole = Math.floor(-late);
            const fraction = -late - whole;
            const samples = held[c] as Float32Array;
            for (let i = 0; i < count; i++) {
              plane[i] = between.read(samples, i + before + whole, fraction);
            }
          });
          const out = chain.apply(planes, count);
          if (position >= from) yield { position, frames: count, planes: out };
          position = end;
        }
      } finally {
        await source.close();
      }
    },
  };
}
