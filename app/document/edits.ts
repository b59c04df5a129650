import { current } from 'immer';
import { broughtIn, outsideHall } from '../../core/analysis/room';
import { onSideOf, standardOf, stripsOf, type ChannelStrip } from '../../core/arrays';
import { rearranged, type Ensemble } from '../../core/ensembles';
import { arraysOnlyFor } from '../../core/prepare/for-whom';
import {
  enabledArrays,
  newArray,
  newSource,
  type AsBuilt,
  type MicArray,
  type Section,
  type Session,
  type SessionTechnique,
  type Source,
} from '../../core/session';
import { kitSet, spotFor, withEnsemble } from '../../core/planning';
import { freeSpot } from '../../core/ensembles/free-spot';
import { freeName, nameWith } from '../../core/session/names';
import { speedOfSound } from '../../core/units';
import { newId } from './new-id';
import { edit, sessionStore, undo, type Recipe } from './session-store';
import { removeThings, settle, thingsOf } from './things';
import { choiceStore, select, selectMany } from '../view/choice';
import { notify } from '../view/notices';

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

type Kind = SessionTechnique['kind'];
type TechniqueFields<K extends Kind> = Partial<
  Omit<Extract<SessionTechnique, { kind: K }>, 'kind'>
>;

/** Fields of a technique, where the array still has one of that kind. */
export const changeTechnique =
  <K extends Kind>(id: string, kind: K, change: TechniqueFields<K>): Recipe =>
  (session) => {
    const array = session.arrays.find((entry) => entry.id === id);
    if (array?.technique.kind !== kind) return;
    const before = standardOf(current(array.technique));
    Object.assign(array.technique, change);
    // A pair keeps the name that it had by its numbers, until it has those of another.
    const now = standardOf(current(array.technique)) ?? before;
    if (now) array.standard = now.name;
  };

/** A number of a pair; emptied it is not known, and nothing is reckoned with what stood there. */
export const pairNumber =
  (id: string, name: MicArray['missing'][number], value: number | null): Recipe =>
  (session) => {
    const array = session.arrays.find((entry) => entry.id === id);
    if (array?.technique.kind !== 'pair') return;
    if (array.missing.includes(name) !== (value === null)) {
      const others = array.missing.filter((known) => known !== name);
      array.missing = value === null ? [...others, name] : others;
    }
    if (value !== null) changeTechnique(id, 'pair', { [name]: value })(session);
  };

export const changeMix =
  (id: string, change: Partial<MicArray['mix']>): Recipe =>
  (session) => {
    const array = session.arrays.find((entry) => entry.id === id);
    if (array) Object.assign(array.mix, change);
  };

/** One strip of an array; strips that the technique's usual ones served so far are written out. */
export const changeStrip =
  (arrayId: string, index: number, change: Partial<ChannelStrip>): Recipe =>
  (session) => {
    const array = session.arrays.find(({ id }) => id === arrayId);
    if (!array) return;
    const { capsules } = array.mix;
    const usual = stripsOf(current(array.technique), []);
    capsules.push(...usual.slice(capsules.length).map((strip) => ({ ...strip })));
    Object.assign(capsules[index] ?? {}, change);
  };

/** Puts an array up in another form: the fields named, and strips for its capsules. */
export const rebuilt =
  (id: string, change: Partial<MicArray>, capsules: MicArray['mix']['capsules']): Recipe =>
  (session) => {
    changeArray(id, change)(session);
    changeMix(id, { capsules })(session);
    const array = session.arrays.find((entry) => entry.id === id);
    if (!array) return;
    const { technique, mix } = onSideOf(session.settings.perspective, current(array));
    Object.assign(array, { technique, mix });
  };

export const changeEquipment =
  (id: string, change: Partial<MicArray['equipment']>): Recipe =>
  (session) => {
    const array = session.arrays.find((entry) => entry.id === id);
    if (array) Object.assign(array.equipment, change);
  };

/** An edit that says what it did and offers to take it back; nothing is said if it was refused. */
export function editSaying(text: string, recipe: Recipe): void {
  if (edit(recipe)) notify(text, { label: 'Undo', run: () => void undo() });
}

