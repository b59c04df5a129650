import { coherentSumDb } from '../../../acoustics/coherent-mono';
import { stripsOf } from '../../../arrays/routing';
import { monoWaves, nearArrivals } from '../../../localisation/cues';
import { shiftIn } from '../../../localisation/leading';
import { arrivalsAt, readyArray, realGainOf } from '../../../prepare/arrays';
import { contextOf } from '../../../prepare/context';
import { playersOf } from '../../../prepare/for-whom';
import { BOUNDS } from '../../../session/bounds';
import { enabledArrays } from '../../../session/lists';
import type { MicArray, Session, Source } from '../../../session/schema';
import { amplitudeDb, toDeg, wrapDeg } from '../../../units/guard';
import { formatNumber, formatSigned } from '../../../units/format';
import { remembered } from '../../../units/remember';
import { heardArrays, mixFigures, prepareMix, pullIfLater } from '../../mix';
import { arrayFigures } from '../../array-figures';
import { against, LEAD_MS, leadingMain, TOO_WEAK_DB } from '../beside-main';
import { namesOf, type Change, type Fix, type Found } from '../finding';
import { arrayCauses } from './array-causes';

/** What one array does to the whole mix: its fader, its polarity, its delay. */

const setMix = (array: MicArray, mix: Partial<MicArray['mix']>): Change => ({
  kind: 'array',
  id: array.id,
  set: { mix: { ...array.mix, ...mix } },
});

/** Arrays whose own picture is wrong speak of that first. */
const isSound = (session: Session, array: MicArray): boolean =>
  !arrayCauses(session).some((cause) => cause.array.id === array.id);

/** From here on down nothing of an array is heard beside others, dB. */
const BOTTOM_DB = -50;
/** An ordinary place for a fader that was found at the bottom, dB. */
const USUAL_DB = [0, -6, -12, -20];

function levelOfMix({ technique, mix }: MicArray): number {
  const gains = stripsOf(technique, mix.capsules).map(({ gainDb }) => gainDb);
  return mix.faderDb + Math.max(...gains, BOUNDS.gainDb.min);
}

/** An array that is in use and that its fader lets nobody hear. */
export function fadersDown(session: Session): Found[] {
  return heardArrays(session).flatMap((array): Found[] | Found => {
    const levelDb = levelOfMix(array);
    if (levelDb > BOTTOM_DB) return [];
    const byFader = array.mix.faderDb <= BOTTOM_DB / 2;
    const capsules = stripsOf(array.technique, array.mix.capsules).map((strip) => ({
      ...strip,
      gainDb: 0,
    }));
    const fix = (db: number): Fix => ({
      label: byFader
        ? `Set its fader to ${formatSigned(db, 0)} dB`
        : `Set its channels to ${formatSigned(db, 0)} dB`,
      changes: [setMix(array, byFader ? { faderDb: db } : { capsules, faderDb: db })],
    });
    return {
      severity: array.role === 'main' ? 'fault' : 'caution',
      message: `${array.name}: ${byFader ? 'its fader stands' : 'its channels stand'} at ${formatSigned(levelDb, 0)} dB, so nothing of it is in the mix.`,
      arrays: [array],
      figures: { levelDb },
      size: 1,
      levers: () => [USUAL_DB.map(fix)],
      cause: {
        key: array.role === 'main' ? 'main' : 'beside',
        weight: -levelDb,
        words: (all) =>
          `${all.length} arrays are in use and their faders are down, so nothing of them is in the mix: ${all.flatMap(({ arrays }) => (arrays ?? []).map(({ id }) => session.arrays.find((one) => one.id === id)?.name ?? id)).join(', ')}.`,
        fixLabel: 'Bring them up',
      },
    };
  });
}

/** Pulled by so much of the half base, by at least so much of the mix, is pulled away. */
const PULLED = 0.3;
const PULLING_PCT = 50;
/** One player may be wanted there; from two on it is the fader. */
const PULLED_PLAYERS = 2;
const FADER_STEP_DB = 1;

