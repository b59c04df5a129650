import { patternAOf } from '../../acoustics/patterns';
import { distance } from '../../units/vector';
import { crossedEquivalent } from '../../arrays/mid-side';
import { onSideOf } from '../../arrays/perspective';
import { standardOf } from '../../arrays/standards';
import { techniqueName, type Technique, type TechniqueName } from '../../arrays/technique';
import { missingForKit } from '../../kit/needs';
import { speakingModel } from '../../localisation/leading';
import { contextOf } from '../../prepare/context';
import { playersOf } from '../../prepare/for-whom';
import { mainArrays } from '../../session/lists';
import { newArray } from '../../session/create';
import type { MicArray, Session, SessionTechnique, Source } from '../../session/schema';
import { partScores, scoreOf, wantedOf, type Measures, type Parts, type Wanted } from '../criteria';
import { ensembleFrame } from '../ensemble-frame';
import { judgeArray } from '../judge';
import {
  allTechniques,
  TREE_FROM_M,
  familyOf,
  placesFor,
  type Family,
  type Place,
  type TrialArray,
} from './candidates';
import { measure, readyPlayers, readyTechnique } from './score';
import { differences, reasons, whatWouldWin } from './words';

/** One proposal with its reasons. */
export interface Recommendation {
  rank: number;
  family: Family;
  technique: SessionTechnique;
  name: TechniqueName;
  /** the named standard that it is; null where it is none */
  standard: string | null;
  /** another way to the same two channels: the mid-side of a crossed pair, or the pair of a mid-side */
  equal: SessionTechnique | null;
  x: number;
  y: number;
  z: number;
  aimDeg: number;
  tiltDeg: number;
  /** before the front row, and from the ensemble's middle, m */
  beforeM: number;
  distanceM: number;
  overPeople: boolean;
  /** 0 … 100; below 0 where an image is broken */
  score: number;
  measures: Measures;
  /** how well each part of the intent is met, 0 … 1, and how much it weighs */
  parts: Parts;
  weights: Parts;
  reasonsFor: string[];
  reasonsAgainst: string[];
  /** in what it differs from the first, in words; empty for the first itself */
  differs: string[];
  /** what would have to count more for it to come first; null where nothing alone would */
  wins: string | null;
  /** others of its family, the better first */
  more: Recommendation[];
}

/** Two microphones wide outside, where the main array's picture stays narrow. */
export interface OutriggerOffer {
  spacingM: number;
  narrowestPct: number;
  /** as it is wanted, or customary where nobody said it */
  leastPct: number;
  wanted: boolean;
}

export interface RecommendationResult {
  /** how many arrays were measured */
  measured: number;
  /** how many players each was measured with; of a large ensemble a part stands for all */
  players: number;
  /** the best of every family, the better first */
  recommendations: Recommendation[];
  outriggers: OutriggerOffer | null;
  /** families that are left out, and why */
  leftOut: { family: Family; reason: string }[];
  /** why there is nothing to recommend; null where there is */
  nothing: string | null;
  /** techniques that the kit cannot build, and what is missing */
  notBuildable: { technique: TechniqueName; needs: string }[];
}

interface Scored {
  candidate: TrialArray;
  score: number;
}

/** Of each family so many are looked at closely. */
const LOOKED_AT = 5;
/** … and so many of them are shown. */
const SHOWN = 3;
const DRAWS = 200;
const CHUNK = 1000;
/** Twenty thousand arrays times so many players are a wait that one accepts. */
const MOST_PLAYERS = 24;
/** The first stage is most of the work. */
const FIRST_STAGE = 0.8;

/** A large ensemble by a part of it: evenly from left to right, the outermost among them. */
function thinned(sources: readonly Source[]): readonly Source[] {
  if (sources.length <= MOST_PLAYERS) return sources;
  const across = [...sources].sort((a, b) => a.x - b.x);
  const last = across.length - 1;
  const kept = new Set(
    Array.from(
      { length: MOST_PLAYERS },
      (_, i) => across[Math.round((i * last) / (MOST_PLAYERS - 1))],
    ),
  );
  return sources.filter((source) => kept.has(source));
}

