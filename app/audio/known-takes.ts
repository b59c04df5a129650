import { expectedLoudness, type Scene } from '../../core/audio/listen';
import { isSameTrim, LOUDNESS, trimLike } from '../../core/audio/listen/matching';
import { dbToAmplitude } from '../../core/units';
import { phraseKey } from '../../core/audio/render/places';
import { ofCandidate, type Side } from './listening';

/** One take that the output has, or is going to have. */
export interface Known {
  id: string;
  scene: Scene;
  trim: number;
  loudness: number | null;
  /** what its loops are made of, and what they were when all of them had come */
  made: string | null;
  whole: string | null;
  /** of the ask for it */
  round: number;
}

/** What cannot be bent in a take: other players, other microphones or another room make another one. */
export const kindOf = (scene: Scene, side: Side, arrayId: string): string =>
  JSON.stringify([
    side,
    arrayId,
    scene.live,
    scene.stems.map(({ id }) => id),
    scene.points.map(({ plays, stem }) => `${phraseKey(plays)} ${stem}`),
    scene.capsules.map(({ live }) => live),
  ]);

export const contentOf = (scene: Scene): string =>
  JSON.stringify([
    scene.points,
    scene.capsules,
    scene.room,
    scene.surfaces,
    scene.hall,
    scene.speed,
  ]);

/** As loud as any other plan; a candidate as loud as the plan; the room as loud as it is in it. */
export function trimFor(
  side: Side,
  scene: Scene,
  plan: Known | undefined,
  candidate: Known | undefined,
): number {
  if (side === 'room' && plan) return plan.trim;
  if (side === 'candidate’s room' && candidate) return candidate.trim;
  if (ofCandidate(side) && plan) {
    return trimLike(plan.trim, expectedLoudness(plan.scene), expectedLoudness(scene));
  }
  return dbToAmplitude(LOUDNESS - expectedLoudness(scene));
}

/** Measured, a candidate is brought to the plan's loudness exactly; null where it is so already. */
export function matchedTrim(plan: Known | undefined, candidate: Known | undefined): number | null {
  if (plan?.loudness == null || candidate?.loudness == null) return null;
  const trim = trimLike(plan.trim, plan.loudness, candidate.loudness);
  return isSameTrim(trim, candidate.trim) ? null : trim;
}
