import { arrivalsOf, ownedSource } from '../analysis/arrivals';
import { mixFigures } from '../analysis/mix';
import { stripsOf } from '../arrays/routing';
import { leadingOf } from '../localisation';
import { BOUNDS } from '../session/bounds';
import { leadingArray, mainArrays } from '../session/lists';
import type { MicArray, Session, Source } from '../session/schema';
import { clamp } from '../units/numbers';
import { dbToAmplitude, inRange, powerDb } from '../units/guard';
import { inputOf, type Binding } from './bound';
import { planMix } from './mix';

/** A spot of the plan in a recording, and the channels that it is held against. */
export interface SpotTrack {
  array: MicArray;
  /** channels of the recording, from 0 */
  channels: readonly number[];
  /** whose spot it is; null where it is for several, or for nobody */
  player: Source | null;
}

/** The main array's channels and every spot's in a recording. */
export interface Layers {
  main: { array: MicArray; channels: readonly number[] } | null;
  spots: readonly SpotTrack[];
}

/** Which channels of a recording are the main array's, and which are spots, by the plan. */
export function layersOf(session: Session, binding: Binding): Layers {
  const channelsOf = ({ id }: MicArray): number[] =>
    binding.flatMap((_, c) => (inputOf(session, binding, c)?.arrayId === id ? [c] : []));
  const main = mainArrays(session)[0] ?? leadingArray(session);
  const heard = main ? channelsOf(main) : [];
  return {
    main: main && heard.length > 0 ? { array: main, channels: heard } : null,
    spots: session.arrays.flatMap((array) => {
      const channels = array.role === 'spot' ? channelsOf(array) : [];
      return channels.length > 0
        ? [{ array, channels, player: ownedSource(session, array.id) }]
        : [];
    }),
  };
}

/**
 * The player's level in a spot against the main array, as the plan mixes both, dB.
 * @returns null where it is nobody's spot, or either does not hear its player
 */
export function plannedLevelDb(session: Session, { array, player }: SpotTrack): number | null {
  const main = mainArrays(session)[0] ?? leadingArray(session);
  if (!player || !main) return null;
  const { arrivals } = arrivalsOf(session, player);
  const power = (id: string): number =>
    arrivals
      .filter(({ arrayId }) => arrayId === id)
      .reduce((sum, { levelDb }) => sum + 10 ** (levelDb / 10), 0);
  const [spot, other] = [power(array.id), power(main.id)];
  return spot > 0 && other > 0 ? clamp(powerDb(spot / other), -120, 60) : null;
}

/** A comb of two arrivals of one sound in one loudspeaker. */
export interface Comb {
  /** lowest dip, Hz; null where both come together */
  firstDipHz: number | null;
  /** from dip to peak, dB */
  rippleDb: number;
}

/**
 * The comb of a spot with the main array.
 * @param apartMs between them, −2000 … 2000
 * @param levelDb of the spot against the main array, as both are mixed, −120 … 60 dB
 * @throws RangeError where apartMs is outside −2000 … 2000 ms, levelDb outside −120 … 60 dB
 * Source: |1 + q·e^(−j2πfτ)|: the first dip at 1/(2τ), peak to dip 20 lg((1 + q)/(1 − q)).
 */
export function combOf(apartMs: number, levelDb: number): Comb {
  inRange('apartMs', apartMs, -2000, 2000, 'ms');
  inRange('levelDb', levelDb, -120, 60, 'dB');
  const q = dbToAmplitude(-Math.abs(levelDb));
  const rippleDb = q > 1 - 1e-6 ? MOST_RIPPLE_DB : 20 * Math.log10((1 + q) / (1 - q));
  return Math.abs(apartMs) < TOGETHER_MS
    ? { firstDipHz: null, rippleDb: 0 }
    : { firstDipHz: 500 / Math.abs(apartMs), rippleDb: Math.min(MOST_RIPPLE_DB, rippleDb) };
}

/** Nearer than this the first dip is above all that is heard, ms; and no room leaves deeper dips, dB. */
const [TOGETHER_MS, MOST_RIPPLE_DB] = [0.02, 60];

/** A comb is drawn by means over so much, octaves: where its teeth are closer, the ear hears none either. */
const DRAWN_OCTAVES = 1 / 24;

/**
 * Level of the sum over frequency against the power of both, dB: for a drawing of the comb, each point the
 * mean of a twenty-fourth of an octave.
 * @param apartMs between them, −2000 … 2000
 * @param levelDb of the spot against the main array, −120 … 60 dB
 * @param hz above 0
 */
export function combCurve(apartMs: number, levelDb: number, hz: readonly number[]): number[] {
  const q = dbToAmplitude(levelDb);
  const [low, high] = [2 ** (-DRAWN_OCTAVES / 2), 2 ** (DRAWN_OCTAVES / 2)];
  return hz.map((f) => {
    const turn = (2 * Math.PI * f * Math.abs(apartMs)) / 1000;
    const wide = turn * (high - low);
    const mean = wide < 1e-9 ? 1 : (Math.sin(turn * high) - Math.sin(turn * low)) / wide;
    return powerDb(Math.max(1e-6, 1 + q * q + 2 * q * mean) / (1 + q * q));
  });
}

