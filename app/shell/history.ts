import type { Place } from '../document/change-words';
import { redo, sessionStore, undo, type Travelled } from '../document/session-store';
import { choiceStore, select } from '../view/choice';
import { notify } from '../view/notices';
import { wayStore } from '../view/ways';
import { stationPath } from '../stations';

/** Undo and redo as the hand calls them: they say what changed and offer the way there. */

function isHere({ station, page, selection }: Place, path: string): boolean {
  const chosen = choiceStore.getState().selection;
  const { pathname, search } = location;
  return (
    pathname === path &&
    (page === undefined || search === `?page=${page}`) &&
    (selection === undefined ||
      station !== 'floor' ||
      (chosen?.kind === selection.kind && chosen.id === selection.id))
  );
}

/** Goes where a change shows, and chooses what it changed. */
function show({ page, selection }: Place, path: string): void {
  wayStore.getState().go?.(page === undefined ? path : `${path}?page=${page}`);
  if (!selection) return;
  select(selection);
}

// The words come with the first step that is undone, which does not wait for them.
async function say(done: string, travelled: Travelled | null): Promise<void> {
  const { session } = sessionStore.getState();
  if (!travelled || !session) return;
  const { before, after } = travelled;
  // In the words of the step, whichever way it was gone.
  const { changeWords } = await import('../document/change-words');
  const [from, to] = done === 'Undone' ? [after, before] : [before, after];
  const { what, place } = changeWords(from, to);
  const path = stationPath(session.id, place.station);
  const text = `${done}: ${what}.`;
  if (isHere(place, path)) notify(text, undefined, 'history');
  else notify(text, { label: 'Show', run: () => show(place, path) }, 'history');
}

export const undoSaying = (): void => void say('Undone', undo());
export const redoSaying = (): void => void say('Done again', redo());