/** Notes figures As built, in the place of what was noted of them before. */
export const noteBuilt = (built: readonly AsBuilt[], text: string): void =>
  editSaying(text, (draft) => {
    const others = draft.rig.asBuilt.filter(
      ({ arrayId, field }) => !built.some((one) => one.arrayId === arrayId && one.field === field),
    );
    draft.rig.asBuilt = [...others, ...built];
  });

/**
 * An edit that puts something else in an array's place: it says what was there, and offers to keep
 * that as a candidate.
 * @param was what it was, in words
 */
export function editReplacing(array: MicArray, was: string, text: string, recipe: Recipe): void {
  const { session } = sessionStore.getState();
  const before = session?.arrays.find(({ id }) => id === array.id);
  if (!edit(recipe) || !before || !session) return;
  notify(`${text} It was ${was}.`, {
    label: 'Keep what it was as a candidate',
    run: () => {
      keepCandidate(before);
      notify(`${before.name}, ${was}, stands among the candidates.`);
    },
  });
}

const countOf = (list: readonly { name: string }[], what: string): string[] => {
  const [one] = list;
  if (!one) return [];
  return [list.length === 1 ? one.name : `${list.length} ${what}`];
};

/** Everybody and everything in the hall again, 0.3 m clear of its walls. */
const bringInside: Recipe = (draft) => {
  for (const thing of [...draft.sources, ...draft.arrays])
    Object.assign(thing, broughtIn(draft, thing));
};

/** A change of the hall itself: who stands outside of it then is said at once, and can be brought in. */
export function editHall(recipe: Recipe): void {
  const before = sessionStore.getState().session;
  if (!edit(recipe) || !before) return;
  const { session } = sessionStore.getState();
  if (!session) return;
  const [was, is] = [outsideHall(before), outsideHall(session)];
  const more = is.sources.length + is.arrays.length - was.sources.length - was.arrays.length;
  if (more <= 0) return;
  const who = [...countOf(is.sources, 'players'), ...countOf(is.arrays, 'arrays')];
  const several = is.sources.length + is.arrays.length > 1;
  notify(
    `${who.join(' and ')} ${several ? 'are' : 'is'} outside of the hall now.`,
    { label: several ? 'Bring them inside' : 'Bring it inside', run: () => void edit(bringInside) },
    'outside',
  );
}

/** Something new, inside the hall where that is known. */
const settledIn = <T extends { x: number; y: number; z: number }>(
  session: Pick<Session, 'venue'>,
  entry: T,
): T => ({ ...entry, ...broughtIn(session, entry) });

/** A new array: inside the hall, and with its left and right on the session's side. */
const readyIn = (session: Pick<Session, 'venue' | 'settings'>, array: MicArray): MicArray =>
  onSideOf(session.settings.perspective, settledIn(session, array));

/** Adds a player, where asked or on the next free spot, and selects it. */
export function addPlayer(session: Session, at?: { x: number; y: number }): void {
  const id = newId();
  const spot = at ?? freeSpot(session.sources);
  const number = session.sources.length + 1;
  const done = edit((draft) => {
    draft.sources.push(
      settledIn(
        draft,
        newSource({ id, name: `Player ${number}`, x: settle(spot.x), y: settle(spot.y) }),
      ),
    );
  });
  if (done) select({ kind: 'source', id });
}

/** Adds a main pair in front of the datum and selects it. */
export function addMainPair(): void {
  const id = newId();
  const done = edit((draft) => {
    draft.arrays.push(
      readyIn(draft, newArray({ id, name: 'Main pair', role: 'main', y: -0.5, z: 2.7 })),
    );
  });
  if (done) select({ kind: 'array', id });
}

/** Removes what is selected; the notice offers to take it back. */
export function removeSelected(session: Session): void {
  const things = thingsOf(session, choiceStore.getState().selected);
  const [first] = things;
  if (!first) return;
  edit((draft) => removeThings(draft, things));
  select(null);
  const what = things.length === 1 ? first.name : `${things.length} things`;
  notify(`${what} removed.`, { label: 'Undo', run: () => void undo() });
}

