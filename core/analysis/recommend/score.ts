import { crossedEquivalent } from '../../arrays/mid-side';
import type { Technique } from '../../arrays/technique';
import { diffuseFieldCorrelation } from '../../acoustics/diffuse-field';
import { patternAOf } from '../../acoustics/patterns';
import { nearCues, prepareArray, type PreparedArray } from '../../localisation/cues';
import type { LocalisationModel } from '../../localisation/models/model';
import type { MicArray, Session } from '../../session/schema';
import { powerDb } from '../../units/guard';
import type { Context } from '../context';
import type { TrialArray } from './candidates';

/** What is known of a candidate, before it is put into words. */
export interface Measures {
  imageWidthPct: number;
  largestGapPct: number;
  atSpeakersPct: number;
  /** fraction of the intent bands that hold, 0 … 1; null without bands */
  bandsHeld: number | null;
  /** mean direct-to-reverberant ratio, dB; null while the room is unknown */
  directToReverberantDb: number | null;
  /** how deep the mono comb is on average, 0 none … 1 full */
  monoComb: number;
  /** loudest minus softest player through distance and pattern, dB */
  unevennessDb: number;
  /** correlation of both channels in the diffuse field at 125 Hz; low is spacious */
  lowCorrelation: number;
  /** players without a stable or with a swapped image: physics, not taste */
  broken: number;
}

export interface Weights {
  fill: number;
  gap: number;
  speakers: number;
  bands: number;
  room: number;
  mono: number;
  even: number;
  space: number;
}

export interface Wanted {
  imageWidthPct: number;
  roomDb: { min: number; max: number } | null;
  weights: Weights;
}

const ROOM_DB = {
  close: { min: 2, max: 12 },
  balanced: { min: -3, max: 4 },
  roomy: { min: -9, max: -1 },
};
const MONO_WEIGHT = { 'must-survive': 3, 'should-survive': 1, 'may-be-lost': 0 };

/** The intent as numbers; what was not said gets the usual. */
export function wantedOf({ brief }: Pick<Session, 'brief'>): Wanted {
  const { imageWidthPct, room, mono, bands } = brief.intent;
  return {
    imageWidthPct: imageWidthPct ?? 85,
    roomDb: room === null ? null : ROOM_DB[room],
    weights: {
      fill: 3,
      gap: 1,
      speakers: 2,
      bands: bands.length > 0 ? 4 : 0,
      room: room === null ? 0 : 2,
      mono: mono === null ? 0.5 : MONO_WEIGHT[mono],
      even: 1,
      space: 0.5,
    },
  };
}

/** Mid-side is measured as the crossed pair that it decodes to, which is the same two channels. */
function asPair(technique: Technique): Technique {
  if (technique.kind !== 'mid-side') return technique;
  const crossed = crossedEquivalent(patternAOf(technique.midPattern), technique.sideGainDb);
  return {
    kind: 'pair',
    pattern: crossed.patternA,
    spacingM: 0,
    includedAngleDeg: crossed.includedAngleDeg,
  };
}

/** Tilt that looks from the array at the ensemble's middle, degrees, half way as is customary. */
export function tiltTowards(session: Session, z: number, distanceM: number): number {
  const height =
    session.sources.reduce((sum, source) => sum + source.z, 0) /
    Math.max(1, session.sources.length);
  return -Math.round(((Math.atan2(z - height, distanceM) * 180) / Math.PI) * 0.5);
}

const LOW_HZ = 125;

/** Both channels in the diffuse field at 125 Hz; 1 for anything that is not a plain pair. */
function lowCorrelation({ capsules }: PreparedArray, speed: number): number {
  const [left, right] = capsules;
  return left && right ? diffuseFieldCorrelation(left, right, LOW_HZ, speed).real : 1;
}

const AT_SPEAKER = 0.999;

