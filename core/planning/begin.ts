import { broughtIn } from '../analysis/room';
import { onSideOf } from '../arrays/perspective';
import { fromTemplate, type Ensemble } from '../ensembles/from-template';
import { bentToFit, stageFor } from '../ensembles/stage';
import type { Template } from '../ensembles/templates';
import { isUntouchedPair, newSession } from '../session/create';
import { freeName } from '../session/names';
import type { MicArray, Session, Venue } from '../session/schema';

/** A hall of a size, to begin with; how long it sounds is asked, not guessed. */
export interface HallSize {
  id: string;
  name: string;
  widthM: number;
  depthM: number;
  heightM: number;
}

export const HALL_SIZES: readonly HallSize[] = [
  { id: 'room', name: 'Small room', widthM: 6, depthM: 8, heightM: 3 },
  { id: 'rehearsal', name: 'Rehearsal room', widthM: 10, depthM: 13, heightM: 4.5 },
  { id: 'chamber', name: 'Chamber hall', widthM: 14, depthM: 24, heightM: 8 },
  { id: 'concert', name: 'Concert hall', widthM: 22, depthM: 42, heightM: 16 },
  { id: 'church', name: 'Church', widthM: 18, depthM: 38, heightM: 14 },
];

/** What is left upstage of a stage, and beside it, m. */
const BEHIND_M = 1;
const halves = (metres: number): number => Math.round(metres * 2) / 2;

/** The hall with a stage at its far end, as large as it lets it be. */
function hallOf({ widthM, depthM, heightM }: HallSize, { stage }: Venue): Partial<Venue> {
  const [wide, deep] = [
    Math.min(stage.widthM, halves(widthM - BEHIND_M)),
    Math.min(stage.depthM, halves(depthM / 2 - BEHIND_M)),
  ];
  return {
    widthM,
    depthM,
    heightM,
    origin: { x: widthM / 2, y: depthM - deep - BEHIND_M },
    stage: { ...stage, widthM: wide, depthM: deep },
    datumPoints: [
      { id: 'a', name: 'A', x: -wide / 2, y: deep, z: 0 },
      { id: 'b', name: 'B', x: wide / 2, y: deep, z: 0 },
    ],
  };
}

/** Players of a template keep so much from the side walls, m. */
const CLEAR_OF_WALL_M = 0.5;

/** Inside the hall, where that is known. */
const inHall = (venue: Venue, array: MicArray): MicArray => ({
  ...array,
  ...broughtIn({ venue }, array),
});

/**
 * An ensemble put into a session: names stay unique, the stage grows with the players. Suggested
 * microphones come first, so that they lead, and take the place of a pair that nobody has touched.
 * @param withArrays its suggested microphones as well
 */
export function withEnsemble(
  session: Session,
  { sources, sections, arrays }: Ensemble,
  withArrays: boolean,
): Session {
  const names = new Set(session.sources.map(({ name }) => name));
  const free = <T extends { name: string }>(entry: T, taken: Set<string>): T => {
    const name = freeName(entry.name, taken);
    taken.add(name);
    return { ...entry, name };
  };
  const { widthM, origin } = session.venue;
  const halfM =
    widthM === null || origin === null
      ? Infinity
      : Math.min(origin.x, widthM - origin.x) - CLEAR_OF_WALL_M;
  const seated = bentToFit(sources, halfM);
  const all = [...session.sources, ...seated.map((source) => free(source, names))];
  const venue = { ...session.venue, ...stageFor(session.venue, all) };
  const kept = withArrays
    ? session.arrays.filter((array) => !isUntouchedPair(array))
    : session.arrays;
  const arrayNames = new Set(kept.map(({ name }) => name));
  const { perspective } = session.settings;
  const added = withArrays
    ? arrays.map((array) => onSideOf(perspective, inHall(venue, free(array, arrayNames))))
    : [];
  return {
    ...session,
    venue,
    sources: all,
    sections: [...session.sections, ...sections],
    arrays: [...added, ...kept],
  };
}

/** What a new session begins with. */
export interface Beginning {
  title: string;
  template: Template | null;
  hall: HallSize | null;
}

/**
 * A new session: a main pair before an empty stage, or a template with its microphones, in no hall
 * or one of a size.
 * @param idOf gives a fresh id for each
 */
export function beginSession(
  { title, template, hall }: Beginning,
  idOf: () => string,
  now: string,
): Session {
  const empty = newSession(idOf(), title, now);
  const placed: Session = hall
    ? { ...empty, venue: { ...empty.venue, ...hallOf(hall, empty.venue) } }
    : empty;
  if (template) return withEnsemble(placed, fromTemplate(template, idOf), true);
  return { ...placed, arrays: placed.arrays.map((array) => inHall(placed.venue, array)) };
}
