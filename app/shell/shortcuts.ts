import { useEffect } from 'react';
import type { NavigateFunction } from 'react-router';
import { addPlayer, removeSelected } from '../document/edits';
import { sessionStore } from '../document/session-store';
import { copySelected, paste, selectAllPlayers } from '../document/arrange';
import { select } from '../view/choice';
import { chooseTool, toolStore } from '../view/floor-tools';
import { panelStore } from '../view/panels';
import { redoSaying, undoSaying } from './history';
import { focusSelection } from './focus';
import { stationPath, STATIONS } from './stations';

const TYPING = 'input, textarea, select, [contenteditable]';

function withModifier(event: KeyboardEvent, typing: boolean): boolean {
  const key = event.key.toLowerCase();
  if (key === 'k') {
    openPalette();
  } else if (key === 'p' || typing) return false;
  else if (key === 'z') (event.shiftKey ? redoSaying : undoSaying)();
  else if (key === 'y') redoSaying();
  else if (key === 'c' && String(getSelection()) === '') copySelected();
  else if (key === 'v') {
    paste();
    focusSelection();
  } else if (key === 'a') selectAllPlayers();
  else return false;
  return true;
}

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

function single(event: KeyboardEvent, navigate: NavigateFunction): boolean {
  const { session } = sessionStore.getState();
  if (!session) return false;
  const station = STATIONS[Number(event.key) - 1];
  if (station) void navigate(stationPath(session.id, station.path));
  else if (event.key.toLowerCase() === 'a') {
    addPlayer(session);
    focusSelection();
  } else if (event.key === 'Delete' || event.key === 'Backspace') {
    removeSelected(session);
    focusSelection();
  } else if (event.key === 'Escape') {
    chooseTool('select');
    select(null);
  } else if (event.key.toLowerCase() === 'm') {
    chooseTool(toolStore.getState().tool === 'measure' ? 'select' : 'measure');
  } else if (event.key.toLowerCase() === 's') toolStore.setState(({ snap }) => ({ snap: !snap }));
  else if (event.key.toLowerCase() === 'e') toolStore.setState({ ensembleDialog: 'template' });
  else return false;
  return true;
}

/** Keys that work on every station: undo, redo, palette, stations, add, remove. */
export function useShortcuts(navigate: NavigateFunction): void {
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      const target = event.target instanceof Element ? event.target : null;
      const typing = target?.closest(TYPING) !== null && target !== null;
      if (document.querySelector('dialog[open]')) return;
      if (panelStore.getState().paletteOpen && keepForPalette(event)) return;
      const handled =
        event.ctrlKey || event.metaKey
          ? withModifier(event, typing)
          : !typing && !event.altKey && single(event, navigate);
      if (handled) event.preventDefault();
    }
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [navigate]);
}
