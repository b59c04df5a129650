import { useLayoutEffect } from 'react';
import type { NavigateFunction } from 'react-router';
import { addPlayer, removeSelected } from '../document/edits';
import { sessionStore } from '../document/session-store';
import { copySelected, paste, selectAllPlayers } from '../document/arrange';
import { select } from '../view/choice';
import { chooseTool, toolStore } from '../view/floor-tools';
import { panelStore } from '../view/panels';
import { redoSaying, undoSaying } from './history';
import { listenAction } from '../audio/actions';
import { actionOf, chordOf, type KeyAction } from '../view/keys';
import { focusImageLine, focusSelection, onImageLine } from './focus';
import { isTextField, isTypedIn, reachedByKeys, watchHands } from './hands';
import { stationPath, STATIONS } from '../stations';

export const openPalette = (): void =>
  panelStore.setState({ paletteOpen: true, paletteText: '', paletteTaken: false });

/** What is typed while the palette is still being opened goes into its field. */
function keepForPalette(event: KeyboardEvent): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey) return false;
  if (event.key === 'Enter') panelStore.setState({ paletteTaken: true });
  else if (event.key === 'Escape') panelStore.setState({ paletteOpen: false });
  else if (event.key === 'Backspace') {
    panelStore.setState(({ paletteText }) => ({ paletteText: paletteText.slice(0, -1) }));
  } else if (event.key.length !== 1) return false;
  else {
    panelStore.setState(({ paletteText }) => ({ paletteText: paletteText + event.key }));
  }
  event.preventDefault();
  return true;
}

/** Where Space and Enter do something of their own, once one is there by keys. */
const TAKES_SPACE =
  'button, a, summary, input, textarea, select, option, [role=button], [role=option], [role=slider], [role=tab], [role=menuitem], [contenteditable]';

/** @returns whether the key was taken */
function act(action: KeyAction, key: string, navigate: NavigateFunction): boolean {
  const { session } = sessionStore.getState();
  if (action === 'palette') openPalette();
  else if (action === 'undo') undoSaying();
  else if (action === 'redo') redoSaying();
  else if (action === 'copy') {
    if (String(getSelection()) !== '') return false;
    copySelected();
  } else if (action === 'paste') {
    paste();
    focusSelection();
  } else if (action === 'select all') selectAllPlayers();
  else if (!session) return false;
  else if (action === 'station') {
    const station = STATIONS[Number(key) - 1];
    if (!station) return false;
    void navigate(stationPath(session.id, station.path));
  } else if (action === 'add player') {
    addPlayer(session);
    focusSelection();
  } else if (action === 'remove') {
    removeSelected(session);
    focusSelection();
  } else if (action === 'choose nothing') {
    chooseTool('select');
    select(null);
  } else if (action === 'measure') {
    chooseTool(toolStore.getState().tool === 'measure' ? 'select' : 'measure');
  } else if (action === 'snap') toolStore.setState(({ snap }) => ({ snap: !snap }));
  else if (action === 'ensemble') toolStore.setState({ ensembleDialog: 'template' });
  else if (action === 'image line') focusImageLine();
  else return listenAction(action);
  return true;
}

/** Keys that lead away from what is typed, wherever one is. */
const ALWAYS: readonly KeyAction[] = ['palette', 'image line'];

/** Whether a key is the focused control's own and not the page's. */
function belongsTo(target: Element | null, action: KeyAction): boolean {
  if (ALWAYS.includes(action)) return false;
  const isUndo = action === 'undo' || action === 'redo';
  if (isTextField(target)) return !isUndo || isTypedIn(target);
  if (isUndo || !reachedByKeys()) return false;
  // Letters choose in a list, Space presses a button.
  return target?.closest(action === 'play' ? TAKES_SPACE : 'select') != null;
}

/** Keys that work on every station: undo, redo, palette, stations, add, remove. */
export function useShortcuts(navigate: NavigateFunction): void {
  // Before the page is seen: from then on keys are pressed.
  useLayoutEffect(() => {
    function onKey(event: KeyboardEvent) {
      const target = event.target instanceof Element ? event.target : null;
      if (document.querySelector('dialog[open]')) return;
      if (panelStore.getState().paletteOpen && keepForPalette(event)) return;
      const chord = chordOf(event);
      const action = event.altKey ? null : actionOf(chord, onImageLine(target));
      if (!action || belongsTo(target, action)) return;
      const handled = act(action, event.key, navigate);
      if (handled) event.preventDefault();
      if (handled && action === 'play')
        event.target?.addEventListener('keyup', once, { once: true });
    }
    // A button is pressed when Space comes up again.
    const once = (event: Event) => event.preventDefault();
    const unwatch = watchHands();
    addEventListener('keydown', onKey);
    return () => {
      unwatch();
      removeEventListener('keydown', onKey);
    };
  }, [navigate]);
}
