import { crossedEquivalent, type CrossedPair } from '../arrays/mid-side';
import type { MidSideAudit } from '../audio/measure/mid-side';
import { patternAOf } from '../acoustics/patterns';
import type { MicArray, Session } from '../session/schema';
import { formatNumber, formatSigned } from '../units/format';
import { amplitudeDb, dbToAmplitude, inRange, powerDb } from '../units/guard';
import { inputOf, type Binding } from './bound';

/** Two channels of a recording that are mid and side, or are to be looked at as such; and the side's copy. */
export interface MidSideTracks {
  mid: number;
  side: number;
  copy: number | null;
}

/** What plan or names say two channels are. */
export type SaidToBe = 'mid and side' | 'left and right' | null;

const MID = /(^|[^a-z])(mid|m)$/i;
const SIDE = /(^|[^a-z])(side|s)$/i;
const COPY = /(^|[^a-z])(copy|s inv(erted)?|side inv(erted)?|-s|s2)$/i;
const LEFT = /(^|[^a-z])(left|l)$/i;
const RIGHT = /(^|[^a-z])(right|r)$/i;

/**
 * The channels that are mid and side by the plan, else by their names, else the first two.
 * @param names of the recording's channels, two and more
 * @returns null where there are fewer than two
 */
export function midSideTracks(
  session: Session,
  binding: Binding,
  names: readonly string[],
): MidSideTracks | null {
  if (names.length < 2) return null;
  const inputs = names.map((_, c) => inputOf(session, binding, c));
  for (const [mid, input] of inputs.entries()) {
    const array = input && session.arrays.find(({ id }) => id === input.arrayId);
    if (!input || input.capsule !== 0 || array?.technique.kind !== 'mid-side') continue;
    const side = inputs.findIndex((other) => other?.arrayId === array.id && other.capsule === 1);
    if (side >= 0) return { mid, side, copy: null };
  }
  const named = (pattern: RegExp): number => names.findIndex((name) => pattern.test(name.trim()));
  const [mid, side, copy] = [named(MID), named(SIDE), named(COPY)];
  if (mid < 0 || side < 0 || mid === side) return { mid: 0, side: 1, copy: null };
  return { mid, side, copy: copy < 0 || copy === mid || copy === side ? null : copy };
}

/** What is said of two channels by the plan, or by their names where the plan says nothing. */
export function saidToBe(
  session: Session,
  binding: Binding,
  names: readonly string[],
  { mid, side }: MidSideTracks,
): { what: SaidToBe; by: 'the plan' | 'their names' | null } {
  const [first, second] = [inputOf(session, binding, mid), inputOf(session, binding, side)];
  const array = first && session.arrays.find(({ id }) => id === first.arrayId);
  if (array && second?.arrayId === array.id) {
    if (array.technique.kind === 'mid-side') return { what: 'mid and side', by: 'the plan' };
    if (array.technique.kind === 'pair') return { what: 'left and right', by: 'the plan' };
  }
  const [one, two] = [names[mid]?.trim() ?? '', names[side]?.trim() ?? ''];
  if (MID.test(one) && SIDE.test(two)) return { what: 'mid and side', by: 'their names' };
  if (LEFT.test(one) && RIGHT.test(two)) return { what: 'left and right', by: 'their names' };
  return { what: null, by: null };
}

/** Whether two channels are to be decoded, as far as that can be told. */
export interface DecoderGuard {
  verdict:
    'raw' | 'decoded once too often' | 'left and right' | 'decoded already' | 'cannot be told';
  /** one decode makes left and right of them; null: that cannot be told */
  decode: boolean | null;
  /** in a few words */
  title: string;
  /** what the signals are like, with the figures that tell */
  like: string;
  /** what follows, with what else says so */
  words: string;
  /** what would tell; empty where it is told */
  wouldTell: string;
}

const CLAPS =
  'a clap from the left and one from the right would tell: of mid and side both have the same two levels and the side’s turns over; of left and right the levels change places';

/**
 * Whether two channels are raw mid and side, left and right, or were decoded once too often. Signals tell
 * what two channels are like; a raw pair and one that was decoded twice are the same but for gain, and a
 * crossed pair that went through a decoder is like them: plan and names tell these apart.
 */
export function decoderGuard(
  { sideDb, correlation, like }: Pick<MidSideAudit, 'sideDb' | 'correlation' | 'like'>,
  { what, by }: ReturnType<typeof saidToBe>,
): DecoderGuard {
  if (sideDb === null || correlation === null) {
    return guard(
      'cannot be told',
      null,
      'One of the two is silent',
      'Nothing can be told of them.',
      'a stretch in which both sound',
    );
  }
  const figures = `the second ${formatNumber(Math.abs(sideDb), 1)} dB ${sideDb < 0 ? 'below' : 'above'} the first, likeness ${formatSigned(correlation, 2)}`;
  const says =
    by === null
      ? ''
      : `${by[0]?.toUpperCase() ?? ''}${by.slice(1)} ${by === 'the plan' ? 'says' : 'say'}`;
  if (like === 'mid and side') {
    const told = `Like mid and side: ${figures}`;
    if (what === 'mid and side') {
      return guard('raw', true, told, `${says} so too.`);
    }
    if (what === 'left and right') {
      return guard(
        'decoded once too often',
        true,
        told,
        `${says} left and right: mid and side that were decoded twice, or a crossed pair that was decoded at all. One decode more brings left and right back, at twice the level.`,
      );
    }
    return guard(
      'cannot be told',
      null,
      told,
      'Raw, or decoded once too often: both are the same but for gain, and one decode gives left and right of either. A lopsided left and right can look like it.',
      CLAPS,
    );
  }
  if (like === 'left and right') {
    const told = `Like left and right: ${figures}`;
    if (what === 'mid and side') {
      return guard(
        'decoded already',
        false,
        told,
        `${says} mid and side, yet what is on them is left and right.`,
      );
    }
    return guard(
      'left and right',
      false,
      told,
      what === null
        ? 'Whether they come of a decoder or of two crossed microphones, signals do not tell.'
        : `${says} so too.`,
    );
  }
  const told = `Like neither clearly: ${figures}`;
  if (what === 'mid and side') {
    return guard(
      'raw',
      true,
      told,
      `${says} mid and side, and the signals do not speak against it.`,
    );
  }
  if (what === 'left and right') {
    return guard(
      'left and right',
      false,
      told,
      `${says} left and right, and the signals do not speak against it.`,
    );
  }
  return guard(
    'cannot be told',
    null,
    told,
    'Mid and side, or left and right: neither plan nor names say.',
    CLAPS,
  );
}

