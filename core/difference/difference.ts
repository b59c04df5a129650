import type { MicArray, Session, Source } from '../session/schema';
import { isEqual, withSteps, type Path, type Step } from './patch';
import { changeText, fieldName, moveText } from './words';

/**
 * What is other in one plan than in another: by matters that one would do by hand one at a time, in words
 * and as steps. Journals, times of saving and the session's own id are no part of a plan.
 */

export interface Difference {
  /** what it is about: "Main pair", "4 players", "the hall" */
  subject: string;
  /** "Main pair: spacing 17.0 cm → 30.0 cm" */
  words: string;
  /** whether it can be heard */
  sounds: boolean;
  steps: readonly Step[];
}

interface Named {
  id: string;
  name?: string;
  title?: string;
}
type Fields = Readonly<Record<string, unknown>>;

/** Lists whose entries have ids, by where they stand. */
const LISTS: readonly { path: Path; many: string; one: string }[] = [
  { path: ['sources'], many: 'players', one: 'player' },
  { path: ['sections'], many: 'sections', one: 'section' },
  { path: ['arrays'], many: 'arrays', one: 'array' },
  { path: ['candidates'], many: 'candidates', one: 'candidate' },
  { path: ['venue', 'obstacles'], many: 'objects', one: 'object' },
  { path: ['venue', 'seats'], many: 'blocks of seats', one: 'block of seats' },
  { path: ['venue', 'areas'], many: 'curtains and people', one: 'curtain or people' },
  { path: ['venue', 'datumPoints'], many: 'tape points', one: 'tape point' },
  { path: ['kit', 'microphones'], many: 'microphones of the kit', one: 'microphone' },
  { path: ['kit', 'stands'], many: 'stands of the kit', one: 'stand' },
  { path: ['kit', 'bars'], many: 'bars of the kit', one: 'bar' },
];
const PARTS: readonly { name: string; subject: string }[] = [
  { name: 'settings', subject: 'Settings' },
  { name: 'brief', subject: 'The brief' },
  { name: 'venue', subject: 'The hall' },
  { name: 'kit', subject: 'The kit' },
  { name: 'rig', subject: 'The rig' },
];
/** What is no part of the plan; contents come and go with whatever names them. */
const OUTSIDE = new Set([
  'blobs',
  ...['id', 'createdAt', 'updatedAt', 'format', 'version'],
  ...['log', 'takes', 'marks', 'acknowledgements'],
]);

const SOURCE_SOUNDS = new Set([
  ...['kind', 'z', 'facingDeg', 'widthM', 'depthM', 'levelDb', 'q', 'lid', 'openPanels', 'felt'],
]);
const ARRAY_SOUNDS = new Set(['z', 'aimDeg', 'tiltDeg', 'technique', 'enabled', 'mix', 'missing']);
const VENUE_SOUNDS = new Set([
  ...['widthM', 'depthM', 'heightM', 'origin', 'temperatureC', 'rt60S', 'surfaces'],
]);
/** A gain of some strip is one matter with others of the same array, a name with its numbers. */
const GOES_WITH: Readonly<Record<string, string>> = { standard: 'technique', missing: 'technique' };

const at = (from: unknown, path: Path): unknown =>
  path.reduce<unknown>((value, name) => (value as Fields | undefined)?.[name], from);
const entriesAt = (session: Session, path: Path): readonly Named[] =>
  (at(session, path) as readonly Named[] | undefined) ?? [];
const nameOf = (entry: Named, one: string): string => entry.name || entry.title || one;

/** The fields in which two objects differ. */
function differing(before: object, after: object): string[] {
  const [one, other] = [before as Fields, after as Fields];
  return [...new Set([...Object.keys(one), ...Object.keys(other)])].filter(
    (key) => !isEqual(one[key], other[key]),
  );
}

const setStep = (path: Path, value: unknown): Step => ({ op: 'set', path, value });

/** Fields that are left are put in one by one. */
function fieldSteps(path: Path, after: object, keys: readonly string[]): Step[] {
  return keys.map((key) => setStep([...path, key], (after as Fields)[key]));
}

interface About {
  path: Path;
  subject: string;
  units: Session['settings']['units'];
  sounds: (field: string) => boolean;
}

