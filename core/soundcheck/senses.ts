import { max, mean } from 'd3-array';
import { coherentMono } from '../acoustics/coherent-mono';
import { patternAOf } from '../acoustics/patterns';
import { proximityBoostDb } from '../acoustics/proximity';
import { arrayFigures } from '../analysis/array-figures';
import { depthIn, ensembleFrame } from '../analysis/ensemble-frame';
import { LARGE_GAP_PCT, MONO_LOSS_DB } from '../analysis/criteria';
import { ECHO_DB, heardArrays, mixFigures, prepareMix } from '../analysis/mix';
import { reflectionsAtArray } from '../analysis/room';
import { spillMatrix } from '../analysis/spill';
import { frontToBackDb } from '../analysis/spread';
import { instrumentOf } from '../ensembles/instruments';
import { mixedCues, monoWaves, nearArrivals } from '../localisation/cues';
import { imageIn, speakingModel, stageIn } from '../localisation/leading';
import { placeOf } from '../localisation/placed';
import { MODEL_IDS } from '../localisation/models/index';
import { contextOf } from '../prepare/context';
import { leadingArray } from '../session/lists';
import type { Session, Source } from '../session/schema';
import { cosDeg, sinDeg, toDeg } from '../units/guard';
import { distance } from '../units/vector';
import { expectedOf, type ExpectedPlayer } from './expected';

/** Figures in which a symptom shows: each of any plan, so that a move can be tried on a copy. */

/** Whom a symptom is about; null where it is about the whole. */
export type Focus = string | null;

export interface Sense {
  words: string;
  unit: string;
  digits: number;
  /** which way is better: up, or down to 0 */
  better: 'more' | 'less';
  /** so much better is all that was asked for; null: all the way to 0 */
  enough: number | null;
  /** how far off something is, so that it has no sign */
  isSize?: boolean;
  /** up to this, or from there on, nobody would say it of the plan */
  usualTo?: number;
  usualFrom?: number;
  /** it is about near and far itself */
  isOfRoom?: boolean;
  /** null where the plan has no such figure */
  of: (session: Session, focus: Focus) => number | null;
}

const playerIn = (session: Session, focus: Focus): ExpectedPlayer | null =>
  expectedOf(session).players.find(({ id }) => id === focus) ?? null;
const sourceIn = ({ sources }: Session, focus: Focus): Source | null =>
  sources.find(({ id }) => id === focus) ?? null;

/** Everybody in it, by the main array alone. */
const mainFigures = (session: Session) => {
  const main = leadingArray(session);
  return main && arrayFigures(main, session.sources, contextOf(session));
};

/** How wide the main array's picture is, percent of the base; null without one. */
export const pictureWidthPct = (session: Session): number | null =>
  stageIn(mainFigures(session), session.settings.model)?.imageWidthPct ?? null;

/** Direct sound against the room in the main array by itself, mean of its players, dB; null where it is not known. */
export const mainDirectDb = (session: Session): number | null =>
  mean((mainFigures(session)?.own ?? []).flatMap((one) => one.directToReverberantDb ?? [])) ?? null;

/**
 * How far out the players are heard on average, percent of the half base: no end of it holds it back.
 * @returns null where nobody has an image
 */
export function pictureSpreadPct(session: Session): number | null {
  const { model } = session.settings;
  const shifts = (mainFigures(session)?.own ?? []).flatMap(
    (one) => imageIn(one, model)?.shift ?? [],
  );
  return shifts.length === 0 ? null : 100 * (mean(shifts, Math.abs) ?? 0);
}

/** The worst of all models that may speak: what none of them hears is not there. */
function worstStage(session: Session, figure: 'largestGapPct' | 'atSpeakersPct'): number | null {
  const figures = mainFigures(session);
  if (!figures) return null;
  return max(MODEL_IDS.flatMap((id) => figures.stage[id]?.[figure] ?? [])) ?? null;
}

