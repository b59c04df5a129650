import { sceneOf, type Scene } from '../../core/audio/listen';
import { listeningStore, ofCandidate, type HeardPlan, type Shown, type Side } from './listening';

/** What the sides of a plan are made of. */

/** Which arrays of a mix are heard; null is all. */
function arrayIds({ session }: HeardPlan): readonly string[] | null {
  const { soloArrayIds, mutedArrayIds } = listeningStore.getState();
  const ids = session.arrays.map(({ id }) => id);
  const alone = soloArrayIds?.filter((id) => ids.includes(id)) ?? [];
  if (alone.length > 0) return alone;
  return mutedArrayIds.length === 0 ? null : ids.filter((id) => !mutedArrayIds.includes(id));
}

const heardOn = (shown: Shown | null, side: Side): HeardPlan | null =>
  ofCandidate(side) ? (shown?.candidate ?? null) : shown;

/** The scene of a side, or why there is none. */
export function sceneOn(shown: Shown | null, side: Side, sampleRateHz: number): Scene | string {
  if (!shown) return 'No session is open.';
  const plan = heardOn(shown, side);
  if (!plan) return 'No candidate is chosen.';
  try {
    const scene = sceneOf(plan.session, plan.heard, sampleRateHz, { arrayIds: arrayIds(plan) });
    return scene.ok ? scene.value : scene.message;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

/** What is heard on a side, by name. */
export function arrayIdOn(shown: Shown | null, side: Side): string {
  const plan = heardOn(shown, side);
  if (!plan) return '';
  return plan.heard === 'mix' ? `mix ${arrayIds(plan)?.join(' ') ?? ''}` : plan.heard.id;
}
