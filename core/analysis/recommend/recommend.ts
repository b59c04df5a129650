import { speakingModel } from '../../localisation/leading';
import { mainArrays } from '../../session/lists';
import { missingForKit } from '../../kit/needs';
import { techniqueName, type TechniqueName } from '../../arrays/technique';
import type { MicArray, Session, SessionTechnique } from '../../session/schema';
import { contextOf } from '../../prepare/context';
import { allTechniques, positionsFor, type TrialArray } from './candidates';
import { formatNumber } from '../../units/format';
import {
  HIGH_STAND_M,
  partScores,
  scoreOf,
  wantedOf,
  type Measures,
  type Parts,
  type Wanted,
} from '../criteria';
import { measure, tiltTowards } from './score';

/** One ranked proposal with its reasons. */
export interface Recommendation {
  rank: number;
  technique: SessionTechnique;
  name: TechniqueName;
  x: number;
  y: number;
  z: number;
  tiltDeg: number;
  distanceM: number;
  /** 0 … 100; below 0 where an image is broken */
  score: number;
  measures: Measures;
  /** how well each part of the intent is met, 0 … 1, and how much it weighs */
  parts: Parts;
  weights: Parts;
  reasonsFor: string[];
  reasonsAgainst: string[];
}

export interface RecommendationResult {
  /** how many arrays were measured */
  measured: number;
  /** how many players each was measured with; of a large ensemble a part stands for all */
  players: number;
  recommendations: Recommendation[];
  /** techniques that the kit cannot build, and what is missing */
  notBuildable: { technique: TechniqueName; needs: string }[];
}

interface Scored {
  candidate: TrialArray;
  measures: Measures;
  parts: Parts;
  score: number;
}

const KEPT = 10;
/** Of each technique, so that taste can choose between ways of working. */
const KEPT_EACH = 2;
const CHUNK = 1000;

/** Techniques of one name and pattern are one family: only its best is shown. */
function familyOf({ technique }: TrialArray): string {
  const pattern =
    technique.kind === 'mid-side'
      ? technique.midPattern
      : technique.kind === 'pair'
        ? technique.pattern
        : '';
  return `${techniqueName(technique)} ${pattern}`;
}

function words(
  { z }: TrialArray,
  measures: Measures,
  parts: Parts,
  wanted: Wanted,
): [string[], string[]] {
  const good: string[] = [];
  const bad: string[] = [];
  const say = (part: keyof Parts, text: string) => {
    if (wanted.weights[part] === 0) return;
    if (parts[part] >= 0.85) good.push(text);
    else if (parts[part] < 0.65) bad.push(text);
  };
  say(
    'fill',
    `the picture is ${formatNumber(measures.imageWidthPct, 0)} % wide, ${wanted.imageWidthPct} % wanted`,
  );
  say('gap', `the largest gap is ${formatNumber(measures.largestGapPct, 0)} % of the base`);
  say(
    'speakers',
    `${formatNumber(measures.atSpeakersPct, 0)} % of the players are at a loudspeaker`,
  );
  if (measures.bandsHeld !== null) {
    say('bands', `${formatNumber(measures.bandsHeld * 100, 0)} % of the wanted places are met`);
  }
  if (measures.directToReverberantDb !== null && wanted.roomDb) {
    const { min, max } = wanted.roomDb;
    say(
      'room',
      `${formatNumber(measures.directToReverberantDb, 1)} dB direct to room, ${min} to ${max} dB wanted`,
    );
  }
  say(
    'mono',
    measures.monoComb < 0.05
      ? 'no comb in mono'
      : `the mono comb is ${formatNumber(measures.monoComb * 100, 0)} % deep`,
  );
  say(
    'even',
    `players differ by ${formatNumber(measures.unevennessDb, 1)} dB through distance and pattern`,
  );
  say('space', `low-frequency correlation ${formatNumber(measures.lowCorrelation, 2)} at 125 Hz`);
  if (measures.broken > 0) {
    bad.unshift(`${measures.broken} players have no stable image or a swapped one`);
  }
  if (z > HIGH_STAND_M)
    bad.push(`${formatNumber(z, 1)} m up: a high stand, secured as the venue asks`);
  return [good, bad];
}

function mainOf({ arrays }: Session): MicArray | null {
  return mainArrays({ arrays })[0] ?? arrays[0] ?? null;
}

/** Twenty thousand arrays times so many players are a wait that one accepts. */
const MOST_PLAYERS = 24;

/** A large ensemble by a part of it: evenly from left to right, the outermost among them. */
function thinned(session: Session): Session {
  const { sources } = session;
  if (sources.length <= MOST_PLAYERS) return session;
  const across = [...sources].sort((a, b) => a.x - b.x);
  const last = across.length - 1;
  const kept = new Set(
    Array.from(
      { length: MOST_PLAYERS },
      (_, i) => across[Math.round((i * last) / (MOST_PLAYERS - 1))],
    ),
  );
  return { ...session, sources: sources.filter((source) => kept.has(source)) };
}

/**
 * Measures every candidate in steps, so that a worker can report progress and stop between them.
 * Yields the fraction done, 0 … 1; returns the ranking. The same session gives the same ranking.
 */
export function* recommendInSteps(
  whole: Session,
): Generator<number, RecommendationResult, undefined> {
  const session = thinned(whole);
  const main = mainOf(session);
  const techniques = allTechniques();
  const buildable = techniques.filter(
    (technique) => missingForKit(session.kit, technique) === null,
  );
  const notBuildable = uniqueNeeds(session, techniques);
  const positions = main ? positionsFor(session, main) : [];
  const { model: chosen } = session.settings;
  const model = speakingModel(chosen, false);
  const context = contextOf(session);
  const wanted = wantedOf(session);
  const best = new Map<string, Scored>();
  let measured = 0;
  const total = buildable.length * positions.length;
  for (const technique of buildable) {
    for (const position of positions) {
      if (!main) break;
      const candidate = { technique, ...position };
      const measures = measure(session, main, candidate, model, context);
      const parts = partScores(measures, wanted, session.sources.length);
      const score = scoreOf(parts, wanted, measures.broken);
      const family = familyOf(candidate);
      const known = best.get(family);
      if (!known || score > known.score + 1e-9)
        best.set(family, { candidate, measures, parts, score });
      measured += 1;
      if (measured % CHUNK === 0) yield measured / total;
    }
  }
  const ranked = bestOfEach([...best.values()]).slice(0, KEPT);
  return {
    measured,
    players: session.sources.length,
    notBuildable,
    recommendations: ranked.map(({ candidate, measures, parts, score }, index) => {
      const { technique, x, y, z, distanceM } = candidate;
      const [reasonsFor, reasonsAgainst] = words(candidate, measures, parts, wanted);
      return {
        rank: index + 1,
        technique: technique as SessionTechnique,
        name: techniqueName(technique),
        x,
        y,
        z,
        tiltDeg: tiltTowards(session, z, distanceM),
        distanceM,
        score,
        measures,
        parts,
        weights: wanted.weights,
        reasonsFor,
        reasonsAgainst,
      };
    }),
  };
}

/** The best few of each technique, best first. */
function bestOfEach(scored: Scored[]): Scored[] {
  const taken = new Map<TechniqueName, number>();
  return scored
    .sort((a, b) => b.score - a.score)
    .filter(({ candidate }) => {
      const name = techniqueName(candidate.technique);
      const count = taken.get(name) ?? 0;
      taken.set(name, count + 1);
      return count < KEPT_EACH;
    });
}

function uniqueNeeds(
  session: Session,
  techniques: ReturnType<typeof allTechniques>,
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
