import { yardstick } from './yardstick';
import {
  analyseSession,
  createAnalyser,
  recommend,
  reflectionsAtArray,
  sessionFigures,
  setUpTolerance,
  type ArrayFigures,
} from '../core/analysis';
import { differences } from '../core/difference';
import { symptomById } from '../core/soundcheck';
import { movesNow } from '../core/soundcheck/moves';
import { placeLabels } from '../app/floor/marks/label-placement';
import { tradeMap } from '../core/localisation';
import { outlineOf } from '../core/units';
import { newArray, newSource, sessionFrom, type Session } from '../core/session';

/** Sessions of a given size, the same on every run. */
function sessionOf(sources: number, arrays: number): Session {
  return {
    ...sessionFrom({ venue: { widthM: 16, depthM: 30, heightM: 10, rt60S: 1.8 } }),
    sources: Array.from({ length: sources }, (_, i) =>
      newSource({
        id: `s${i}`,
        name: `Player ${i}`,
        x: -4 + (8 * (i % 10)) / 9,
        y: 1.5 + Math.floor(i / 10) * 1.1,
        widthM: i % 4 === 0 ? 0.6 : 0,
      }),
    ),
    arrays: Array.from({ length: arrays }, (_, i) =>
      newArray({
        id: `a${i}`,
        x: -3 + (6 * i) / Math.max(1, arrays - 1),
        y: -0.5,
        z: 2.5 + 0.05 * i,
        technique: {
          kind: 'pair',
          pattern: i % 3 === 0 ? 'omni' : 'cardioid',
          spacingM: 0.17 + 0.04 * i,
          includedAngleDeg: i % 3 === 0 ? 0 : 90 + i,
        },
      }),
    ),
  };
}

function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? NaN;
}

/** As timed, each round on something made for it, so that nothing is remembered from before. */
function timedAfresh<T>(make: () => T, work: (made: T) => void, rounds = 60, warmUp = 60): number {
  const times: number[] = [];
  for (let round = 0; round < rounds + warmUp; round++) {
    const made = make();
    const start = performance.now();
    work(made);
    if (round >= warmUp) times.push(performance.now() - start);
  }
  return median(times);
}

function timed(work: (round: number) => void, rounds = 100, warmUp = 150): number {
  const times: number[] = [];
  for (let round = 0; round < rounds + warmUp; round++) {
    const start = performance.now();
    work(round);
    if (round >= warmUp) times.push(performance.now() - start);
  }
  return median(times);
}

interface Row {
  name: string;
  ms: number;
  wantedMs: number | null;
}

/** Some figures are worked out when they are read. */
const readAll = ({ ensemble, inPlace, stage, balanceDb }: ArrayFigures) =>
  void [ensemble, inPlace, stage, balanceDb];

function fullAnalysis(sources: number, arrays: number): number {
  return timedAfresh(
    () => sessionOf(sources, arrays),
    (session) => sessionFigures(session).forEach(readAll),
    150,
    300,
  );
}

/** A session with a main pair, others, and spots in the mix. */
function mixOf(sources: number, arrays: number): Session {
  const session = sessionOf(sources, arrays);
  return {
    ...session,
    venue: { ...session.venue, origin: { x: 8, y: 6 } },
    arrays: session.arrays.map((array, i) =>
      i < arrays / 2
        ? { ...array, name: `Pair ${i}`, role: i === 0 ? 'main' : i % 2 ? 'outrigger' : 'ambience' }
        : {
            ...array,
            name: `Spot ${i}`,
            role: 'spot',
            x: session.sources[i * 3]?.x ?? 0,
            y: (session.sources[i * 3]?.y ?? 0) - 0.6,
            z: 1.8,
          },
    ),
  };
}

/** With every rule judged, no way out tried yet, as the worker does it when the hand rests. */
function withFindings(sources: number, arrays: number, rounds = 40): number {
  return timedAfresh(() => mixOf(sources, arrays), analyseSession, rounds, rounds);
}

/** The same after one player moved: all that does not concern it is prepared already. */
function findingsAfterMove(sources: number, arrays: number): number {
  let session = mixOf(sources, arrays);
  analyseSession(session);
  return timed(
    (round) => {
      const moved = session.sources.map((s, i) => (i === 7 ? { ...s, x: s.x + round / 1000 } : s));
      session = { ...session, sources: moved };
      analyseSession(session);
    },
    15,
    8,
  );
}

function singleUpdate(): number {
  const analyser = createAnalyser();
  const session = sessionOf(40, 1);
  const [array] = session.arrays;
  if (!array) throw new Error('an array is needed');
  analyser.array(session, array);
  return timed((round) => {
    const sources = session.sources.map((s, i) => (i === 7 ? { ...s, x: s.x + round / 1000 } : s));
    // The image line: all images, and how they fill the stage.
    void analyser.array({ ...session, sources }, array).stage;
    if (analyser.recomputed() !== 1) throw new Error('only the moved source may be computed');
  });
}

/** Names of a large ensemble on a plan of a usual size. */
function labelsTime(players: number): number {
  const requests = Array.from({ length: players }, (_, i) => ({
    id: `p${i}`,
    text: `Violin I, desk ${i}`,
    x: 60 + ((i * 37) % 780),
    y: 40 + ((i * 53) % 520),
    radius: 6,
    important: i % 50 === 0,
    prefer: 'below' as const,
  }));
  return timed(() => placeLabels(requests, { bounds: { width: 900, height: 600 } }), 40, 20);
}

