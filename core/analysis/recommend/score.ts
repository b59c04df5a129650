import { mean } from 'd3-array';
import { patternAOf } from '../../acoustics/patterns';
import { averageCosine } from '../../acoustics/mono';
import { crossedEquivalent } from '../../arrays/mid-side';
import type { Technique } from '../../arrays/technique';
import { sourceEdges } from '../../ensembles/extent';
import { nearCues, type Cues, unfilledCues } from '../../localisation/cues';
import { prepareArray } from '../../localisation/prepared-array';
import { placeOf } from '../../localisation/placed';
import type { LocalisationModel } from '../../localisation/models/model';
import type { Context } from '../../prepare/context';
import type { Session, Source } from '../../session/schema';
import { powerDb } from '../../units/guard';
import { interchannelCorrelation } from '../correlation';
import { AT_LOUDSPEAKER, LOW_HZ, type Measures } from '../criteria';
import { depthIn, ensembleFrame } from '../ensemble-frame';
import { frontToBackDb, spacingOffPct, timeShareOf, withOwnSpot, type Seen } from '../spread';
import { azimuthFrom } from '../source-figures';
import type { Place } from './candidates';

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

/** What of a technique no place changes. */
export interface ReadyTechnique {
  technique: Technique;
  microphones: number;
  lowCorrelation: number;
}

/**
 * Computed once for all places of a technique.
 * @param speed speed of sound, 250 … 450 m/s
 */
export function readyTechnique(technique: Technique, speed: number): ReadyTechnique {
  const level = { x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0 };
  const ready = prepareArray({ ...level, technique: asPair(technique) });
  return {
    technique: asPair(technique),
    microphones: ready.capsules.length,
    lowCorrelation: interchannelCorrelation(ready, LOW_HZ, speed)?.real ?? 1,
  };
}

/** What of the players no array changes. */
export interface ReadyPlayers {
  players: readonly {
    source: Source;
    ends: readonly { x: number; y: number; z: number }[];
    depthM: number;
    spotted: boolean;
    /** of its directivity factor */
    directivityDb: number;
    band: { fromPct: number; toPct: number } | null;
  }[];
  wishes: number;
  /** −1 where the picture follows the performers' left and right */
  turn: 1 | -1;
}

/** Computed once for all arrays. */
export function readyPlayers(session: Session, sources: readonly Source[]): ReadyPlayers {
  const frame = ensembleFrame(sources);
  const spotted = withOwnSpot(session);
  const bands = new Map(session.brief.intent.bands.map((band) => [band.sourceId, band]));
  const players = sources.map((source) => ({
    source,
    ends: source.widthM > 0 ? sourceEdges(source) : [],
    depthM: frame ? depthIn(frame, source) : 0,
    spotted: spotted.has(source.id),
    directivityDb: powerDb(source.q),
    band: bands.get(source.id) ?? null,
  }));
  return {
    players,
    wishes: players.filter(({ band }) => band !== null).length,
    turn: session.settings.perspective === 'audience' ? 1 : -1,
  };
}

const usable = (cues: Cues | null): cues is Cues => cues !== null && !cues.antiphase;

/** Mono sum of two channels against their powers; of more an estimate by the same formula. */
function monoPower({ left, right, ictdMs }: Cues): number {
  const power = left * left + right * right;
  if (!(power > 0)) return 1;
  const depth = (2 * left * right) / power;
  return 1 + (ictdMs === 0 ? depth : depth * averageCosine(Math.abs(ictdMs) / 1000));
}

/** Averaged over a third octave a null keeps so much of its depth. */
const LEFT_OF_NULL = 0.85;
/** A first null above 10 kHz is not in any of the bands, ms. */
const NULL_IN_BANDS_MS = 0.05;

/** About what the worst third octave of a mono sum keeps of the power. */
function worstBandPower({ left, right, ictdMs }: Cues): number {
  const power = left * left + right * right;
  if (!(power > 0) || Math.abs(ictdMs) < NULL_IN_BANDS_MS) return 1;
  return 1 - (LEFT_OF_NULL * Math.abs(2 * left * right)) / power;
}

/** Cues that are looked at and forgotten, written anew for every player and every end. */
const HERE = unfilledCues();
const THERE = unfilledCues();