/** Another technique for an array; strips belong to the capsules of one kind and begin anew. */
export const withTechnique =
  (array: MicArray, technique: SessionTechnique): Recipe =>
  (draft) => {
    const target = draft.arrays.find(({ id }) => id === array.id);
    if (!target) return;
    const stays = technique.kind === target.technique.kind && technique.kind !== 'custom';
    target.technique = technique;
    target.missing = [];
    target.standard = standardOf(technique)?.name ?? '';
    if (stays) return;
    target.mix.capsules = [];
    const sided = onSideOf(draft.settings.perspective, current(target));
    Object.assign(target, { technique: sided.technique, mix: sided.mix });
  };

export const setTechnique = (array: MicArray, technique: SessionTechnique): boolean =>
  edit(withTechnique(array, technique));

/** Keeps an array as it is now, under its name, beside the one in use; gives its id. */
export function keepCandidate(array: MicArray): string {
  const id = newId();
  edit((draft) => {
    const name = freeName(array.name, new Set(draft.candidates.map((kept) => kept.name)));
    draft.candidates.push({ id, name, array: structuredClone(array), setUp: [] });
  });
  return id;
}

/**
 * Keeps all arrays as they are now, beside those in use; gives its id.
 * @param leading the one whose figures stand for it
 */
export function keepSetUp(leading: MicArray): string {
  const id = newId();
  edit((draft) => {
    const name = freeName('Set-up', new Set(draft.candidates.map((kept) => kept.name)));
    const setUp = structuredClone(current(draft).arrays);
    draft.candidates.push({ id, name, array: structuredClone(leading), setUp });
  });
  return id;
}

/** Puts a whole set-up that was kept in the place of all arrays. */
export function adoptSetUp(setUp: readonly MicArray[], name: string): void {
  editSaying(`${name} adopted: all arrays are those of it.`, (draft) => {
    draft.arrays = structuredClone([...setUp]);
  });
}

export const renameCandidate =
  (id: string, name: string): Recipe =>
  (draft) => {
    const candidate = draft.candidates.find((one) => one.id === id);
    if (candidate) candidate.name = name;
  };

/**
 * Puts what was kept, or what is in use elsewhere, in the place of an array: all of it, with its name,
 * role, strips and the surface it was set out from.
 */
export function adoptArray(id: string, kept: MicArray, name: string): void {
  editSaying(`${name} adopted.`, (draft) => {
    const target = draft.arrays.find((array) => array.id === id);
    if (!target) return;
    const taken = new Set(draft.arrays.flatMap((one) => (one.id === id ? [] : [one.name])));
    Object.assign(target, structuredClone(kept), {
      id,
      enabled: true,
      name: freeName(kept.name, taken),
    });
  });
}

/** Adds an array that is made for one player, named after it, and selects it. */
export function addReadyArray(
  make: (id: string, name: string) => MicArray,
  player: string,
  what: string,
): void {
  const id = newId();
  const done = edit((draft) => {
    const names = new Set(draft.arrays.map(({ name }) => name));
    const base = nameWith(player, ` ${what}`);
    draft.arrays.push(readyIn(draft, make(id, freeName(base, names))));
  });
  if (done) select({ kind: 'array', id });
}

/** Puts arrays up that are made for one player, under names that are free; selects the first. */
function putUpFor(make: (session: Session) => readonly MicArray[]): void {
  const { session } = sessionStore.getState();
  if (!session) return;
  const made = make(session);
  const done = edit((draft) => {
    const names = new Set(draft.arrays.map(({ name }) => name));
    for (const array of made) {
      const name = freeName(array.name, names);
      names.add(name);
      draft.arrays.push(readyIn(draft, { ...array, name }));
    }
  });
  const [first] = made;
  if (done && first) select({ kind: 'array', id: first.id });
}

/** A spot for a player: placed, aimed, panned and delayed with the main array's image. */
export const addSpotFor = (source: Source): void =>
  putUpFor((session) => [spotFor(session, source, newId(), nameWith('Spot', ` ${source.name}`))]);

