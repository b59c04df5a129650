import { newArray, newSource, type MicArray, type Session, type Source } from '../../core/session';
import { newId } from './library';
import { edit, type Recipe } from './session-store';
import { notify, select, uiStore } from './ui-store';
import { undo } from './session-store';

/** The edits that several stations share. Recipes can run inside a gesture as well. */

export const changeSource =
  (id: string, change: Partial<Source>): Recipe =>
  (session) => {
    const source = session.sources.find((entry) => entry.id === id);
    if (source) Object.assign(source, change);
  };

export const changeArray =
  (id: string, change: Partial<MicArray>): Recipe =>
  (session) => {
    const array = session.arrays.find((entry) => entry.id === id);
    if (array) Object.assign(array, change);
  };

const LIMIT_M = 200;
const MILLIMETRES = 1000;

/** A position inside the session's limits, to the millimetre. */
export function settle(metres: number): number {
  const inside = Math.min(LIMIT_M, Math.max(-LIMIT_M, metres));
  const rounded = Math.round(inside * MILLIMETRES) / MILLIMETRES;
  return rounded === 0 ? 0 : rounded;
}

function freeSpot(session: Session): { x: number; y: number } {
  const taken = ({ x, y }: { x: number; y: number }) =>
    session.sources.some((source) => Math.hypot(source.x - x, source.y - y) < 0.6);
  for (let row = 0; row < 20; row++) {
    for (let column = 0; column < 9; column++) {
      const step = column % 2 === 0 ? column / 2 : -(column + 1) / 2;
      const spot = { x: step * 0.9, y: 2.5 + row * 0.9 };
      if (!taken(spot)) return spot;
    }
  }
  return { x: 0, y: 2.5 };
}

/** Adds a player, where asked or on the next free spot, and selects it. */
export function addPlayer(session: Session, at?: { x: number; y: number }): void {
  const id = newId();
  const spot = at ?? freeSpot(session);
  const number = session.sources.length + 1;
  edit((draft) => {
    draft.sources.push(
      newSource({ id, name: `Player ${number}`, x: settle(spot.x), y: settle(spot.y) }),
    );
  });
  select({ kind: 'source', id });
}

/** Adds a main pair in front of the datum and selects it. */
export function addMainPair(): void {
  const id = newId();
  edit((draft) => {
    draft.arrays.push(newArray({ id, name: 'Main pair', role: 'main', y: -0.5, z: 2.7 }));
  });
  select({ kind: 'array', id });
}

/** Removes what is selected; the notice offers to take it back. */
export function removeSelected(session: Session): void {
  const { selection } = uiStore.getState();
  if (!selection) return;
  const list = selection.kind === 'source' ? session.sources : session.arrays;
  const entry = list.find(({ id }) => id === selection.id);
  if (!entry) return;
  edit((draft) => {
    if (selection.kind === 'source') {
      draft.sources = draft.sources.filter(({ id }) => id !== selection.id);
    } else draft.arrays = draft.arrays.filter(({ id }) => id !== selection.id);
  });
  select(null);
  notify(`${entry.name} removed.`, { label: 'Undo', run: undo });
}
