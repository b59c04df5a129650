import { sum } from 'd3-array';
import type { Draft } from 'immer';
import { createStore } from 'zustand/vanilla';
import { facingTo } from '../../core/ensembles';
import { secondOfPair, underneath, type Head } from '../../core/planning';
import { freeName, type MicArray, type Session, type Source } from '../../core/session';
import { wrapDeg } from '../../core/units';
import { newId } from './new-id';
import { edit, sessionStore } from './session-store';
import { placeThing, thingsOf, type Thing } from './things';
import { type Selection, choiceStore, selectMany } from '../view/choice';
import { notify } from '../view/notices';

/** What can be done with several things at once. Each is one step that can be undone. */

function chosen(): { session: Session; things: Thing[] } | null {
  const { session } = sessionStore.getState();
  if (!session) return null;
  return { session, things: thingsOf(session, choiceStore.getState().selected) };
}

const mean = (values: readonly number[]): number => sum(values) / Math.max(1, values.length);

/** All on one line: the mean of where they are. */
export function align(axis: 'x' | 'y' | 'z'): void {
  const now = chosen();
  const known = now?.things.filter((thing) => thing[axis] !== null) ?? [];
  if (known.length < 2) return;
  const to = mean(known.map((thing) => thing[axis] ?? 0));
  edit((draft) => known.forEach((thing) => placeThing(draft, thing, { [axis]: to })));
}

/** Every chosen player turns to a place, each where he sits. */
export function turnTo(at: { x: number; y: number }): void {
  const ids = new Set((chosen()?.things ?? []).map(({ id }) => id));
  edit((draft) => {
    for (const source of draft.sources) {
      if (ids.has(source.id)) source.facingDeg = facingTo(source, at);
    }
  });
}

/** Even steps between the outermost two, along the axis on which they are farther apart. */
export function spread(): void {
  const things = chosen()?.things ?? [];
  if (things.length < 3) return;
  const range = (axis: 'x' | 'y') =>
    Math.max(...things.map((t) => t[axis])) - Math.min(...things.map((t) => t[axis]));
  const along = range('x') >= range('y') ? 'x' : 'y';
  const sorted = [...things].sort((a, b) => a[along] - b[along]);
  const [first, last] = [sorted[0], sorted[sorted.length - 1]];
  if (!first || !last) return;
  edit((draft) =>
    sorted.forEach((thing, i) => {
      const fraction = i / (sorted.length - 1);
      placeThing(draft, thing, {
        x: first.x + (last.x - first.x) * fraction,
        y: first.y + (last.y - first.y) * fraction,
      });
    }),
  );
}

const mirroredFacing = (deg: number): number => wrapDeg(-deg);

function mirrorSource(source: Draft<Source>): void {
  source.x = -source.x || 0;
  source.facingDeg = mirroredFacing(source.facingDeg);
}

function mirrorArray(array: Draft<MicArray>): void {
  array.x = -array.x || 0;
  array.aimDeg = mirroredFacing(array.aimDeg) || 0;
  if (array.technique.kind !== 'custom') return;
  for (const capsule of array.technique.capsules) {
    capsule.dx = -capsule.dx || 0;
    capsule.azimuthDeg = mirroredFacing(capsule.azimuthDeg) || 0;
  }
}

/** Left for right about the centre line, where they are. */
export function mirror(): void {
  const things = chosen()?.things ?? [];
  if (things.length === 0) return;
  edit((draft) => {
    for (const thing of things) {
      const source =
        thing.kind === 'source' && draft.sources.find((entry) => entry.id === thing.id);
      const array = thing.kind === 'array' && draft.arrays.find((entry) => entry.id === thing.id);
      if (source) mirrorSource(source);
      else if (array) mirrorArray(array);
      else placeThing(draft, thing, { x: -thing.x });
    }
  });
}

/** What was copied last, whole entries; kept while the page is open. */
interface Clipboard {
  sources: Source[];
  arrays: MicArray[];
}

const clipboardStore = createStore<Clipboard>(() => ({ sources: [], arrays: [] }));

function selectedEntries(): Clipboard {
  const now = chosen();
  const ids = (kind: Selection['kind']) =>
    new Set(now?.things.filter((thing) => thing.kind === kind).map(({ id }) => id));
  const [sources, arrays] = [ids('source'), ids('array')];
  return {
    sources: now?.session.sources.filter(({ id }) => sources.has(id)) ?? [],
    arrays: now?.session.arrays.filter(({ id }) => arrays.has(id)) ?? [],
  };
}

export function copySelected(): void {
  const copied = selectedEntries();
  const count = copied.sources.length + copied.arrays.length;
  if (count === 0) return;
  clipboardStore.setState(structuredClone(copied));
  notify(`${count === 1 ? 'One' : count} copied; Ctrl V puts a copy down.`);
}

const PASTE_STEP_M = 0.5;

function insert(copies: Clipboard): void {
  const selected: Selection[] = [];
  const done = edit((draft) => {
    const names = new Set([...draft.sources, ...draft.arrays].map(({ name }) => name));
    const named = <T extends { id: string; name: string }>(entry: T): T => {
      const name = freeName(entry.name, names);
      names.add(name);
      return { ...entry, id: newId(), name };
    };
    for (const source of copies.sources) {
      const made = named({ ...source, sectionId: '' });
      draft.sources.push(made);
      selected.push({ kind: 'source', id: made.id });
    }
    for (const array of copies.arrays) {
      const made = named(array);
      draft.arrays.push(made);
      selected.push({ kind: 'array', id: made.id });
    }
  });
  if (done && selected.length > 0) selectMany(selected);
}

/** Puts down what was copied, half a metre aside of the original. */
export function paste(): void {
  const aside = <T extends { x: number }>(entry: T): T => ({ ...entry, x: entry.x + PASTE_STEP_M });
  const { sources, arrays } = structuredClone(clipboardStore.getState());
  insert({ sources: sources.map(aside), arrays: arrays.map(aside) });
}

/** A second set on the other side of the centre line. */
export function mirroredCopy(): void {
  const copies = structuredClone(selectedEntries());
  copies.sources.forEach(mirrorSource);
  copies.arrays.forEach(mirrorArray);
  insert(copies);
}

/** The second of a pair to a microphone, where it is wanted: on the other side of its player. */
export const addSecond = (array: MicArray): void =>
  insertBeside(array, (session) => secondOfPair(session, array), array.name);

/** The bottom microphone to one over a drum: under its head, polarity inverted, in one step. */
export const addUnderneath = (array: MicArray, head: Head): void =>
  insertBeside(array, () => underneath(array, head), `${array.name}, underneath`);

function insertBeside(
  array: MicArray,
  make: (session: Session) => Partial<MicArray>,
  name: string,
): void {
  const { session } = sessionStore.getState();
  if (!session) return;
  insert({ sources: [], arrays: [{ ...structuredClone(array), ...make(session), name }] });
}

export function selectAllPlayers(): void {
  const { session } = sessionStore.getState();
  if (session) selectMany(session.sources.map(({ id }) => ({ kind: 'source' as const, id })));
}