/**
 * The customary microphones for a kit, each for it. What stands for it already stays and is heard
 * with them: that is said, and it can be kept as a candidate instead.
 */
export function addKitSet(source: Source): void {
  const { session } = sessionStore.getState();
  if (!session) return;
  const { sources, venue } = session;
  const speed = speedOfSound(venue.temperatureC);
  const beside = arraysOnlyFor(source, enabledArrays(session), sources, speed);
  putUpFor((now) => kitSet(now, source, newId));
  const names = beside.map(({ name }) => name).join(', ');
  if (beside.length === 0 || sessionStore.getState().session === session) return;
  const [stand, keep] = beside.length === 1 ? ['stands', 'it'] : ['stand', 'them'];
  notify(`${names} ${stand} for ${source.name} as well, heard beside the new ones.`, {
    label: `Keep ${keep} as ${beside.length === 1 ? 'a candidate' : 'candidates'} only`,
    run: () => keepInstead(beside),
  });
}

/** Arrays are taken down, and kept as candidates. */
function keepInstead(arrays: readonly MicArray[]): void {
  const ids = new Set(arrays.map(({ id }) => id));
  editSaying(
    `${arrays.map(({ name }) => name).join(', ')}: kept among the candidates.`,
    (draft) => {
      const names = new Set(draft.candidates.map((kept) => kept.name));
      for (const array of draft.arrays.filter(({ id }) => ids.has(id))) {
        const name = freeName(array.name, names);
        names.add(name);
        const kept = structuredClone(current(array));
        draft.candidates.push({ id: newId(), name, array: kept, setUp: [] });
      }
      draft.arrays = draft.arrays.filter(({ id }) => !ids.has(id));
    },
  );
}

/** Adds an array of a role beside what is there, and selects it. */
export function addArray(change: Partial<MicArray> & { name: string }): void {
  const id = newId();
  const done = edit((draft) => {
    const names = new Set(draft.arrays.map(({ name }) => name));
    draft.arrays.push(
      readyIn(draft, newArray({ ...change, id, name: freeName(change.name, names) })),
    );
  });
  if (done) select({ kind: 'array', id });
}

/**
 * Puts players, sections and microphones of a template or a generator into the session.
 * @returns whether they fit into it
 */
export function addEnsemble(ensemble: Ensemble, withArrays: boolean): boolean {
  const done = edit((draft) => {
    const { sources, sections, arrays, venue } = withEnsemble(current(draft), ensemble, withArrays);
    Object.assign(draft, { sources, sections, arrays, venue });
  });
  if (done) selectMany(ensemble.sources.map(({ id }) => ({ kind: 'source' as const, id })));
  return done;
}

/** A section's new name goes with its players, and with the arrays that are for it. */
function renameGroup(draft: Session, id: string, before: string, name: string): void {
  for (const source of draft.sources) {
    if (source.sectionId === id && source.group === before) source.group = name;
  }
  if (draft.sources.some(({ group }) => group === before)) return;
  for (const { for: whom } of draft.arrays) {
    if (whom?.kind !== 'some') continue;
    whom.groups = whom.groups.map((group) => (group === before ? name : group));
  }
}

/** Changes a section's figures and seats its players anew; names and settings stay. */
export function changeSection(id: string, change: Partial<Section>): void {
  edit((draft) => {
    const section = draft.sections.find((entry) => entry.id === id);
    if (!section) return;
    const { name: before } = section;
    Object.assign(section, change);
    if (section.name !== before) renameGroup(draft, id, before, section.name);
    const members = draft.sources.filter(({ sectionId }) => sectionId === id);
    const seated = rearranged(section, members, newId);
    const kept = new Set(seated.map((source) => source.id));
    const bySeat = new Map(seated.map((source) => [source.id, source]));
    draft.sources = draft.sources.flatMap((source) => {
      if (source.sectionId !== id) return [source];
      return kept.has(source.id) ? [bySeat.get(source.id) ?? source] : [];
    });
    const known = new Set(members.map((source) => source.id));
    draft.sources.push(...seated.filter((source) => !known.has(source.id)));
  });
}