/** Differences of one object, a field a matter; names of standards go with their numbers. */
function ofFields(before: object, after: object, about: About): Difference[] {
  const { path, subject, units, sounds } = about;
  const keys = differing(before, after);
  const leading = keys.filter((key) => !keys.includes(GOES_WITH[key] ?? ''));
  return leading.map((key) => {
    const own = [key, ...keys.filter((other) => GOES_WITH[other] === key)];
    const [was, is] = [(before as Fields)[key], (after as Fields)[key]];
    return {
      subject,
      words: `${subject}: ${changeText(key, was, is, units)}`,
      sounds: sounds(key),
      steps: fieldSteps(path, after, own),
    };
  });
}

const isPlace = (key: string): boolean => key === 'x' || key === 'y';

/** Where something went on the floor; null where it stayed. */
function moved(
  before: Source | MicArray,
  after: Source | MicArray,
  { path, subject, units, sounds }: About,
): (Difference & { by: string }) | null {
  const keys = differing(before, after).filter(isPlace);
  if (keys.length === 0) return null;
  const [dx, dy] = [after.x - before.x, after.y - before.y];
  return {
    subject,
    words: `${subject}: ${moveText(dx, dy, units)}`,
    sounds: sounds('z'),
    steps: fieldSteps(path, after, keys),
    by: `${dx.toFixed(3)} ${dy.toFixed(3)}`,
  };
}

const without = (entry: object, left: (key: string) => boolean): object =>
  Object.fromEntries(Object.entries(entry).filter(([key]) => !left(key)));

function ofArray(before: MicArray, after: MicArray, about: About): Difference[] {
  const { path, subject, units, sounds } = about;
  const found: Difference[] = [];
  const place = moved(before, after, about);
  if (place) found.push(place);
  const anew = before.technique.kind !== after.technique.kind;
  const inside = new Set(['x', 'y', 'mix', ...(anew ? [] : ['technique'])]);
  const rest = (array: MicArray): object => without(array, (key) => inside.has(key));
  found.push(...ofFields(rest(before), rest(after), about));
  const mixed = differing(before.mix, after.mix);
  if (!anew) {
    const deeper = ofFields(before.technique, after.technique, {
      ...about,
      path: [...path, 'technique'],
      sounds: () => sounds('technique'),
    });
    // The name that comes and goes with the numbers is put in with the first of them.
    const [first] = deeper;
    const named = found.findIndex(({ steps }) => {
      const field = steps[0]?.path[path.length] ?? '';
      return GOES_WITH[field] === 'technique';
    });
    if (first && named >= 0) {
      const [name] = found.splice(named, 1);
      deeper[0] = { ...first, steps: [...first.steps, ...(name?.steps ?? [])] };
    }
    found.push(...deeper);
  }
  for (const key of mixed) {
    const step = setStep([...path, 'mix', key], (after.mix as Fields)[key]);
    const turned = anew
      ? found.findIndex(({ steps }) => steps.some(({ path: to }) => to.at(-1) === 'technique'))
      : -1;
    const one = found[turned];
    // Strips of another technique belong to it.
    if (one && key === 'capsules') found[turned] = { ...one, steps: [...one.steps, step] };
    else {
      found.push({
        subject,
        words: `${subject}: ${key === 'capsules' ? 'pans, gains or delays of its strips changed' : changeText(key, (before.mix as Fields)[key], (after.mix as Fields)[key], units)}`,
        sounds: sounds('mix'),
        steps: [step],
      });
    }
  }
  return found;
}

/** Several players who were moved alike were moved in one go. */
function together(moves: readonly (Difference & { by: string })[]): Difference[] {
  const byMove = new Map<string, (Difference & { by: string })[]>();
  for (const one of moves) byMove.set(one.by, [...(byMove.get(one.by) ?? []), one]);
  return [...byMove.values()].map((group) => {
    const [first] = group;
    if (!first || group.length === 1) return first as Difference;
    const subject = `${group.length} players`;
    const names = group.map((one) => one.subject);
    const said =
      names.length <= 3 ? names.join(', ') : `${names.slice(0, 2).join(', ')} and others`;
    return {
      subject,
      words: first.words.replace(`${first.subject}:`, `${said}:`),
      sounds: true,
      steps: group.flatMap(({ steps }) => steps),
    };
  });
}

type List = (typeof LISTS)[number];

