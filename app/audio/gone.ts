import type { Session } from '../../core/session';
import { notify } from '../view/notices';
import { listeningStore } from './listening';

/** Whoever was heard alone, or left out, and is gone from the plan: then everybody is heard, said. */
export function forgetGone({ sources, arrays }: Session): void {
  const players = new Set(sources.map(({ id }) => id));
  const { soloIds, mutedIds, hoveredId } = listeningStore.getState();
  if (hoveredId !== null && !players.has(hoveredId)) listeningStore.setState({ hoveredId: null });
  const muted = mutedIds.filter((id) => players.has(id));
  if (muted.length < mutedIds.length) listeningStore.setState({ mutedIds: muted });
  const solo = soloIds?.filter((id) => players.has(id)) ?? [];
  if (soloIds !== null && solo.length < soloIds.length) {
    listeningStore.setState({ soloIds: solo.length > 0 ? solo : null });
    if (solo.length === 0) notify('Who was heard alone is gone: everybody is heard.');
  }
  const there = new Set(arrays.map(({ id }) => id));
  const { soloArrayIds, mutedArrayIds } = listeningStore.getState();
  if (soloArrayIds?.some((id) => !there.has(id))) {
    listeningStore.setState({ soloArrayIds: null });
    notify('The array that was heard alone is gone: all of the mix is heard.');
  }
  if (mutedArrayIds.some((id) => !there.has(id))) {
    listeningStore.setState({ mutedArrayIds: mutedArrayIds.filter((id) => there.has(id)) });
  }
}