/** Players whom an array that is not for them pulls out of the main array's picture. */
function pulledBy(
  session: Session,
  array: MicArray,
  main: MicArray,
  { among = session.sources, most = Infinity }: { among?: readonly Source[]; most?: number } = {},
): Source[] {
  const context = contextOf(session);
  const own = array.role === 'spot' || array.role === 'overhead';
  const theirs = own ? new Set(playersOf(array, session.sources, context.speed)) : new Set();
  const { model } = session.settings;
  const atMain = new Map(
    arrayFigures(main, session.sources, context).sources.map((of) => [of.id, of]),
  );
  let count = 0;
  const isPulled = (source: Source): boolean => {
    if (theirs.has(source)) return false;
    const mixed = mixFigures(session, source);
    const pct = mixed?.pulls.find(({ arrayId }) => arrayId === array.id)?.pct ?? 0;
    if (pct < PULLING_PCT) return false;
    const [there, here] = [shiftIn(mixed, model), shiftIn(atMain.get(source.id), model)];
    return here !== null && (there === null || Math.abs(there - here) > PULLED);
  };
  return among.filter((source) => {
    if (count >= most || !isPulled(source)) return false;
    count += 1;
    return true;
  });
}

/** Whether an array pulls only because it comes before the main one. */
function pullsByLead(
  session: Session,
  array: MicArray,
  main: MicArray,
  pulled: readonly Source[],
): boolean {
  const { speed } = contextOf(session);
  const leads = playersOf(array, session.sources, speed).map(
    (source) => against(session, array, main, source)?.leadMs ?? 0,
  );
  const leadMs = Math.max(0, ...leads);
  if (!(leadMs > LEAD_MS)) return false;
  const strips = stripsOf(array.technique, array.mix.capsules);
  const most = Math.max(0, ...strips.map(({ delayMs }) => delayMs));
  if (most + leadMs <= BOUNDS.delayMs.max) {
    const left = pulled.filter(
      (source) => pullIfLater(session, source, array.id, leadMs) >= PULLING_PCT,
    );
    if (left.length < PULLED_PLAYERS) return true;
  }
  const capsules = strips.map((strip) => ({
    ...strip,
    delayMs: Math.min(BOUNDS.delayMs.max, strip.delayMs + leadMs),
  }));
  const there = withMix(session, array, { capsules });
  const again = there.arrays.find(({ id }) => id === array.id);
  // A delay pulls nobody whom it did not pull before.
  const still = { among: pulled, most: PULLED_PLAYERS };
  return again !== undefined && pulledBy(there, again, main, still).length < PULLED_PLAYERS;
}

const withMix = (session: Session, array: MicArray, mix: Partial<MicArray['mix']>): Session => ({
  ...session,
  arrays: session.arrays.map((one) =>
    one.id === array.id ? { ...one, mix: { ...one.mix, ...mix } } : one,
  ),
});

/** A fader so high that its array pulls players it is not for. */
export function fadersPull(session: Session): Found[] {
  const main = leadingMain(session);
  if (!main || !isSound(session, main) || levelOfMix(main) <= BOTTOM_DB) return [];
  return heardArrays(session).flatMap((array): Found[] | Found => {
    if (array.id === main.id || array.role === 'main' || !isSound(session, array)) return [];
    const pulled = pulledBy(session, array, main);
    if (pulled.length < PULLED_PLAYERS) return [];
    // What is pulled by who comes first, and by nothing else, wants a delay and not a fader.
    if (pullsByLead(session, array, main, pulled)) return [];
    const { faderDb } = array.mix;
    const fix = (db: number): Fix => ({
      label: `Lower its fader to ${formatSigned(db, 0)} dB`,
      changes: [setMix(array, { faderDb: db })],
    });
    return {
      severity: 'fault',
      message: `${array.name}: at ${formatSigned(faderDb, 0)} dB its fader pulls ${namesOf(session, pulled)} out of the picture of ${main.name}.`,
      sources: pulled,
      arrays: [array],
      figures: { pulledPlayers: pulled.length, faderDb },
      size: pulled.length,
      gauge: {
        words: 'players pulled away',
        unit: '',
        digits: 0,
        of: (there) => {
          const again = there.arrays.find(({ id }) => id === array.id);
          const lead = leadingMain(there);
          return again && lead ? pulledBy(there, again, lead).length : null;
        },
      },
      levers: () => [[fix(gentlestFader(session, array, main, pulled))]],
    };
  });
}