/**
 * A quick measure of one array at one place, in one model: what is worth a closer look. The closer
 * look is `measuresOf`.
 */
export function measure(
  { players, wishes, turn }: ReadyPlayers,
  place: Place,
  { technique, microphones, lowCorrelation }: ReadyTechnique,
  model: LocalisationModel,
  { speed, criticalDistanceM }: Context,
): Measures {
  const ready = prepareArray({ ...place, technique });
  const diffuse = mean(ready.diffuse) ?? 1;
  const seen: Seen[] = [];
  const extents: { left: number; right: number }[] = [];
  const levels: { depthM: number; db: number }[] = [];
  let [held, broken, atSpeakers, room, mono, weakest] = [0, 0, 0, 0, 1, 1];
  let [loudest, softest, time, timed] = [-Infinity, Infinity, 0, 0];
  for (const { source, ends, depthM, spotted, band, directivityDb } of players) {
    const cues = nearCues(ready, source, speed, HERE);
    if (!usable(cues) || cues.inverted) {
      broken += 1;
      continue;
    }
    const shift = placeOf(cues, model);
    const extent = { left: shift, right: shift };
    let endsHeard = 0;
    mono = Math.min(mono, monoPower(cues));
    weakest = Math.min(weakest, worstBandPower(cues));
    for (const end of ends) {
      const there = nearCues(ready, end, speed, THERE);
      if (!usable(there)) continue;
      endsHeard += 1;
      mono = Math.min(mono, monoPower(there));
      weakest = Math.min(weakest, worstBandPower(there));
      const at = placeOf(there, model);
      extent.left = Math.min(extent.left, at);
      extent.right = Math.max(extent.right, at);
      const share = timeShareOf(there.icldDb, there.ictdMs);
      if (share === null) continue;
      time += share;
      timed += 1;
    }
    extents.push(extent);
    seen.push({ azimuthDeg: azimuthFrom(ready, source), shift });
    if (Math.abs(shift) >= AT_LOUDSPEAKER) atSpeakers += 1;
    const heardPct = 100 * turn * shift;
    if (band && heardPct >= band.fromPct && heardPct <= band.toPct) held += 1;
    const level = (cues.left * cues.left + cues.right * cues.right) / 2;
    const db = powerDb(level);
    levels.push({ depthM, db });
    if (!spotted) {
      loudest = Math.max(loudest, db);
      softest = Math.min(softest, db);
    }
    const share = endsHeard > 0 ? null : timeShareOf(cues.icldDb, cues.ictdMs);
    if (share !== null) {
      time += share;
      timed += 1;
    }
    room += db + directivityDb;
  }
  const count = Math.max(1, seen.length);
  const { widthPct, gapPct } = spreadOf(extents);
  return {
    imageWidthPct: widthPct,
    narrowestPct: widthPct,
    widestPct: widthPct,
    spacingOffPct: spacingOffPct(seen),
    largestGapPct: gapPct,
    atSpeakersPct: (atSpeakers / count) * 100,
    bandsHeld: wishes === 0 ? null : held / wishes,
    directToReverberantDb:
      criticalDistanceM === null
        ? null
        : room / count + powerDb((criticalDistanceM * criticalDistanceM) / diffuse),
    worstMonoDb: powerDb(mono),
    worstMonoBandDb: powerDb(Math.min(mono, weakest)),
    unevennessDb: loudest > softest ? loudest - softest : 0,
    frontToBackDb: frontToBackDb(levels),
    lowCorrelation,
    timeShare: timed > 0 ? time / timed : 0,
    tolerancePct: null,
    heightM: place.z,
    overPeople: place.overPeople,
    microphones,
    broken,
  };
}

/** Width of the whole picture and its largest gap, percent of the base. */
function spreadOf(extents: { left: number; right: number }[]): {
  widthPct: number;
  gapPct: number;
} {
  const [first] = extents.sort((a, b) => a.left - b.left);
  if (!first) return { widthPct: 0, gapPct: 0 };
  let [reach, gap] = [first.right, 0];
  for (const { left, right } of extents) {
    gap = Math.max(gap, left - reach);
    reach = Math.max(reach, right);
  }
  return { widthPct: (reach - first.left) * 50, gapPct: gap * 50 };
}
