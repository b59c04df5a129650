import type { StationPath } from '../stations';
import type { Session } from '../../core/session';
import type { Selection } from '../view/choice';

/** Where a change can be looked at. */
export interface Place {
  station: StationPath;
  page?: string;
  selection?: Selection;
}

/** What a change did, in a few words that can follow "Undone: ", and where. */
export interface ChangeWords {
  what: string;
  place: Place;
}

interface Named {
  id: string;
  name: string;
}

interface ListWords {
  of: (session: Session) => readonly Named[];
  /** three of them: "3 players" */
  many: string;
  place: (id: string) => Place;
}

const onFloor =
  (kind: Selection['kind']) =>
  (id: string): Place => ({
    station: 'floor',
    selection: { kind, id },
  });
const inBrief = (page: string) => (): Place => ({ station: 'brief', page });

const LISTS: readonly ListWords[] = [
  { of: (s) => s.sources, many: 'players', place: onFloor('source') },
  { of: (s) => s.arrays, many: 'arrays', place: onFloor('array') },
  { of: (s) => s.sections, many: 'sections', place: () => ({ station: 'floor' }) },
  {
    of: (s) => s.candidates,
    many: 'candidates',
    place: () => ({ station: 'array', page: 'compare' }),
  },
  { of: (s) => s.venue.obstacles, many: 'objects', place: onFloor('obstacle') },
  { of: (s) => s.venue.seats, many: 'blocks of seats', place: onFloor('seats') },
  { of: (s) => s.venue.datumPoints, many: 'tape points', place: onFloor('datum') },
  { of: (s) => s.kit.microphones, many: 'microphones of the kit', place: inBrief('kit') },
  { of: (s) => s.kit.stands, many: 'stands of the kit', place: inBrief('kit') },
  { of: (s) => s.kit.bars, many: 'bars of the kit', place: inBrief('kit') },
];

const MOVES = new Set(['x', 'y', 'z']);
const WORDS: Readonly<Record<string, string>> = {
  name: 'name',
  kind: 'instrument',
  group: 'section',
  facingDeg: 'facing',
  widthM: 'width',
  levelDb: 'level',
  q: 'directivity',
  lid: 'lid',
  openPanels: 'panels',
  felt: 'felt',
  measuredFrom: 'surface measured from',
  ends: 'ends',
  constraints: 'wishes',
  coverage: 'mono or stereo',
  role: 'role',
  enabled: 'on or off',
  aimDeg: 'aim',
  tiltDeg: 'tilt',
  technique: 'technique',
  standard: 'named standard',
  mix: 'mix',
  equipment: 'microphones',
  spacingM: 'spacing',
  missing: 'what is not known',
  hung: 'hung or on stands',
  density: 'density of the music',
  echoFromMs: 'echo from',
  includedAngleDeg: 'angle',
  pattern: 'pattern',
  midPattern: 'middle pattern',
  sideGainDb: 'side level',
  capsules: 'capsules',
  faderDb: 'fader',
  mute: 'mute',
  units: 'units',
  model: 'model that leads',
  perspective: 'perspective',
  sampleRateHz: 'sample rate',
  ownLengths: 'own units',
  preferencesOff: 'preferences switched off',
  date: 'date',
  programme: 'programme',
  notes: 'notes',
  intent: 'the picture wanted',
  channelLimit: 'channel limit',
  people: 'people',
  storage: 'storage',
  timetable: 'the day',
  depthM: 'depth',
  heightM: 'height',
  origin: 'place of the datum',
  stage: 'stage',
  temperatureC: 'temperature',
  rt60S: 'reverberation time',
  surfaces: 'surfaces',
  shape: 'walls of the hall',
  ceiling: 'ceiling',
  areas: 'curtains and people',
  underlay: 'picture under the plan',
  headroomDb: 'headroom',
  peakAboveDb: 'peaks',
  clearanceM: 'clearance',
  packed: 'pack list',
  asBuilt: 'as built',
  claps: 'places for claps',
  photographs: 'photographs of bars',
};

type Fields = Readonly<Record<string, unknown>>;

/** The keys under which two objects differ. */
function differing(a: object, b: object): string[] {
  const [one, other] = [a as Fields, b as Fields];
  return [...new Set([...Object.keys(one), ...Object.keys(other)])].filter(
    (key) => one[key] !== other[key],
  );
}