const mainOf = ({ arrays }: Session): MicArray | null =>
  mainArrays({ arrays })[0] ?? arrays[0] ?? null;

const patternOf = (technique: Technique): string =>
  technique.kind === 'mid-side'
    ? String(technique.midPattern)
    : technique.kind === 'pair'
      ? String(technique.pattern)
      : technique.kind;

/** Alike enough to be one proposal: the same pattern at nearly the same place. */
function alike(a: TrialArray, b: TrialArray): boolean {
  if (patternOf(a.technique) !== patternOf(b.technique)) return false;
  return Math.abs(a.beforeM - b.beforeM) < 0.3 * Math.max(a.beforeM, b.beforeM);
}

/** Everybody knows a named standard by heart: on a near tie it comes before its neighbours, points. */
const KNOWN_BY_HEART = 1;

/** The best few of a family, of which no two are nearly the same. */
function keepBest(known: Scored[], next: Scored): void {
  const twin = known.findIndex(({ candidate }) => alike(candidate, next.candidate));
  if (twin >= 0) {
    if ((known[twin] as Scored).score >= next.score) return;
    known.splice(twin, 1);
  } else if (known.length >= LOOKED_AT) {
    if ((known[known.length - 1] as Scored).score >= next.score) return;
    known.pop();
  }
  const at = known.findIndex(({ score }) => score < next.score);
  known.splice(at < 0 ? known.length : at, 0, next);
}

/** A trial as an array of the session, for the players that the main array is for. */
function built(
  { settings }: Session,
  main: MicArray | null,
  { technique, x, y, z, aimDeg, tiltDeg }: TrialArray,
): MicArray {
  const base = main ?? newArray({ id: 'main', role: 'main' });
  return onSideOf<Technique, MicArray>(settings.perspective, {
    ...base,
    role: 'main',
    technique: technique as SessionTechnique,
    x,
    y,
    z,
    aimDeg,
    tiltDeg,
    mix: { ...base.mix, capsules: [] },
  });
}

/** Everything that is asked and does not change between arrays. */
interface Question {
  session: Session;
  main: MicArray | null;
  players: readonly Source[];
  wanted: Wanted;
}

/** A closer look: by the same figures and the same scorer that compare arrays. */
function lookedAt(question: Question, candidate: TrialArray): Recommendation {
  const { session, main, wanted } = question;
  const { family, technique, x, y, z, aimDeg, tiltDeg, beforeM, distanceM, overPeople } = candidate;
  const array = built(session, main, candidate);
  const { measures, parts, score } = judgeArray(session, array, DRAWS);
  return {
    rank: 0,
    family,
    technique: technique as SessionTechnique,
    name: techniqueName(technique),
    standard: standardOf(technique)?.name ?? null,
    equal: null,
    x,
    y,
    z,
    aimDeg,
    tiltDeg,
    beforeM,
    distanceM,
    overPeople,
    score,
    measures,
    parts,
    weights: wanted.weights,
    ...reasons(candidate, measures, parts, wanted, question.players.length, session.settings.units),
    differs: [],
    wins: null,
    more: [],
  };
}

const brokenReason = ({ measures }: Recommendation): string =>
  measures.broken === 1
    ? 'one player has no stable image wherever it stands'
    : `${measures.broken} players have no stable image wherever it stands`;

/** Others of a family to be shown: the next best, and a named standard where there is a sound one. */
function withStandard(first: Recommendation, more: readonly Recommendation[]): Recommendation[] {
  const shown = more.slice(0, SHOWN - 1);
  const isNamed = ({ standard }: Recommendation): boolean => standard !== null;
  const named = more.find(isNamed);
  if (!named || isNamed(first) || shown.some(isNamed)) return shown;
  return [...shown.slice(0, SHOWN - 2), named];
}