/** One thing that can be done with a spot. */
export interface SpotOption {
  kind: 'keep' | 'align' | 'behind';
  /** the spot is made later by so much, ms; negative: earlier */
  laterMs: number;
  /** it then arrives so much after the main array, ms; negative before it */
  apartMs: number;
  comb: Comb;
  /** where its player then is in the plan's mix, −1 … 1, and how much of that is the spot's, 0 … 100; null where no player or place can be told */
  image: { shift: number; pullPct: number } | null;
}

/** The plan with a spot that comes so much later than it has it by itself. */
function withDelay(session: Session, array: MicArray, laterMs: number): Session {
  const capsules = stripsOf(array.technique, array.mix.capsules).map((strip) => ({
    ...strip,
    delayMs: clamp(laterMs, BOUNDS.delayMs.min, BOUNDS.delayMs.max),
  }));
  const changed = { ...array, enabled: true, mix: { ...array.mix, mute: false, capsules } };
  return { ...session, arrays: session.arrays.map((one) => (one.id === array.id ? changed : one)) };
}

/**
 * What can be done with a spot: leave it, bring it to the main array, or put it behind; what each makes of
 * the sound of both and of the player's place, before anything is changed.
 * @param laterMs the spot against the main array as it was recorded, ms: negative is before it
 * @param levelDb of the spot against the main array, as both are mixed, −120 … 60 dB
 * @param behindMs how far behind, 5 … 20 ms
 * @throws RangeError where behindMs is outside 5 … 20 ms
 */
export function spotOptions(
  session: Session,
  { array, player }: SpotTrack,
  laterMs: number,
  levelDb: number,
  behindMs: number,
): SpotOption[] {
  inRange('behindMs', behindMs, 5, 20, 'ms');
  const option = (kind: SpotOption['kind'], by: number): SpotOption => {
    const apartMs = laterMs + by;
    return {
      kind,
      laterMs: by,
      apartMs,
      comb: combOf(apartMs, levelDb),
      image: player && imageOf(withDelay(session, array, by), player, array.id),
    };
  };
  return [option('keep', 0), option('align', -laterMs), option('behind', behindMs - laterMs)];
}

function imageOf(session: Session, player: Source, arrayId: string): SpotOption['image'] {
  const figures = mixFigures(session, player);
  const shift = leadingOf(figures?.image ?? null, session.settings.model)?.shift;
  if (!figures || shift === undefined) return null;
  const pullPct = figures.pulls.find((pull) => pull.arrayId === arrayId)?.pct ?? 0;
  return { shift, pullPct };
}

/** What one array brings to the mix of a recording. */
export interface Layer {
  arrayId: string;
  name: string;
  /** of the power of all of them, 0 … 100 */
  sharePct: number;
  /** of its own two channels, −1 … 1; null where it has not two */
  correlation: number | null;
  /** its mono sum against the power of both, dB; null where it has not two */
  monoDb: number | null;
}

/** What was measured of a recording's channels. */
export interface ChannelPowers {
  /** by channel, dBFS; null in silence */
  rmsDb: readonly (number | null)[];
  /** of every two of them, from 0 */
  correlations: readonly { first: number; second: number; value: number | null }[];
}

/**
 * Level share, likeness and mono of every array in the plan's mix of a recording, as if the arrays were
 * unlike each other.
 * @returns in the order of the plan; those that are silent or not recorded are left out
 */
export function layerShares(
  session: Session,
  binding: Binding,
  { rmsDb, correlations }: ChannelPowers,
): Layer[] {
  const mix = planMix(session, binding);
  const powers = mix.map(({ left, right }, c) => {
    const level = rmsDb[c] ?? null;
    return level === null ? 0 : 10 ** (level / 10) * (left * left + right * right);
  });
  const layers = session.arrays.flatMap((array) => {
    const channels = mix.flatMap((_, c) =>
      inputOf(session, binding, c)?.arrayId === array.id ? [c] : [],
    );
    const power = channels.reduce((sum, c) => sum + (powers[c] ?? 0), 0);
    return power > 0 ? [{ array, channels, power }] : [];
  });
  const all = layers.reduce((sum, { power }) => sum + power, 0);
  return layers.map(({ array, channels, power }) => {
    const [one = -1, two = -1, more] = channels;
    const pair = two >= 0 && more === undefined;
    const value =
      correlations.find(({ first, second }) => pair && first === one && second === two)?.value ??
      null;
    const cross = 2 * (value ?? 0) * Math.sqrt((powers[one] ?? 0) * (powers[two] ?? 0));
    return {
      arrayId: array.id,
      name: array.name,
      sharePct: (100 * power) / all,
      correlation: value,
      monoDb: value === null ? null : powerDb(Math.max(1e-6, (power + cross) / power)),
    };
  });
}