/** Mean of the others in the mix, against whom one is near or far. */
function against(session: Session, focus: Focus, of: (player: ExpectedPlayer) => number | null) {
  const { players } = expectedOf(session);
  const own = players.find(({ id }) => id === focus);
  const value = own ? of(own) : null;
  if (value === null) return null;
  const others = mean(players.filter(({ id }) => id !== focus).flatMap((one) => of(one) ?? []));
  return others === undefined ? value : value - others;
}

/** Spots have a place of their own in the mix: what the main array alone says is where somebody sits. */
function misplacedPct(session: Session, focus: Focus): number | null {
  const source = sourceIn(session, focus);
  const main = leadingArray(session);
  if (!source || !main) return null;
  const shift = playerIn(session, focus)?.shift;
  const band = session.brief.intent.bands.find(({ sourceId }) => sourceId === focus);
  if (shift === null || shift === undefined) return 100;
  if (band) {
    const [from, to] = [Math.min(band.fromPct, band.toPct), Math.max(band.fromPct, band.toPct)];
    return Math.max(0, from - shift * 100, shift * 100 - to);
  }
  const alone: Session = { ...session, arrays: [{ ...main, mix: { ...main.mix, mute: false } }] };
  const own = imageIn(mixFigures(alone, source), session.settings.model)?.shift;
  return own === undefined ? null : 100 * Math.abs(shift - own);
}

/** How deep the comb is that a player's arrivals make in the worse loudspeaker, dB. */
function combDb(session: Session, focus: Focus): number | null {
  const source = sourceIn(session, focus);
  const mix = prepareMix(session);
  const arrivals = mix && source && nearArrivals(mix, source, contextOf(session).speed);
  if (!arrivals) return null;
  const combs = (['left', 'right'] as const).map((side) => {
    const routes = mix.routes.map((route) => ({ ...route, left: route[side], right: 0 }));
    return coherentMono(monoWaves({ ...mix, routes }, arrivals)).combDb;
  });
  return max(combs) ?? null;
}

/** How far echoes stand above what is no longer heard apart, dB; 0 where there is none. */
const echoesDb = (session: Session): number =>
  max(
    session.sources.flatMap((source) =>
      (mixFigures(session, source)?.echoes ?? []).map(({ levelDb }) => levelDb + ECHO_DB),
    ),
  ) ?? 0;

/** Levels of the main array through distance and pattern alone, by depth. */
function frontToBack(session: Session): number | null {
  const figures = mainFigures(session);
  const frame = ensembleFrame(session.sources);
  if (!figures || !frame) return null;
  const rows = figures.own.flatMap(({ id, levelAtArrayDb }) => {
    const source = sourceIn(session, id);
    if (!source || levelAtArrayDb === null) return [];
    return [{ depthM: depthIn(frame, source), db: levelAtArrayDb - source.levelDb }];
  });
  return Math.abs(frontToBackDb(rows));
}

/** How much nearer the front sounds than the back by its direct sound against the room, dB. */
function depthDb(session: Session): number | null {
  const frame = ensembleFrame(session.sources);
  if (!frame) return null;
  const rows = expectedOf(session).players.flatMap(({ id, directDb }) => {
    const source = sourceIn(session, id);
    return source && directDb !== null ? [{ depthM: depthIn(frame, source), db: directDb }] : [];
  });
  return rows.length === 0 ? null : frontToBackDb(rows);
}

const STRINGS = 'bowed';
/** How high the main array stands over the tops of bowed instruments, degrees on average. */
function overStringsDeg(session: Session, focus: Focus): number | null {
  const main = leadingArray(session);
  if (!main) return null;
  const bowed = session.sources.filter(
    (source) =>
      (focus === null || source.id === focus) && instrumentOf(source.kind)?.family === STRINGS,
  );
  const angles = bowed.map(({ x, y, z }) =>
    toDeg(Math.atan2(main.z - z, Math.hypot(main.x - x, main.y - y))),
  );
  return mean(angles) ?? null;
}