/** Best of every family first; what no place mends is left out. */
function ranked(found: readonly Recommendation[][], { wanted }: Question) {
  const leftOut: RecommendationResult['leftOut'] = [];
  const best = found.flatMap((list): Recommendation[] => {
    const known = ({ standard }: Recommendation): number => (standard ? KNOWN_BY_HEART : 0);
    const sorted = [...list].sort((a, b) => b.score + known(b) - a.score - known(a));
    const sound = sorted.filter(({ measures }) => measures.broken === 0);
    const [first, ...more] = sound;
    if (first) return [{ ...first, more: withStandard(first, more) }];
    const [least] = sorted;
    if (least) leftOut.push({ family: least.family, reason: brokenReason(least) });
    return [];
  });
  best.sort((a, b) => b.score - a.score);
  return { ...toldOf(asOneOffer(best), wanted), leftOut };
}

function toldOf(best: readonly Recommendation[], wanted: Wanted) {
  const [first] = best;
  const told = (entry: Recommendation, rank: number): Recommendation => ({
    ...entry,
    rank,
    differs: first && entry !== first ? differences(entry.measures, first.measures) : [],
    wins: first && entry !== first ? whatWouldWin(entry.parts, first.parts, wanted) : null,
  });
  const recommendations = best.map((entry, i) => ({
    ...told(entry, i + 1),
    more: entry.more.map((other) => told(other, i + 1)),
  }));
  return { recommendations };
}

/** A mid-side and a crossed pair whose numbers differ by no more than this are one. */
const SAME_A = 0.06;
const SAME_DEG = 8;
/** … where they stand within this of each other, m. */
const SAME_PLACE_M = 0.6;

/** The crossed pair that a technique is or decodes to; null for what is neither. */
function crossedOf({ technique }: Recommendation): { patternA: number; deg: number } | null {
  if (technique.kind === 'mid-side') {
    const crossed = crossedEquivalent(patternAOf(technique.midPattern), technique.sideGainDb);
    return { patternA: crossed.patternA, deg: crossed.includedAngleDeg };
  }
  if (technique.kind !== 'pair' || technique.spacingM > 0) return null;
  return { patternA: patternAOf(technique.pattern), deg: technique.includedAngleDeg };
}

/** A mid-side and its crossed equal are one offer: the better of the two, with the other named. */
function asOneOffer(best: readonly Recommendation[]): Recommendation[] {
  const kept: Recommendation[] = [];
  for (const entry of best) {
    const own = crossedOf(entry);
    const twin = kept.findIndex((other) => {
      const theirs = crossedOf(other);
      const kinds = new Set([entry.technique.kind, other.technique.kind]);
      if (!own || !theirs || kinds.size < 2) return false;
      return (
        Math.abs(own.patternA - theirs.patternA) <= SAME_A &&
        Math.abs(own.deg - theirs.deg) <= SAME_DEG &&
        distance(entry, other) <= SAME_PLACE_M
      );
    });
    const known = kept[twin];
    if (known) kept[twin] = { ...known, equal: entry.technique };
    else kept.push(entry);
  }
  return kept;
}

/** Narrower than wanted by so much in some model, and outriggers are worth a thought, percent. */
const TOO_NARROW_PCT = 15;

function outriggerOffer(
  first: Recommendation | undefined,
  { players, wanted }: Question,
): OutriggerOffer | null {
  const frame = ensembleFrame(players);
  if (!first || !frame) return null;
  const { narrowestPct } = first.measures;
  const leastPct = wanted.widthPct.min;
  if (narrowestPct >= leastPct - TOO_NARROW_PCT) return null;
  const spacingM = Math.round(0.8 * (frame.rightM - frame.leftM) * 10) / 10;
  return spacingM >= 2 ? { spacingM, narrowestPct, leastPct, wanted: wanted.said.width } : null;
}