/** "spacing, angle": one level deeper where a single object says it better. */
function fieldWords(before: object, after: object): string {
  const all = differing(before, after);
  // The name of a standard comes and goes with its numbers.
  // So does what was not known.
  const keys = all.length > 1 ? all.filter((key) => key !== 'standard' && key !== 'missing') : all;
  const [only] = keys;
  if (keys.length === 1 && (only === 'technique' || only === 'mix')) {
    const deeper = differing((before as Fields)[only] as object, (after as Fields)[only] as object);
    if (!deeper.includes('kind')) return deeper.map((key) => WORDS[key] ?? key).join(', ');
  }
  return keys.map((key) => WORDS[key] ?? key).join(', ');
}

const named = (entries: readonly Named[], many: string): string =>
  entries.length === 1 && entries[0] ? entries[0].name : `${entries.length} ${many}`;

function listWords(words: ListWords, before: Session, after: Session): ChangeWords | null {
  const [old, now] = [words.of(before), words.of(after)];
  if (old === now) return null;
  const was = new Map(old.map((entry) => [entry.id, entry]));
  const is = new Map(now.map((entry) => [entry.id, entry]));
  const added = now.filter(({ id }) => !was.has(id));
  const removed = old.filter(({ id }) => !is.has(id));
  const changed = now.filter((entry) => was.has(entry.id) && was.get(entry.id) !== entry);
  const at = (entries: readonly Named[]): Place => words.place(entries[0]?.id ?? '');
  const { many } = words;
  if (added.length > 0 && removed.length > 0) {
    return { what: `${named(added, many)} for ${named(removed, many)}`, place: at(added) };
  }
  if (added.length > 0) return { what: `${named(added, many)} added`, place: at(added) };
  if (removed.length > 0) return { what: `${named(removed, many)} removed`, place: at([]) };
  const [one] = changed;
  if (!one) return { what: `order of the ${many}`, place: at([]) };
  const kinds = changed.map((entry) => differing(was.get(entry.id) ?? entry, entry));
  if (kinds.every((keys) => keys.every((key) => MOVES.has(key)))) {
    return { what: `${named(changed, many)} moved`, place: at(changed) };
  }
  const what =
    changed.length === 1
      ? `${one.name}: ${fieldWords(was.get(one.id) ?? one, one)}`
      : `${changed.length} ${many} changed`;
  return { what, place: at(changed) };
}

const BRIEF_PAGES: Readonly<Record<string, string>> = { intent: 'picture', timetable: 'day' };
const RIG_PAGES: Readonly<Record<string, string>> = {
  packed: 'pack',
  asBuilt: 'built',
  claps: 'built',
  photographs: 'built',
  headroomDb: 'channels',
  peakAboveDb: 'channels',
};

function partWords(before: Session, after: Session): ChangeWords[] {
  const found: ChangeWords[] = [];
  const part = (
    name: 'settings' | 'brief' | 'venue' | 'kit' | 'rig',
    leave: readonly string[],
    place: (key: string) => Place,
  ): void => {
    if (before[name] === after[name]) return;
    const keys = differing(before[name], after[name]).filter((key) => !leave.includes(key));
    if (keys.length === 0) return;
    found.push({
      what: keys.map((key) => WORDS[key] ?? key).join(', '),
      place: place(keys[0] ?? ''),
    });
  };
  part('settings', [], (key) =>
    key === 'preferencesOff' ? { station: 'checks' } : { station: 'brief', page: 'job' },
  );
  part('brief', [], (key) => ({ station: 'brief', page: BRIEF_PAGES[key] ?? 'job' }));
  part('venue', ['obstacles', 'seats', 'datumPoints'], (key) =>
    key === 'underlay' || key === 'stage'
      ? { station: 'floor' }
      : { station: 'brief', page: 'hall' },
  );
  part('kit', ['microphones', 'stands', 'bars'], () => ({ station: 'brief', page: 'kit' }));
  part('rig', [], (key) => ({ station: 'rig', page: RIG_PAGES[key] ?? 'positions' }));
  return found;
}

/** What stands for the technique or the mix of one array is looked at under Array, not on the floor. */
function atArray(words: ChangeWords): ChangeWords {
  const { selection } = words.place;
  if (selection?.kind !== 'array' || !/: /.test(words.what)) return words;
  return { ...words, place: { station: 'array', page: 'pair-geometry', selection } };
}

/** The change between two states of a session. */
export function changeWords(before: Session, after: Session): ChangeWords {
  const found = [
    ...LISTS.flatMap((words) => listWords(words, before, after) ?? []),
    ...partWords(before, after),
    ...(before.title === after.title
      ? []
      : [{ what: 'title', place: { station: 'brief', page: 'job' } as const }]),
  ].map(atArray);
  const [first, second] = found;
  if (!first) return { what: 'nothing that shows', place: { station: 'floor' } };
  const rest = found.length > 2 ? ' and more' : second ? ` and ${second.what}` : '';
  return { what: `${first.what}${rest}`, place: first.place };
}
