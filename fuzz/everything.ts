import { channelMap } from '../core/channels';
import { diffuseFieldCorrelation, monoSum } from '../core/acoustics';
import {
  analyseSession,
  applyFix,
  arrayFigures,
  arrivalsOf,
  arraySummary,
  bandResults,
  capsuleFigures,
  centreFillSweep,
  contextOf,
  createAnalyser,
  distanceSweep,
  findingsIn,
  gainPlan,
  heightSweep,
  spillMatrix,
  mixCues,
  movementSensitivity,
  ownedSource,
  patternWhatIf,
  prepareMix,
  reachMatrix,
  recommend,
  reflectionsAt,
  reflectionsAtArray,
  reverberationFromSurfaces,
  seatRows,
  setUpTolerance,
  roomOf,
  threeToOne,
} from '../core/analysis';
import { waysOutInSteps } from '../core/analysis/findings/trials';
import { mountsOf, standPlans, clashes } from '../core/mechanics';
import { placeCapsules } from '../core/arrays';
import {
  bentToFit,
  endFallOff,
  fromFaces,
  joinedPieces,
  partsOf,
  playerGroups,
  playerMarks,
  sectionFigures,
  referencesFor,
  sectionSources,
  seenWidth,
  splitIntoPieces,
  surfacesOf,
  violations,
} from '../core/ensembles';
import { allowedByKit, assignKit, fronts, unknownFronts } from '../core/kit';
import { farField, localisationCurve, nearCues, prepareArray } from '../core/localisation';
import { coverageAdvice, planDay, shortages, withBreaks } from '../core/planning';
import {
  buildOrder,
  builtEffects,
  builtFigures,
  builtSession,
  cableUses,
  channelList,
  completeness,
  packList,
  positionSheet,
  rigTables,
  safetyCautions,
  takeState,
} from '../core/rig';
import { readSessionText, writeSessionText, type Session } from '../core/session';
import { runCommand } from '../cli/commands';
import { machineFiles } from '../cli/machine';
import { TOPICS } from '../cli/detail';
import { planDrawing, sectionDrawing } from '../paper/sheet-drawing';
import { sheetModel } from '../paper/sheet-model';
import { stageDocument } from '../paper/stage-document';
import { stageDocument as stageSchema } from '../core/stage';

/** One that gives a generator is work in steps: whoever waits for it can give it up between them. */
export type Call = readonly [name: string, run: () => unknown];

/** Per array: every public analysis that takes one. */
function ofArray(session: Session, array: Session['arrays'][number]): Call[] {
  const context = contextOf(session);
  const call = (name: string, run: () => unknown): Call => [`${name} of ${array.id}`, run];
  const ready = () => prepareArray(array, array.mix.capsules);
  return [
    call('arrayFigures', () => arrayFigures(array, session.sources, context)),
    call('arraySummary', () => arraySummary(session, array)),
    call('patternWhatIf', () => patternWhatIf(session, array, ['omni', 0.3, 'figure-eight'])),
    call('capsuleFigures', () =>
      session.sources.map((source) => capsuleFigures(ready(), source, context)),
    ),
    call('mono', () =>
      session.sources.map((source) => {
        const cues = nearCues(ready(), source, context.speed);
        return cues && monoSum(cues.left, cues.right, cues.ictdMs);
      }),
    ),
    call('curve', () => localisationCurve(ready(), farField(ready(), context.speed), 180, 5)),
    call('diffuse', () => {
      const [first, second] = placeCapsules(array);
      return first && second && diffuseFieldCorrelation(first, second, 125, context.speed);
    }),
    call('distanceSweep', () => distanceSweep(session, array, [0, 0.5, 3, 200])),
    call('heightSweep', () => heightSweep(session, array, [0, 0.5, 3, 200])),
    call('centreFillSweep', () => centreFillSweep(session, array, 'C', [-60, -6, 24])),
    call('movement', () => movementSensitivity(session, array, 0.2)),
    call('reflections', () =>
      session.sources
        .slice(0, 20)
        .map((source) => [
          reflectionsAt(session, array, 0, source),
          reflectionsAtArray(session, array, source),
        ]),
    ),
    call('ownedSource', () => ownedSource(session, array.id)),
    call('fronts', () => fronts(session, array.id)),
    call('endFallOff', () =>
      session.sections.map((section) => endFallOff(section, array, 1.2, context.speed)),
    ),
  ];
}

/** What the product makes of a valid session is a valid session. */
function mustRead(session: Session): void {
  const read = readSessionText(writeSessionText(session));
  if (!read.ok) throw new Error(`made what cannot be read: ${JSON.stringify(read.problems[0])}`);
}