/** What proximity adds at 100 Hz in the microphone that has most of it of anybody it is for, dB. */
function proximityDb(session: Session): number | null {
  const { speed } = contextOf(session);
  const boosts = heardArrays(session).flatMap(({ technique, x, y, z }) => {
    if (technique.kind === 'custom') return [];
    const patternA = patternAOf(
      technique.kind === 'mid-side' ? technique.midPattern : technique.pattern,
    );
    return session.sources.map((source) =>
      proximityBoostDb(patternA, 100, Math.max(0.05, distance(source, { x, y, z })), speed),
    );
  });
  return max(boosts) ?? null;
}

/** How far towards omni the main microphones are: what carries the lowest octave in a real one. */
function omniPart(session: Session): number | null {
  const technique = leadingArray(session)?.technique;
  if (!technique || technique.kind === 'custom') return null;
  return 100 * patternAOf(technique.kind === 'mid-side' ? technique.midPattern : technique.pattern);
}

/** Loudest of the others in a player's own microphone, dB against the player; without one it is not known. */
function spillDb(session: Session, focus: Focus): number | null {
  const rows = spillMatrix(session).filter(
    ({ role, ownSourceId }) => role === 'spot' && ownSourceId === focus,
  );
  const levels = rows.flatMap(({ spillDb: by }) =>
    Object.entries(by).flatMap(([id, db]) => (id === focus || db === null ? [] : [db])),
  );
  return max(levels) ?? null;
}

const STEP_ASIDE_M = 0.3;
/** How far an image goes when its player leans so far to either side, percent of the half base. */
function wandersPct(session: Session, focus: Focus): number | null {
  const source = sourceIn(session, focus);
  const mix = prepareMix(session);
  if (!source || !mix) return null;
  const { speed } = contextOf(session);
  const model = speakingModel(session.settings, mix.coincident);
  const at = (by: number): number | null => {
    // To the player's own sides.
    const spot = {
      x: source.x + by * cosDeg(source.facingDeg),
      y: source.y - by * sinDeg(source.facingDeg),
      z: source.z,
    };
    const arrivals = nearArrivals(mix, spot, speed);
    const cues = arrivals && mixedCues(mix, arrivals);
    if (!cues || cues.antiphase) return null;
    return placeOf(cues, model);
  };
  const [left, right] = [at(-STEP_ASIDE_M), at(STEP_ASIDE_M)];
  return left === null || right === null ? null : 100 * Math.abs(right - left);
}

/** How wide one player is alone, percent of the base. */
function ownWidthPct(session: Session, focus: Focus): number | null {
  const player = playerIn(session, focus);
  return player?.left === null || player?.right === null || !player
    ? null
    : 50 * (player.right - player.left);
}

/** The strongest early reflection of anybody at the main array, dB against the direct sound. */
function reflectionDb(session: Session, focus: Focus): number | null {
  const main = leadingArray(session);
  if (!main) return null;
  const one = sourceIn(session, focus);
  const players = one ? [one] : session.sources;
  const levels = players.flatMap((source) =>
    reflectionsAtArray(session, main, source, 1)
      .slice(0, 1)
      .map(({ levelDb }) => levelDb),
  );
  return max(levels) ?? null;
}

/** On the middle line nobody has a side: degrees, and of the half base. */
const MIDDLE_DEG = 3;
const MIDDLE = 0.03;
/** Players who are heard on the other side than they sit, or without a place at all. */
function exchanged(session: Session): number | null {
  const figures = mainFigures(session);
  if (!figures) return null;
  const side = session.settings.perspective === 'performer' ? -1 : 1;
  return figures.own.filter(({ id, azimuthDeg, atCapsule }) => {
    if (atCapsule || Math.abs(azimuthDeg) < MIDDLE_DEG) return false;
    const shift = playerIn(session, id)?.shift ?? null;
    return shift === null || (Math.abs(shift) > MIDDLE && side * shift * azimuthDeg < 0);
  }).length;
}

/** How much of a player's place spots make, percent. */
function spotPullPct(session: Session, focus: Focus): number | null {
  const source = sourceIn(session, focus);
  const figures = source && mixFigures(session, source);
  if (!figures) return null;
  const spots = new Set(
    heardArrays(session)
      .filter(({ role }) => role === 'spot')
      .map(({ id }) => id),
  );
  return figures.pulls.reduce((sum, { arrayId, pct }) => sum + (spots.has(arrayId) ? pct : 0), 0);
}