const guard = (
  verdict: DecoderGuard['verdict'],
  decode: boolean | null,
  like: string,
  words: string,
  wouldTell = '',
): DecoderGuard => ({ verdict, decode, title: TITLES[verdict], like, words, wouldTell });

const TITLES: Readonly<Record<DecoderGuard['verdict'], string>> = {
  raw: 'Raw mid and side: to be decoded once.',
  'decoded once too often': 'Decoded once too often: one decode more mends it.',
  'left and right': 'Left and right: not to be decoded.',
  'decoded already': 'Decoded already: not to be decoded again.',
  'cannot be told': 'Whether to decode them cannot be told.',
};

/** What mid and side give at one level of the side. */
export interface Decoded {
  /** likeness of left and right, −1 … 1; null where one is silent */
  correlation: number | null;
  /** of left against right, dB */
  leftAgainstRightDb: number | null;
  /** energy that mono loses against both loudspeakers, dB, 0 and below: that of the side */
  monoLossDb: number;
}

/**
 * Likeness, lean and what mono loses of a decode, by the powers of mid and side.
 * @param audit of the recording
 * @param gainDb of the side, −60 … 24 dB
 * @returns null where one of them is silent
 * @throws RangeError where gainDb is outside −60 … 24 dB
 */
export function decodedAt(
  { sideDb, correlation }: Pick<MidSideAudit, 'sideDb' | 'correlation'>,
  gainDb: number,
): Decoded | null {
  inRange('gainDb', gainDb, -60, 24, 'dB');
  if (sideDb === null || correlation === null) return null;
  const s = dbToAmplitude(sideDb + gainDb);
  const [sum, cross] = [1 + s * s, 2 * correlation * s];
  const [l, r] = [sum + cross, sum - cross];
  const heard = l > 1e-12 && r > 1e-12;
  return {
    correlation: heard ? (1 - s * s) / Math.sqrt(l * r) : null,
    leftAgainstRightDb: heard ? powerDb(l / r) : null,
    monoLossDb: -powerDb(sum),
  };
}

/**
 * The technique of the planned array that a channel is the mid of.
 * @param channel of the recording, 0 … 63
 * @returns null where it is none
 */
export function plannedMidSide(
  session: Session,
  binding: Binding,
  channel: number,
): Extract<MicArray['technique'], { kind: 'mid-side' }> | null {
  const input = inputOf(session, binding, channel);
  const array = input && session.arrays.find(({ id }) => id === input.arrayId);
  return array?.technique.kind === 'mid-side' ? array.technique : null;
}

/** Level of the side in the plan's decode, dB; null where the channel is no mid of the plan. @param channel 0 … 63 */
export const plannedSideDb = (session: Session, binding: Binding, channel: number): number | null =>
  plannedMidSide(session, binding, channel)?.sideGainDb ?? null;

/**
 * The crossed pair that the decode of a planned mid-side array is.
 * @param channel of the recording that is the mid
 * @param gainDb of the side in the decode, both recorded at one gain, −60 … 24 dB
 * @returns null where the channel is no mid of the plan
 */
export function equivalentPair(
  session: Session,
  binding: Binding,
  channel: number,
  gainDb: number,
): CrossedPair | null {
  const planned = plannedMidSide(session, binding, channel);
  return planned && crossedEquivalent(patternAOf(planned.midPattern), gainDb);
}

/** What a second-order high-pass of the side does to it against the mid, at one frequency. */
export interface SidePhase {
  hz: number;
  /** of the side, dB */
  gainDb: number;
  /** side ahead of the mid, degrees: as a time between them it turns the image of low sounds */
  phaseDeg: number;
}

/**
 * Level and phase of the side under a high-pass of second order (Q 1/√2), from 20 Hz to 2 kHz.
 * Both loudspeakers get the same filter, so that left and right stay mirror images.
 * @param cutHz 10 … 2000 Hz
 * @throws RangeError where cutHz is outside 10 … 2000 Hz
 */
export function sidePhase(cutHz: number): SidePhase[] {
  inRange('cutHz', cutHz, 10, 2000, 'Hz');
  return Array.from({ length: 41 }, (_, i) => {
    const hz = 20 * 10 ** (i / 20);
    const w = hz / cutHz;
    // −w² / (1 − w² + j√2 w)
    const [re, im] = [1 - w * w, Math.SQRT2 * w];
    return {
      hz,
      gainDb: amplitudeDb((w * w) / Math.hypot(re, im)),
      phaseDeg: 180 - (Math.atan2(im, re) * 180) / Math.PI,
    };
  });
}