/**
 * Measures every candidate in steps, so that a worker can report progress and stop between them:
 * quickly in the leading model first, then the best of every family by all their figures.
 * Yields the fraction done, 0 … 1; returns the ranking. The same session gives the same ranking,
 * wherever its main array stands.
 */
export function* recommendInSteps(
  whole: Session,
): Generator<number, RecommendationResult, undefined> {
  const main = mainOf(whole);
  const context = contextOf(whole);
  const all = main
    ? playersOf({ ...main, role: 'main' }, whole.sources, context.speed)
    : whole.sources;
  const players = thinned(all);
  const session = {
    ...whole,
    sources: whole.sources.filter((source) => players.includes(source) || !all.includes(source)),
  };
  const wanted = wantedOf(whole, players.length);
  const question: Question = { session, main, players, wanted };
  const techniques = allTechniques();
  const buildable = techniques.filter((technique) => missingForKit(whole.kit, technique) === null);
  const places: Place[] = placesFor(whole, players);
  const frame = ensembleFrame(players);
  const widthM = frame ? frame.rightM - frame.leftM : 0;
  const model = speakingModel(whole.settings, false);
  const ready = readyPlayers(whole, players);
  const best = new Map<Family, Scored[]>();
  let standard: Scored | null = null;
  const total = Math.max(1, buildable.length * places.length);
  let measured = 0;
  for (const technique of buildable) {
    const family = familyOf(technique);
    if (family === 'tree' && widthM < TREE_FROM_M) continue;
    const known = best.get(family) ?? [];
    best.set(family, known);
    const prepared = readyTechnique(technique, context.speed);
    const byHeart = standardOf(technique) ? KNOWN_BY_HEART : 0;
    for (const place of places) {
      const measures = measure(ready, place, prepared, model, context);
      const parts = partScores(measures, wanted, players.length);
      const score = scoreOf(parts, wanted, measures.broken) + byHeart;
      const scored: Scored = { candidate: { technique, family, ...place }, score };
      if (byHeart > 0 && score > (standard?.score ?? -Infinity)) standard = scored;
      keepBest(known, scored);
      measured += 1;
      if (measured % CHUNK === 0) yield (FIRST_STAGE * measured) / total;
    }
  }
  // The best named standard is looked at closely, whatever its neighbours did.
  const near = best.get('near-coincident');
  const ofTheBest = standard && near?.includes(standard) ? null : standard;
  if (near && ofTheBest) near.push(ofTheBest);
  const found: Recommendation[][] = [];
  for (const list of best.values()) {
    found.push(list.map(({ candidate }) => lookedAt(question, candidate)));
    yield FIRST_STAGE + ((1 - FIRST_STAGE) * found.length) / best.size;
  }
  const { recommendations, leftOut } = ranked(found, question);
  return {
    measured,
    players: players.length,
    recommendations,
    outriggers: outriggerOffer(recommendations[0], question),
    leftOut,
    nothing:
      recommendations.length > 0
        ? null
        : whyNothing(players.length, places.length, buildable.length),
    notBuildable: uniqueNeeds(whole, techniques),
  };
}

function whyNothing(players: number, places: number, techniques: number): string {
  if (players === 0) return 'There are no players yet: an array is recommended for somebody.';
  if (techniques === 0) return 'The kit builds none of the customary techniques.';
  if (places === 0) return 'The hall, the seats and the stands leave no place before the players.';
  return 'Wherever an array would stand, somebody has no stable image.';
}

function uniqueNeeds(
  session: Session,
  techniques: readonly Technique[],
): RecommendationResult['notBuildable'] {
  const needs = new Map<string, { technique: TechniqueName; needs: string }>();
  for (const technique of techniques) {
    const missing = missingForKit(session.kit, technique);
    const name = techniqueName(technique);
    if (missing !== null) needs.set(`${name} ${missing}`, { technique: name, needs: missing });
  }
  return [...needs.values()];
}

/** The whole ranking at once. */
export function recommend(session: Session): RecommendationResult {
  const steps = recommendInSteps(session);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