const sense = (
  words: string,
  unit: string,
  digits: number,
  better: Sense['better'],
  enough: number | null,
  of: Sense['of'],
): Sense => ({ words, unit, digits, better, enough, of });

type Parts = Parameters<typeof sense>;
const sized = (usualTo: number, ...parts: Parts): Sense => ({
  ...sense(...parts),
  isSize: true,
  usualTo,
});
const ofRoom = (...parts: Parts): Sense => ({ ...sense(...parts), isOfRoom: true });

/** Every figure by its name. What is enough is a step that one hears for sure, one of this product's own. */
export const SENSES = {
  room: ofRoom('direct to room', 'dB', 1, 'more', 3, (s) => expectedOf(s).directDb),
  dry: ofRoom('direct to room', 'dB', 1, 'less', 3, (s) => expectedOf(s).directDb),
  'own room': sense('direct to room against the others', 'dB', 1, 'more', 3, (s, f) =>
    against(s, f, ({ directDb }) => directDb),
  ),
  'own direct': sense(
    'direct to room of the player',
    'dB',
    1,
    'more',
    3,
    (s, f) => playerIn(s, f)?.directDb ?? null,
  ),
  weak: sense('level against the others', 'dB', 1, 'more', 3, (s, f) =>
    against(s, f, ({ levelDb }) => levelDb),
  ),
  loud: sense('level against the others', 'dB', 1, 'less', 3, (s, f) =>
    against(s, f, ({ levelDb }) => levelDb),
  ),
  gap: {
    ...sense('largest gap', '% of the base', 0, 'less', 15, (s) => worstStage(s, 'largestGapPct')),
    usualTo: LARGE_GAP_PCT,
  },
  narrow: sense('picture', '% of the base', 0, 'more', 20, (s) => pictureWidthPct(s)),
  speakers: sense('players at a loudspeaker', '%', 0, 'less', null, (s) =>
    worstStage(s, 'atSpeakersPct'),
  ),
  side: sized(1, 'one side louder by', 'dB', 1, 'less', null, (s) => {
    const { rightDb } = expectedOf(s);
    return rightDb === null ? null : Math.abs(rightDb);
  }),
  place: sense('off its place by', '%', 0, 'less', null, misplacedPct),
  mono: {
    ...sense('mono of the worst player', 'dB', 1, 'more', 3, (s) => expectedOf(s).monoDb),
    usualFrom: MONO_LOSS_DB,
  },
  comb: sized(6, 'comb', 'dB', 0, 'less', 8, combDb),
  echo: sized(0, 'echo above what is heard apart', 'dB', 1, 'less', null, (s) => echoesDb(s)),
  back: sized(3, 'front against back', 'dB', 1, 'less', null, (s) => frontToBack(s)),
  depth: sense('front nearer than back', 'dB', 1, 'more', 2, (s) => depthDb(s)),
  harsh: sense('height over the strings', '°', 0, 'less', 10, overStringsDeg),
  dull: sense('height over the strings', '°', 0, 'more', 10, overStringsDeg),
  boom: sized(3, 'proximity at 100 Hz', 'dB', 1, 'less', 3, (s) => proximityDb(s)),
  bass: sense('towards omni', '%', 0, 'more', 25, (s) => omniPart(s)),
  space: sense('correlation in the bass', '', 2, 'less', 0.2, (s) => expectedOf(s).lowCorrelation),
  spill: sense('loudest of the others in the spot', 'dB', 1, 'less', 4, spillDb),
  wander: sense('image over 30 cm to either side', '%', 0, 'less', 10, wandersPct),
  'own width': sense('width of the player', '% of the base', 0, 'less', 15, ownWidthPct),
  surface: sense('strongest reflection', 'dB', 1, 'less', 3, reflectionDb),
  exchanged: sense('players on the wrong side', '', 0, 'less', null, (s) => exchanged(s)),
  pull: sense('pull of the spots', '%', 0, 'less', 25, spotPullPct),
} as const satisfies Record<string, Sense>;

export type SenseName = keyof typeof SENSES;
