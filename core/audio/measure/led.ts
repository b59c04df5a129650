import { quantile } from 'd3-array';
import { chosenChannels } from '../chosen';
import type { Sound } from '../sound';
import type { Work } from '../work';
import type { Stretch } from './asked';
import { curvesOf } from './curves';
import type { ChannelDelay } from './delay';

/** A delay that two channels keep to over several steps: that of whoever leads. */
export interface SteadyDelay {
  /** later than the first, ms */
  delayMs: number;
  /** standard deviation of that median, ms */
  spreadMs: number;
  polarity: 1 | -1;
  steps: number;
}

/** A stretch in which one leads. */
export interface LedStretch extends Stretch, SteadyDelay {}

/** Steps that are so near each other are of one place, ms. */
const NEAR_MS = 0.03;
/** Fewer steps tell nothing, and less of them than this is no lead; another place with so much of it neither. */
const [FEWEST, LEAST_SHARE, MOST_OTHER] = [4, 0.5, 0.6];
/** Middle half of a normal spread, in its deviations; the median's uncertainty against the mean's. */
const [QUARTILES, OF_MEDIAN] = [1.349, 1.253];

type Told = ChannelDelay & { delayMs: number };

const toldOf = (values: readonly (ChannelDelay | null)[]): Told[] =>
  values.filter((one): one is Told => one?.delayMs != null);

const around = (told: readonly Told[], ms: number): Told[] =>
  told.filter(({ delayMs }) => Math.abs(delayMs - ms) <= NEAR_MS);

/**
 * The delay that most steps agree on.
 * @param values step by step, delays of −10 … 10 ms
 * @returns null where too few do, or where others agree on another one
 */
export function steadyDelay(values: readonly (ChannelDelay | null)[]): SteadyDelay | null {
  const told = toldOf(values);
  const most = (among: readonly Told[]): Told[] =>
    among.reduce<Told[]>((best, { delayMs }) => {
      const near = around(among, delayMs);
      return near.length > best.length ? near : best;
    }, []);
  const found = most(told);
  const delays = found.map(({ delayMs }) => delayMs);
  const delayMs = quantile(delays, 0.5);
  if (delayMs === undefined || found.length < FEWEST) return null;
  const others = most(told.filter((one) => Math.abs(one.delayMs - delayMs) > 2 * NEAR_MS));
  const enough = found.length >= LEAST_SHARE * values.length;
  if (!enough || others.length > MOST_OTHER * found.length) return null;
  const [low = 0, high = 0] = [quantile(delays, 0.25), quantile(delays, 0.75)];
  const upright = found.filter(({ polarity }) => polarity !== -1).length;
  return {
    delayMs,
    spreadMs: ((high - low) / QUARTILES) * (OF_MEDIAN / Math.sqrt(found.length)),
    polarity: 2 * upright >= found.length ? 1 : -1,
    steps: found.length,
  };
}

/** A lead is looked for in so many steps at a time, 2 s of them. */
const WINDOW = 5;

/**
 * Stretches of two seconds and more in which two channels keep to one delay: one leads there, perhaps
 * alone. Where all play, whoever is loudest leads.
 * @param fromS of the first step, s from the beginning, 0 … 360000
 * @param stepS of one step, 0.1 … 10 s
 */
export function ledStretches(
  values: readonly (ChannelDelay | null)[],
  fromS: number,
  stepS: number,
): LedStretch[] {
  const found: LedStretch[] = [];
  for (let from = 0; from + WINDOW <= values.length;) {
    const lead = steadyDelay(values.slice(from, from + WINDOW));
    if (!lead) {
      from += 1;
      continue;
    }
    const holds = (to: number): boolean =>
      around(toldOf(values.slice(to - 3, to)), lead.delayMs).length >= 2;
    let to = from + WINDOW;
    while (to < values.length && holds(to + 1)) to += 1;
    const all = steadyDelay(values.slice(from, to)) ?? lead;
    found.push({ ...all, fromS: fromS + from * stepS, toS: fromS + to * stepS });
    from = to;
  }
  return found;
}

/**
 * The delay of one channel against another in a stretch without onsets, as of bowed strings: from the
 * phase of all that sounds, step by step of 0.4 s. Levels cannot be told so, as the room is in them.
 * @param pair channels, 0 … 63
 * @returns null where the steps agree on none
 * @throws Cancelled where it was given up
 */
export async function delayWithoutOnsets(
  sound: Sound,
  stretch: Stretch,
  [first, second]: readonly [number, number],
  work: Partial<Work> = {},
): Promise<SteadyDelay | null> {
  const { sampleRateHz } = sound.info.format;
  const [from, to] = [stretch.fromS, stretch.toS].map((s) =>
    Math.max(0, Math.min(sound.info.frames, Math.round(s * sampleRateHz))),
  ) as [number, number];
  const two = chosenChannels(sound, [first, second]);
  const { differences } = await curvesOf(two, { from, to }, [0, 1], work);
  return steadyDelay(differences.values);
}

/** No more of a recording is looked through, s. */
const MOST_S = 1800;

/**
 * Where of a recording one leads, by two of its channels.
 * @param pair channels, 0 … 63
 * @throws Cancelled where it was given up
 */
export async function ledOf(
  sound: Sound,
  pair: readonly [number, number],
  work: Partial<Work> = {},
): Promise<LedStretch[]> {
  const { frames, format } = sound.info;
  const to = Math.min(frames, MOST_S * format.sampleRateHz);
  const two = chosenChannels(sound, pair);
  const { differences, fromS } = await curvesOf(two, { from: 0, to }, [0, 1], work);
  return ledStretches(differences.values, fromS, differences.stepS);
}
