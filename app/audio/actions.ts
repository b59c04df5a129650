import type { KeyAction } from '../view/keys';
import { panelStore } from '../view/panels';
import {
  isRecording,
  listeningStore,
  ofCandidate,
  roomAlone,
  sideOf,
  whenShown,
  type Listening,
} from './listening';

/** The engine comes with the first sound that is wanted: no figure needs it. */
export const withEngine = (
  act: (engine: (typeof import('./engine'))['engine']) => void,
): Promise<void> => import('./engine').then(({ engine }) => act(engine));

/** Plays, or stops; asked for while the page is still coming, it plays once that is there. */
export const togglePlay = (): Promise<void> =>
  Promise.all([whenShown(), withEngine(() => undefined)]).then(() =>
    withEngine((engine) => engine.toggle()),
  );

/** Hears the candidate, or the plan again, or the plan in the place of a recording; the room alone, or all again, of whichever is heard. */
export function toggleSide(what: 'candidate' | 'room'): void {
  if (panelStore.getState().blind) return;
  const { side, recordings } = listeningStore.getState();
  const [recording] = recordings;
  if (what === 'candidate' && recording) {
    // Where a recording is looked at, the plan is what stands beside it.
    const plan = isRecording(side) ? 'plan' : recording.side;
    void withEngine((engine) => engine.choose(plan));
    return;
  }
  const [candidate, room] = [ofCandidate(side), roomAlone(side)];
  const next = what === 'candidate' ? sideOf(!candidate, room) : sideOf(candidate, !room);
  void withEngine((engine) => engine.choose(next));
}

type Switch = 'mono' | 'swap' | 'dim' | 'headphones';

/** Another way to hear the same. */
export function toggleHearing(name: Switch): void {
  setHearing({ [name]: !listeningStore.getState()[name] });
}

export function setHearing(change: Partial<Pick<Listening, Switch | 'volumeDb'>>): void {
  listeningStore.setState(change);
  void withEngine((engine) => engine.hearing());
}

/** Who is heard: everybody, or some alone, or all without some. */
export function setSolo(soloIds: readonly string[] | null, mutedIds: readonly string[] = []): void {
  listeningStore.setState({ soloIds, mutedIds });
  void withEngine((engine) => engine.solo());
}

/** Which arrays of the mix are heard: all of them, or one alone, or all without one. */
export function setSoloArrays(
  soloArrayIds: readonly string[] | null,
  mutedArrayIds: readonly string[] = [],
): void {
  listeningStore.setState({ soloArrayIds, mutedArrayIds });
  void withEngine((engine) => engine.arrays());
}

/** A player under the pointer is heard alone for as long as it is there. */
export function setHovered(hoveredId: string | null): void {
  if (listeningStore.getState().hoveredId === hoveredId) return;
  listeningStore.setState({ hoveredId });
  if (listeningStore.getState().state === 'silent') return;
  void withEngine((engine) => engine.solo());
}

const TELLING: readonly KeyAction[] = ['candidate', 'room'];

/** @returns whether it was a key of the sound */
export function listenAction(action: KeyAction): boolean {
  // What would tell, or make another thing of what is asked about, waits.
  if (panelStore.getState().blind && TELLING.includes(action)) return true;
  switch (action) {
    case 'play':
      void togglePlay();
      return true;
    case 'candidate':
    case 'room':
      toggleSide(action);
      return true;
    case 'mono':
    case 'swap':
    case 'dim':
    case 'headphones':
      toggleHearing(action);
      return true;
    default:
      return false;
  }
}
