import { diffuseFieldCorrelation, THIRD_OCTAVES_HZ } from '../core/acoustics';
import {
  arrivalsOf,
  contextOf,
  interchannelCorrelation,
  layersOf,
  distanceSweep,
  focusRows,
  heightSweep,
  spillMatrix,
  mixFigures,
  monoRows,
  movementSensitivity,
  reflectionsAt,
  reverberationFromSurfaces,
  setUpTolerance,
  threeToOne,
} from '../core/analysis';
import { prepareArray } from '../core/localisation';
import type { MicArray, Session } from '../core/session';
import { OLD_TOPICS } from './old-names';
import { readOptions } from './options';
import { Checker } from './checker';
import { failed, succeeded, Usage, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

/** Distances and heights of the sweeps, m. */
const steps = (from: number, to: number, by: number): number[] =>
  Array.from({ length: Math.round((to - from) / by) + 1 }, (_, i) => from + i * by);
const DISTANCES_M = steps(0.5, 12, 0.5);
const HEIGHTS_M = steps(0.5, 5, 0.25);
const SWAY_M = 0.2;

/** The last word of what is done in steps. */
function finished<T>(steps: Generator<number, T, undefined>): T {
  for (let step = steps.next(); ; step = steps.next()) if (step.done) return step.value;
}

/** Mono sums as the page has them, of one array or of the whole mix. */
const monoOf = (session: Session, arrayId: string | null) =>
  finished(monoRows(session, arrayId)).map(({ bands, ...row }) => ({
    ...row,
    thirdOctaves: bands,
  }));

type PerArray = (session: Session, array: MicArray) => unknown;

const PER_ARRAY = {
  sweeps: (session, array) => ({
    distance: distanceSweep(session, array, DISTANCES_M),
    height: heightSweep(session, array, HEIGHTS_M),
  }),
  sway: (session, array) => ({
    swayM: SWAY_M,
    sources: movementSensitivity(session, array, SWAY_M),
  }),
  tolerance: (session, array) => setUpTolerance(session, array),
  mono: (session, array) => monoOf(session, array.id),
  diffuse: (session, array) => {
    const { speed } = contextOf(session);
    const ready = prepareArray(array, array.mix.capsules);
    const { capsules } = ready;
    const between = capsules.flatMap((first, i) =>
      capsules.slice(i + 1).map((second) => ({
        capsules: [first.label, second.label],
        correlation: [31.5, 63, ...THIRD_OCTAVES_HZ].map((frequencyHz) => ({
          frequencyHz,
          ...diffuseFieldCorrelation(first, second, frequencyHz, speed),
        })),
      })),
    );
    const channels = [31.5, 63, ...THIRD_OCTAVES_HZ].flatMap((frequencyHz) => {
      const found = interchannelCorrelation(ready, frequencyHz, speed);
      return found ? [{ frequencyHz, ...found }] : [];
    });
    return [{ channels: ['left', 'right'], correlation: channels }, ...between];
  },
  reflections: (session, array) =>
    session.sources.map((source) => ({
      sourceId: source.id,
      capsules: prepareArray(array).capsules.map(({ label }, index) => ({
        label,
        reflections: reflectionsAt(session, array, index, source),
      })),
    })),
} satisfies Record<string, PerArray>;

const PER_SESSION = {
  mix: (session: Session) => {
    return session.sources.map((source) => {
      const found = mixFigures(session, source);
      const places = found?.image && Object.entries(found.image);
      return {
        sourceId: source.id,
        icldDb: found?.icldDb ?? null,
        ictdMs: found?.ictdMs ?? null,
        antiphase: found?.antiphase ?? false,
        antiphasePct: found?.antiphasePct ?? null,
        image: places && Object.fromEntries(places.map(([id, { shift }]) => [id, shift])),
        edges:
          places && Object.fromEntries(places.map(([id, { left, right }]) => [id, [left, right]])),
        pulls: found?.pulls ?? [],
        echoes: found?.echoes ?? [],
      };
    });
  },
  focus: (session: Session) => finished(focusRows(session, null)),
  arrivals: (session: Session) =>
    session.sources.map((source) => ({ sourceId: source.id, ...arrivalsOf(session, source) })),
  layers: (session: Session) => layersOf(session),
  spill: (session: Session) => ({
    microphones: spillMatrix(session),
    threeToOne: threeToOne(session),
  }),
  reverberation: (session: Session) => reverberationFromSurfaces(session),
};

type Topic = keyof typeof PER_ARRAY | keyof typeof PER_SESSION;

export const TOPICS: readonly Topic[] = [
  ...(Object.keys(PER_ARRAY) as (keyof typeof PER_ARRAY)[]),
  ...(Object.keys(PER_SESSION) as (keyof typeof PER_SESSION)[]),
];

const isPerArray = (topic: Topic): topic is keyof typeof PER_ARRAY => topic in PER_ARRAY;

/** `detail FILE --of TOPIC [--array ID]`: one kind of figure at full length. */
export async function detailCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const [file, ...rest] = args;
  const given = readOptions(rest, ['of', 'array']);
  if (file === undefined || file.startsWith('-') || given.of === undefined) {
    throw new Usage('detail takes one FILE and --of TOPIC');
  }
  const check = new Checker();
  const topic = check.oneOf<Topic>('of', OLD_TOPICS[given.of] ?? given.of, TOPICS);
  if (topic === null) return failed(check.errors);
  const loaded = await loadSession(file, machine);
  if ('errors' in loaded) return failed(loaded.errors);
  const { session } = loaded;
  if (!isPerArray(topic)) return succeeded({ [topic]: PER_SESSION[topic](session) });
  const enabled = session.arrays.filter((array) => array.enabled);
  const chosen = enabled.filter(({ id }) => given.array === undefined || id === given.array);
  if (given.array !== undefined && chosen.length === 0) {
    const ids = enabled.map(({ id }) => id).join(', ');
    return failed([`--array: ${JSON.stringify(given.array)}; allowed: ${ids || 'there is none'}`]);
  }
  return succeeded({
    arrays: chosen.map((array) => ({
      id: array.id,
      name: array.name,
      [topic]: PER_ARRAY[topic](session, array),
    })),
    ...(topic === 'mono' && given.array === undefined && { mix: monoOf(session, null) }),
  });
}
