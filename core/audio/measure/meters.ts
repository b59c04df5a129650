import type { SpectraEngine } from '../signal/spectra';
import type { SoundInfo } from '../sound';
import type { Block } from '../wav/reader';
import { stepDone, type Work } from '../work';
import { BandMeter } from './bands';
import { DelayMeter, type ChannelDelay, type ChannelPair } from './delay';
import { HumMeter } from './hum';
import { GramMeter } from './identity';
import { LevelMeter } from './levels';
import { OnsetMeter } from './onsets';
import { ResonanceMeter } from './resonance';

/** What parts of a take can be measured. */
export const MEASURABLE = [
  'levels',
  'bands',
  'hum',
  'delays',
  'decay',
  'identity',
  'resonances',
] as const;
export type Measurable = (typeof MEASURABLE)[number];

/** Hum, onsets, decays and resonances are read from the first so many seconds. */
export const LOOKED_AT_S = 30;
/** Up to so many channels are measured in one pass, and as many against one at a time. */
const TOGETHER = 16;

/** What is measured while a take is read once. */
export interface Pass {
  what: readonly (Measurable | 'onsets')[];
  /** to the end of the stretch; only the part that is looked at where not */
  whole: boolean;
  /** channels that are read, and of which hum, onsets and resonances are; null: all of them */
  only: readonly number[] | null;
  /** of delays */
  pairs: readonly ChannelPair[];
}

/**
 * How often a take is read (1 … 8 times), and for what: once, or more often where all at once would be too much to hold.
 * The first pass reads every channel to the end.
 * @param channels of the take, 1 … 64
 * @param against the channel that others are measured against, from 0
 */
export function passesOf(what: readonly Measurable[], channels: number, against: number): Pass[] {
  const asked: (Measurable | 'onsets')[] = what.filter((part) => part !== 'delays');
  const several = what.includes('delays') && channels > 1;
  if (several) asked.push('onsets');
  const pairs = Array.from({ length: several ? channels : 0 }, (_, c): ChannelPair => [against, c]);
  if (channels <= TOGETHER) {
    const delays: Measurable[] = several ? ['delays'] : [];
    return [{ what: [...asked, ...delays], whole: true, only: null, pairs }];
  }
  const wholes: readonly (Measurable | 'onsets')[] = ['levels', 'bands', 'identity'];
  const first = asked.filter((part) => wholes.includes(part));
  const passes: Pass[] = [{ what: first, whole: true, only: null, pairs: [] }];
  for (const part of asked) {
    if (wholes.includes(part) || part === 'decay') continue;
    for (let from = 0; from < channels; from += TOGETHER) {
      const only = Array.from({ length: Math.min(TOGETHER, channels - from) }, (_, i) => from + i);
      passes.push({ what: [part], whole: false, only, pairs: [] });
    }
  }
  for (let from = 0; from < pairs.length; from += TOGETHER) {
    const some = pairs.slice(from, from + TOGETHER);
    passes.push({ what: ['delays'], whole: true, only: [...new Set(some.flat())], pairs: some });
  }
  return passes;
}

/** What the meters of passes found, as far as they were asked. */
export interface MeterResults {
  levels?: ReturnType<LevelMeter['result']>;
  bands?: ReturnType<BandMeter['result']>;
  identity?: ReturnType<GramMeter['result']> & {
    correlations: ReturnType<GramMeter['correlations']>;
  };
  hum?: ReturnType<HumMeter['result']>;
  resonances?: ReturnType<ResonanceMeter['result']>;
  /** times of onsets by channel */
  steps?: ReturnType<OnsetMeter['result']>;
  /** by channel */
  delays?: ReadonlyMap<number, ChannelDelay | null>;
}

/** Both together: delays by their channel; where both have hum, resonances or onsets, those of the other's channels come behind. */
export function joinedResults(one: MeterResults, other: MeterResults): MeterResults {
  const delays = new Map([...(one.delays ?? []), ...(other.delays ?? [])]);
  const found = { ...one, ...other };
  if (one.hum && other.hum) found.hum = [...one.hum, ...other.hum];
  if (one.steps && other.steps) found.steps = [...one.steps, ...other.steps];
  if (one.resonances && other.resonances) {
    found.resonances = [...one.resonances, ...other.resonances];
  }
  return { ...found, ...(delays.size > 0 && { delays }) };
}

/** All that is measured in one pass. */
export class Meters {
  readonly levels: LevelMeter | null;
  private readonly bands: BandMeter | null;
  private readonly delays: DelayMeter | null;
  private readonly gram: GramMeter | null;
  private readonly hum: HumMeter | null;
  private readonly onsets: OnsetMeter | null;
  private readonly resonances: ResonanceMeter | null;
  private readonly pairs: readonly ChannelPair[];
  private readonly only: readonly number[] | null;

  constructor(
    info: SoundInfo,
    { what, pairs, only }: Pass,
    options: { mostMs: number; mostClips: number; engine: SpectraEngine },
  ) {
    const { channels, sampleRateHz } = info.format;
    const { mostMs, mostClips, engine } = options;
    const wants = (part: Measurable | 'onsets'): boolean => what.includes(part);
    this.pairs = pairs;
    this.only = only;
    const some = only?.length ?? channels;
    this.levels = wants('levels') ? new LevelMeter(info, mostClips) : null;
    this.bands = wants('bands') ? new BandMeter(channels, sampleRateHz, engine) : null;
    this.delays = wants('delays') ? new DelayMeter(pairs, sampleRateHz, mostMs, engine) : null;
    this.gram = wants('identity') ? new GramMeter(channels) : null;
    this.hum = wants('hum') ? new HumMeter(some, sampleRateHz, LOOKED_AT_S, engine) : null;
    this.onsets = wants('onsets') ? new OnsetMeter(some, sampleRateHz) : null;
    this.resonances = wants('resonances') ? new ResonanceMeter(some, sampleRateHz, engine) : null;
  }

  /**
   * Takes in a block.
   * @param looked frames of it that hum, onsets and resonances are read from; none where it is 0 or less
   */
  add({ planes, frames, position }: Block, looked: number): void {
    this.levels?.add(planes, frames, position);
    this.bands?.add(planes, frames);
    this.delays?.add(planes, frames);
    this.gram?.add(planes, frames);
    if (looked <= 0) return;
    const { only } = this;
    const own = only ? only.flatMap((channel) => planes[channel] ?? []) : planes;
    this.hum?.add(own, looked);
    this.onsets?.add(own, looked);
    this.resonances?.add(own, looked);
  }

  /** Part by part, each of them a step of the work. @throws Cancelled where it was given up */
  async results(work: Partial<Work>): Promise<MeterResults> {
    const { levels, bands, gram, hum, onsets, resonances } = this;
    const found: MeterResults = {};
    if (levels) found.levels = levels.result();
    await stepDone(work);
    if (bands) found.bands = bands.result();
    await stepDone(work);
    if (gram) found.identity = { ...gram.result(), correlations: gram.correlations() };
    await stepDone(work);
    if (hum) found.hum = hum.result();
    await stepDone(work);
    if (resonances) {
      found.resonances = [];
      for (const one of resonances.steps()) {
        found.resonances.push(one);
        await stepDone(work);
      }
    }
    if (onsets) found.steps = onsets.result();
    await stepDone(work);
    if (this.delays) {
      const delays = new Map<number, ChannelDelay | null>();
      for (const delay of this.delays.steps()) {
        delays.set(this.pairs[delays.size]?.[1] ?? 0, delay);
        await stepDone(work);
      }
      found.delays = delays;
    }
    return found;
  }
}