/** Measures one candidate over all sources. Sources count as points. */
export function measure(
  session: Session,
  main: MicArray,
  candidate: TrialArray,
  model: LocalisationModel,
  { speed, criticalDistanceM }: Context,
): Measures {
  const { x, y, z, distanceM } = candidate;
  const tiltDeg = tiltTowards(session, z, distanceM);
  const technique = asPair(candidate.technique);
  const ready = prepareArray({ x, y, z, aimDeg: main.aimDeg, tiltDeg, technique });
  const diffuse = ready.diffuse[0] ?? 1;
  const shifts: number[] = [];
  const bands = new Map(session.brief.intent.bands.map((band) => [band.sourceId, band]));
  let [held, broken, atSpeakers, comb, room] = [0, 0, 0, 0, 0];
  let [loudest, softest] = [-Infinity, Infinity];
  for (const source of session.sources) {
    const cues = nearCues(ready, source, speed);
    if (!cues || cues.antiphase || cues.inverted) {
      broken += 1;
      continue;
    }
    const shift = model.shift(cues.icldDb, cues.ictdMs);
    shifts.push(shift);
    if (Math.abs(shift) >= AT_SPEAKER) atSpeakers += 1;
    const band = bands.get(source.id);
    if (band && shift * 100 >= band.fromPct && shift * 100 <= band.toPct) held += 1;
    const power = cues.left * cues.left + cues.right * cues.right;
    if (Math.abs(cues.ictdMs) > 0.02) comb += Math.abs((2 * cues.left * cues.right) / power);
    const level = power / 2;
    loudest = Math.max(loudest, level);
    softest = Math.min(softest, level);
    if (criticalDistanceM !== null) {
      room += powerDb((source.q * criticalDistanceM ** 2 * level) / diffuse);
    }
  }
  const count = Math.max(1, shifts.length);
  const sorted = shifts.sort((a, b) => a - b);
  let gap = 0;
  for (let i = 1; i < sorted.length; i++)
    gap = Math.max(gap, (sorted[i] ?? 0) - (sorted[i - 1] ?? 0));
  const width = (sorted[sorted.length - 1] ?? 0) - (sorted[0] ?? 0);
  return {
    imageWidthPct: width * 50,
    largestGapPct: gap * 50,
    atSpeakersPct: (atSpeakers / count) * 100,
    bandsHeld: bands.size === 0 ? null : held / bands.size,
    directToReverberantDb: criticalDistanceM === null ? null : room / count,
    monoComb: comb / count,
    unevennessDb: shifts.length === 0 ? 0 : powerDb(loudest / softest),
    lowCorrelation: lowCorrelation(ready, speed),
    broken,
  };
}

/** 1 where all is as wanted, falling to 0. */
const near = (difference: number, tolerance: number): number =>
  Math.max(0, 1 - Math.abs(difference) / tolerance);

/** The parts of a score, each 0 … 1. */
export function partScores(measures: Measures, wanted: Wanted, count: number): Weights {
  const { roomDb } = wanted;
  const room = measures.directToReverberantDb;
  const off = room === null || !roomDb ? 0 : Math.max(roomDb.min - room, room - roomDb.max, 0);
  // With few players the neighbours are far apart by necessity.
  const evenGap = count > 1 ? measures.imageWidthPct / (count - 1) : 0;
  return {
    fill: near(measures.imageWidthPct - wanted.imageWidthPct, 60),
    gap: near(Math.max(0, measures.largestGapPct - evenGap), 60),
    speakers: near(measures.atSpeakersPct, 50),
    bands: measures.bandsHeld ?? 1,
    room: near(off, 8),
    mono: 1 - measures.monoComb,
    even: near(Math.max(0, measures.unevennessDb - 3), 12),
    space: near(Math.max(0, measures.lowCorrelation - 0.2), 0.8),
  };
}

/** Weighted mean of the parts, 0 … 100; a broken image costs more than any taste can give. */
export function scoreOf(parts: Weights, { weights }: Wanted, broken: number): number {
  let sum = 0;
  let total = 0;
  for (const key of Object.keys(weights) as (keyof Weights)[]) {
    sum += weights[key] * parts[key];
    total += weights[key];
  }
  return (sum / total) * 100 - broken * 100;
}