/** The highest fader, in whole decibels, with which an array pulls none of those whom it pulls now. */
function gentlestFader(
  session: Session,
  array: MicArray,
  main: MicArray,
  pulled: readonly Source[],
): number {
  let [low, high]: [number, number] = [
    BOUNDS.gainDb.min,
    Math.ceil(array.mix.faderDb) - FADER_STEP_DB,
  ];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    const there = withMix(session, array, { faderDb: middle });
    const again = there.arrays.find(({ id }) => id === array.id);
    if (again && pulledBy(there, again, main, { among: pulled, most: 1 }).length === 0)
      low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Later than this behind the main array, by its own delay, an array is not part of the picture, ms. */
const LATE_MS = 30;
/** Weaker than this in mono by a polarity, dB. */
const CANCELS_DB = 1;

/** Mean mono sum of the mix over some players, dB. */
function monoOf(session: Session, players: readonly Source[]): number {
  const mix = prepareMix(session);
  const { speed } = contextOf(session);
  if (!mix) return 0;
  const sums = players.flatMap((source) => {
    const arrivals = nearArrivals(mix, source, speed);
    return arrivals ? coherentSumDb(monoWaves(mix, arrivals)) : [];
  });
  return sums.reduce((total, db) => total + db, 0) / Math.max(1, sums.length);
}

interface Timed {
  late: number;
  align: number;
}

/** How late an array is against the main one by its own delays, and the delay without that, ms. */
function lateness(session: Session, array: MicArray, main: MicArray): Timed | null {
  const strips = stripsOf(array.technique, array.mix.capsules);
  const least = Math.min(...strips.map(({ delayMs }) => delayMs));
  if (!(least > LATE_MS / 2)) return null;
  const { speed } = contextOf(session);
  const found = playersOf(array, session.sources, speed).flatMap((source) => {
    const to = against(session, array, main, source);
    return to && to.levelDb > -TOO_WEAK_DB ? [-to.leadMs] : [];
  });
  if (found.length === 0) return null;
  const late = Math.min(...found);
  if (late <= LATE_MS) return null;
  return { late, align: Math.round(Math.max(0, least - late) * 100) / 100 };
}

/** An array that its delay takes out of the picture, or its polarity out of the mono sum. */
export function arraysAgainst(session: Session): Found[] {
  const main = leadingMain(session);
  const heard = heardArrays(session);
  if (!main || heard.length < 2) return [];
  const { speed } = contextOf(session);
  return heard.flatMap((array): Found[] | Found => {
    const strips = stripsOf(array.technique, array.mix.capsules);
    const inverted = strips.length > 0 && strips.every(({ polarity }) => polarity === -1);
    const isMain = array.id === main.id;
    const timed = isMain ? null : lateness(session, array, main);
    if (!timed && !inverted) return [];
    const least = Math.min(...strips.map(({ delayMs }) => delayMs));
    const aligned = strips.map((strip) => ({
      ...strip,
      delayMs: timed
        ? Math.round((strip.delayMs - least + timed.align) * 100) / 100
        : strip.delayMs,
    }));
    const upright = aligned.map((strip) => ({ ...strip, polarity: 1 as const }));
    const players = playersOf(array, session.sources, speed);
    const cancels = (): number =>
      monoOf(withMix(session, array, { capsules: upright }), players) -
      monoOf(withMix(session, array, { capsules: aligned }), players);
    // Of several main arrays, or of a pair and a spot, the one that is the exception is the cause.
    const others = heard.filter(({ id }) => id !== array.id);
    const alone = others.some(({ mix }) => mix.capsules.every(({ polarity }) => polarity === 1));
    const turned = inverted && alone && (timed !== null || cancels() > CANCELS_DB);
    if (!timed && !turned) return [];
    const parts = [
      ...(timed
        ? [
            `it comes ${formatNumber(timed.late, 0)} ms after ${main.name}, by its own delay of ${formatNumber(least, 2)} ms`,
          ]
        : []),
      ...(turned
        ? [
            `${strips.length === 1 ? 'it' : 'all of it'} is inverted against ${isMain ? 'the others' : main.name}`,
          ]
        : []),
    ];
    const changes = [
      setMix(array, { capsules: (turned ? upright : aligned).map((s) => ({ ...s })) }),
    ];
    const label = timed
      ? `Set its delay to ${formatNumber(timed.align, 2)} ms${turned ? ' and its polarity to normal' : ''}`
      : 'Set its polarity to normal';
    return {
      severity: 'fault',
      message: `${array.name}: ${parts.join(', and ')}, so ${timed ? 'it is heard apart from the picture' : 'the two cancel each other in mono'}.`,
      sources: players,
      arrays: [array],
      figures: { lateMs: timed?.late ?? null, monoDb: timed ? null : -cancels() },
      size: (timed ? timed.late / LATE_MS : 0) + (turned ? 1 : 0),
      levers: () => [[{ label, changes }]],
    };
  });
}

/** Off its axis by more than this, and softer by that much, a microphone looks past its player. */
const PAST_DEG = 60;
const SOFTER_DB = 6;

/** A single microphone that looks past the player it was chosen for. */
export function singlesAimedPast(session: Session): Found[] {
  const { speed } = contextOf(session);
  return enabledArrays(session).flatMap((array): Found[] | Found => {
    const { technique } = array;
    const chosen = array.for?.kind === 'some';
    const [player, more] = playersOf(array, session.sources, speed);
    if (technique.kind !== 'single' || !chosen || !player || more) return [];
    const [dx, dy, dz] = [player.x - array.x, player.y - array.y, player.z - array.z];
    const farM = Math.hypot(dx, dy);
    if (Math.hypot(farM, dz) < 0.1) return [];
    const aimDeg = farM < 0.05 ? array.aimDeg : Math.round(toDeg(Math.atan2(dx, dy))) || 0;
    const tiltDeg = Math.round(toDeg(Math.atan2(dz, farM))) || 0;
    const aimed = { ...array, aimDeg, tiltDeg };
    const levelAt = (of: MicArray): number => {
      const [arrival] = arrivalsAt(of, player, speed) ?? [];
      return arrival ? amplitudeDb(realGainOf(arrival, speed)) : 0;
    };
    const softerDb = levelAt(aimed) - levelAt(array);
    const [axis] = readyArray(array).capsules;
    const length = Math.hypot(dx, dy, dz);
    const cosine = axis ? (axis.axis.x * dx + axis.axis.y * dy + axis.axis.z * dz) / length : 1;
    const offDeg = toDeg(Math.acos(Math.min(1, Math.max(-1, cosine))));
    if (offDeg < PAST_DEG || softerDb < SOFTER_DB) return [];
    return {
      severity: 'fault',
      message: `${array.name}: it is aimed ${formatNumber(offDeg, 0)}° past ${player.name}, whom it is for, and hears ${formatNumber(softerDb, 0)} dB less than it could.`,
      sources: [player],
      arrays: [array],
      figures: { offDeg: wrapDeg(offDeg), softerDb },
      size: softerDb,
      levers: () => [
        [
          {
            label: `Aim it at ${player.name}: ${formatSigned(aimDeg, 0)}°, ${formatSigned(tiltDeg, 0)}° up`,
            changes: [{ kind: 'array', id: array.id, set: { aimDeg, tiltDeg } }],
          },
        ],
      ],
    };
  });
}

/** Everything that a single array does to the mix, once for a session. */
export const mixCauses = remembered((session: Session) => ({
  down: fadersDown(session),
  pull: fadersPull(session),
  against: arraysAgainst(session),
  past: singlesAimedPast(session),
}));