function entryDifferences(before: Session, after: Session, list: List): Difference[] {
  const { path, one } = list;
  const was = new Map(entriesAt(before, path).map((entry) => [entry.id, entry]));
  const { units } = after.settings;
  const moves: (Difference & { by: string })[] = [];
  const found = entriesAt(after, path).flatMap((entry): Difference[] => {
    const old = was.get(entry.id);
    if (!old || old === entry) return [];
    const isArray = path[0] === 'arrays';
    const isSource = path[0] === 'sources';
    const silent = isArray && !(old as MicArray).enabled && !(entry as MicArray).enabled;
    const sounding = isArray ? ARRAY_SOUNDS : isSource ? SOURCE_SOUNDS : new Set<string>();
    const about: About = {
      path: [...path, entry.id],
      subject: nameOf(entry, one),
      units,
      sounds: (field) => !silent && sounding.has(field),
    };
    if (isArray) return ofArray(old as MicArray, entry as MicArray, about);
    if (!isSource) return ofFields(old, entry, about);
    const move = moved(old as Source, entry as Source, about);
    if (move) moves.push(move);
    return ofFields(without(old, isPlace), without(entry, isPlace), about);
  });
  return [...together(moves), ...found];
}

/** What came, what went, and their order. */
function listDifferences(before: Session, after: Session, list: List): Difference[] {
  const { path, many, one } = list;
  const [old, now] = [entriesAt(before, path), entriesAt(after, path)];
  if (old === now) return [];
  const [was, is] = [new Set(old.map(({ id }) => id)), new Set(now.map(({ id }) => id))];
  const sounds = (entry: Named): boolean =>
    path[0] === 'sources' || (path[0] === 'arrays' && (entry as MicArray).enabled);
  const gone = old
    .filter(({ id }) => !is.has(id))
    .map((entry): Difference => ({
      subject: nameOf(entry, one),
      words: `${nameOf(entry, one)}: taken away`,
      sounds: sounds(entry),
      steps: [{ op: 'remove', path, id: entry.id }],
    }));
  const come = now.flatMap((entry, i): Difference[] =>
    was.has(entry.id)
      ? []
      : [
          {
            subject: nameOf(entry, one),
            words: `${nameOf(entry, one)}: added`,
            sounds: sounds(entry),
            steps: [{ op: 'add', path, value: entry, at: i }],
          },
        ],
  );
  const changed = entryDifferences(before, after, list);
  const ids = now.map(({ id }) => id);
  const kept = old.filter(({ id }) => is.has(id)).map(({ id }) => id);
  const inOrder = isEqual(
    ids.filter((id) => was.has(id)),
    kept,
  );
  const order: Difference[] = inOrder
    ? []
    : [
        {
          subject: many,
          words: `the order of the ${many} changed`,
          sounds: false,
          steps: [{ op: 'order', path, ids }],
        },
      ];
  return [...gone, ...come, ...changed, ...order];
}

/**
 * Everything in which the second plan is other than the first; all steps together lead from one to the
 * other. What cannot be heard stands among them and says so.
 */
export function differences(before: Session, after: Session): Difference[] {
  const found = LISTS.flatMap((list) => listDifferences(before, after, list));
  const { units } = after.settings;
  for (const { name, subject } of PARTS) {
    const inner = new Set(
      LISTS.filter(({ path }) => path[0] === name).map(({ path }) => path[1] ?? ''),
    );
    const part = (session: Session): object =>
      without(at(session, [name]) as object, (key) => inner.has(key));
    found.push(
      ...ofFields(part(before), part(after), {
        path: [name],
        subject,
        units,
        sounds: (field) => name === 'venue' && VENUE_SOUNDS.has(field),
      }),
    );
  }
  const own = (session: Session): object =>
    without(
      session,
      (key) =>
        OUTSIDE.has(key) ||
        PARTS.some((part) => part.name === key) ||
        LISTS.some(({ path }) => path[0] === key),
    );
  const top = ofFields(own(before), own(after), {
    path: [],
    subject: 'The session',
    units,
    sounds: () => false,
  });
  return [...found, ...top];
}

/** A plan with differences put in; every other part of it stays the object it was. */
export const withDifferences = <S extends Session>(session: S, put: readonly Difference[]): S => {
  const steps = put.flatMap((one) => one.steps);
  // Nothing is changed in what is not there yet, and orders come last.
  const rank = { remove: 0, add: 1, set: 2, order: 3 } as const;
  return withSteps(
    session,
    [...steps].sort((a, b) => rank[a.op] - rank[b.op]),
  );
};

export { fieldName };