function mapTime(spacings: number, angles: number): number {
  const spacingsM = Array.from({ length: spacings }, (_, i) => i / spacings);
  const anglesDeg = Array.from({ length: angles }, (_, i) => (i * 180) / angles);
  return timed(() => tradeMap('cardioid', spacingsM, anglesDeg, 343.2), 9, 4);
}

function recommendTime(sources: number): { ms: number; measured: number } {
  const session = sessionOf(sources, 1);
  let measured = 0;
  const ms = timed(() => (measured = recommend(session).measured), 5, 2);
  return { ms, measured };
}

function toleranceTime(sources: number): number {
  const session = sessionOf(sources, 1);
  const [array] = session.arrays;
  if (!array) throw new Error('an array is needed');
  return timed(() => setUpTolerance(session, array), 7, 3);
}

/** All moves for what somebody hears; each time of a session that is not known yet. */
function movesTime(symptom: string, sources: number, arrays: number): number {
  const known = symptomById(symptom);
  if (!known) throw new Error('no such symptom');
  return timed(() => movesNow(sessionOf(sources, arrays), known, 's3'), 5, 2);
}

function differenceTime(sources: number): number {
  const before = sessionOf(sources, 12);
  const after = structuredClone(before);
  for (const source of after.sources) source.y += 0.1;
  return timed(() => differences(before, after), 9, 4);
}

/** Every reflection to second order in an octagon, what the hall itself has found kept: after arrays or a player moved. */
function octagonTime(moved: 'arrays' | 'player'): number {
  const box = sessionOf(40, 12);
  const corners = outlineOf('octagon', 16, 30).map(({ x, y }) => ({ x, y }));
  const hall: Session = {
    ...box,
    venue: { ...box.venue, shape: { corners }, origin: { x: 8, y: 12 } },
  };
  const all = ({ arrays, sources }: Session): void => {
    for (const array of arrays) {
      for (const source of sources) reflectionsAtArray(hall, array, source);
    }
  };
  all(hall);
  const copies = <T extends object>(list: readonly T[]): T[] => list.map((each) => ({ ...each }));
  return timedAfresh(
    () =>
      moved === 'arrays'
        ? { ...hall, arrays: copies(hall.arrays) }
        : { ...hall, sources: copies(hall.sources.slice(0, 1)) },
    all,
    12,
    6,
  );
}

const ranking = recommendTime(24);
const rows: Row[] = [
  { name: 'full analysis, 40 sources × 24 capsules', ms: fullAnalysis(40, 12), wantedMs: 1.5 },
  { name: 'full analysis, 80 sources × 24 capsules', ms: fullAnalysis(80, 12), wantedMs: null },
  { name: 'full analysis, 40 sources × 48 capsules', ms: fullAnalysis(40, 24), wantedMs: null },
  { name: 'all findings, without trials, 60 × 12 arrays', ms: withFindings(60, 12), wantedMs: 60 },
  { name: 'the same after one player moved', ms: findingsAfterMove(60, 12), wantedMs: null },
  {
    name: 'all findings, without trials, 500 × 21 arrays',
    ms: withFindings(500, 21, 3),
    wantedMs: 1500,
  },
  { name: 'reflections in an octagon, 40 × 24 capsules', ms: octagonTime('arrays'), wantedMs: 60 },
  { name: 'the same of one player', ms: octagonTime('player'), wantedMs: 4 },
  { name: 'image line after one of 40 sources moved', ms: singleUpdate(), wantedMs: 0.15 },
  { name: 'names of 500 players placed on the floor', ms: labelsTime(500), wantedMs: 15 },
  { name: 'trade map 200 × 180 cells, all models', ms: mapTime(200, 180), wantedMs: 60 },
  { name: 'trade map 400 × 180 cells, all models', ms: mapTime(400, 180), wantedMs: null },
  {
    name: `recommendation, ${ranking.measured} candidates × 24 sources`,
    ms: ranking.ms,
    wantedMs: 1000,
  },
  { name: 'recommendation, 48 sources', ms: recommendTime(48).ms, wantedMs: null },
  { name: 'tolerance, 10 000 draws × 24 sources', ms: toleranceTime(24), wantedMs: 300 },
  { name: 'tolerance, 10 000 draws × 48 sources', ms: toleranceTime(48), wantedMs: null },
  { name: 'moves for “too far”, 40 × 12 arrays', ms: movesTime('too-far', 40, 12), wantedMs: 1500 },
  { name: 'moves for “too weak”, 40 × 12', ms: movesTime('player-weak', 40, 12), wantedMs: 1500 },
  { name: 'differences of two plans, 500 players', ms: differenceTime(500), wantedMs: 50 },
];

const width = Math.max(...rows.map(({ name }) => name.length));
const piece = yardstick('arithmetic');
process.stdout.write(`\n${'core, median'.padEnd(width)}        ms    pieces   wanted\n`);
for (const { name, ms, wantedMs } of rows) {
  const wanted = wantedMs === null ? '' : `≤ ${wantedMs}`;
  const pieces = (ms / piece).toFixed(4);
  process.stdout.write(
    `${name.padEnd(width)}  ${ms.toFixed(3).padStart(8)}  ${pieces.padStart(8)}   ${wanted}\n`,
  );
}
