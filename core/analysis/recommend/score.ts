import { sum } from 'd3-array';
import { crossedEquivalent } from '../../arrays/mid-side';
import type { Technique } from '../../arrays/technique';
import { interchannelCorrelation } from '../correlation';
import { AT_LOUDSPEAKER, LOW_HZ, type Measures } from '../criteria';
import { patternAOf } from '../../acoustics/patterns';
import { nearCues, placeOf, prepareArray, type PreparedArray } from '../../localisation/cues';
import type { LocalisationModel } from '../../localisation/models/model';
import type { MicArray, Session } from '../../session/schema';
import { powerDb } from '../../units/guard';
import type { Context } from '../../prepare/context';
import type { TrialArray } from './candidates';

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
  const height = sum(session.sources, ({ z }) => z) / Math.max(1, session.sources.length);
  return -Math.round(((Math.atan2(z - height, distanceM) * 180) / Math.PI) * 0.5);
}

/** Both channels in the reverberant field at 125 Hz; 1 where there are not two. */
const lowCorrelation = (array: PreparedArray, speed: number): number =>
  interchannelCorrelation(array, LOW_HZ, speed)?.real ?? 1;

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
    const shift = placeOf(cues, model);
    shifts.push(shift);
    if (Math.abs(shift) >= AT_LOUDSPEAKER) atSpeakers += 1;
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
