import { sceneOf, type Scene } from '../../core/audio/listen';
import { listeningStore, ofCandidate, type Shown, type Side } from './listening';

/** What the sides of a plan are made of. */

/** Which arrays of the mix are heard; null is all. */
function arrayIds(shown: Shown | null): readonly string[] | null {
  const { soloArrayIds, mutedArrayIds } = listeningStore.getState();
  const ids = shown?.session.arrays.map(({ id }) => id) ?? [];
  const alone = soloArrayIds?.filter((id) => ids.includes(id)) ?? [];
  if (alone.length > 0) return alone;
  return mutedArrayIds.length === 0 ? null : ids.filter((id) => !mutedArrayIds.includes(id));
}

const heardOn = (shown: Shown | null, side: Side): Shown['heard'] | null | undefined =>
  ofCandidate(side) ? shown?.candidate : shown?.heard;

/** The scene of a side, or why there is none. */
export function sceneOn(shown: Shown | null, side: Side, sampleRateHz: number): Scene | string {
  if (!shown) return 'No session is open.';
  const heard = heardOn(shown, side);
  if (!heard) return 'No candidate is chosen.';
  try {
    const scene = sceneOf(shown.session, heard, sampleRateHz, { arrayIds: arrayIds(shown) });
    return scene.ok ? scene.value : scene.message;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

/** What is heard on a side, by name. */
export function arrayIdOn(shown: Shown | null, side: Side): string {
  const heard = heardOn(shown, side);
  return heard === 'mix' ? `mix ${arrayIds(shown)?.join(' ') ?? ''}` : (heard?.id ?? '');
}