/** Every public analysis, plan, sheet and table of a session, by name. */
export function analysesOf(session: Session): Call[] {
  const context = contextOf(session);
  let next = 0;
  const id = () => `new${(next += 1)}`;
  return [
    ...session.arrays.flatMap((array) => ofArray(session, array)),
    [
      'analyser',
      () => {
        const analyser = createAnalyser();
        return [
          session.arrays.map((array) => analyser.array(session, array)),
          analyser.mix(session),
        ];
      },
    ],
    ['findings', () => findingsIn(session)],
    [
      'fixes',
      function* () {
        const { findings } = analyseSession(session);
        // Every way out leads to a valid session; of many findings the gravest are tried.
        for (const { key } of findings.slice(0, 2)) {
          yield 0;
          const { ways } = yield* waysOutInSteps(session, key);
          for (const way of ways) mustRead(applyFix(session, way));
        }
        return findings;
      },
    ],
    ['arrivals', () => session.sources.slice(0, 60).map((source) => arrivalsOf(session, source))],
    ['spill', () => spillMatrix(session)],
    ['threeToOne', () => threeToOne(session)],
    [
      'mix',
      () => {
        const mix = prepareMix(session);
        return mix && session.sources.map((source) => mixCues(mix, source, context.speed));
      },
    ],
    ['room', () => [roomOf(session), reverberationFromSurfaces(session)]],
    [
      'intent',
      () => {
        const [array] = session.arrays;
        if (!array) return null;
        const figures = arrayFigures(array, session.sources, context);
        const bySource = new Map(figures.sources.map((source) => [source.id, source]));
        return bandResults(session, bySource, session.settings.model);
      },
    ],
    ['clashes', () => clashes(session)],
    ['gain', () => gainPlan(session)],
    ['stands', () => [standPlans(session), session.arrays.map(mountsOf)]],
    [
      'tables',
      () => [
        reachMatrix(session, session.arrays.slice(0, 4), session.sources.slice(0, 40)),
        session.arrays
          .slice(0, 2)
          .map((array) => seatRows(session, array, session.sources.slice(0, 8))),
      ],
    ],
    [
      'instruments',
      () =>
        session.sources.slice(0, 8).map((source) => {
          const pieces = splitIntoPieces(source, id);
          const whole = joinedPieces(pieces);
          mustRead({ ...session, sources: [...pieces, ...(whole ? [whole] : [])] });
          return [
            surfacesOf(source),
            session.arrays
              .slice(0, 3)
              .map((array) => [
                seenWidth(source, array),
                fromFaces(source, array),
                referencesFor(session, array),
              ]),
          ];
        }),
    ],
    ['bent', () => [0.5, 3].map((halfM) => bentToFit(session.sources, halfM))],
    ['kit', () => [allowedByKit(session.kit), assignKit(session), unknownFronts(session)]],
    ['planning', () => [channelMap(session), shortages(session), coverageAdvice(session)]],
    ['day', () => [planDay(session.brief.timetable), withBreaks(session.brief.timetable, id)]],
    [
      'ensembles',
      () => [
        violations(session),
        playerMarks(playerGroups(session.sources)),
        session.sections.map((section) => [sectionFigures(section), sectionSources(section, id)]),
        session.sources.slice(0, 5).map((source) => {
          const parts = partsOf(source, [source, source], id);
          mustRead({ ...session, sources: parts });
          return parts;
        }),
      ],
    ],
    [
      'rig',
      () => [
        buildOrder(session),
        builtEffects(session),
        builtFigures(session),
        builtSession(session),
        cableUses(session),
        channelList(session),
        completeness(session),
        packList(session),
        positionSheet(session),
        rigTables(session),
        safetyCautions(session),
        takeState(session),
      ],
    ],
    [
      'sheet',
      () => [sheetModel(session, true), planDrawing(session, 700), sectionDrawing(session, 700)],
    ],
    // What a device in the hall takes.
    ['stage', () => stageSchema.parse(stageDocument(session, false))],
    [
      'round trip',
      () => {
        mustRead(session);
        return null;
      },
    ],
  ];
}

/** What takes long by nature: run on a share of the sessions only. */
export function longAnalysesOf(session: Session): Call[] {
  return [
    ['recommend', () => recommend(session)],
    ...session.arrays
      .slice(0, 2)
      .map((array): Call => [`tolerance of ${array.id}`, () => setUpTolerance(session, array)]),
  ];
}

const SHORT_COMMANDS = [
  'validate f',
  'analyse f --no-ways',
  'check f --no-ways',
  'rig f',
  'rig f --csv',
  'rig f --pdf',
  ...TOPICS.filter((topic) => topic !== 'tolerance').map((topic) => `detail f --of ${topic}`),
];

/** Every command line about a session file. */
export function commandsOf(text: string): Call[] {
  const bytes = new TextEncoder().encode(text);
  const machine = {
    ...machineFiles,
    read: () => Promise.resolve(bytes),
    progress: () => undefined,
  };
  return SHORT_COMMANDS.map((line): Call => {
    const run = async () => {
      const { status, out, errors } = await runCommand(line.split(' '), machine);
      if (status !== 0 && !line.startsWith('check')) throw new Error(errors.join('\n'));
      if (/\bNaN\b|\bInfinity\b/.test(out)) throw new Error('NaN or Infinity in the output');
      return null;
    };
    return [`rotunda ${line}`, run];
  });
}

/** The path of the first number in a result that is not finite; null where all are. */
export function notFinite(value: unknown, path = ''): string | null {
  if (typeof value === 'number') return Number.isFinite(value) ? null : `${path} is ${value}`;
  if (typeof value === 'string') {
    return /\b(NaN|Infinity|undefined)\b/.test(value) ? `${path} reads “${value}”` : null;
  }
  if (typeof value !== 'object' || value === null) return null;
  if (ArrayBuffer.isView(value)) return notFinite([...(value as Float64Array)], path);
  const entries: Iterable<[unknown, unknown]> =
    value instanceof Map ? value : Array.isArray(value) ? value.entries() : Object.entries(value);
  for (const [key, inner] of entries) {
    const found = notFinite(inner, `${path}.${String(key)}`);
    if (found !== null) return found;
  }
  return null;
}
