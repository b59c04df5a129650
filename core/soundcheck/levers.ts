import { mean } from 'd3-array';
import { applyFix, type Fix, type Lever } from '../analysis/findings/finding';
import * as turns from '../analysis/findings/levers';
import { arrivalsOf } from '../analysis/arrivals';
import { stripsOf, usualPans } from '../arrays/routing';
import { facingTo } from '../ensembles/radiation';
import { spotFor } from '../planning/presets';
import { contextOf } from '../prepare/context';
import { arraysOnlyFor } from '../prepare/for-whom';
import { BOUNDS } from '../session/bounds';
import { enabledArrays, leadingArray } from '../session/lists';
import { freeName } from '../session/names';
import type { MicArray, Session, Source } from '../session/schema';
import { wrapDeg } from '../units/guard';
import { lengthText, formatSigned } from '../units/format';
import { pictureSpreadPct, type Focus } from './senses';

/** What an engineer turns when something is heard: each a row of steps, the gentlest first. */

/** One step: what is done, and the plan that it makes. */
export interface Try {
  label: string;
  plan: Session;
}

type LeverOf = (session: Session, focus: Focus) => Iterable<Try>;

function* fixed(session: Session, array: MicArray, lever: Lever): Generator<Try> {
  for (const fix of lever) yield { label: named(array, fix.label), plan: applyFix(session, fix) };
}

/** "Move it back by …" of whom, where it does not say so itself. */
const named = (array: MicArray, label: string): string =>
  label.includes(array.name) || array.name === '' ? label : `${array.name}: ${lower(label)}`;
const lower = (label: string): string => label.charAt(0).toLowerCase() + label.slice(1);

const ofMain =
  (lever: (session: Session, main: MicArray) => Lever): LeverOf =>
  (session) => {
    const main = leadingArray(session);
    return main ? fixed(session, main, lever(session, main)) : [];
  };

const sourceIn = (session: Session, focus: Focus): Source | undefined =>
  session.sources.find(({ id }) => id === focus);

function ownSpots(session: Session, focus: Focus): MicArray[] {
  const source = sourceIn(session, focus);
  return source
    ? arraysOnlyFor(source, enabledArrays(session), session.sources, contextOf(session).speed)
    : [];
}

const ofSpots = (lever: (session: Session, spot: MicArray, player: Source) => Lever): LeverOf =>
  function* (session, focus) {
    const player = sourceIn(session, focus);
    for (const spot of ownSpots(session, focus)) {
      if (player) yield* fixed(session, spot, lever(session, spot, player));
    }
  };

const ofRole = (
  roles: readonly MicArray['role'][],
  lever: (session: Session, array: MicArray) => Lever,
): LeverOf =>
  function* (session) {
    for (const array of enabledArrays(session)) {
      if (roles.includes(array.role)) yield* fixed(session, array, lever(session, array));
    }
  };

const setOn = (array: MicArray, label: string, set: Partial<MicArray>): Fix => ({
  label,
  changes: [{ kind: 'array', id: array.id, set }],
});

/** All strips of an array plain, each at its usual pan: what a slip of the hand leaves is undone. */
function* plainStrips({ technique, mix }: MicArray, array: MicArray): Generator<Fix> {
  if (mix.capsules.length === 0) return;
  const strips = stripsOf(technique, mix.capsules);
  const set = (label: string, capsules: typeof strips): Fix =>
    setOn(array, label, { mix: { ...mix, capsules: capsules.map((one) => ({ ...one })) } });
  if (strips.some(({ polarity }) => polarity === -1)) {
    yield set(
      'Set the polarity of its channels to normal',
      strips.map((one) => ({ ...one, polarity: 1 as const })),
    );
  }
  const gains = new Set(strips.map(({ gainDb }) => gainDb));
  if (gains.size > 1) {
    const [gainDb = 0] = [...strips.map((one) => one.gainDb)].sort((a, b) => a - b);
    yield set(
      `Set the gains of its channels alike, to ${formatSigned(gainDb, 1)} dB`,
      strips.map((one) => ({ ...one, gainDb })),
    );
  }
  const delays = new Set(strips.map(({ delayMs }) => delayMs));
  if (delays.size > 1) {
    yield set(
      'Set the delays of its channels alike',
      strips.map((one) => ({ ...one, delayMs: Math.min(...strips.map((each) => each.delayMs)) })),
    );
  }
  const pans = usualPans(technique);
  if (strips.some(({ pan }, i) => Math.abs(pan - (pans[i] ?? 0)) > 0.01)) {
    yield set(
      'Pan each of its channels to its usual side',
      strips.map((one, i) => ({ ...one, pan: pans[i] ?? 0 })),
    );
  }
  yield setOn(array, 'Set its channels as is usual: pans, gains, polarity, no delay', {
    mix: { ...mix, capsules: [] },
  });
}

/** A player's own microphones where the main array hears him: delayed and panned to it. */
function* joined(session: Session, spot: MicArray, player: Source): Generator<Fix> {
  const proposal = arrivalsOf(session, player).proposals.find(({ arrayId }) => arrayId === spot.id);
  if (!proposal) return;
  const strips = stripsOf(spot.technique, spot.mix.capsules);
  const delayMs = Math.round(proposal.delayMs * 100) / 100;
  const alone = strips.length === 1;
  yield setOn(
    spot,
    `Delay it to ${delayMs.toFixed(2)} ms${alone && proposal.pan !== null ? ` and pan it to ${Math.round(proposal.pan * 100)} %` : ''}, with the main array`,
    {
      mix: {
        ...spot.mix,
        capsules: strips.map((strip) => ({
          ...strip,
          delayMs,
          pan: alone && proposal.pan !== null ? Math.round(proposal.pan * 100) / 100 : strip.pan,
        })),
      },
    },
  );
}

const NEW_SPOT = 'spot of the soundcheck';
/** A microphone of his own, softly, for whoever has none. */
function* newSpot(session: Session, focus: Focus): Generator<Try> {
  const player = sourceIn(session, focus);
  if (!player || ownSpots(session, focus).length > 0) return;
  const name = freeName(`${player.name} spot`, new Set(session.arrays.map((array) => array.name)));
  const spot = spotFor(session, player, `${NEW_SPOT} ${player.id}`.slice(0, 100), name);
  for (const faderDb of [-12, -9, -6, -3, 0]) {
    yield {
      label: `Put up a spot for ${player.name}, at ${formatSigned(faderDb, 0)} dB`,
      plan: {
        ...session,
        arrays: [...session.arrays, { ...spot, mix: { ...spot.mix, faderDb } }],
      },
    };
  }
}

const LIDS = ['closed', 'short-stick', 'full-stick', 'off'] as const;
const LID_WORDS: Readonly<Record<string, string>> = {
  closed: 'close the lid',
  'short-stick': 'lid on the short stick',
  'full-stick': 'lid on the full stick',
  off: 'have the lid taken off by whoever may do it',
};

const ofPlayer = (lever: (session: Session, player: Source) => Iterable<Fix>): LeverOf =>
  function* (session, focus) {
    const player = sourceIn(session, focus);
    if (!player) return;
    for (const fix of lever(session, player)) {
      yield { label: fix.label, plan: applyFix(session, fix) };
    }
  };

const setPlayer = (
  player: Source,
  label: string,
  set: Extract<Fix['changes'][number], { kind: 'source' }>['set'],
): Fix => ({
  label: `${player.name}: ${label}`,
  changes: [{ kind: 'source', id: player.id, set }],
});

const lids = (sign: 1 | -1): LeverOf =>
  ofPlayer(function* (_session, player) {
    if (player.lid === 'none') return;
    const now = LIDS.indexOf(player.lid);
    for (let i = now + sign; i >= 0 && i < LIDS.length; i += sign) {
      const lid = LIDS[i] as (typeof LIDS)[number];
      yield setPlayer(player, LID_WORDS[lid] ?? '', { lid });
    }
  });

/** On the plan towards the main array or away from it, as far as there is room. */
const seat = (sign: 1 | -1): LeverOf =>
  ofPlayer(function* (session, player) {
    const main = leadingArray(session);
    if (!main) return;
    const [dx, dy] = [main.x - player.x, main.y - player.y];
    const farM = Math.hypot(dx, dy);
    if (farM < 0.5) return;
    for (let byM = 0.25; byM <= Math.min(3, sign > 0 ? farM - 0.8 : 3); byM += 0.25) {
      const at = {
        x: Math.round((player.x + (sign * byM * dx) / farM) * 100) / 100,
        y: Math.round((player.y + (sign * byM * dy) / farM) * 100) / 100,
      };
      const free = session.sources.every(
        (other) => other.id === player.id || Math.hypot(other.x - at.x, other.y - at.y) >= 0.8,
      );
      if (!free || !turns.isPossible(session, { ...at, z: player.z })) return;
      yield setPlayer(
        player,
        `${lengthText(byM, session.settings.units)} ${sign > 0 ? 'nearer to' : 'farther from'} the main array`,
        at,
      );
    }
  });

const turned: LeverOf = ofPlayer(function* (session, player) {
  const main = leadingArray(session);
  if (!main) return;
  const facingDeg = facingTo(player, main);
  if (Math.abs(wrapDeg(facingDeg - player.facingDeg)) < 5) return;
  yield setPlayer(player, `turn to the main array, to face ${facingDeg}°`, { facingDeg });
});

function* turnedRound(session: Session): Generator<Try> {
  const main = leadingArray(session);
  if (!main) return;
  const aimDeg = wrapDeg(main.aimDeg + 180) || 0;
  yield* fixed(session, main, [setOn(main, 'Turn it round', { aimDeg })]);
}

/** A picture that is so much wider or narrower is still the same, percent of the half base. */
const KEPT_PCT = 2;

/**
 * The main pair moved, and its spacing or its angle set so that the picture stays as wide: from nearer
 * the same players are seen under a wider angle.
 * @param sign of what keeps it: −1 less of it, 1 more
 */
const kept = (move: (session: Session, main: MicArray) => Lever, sign: 1 | -1): LeverOf =>
  function* (session) {
    const main = leadingArray(session);
    const wide = pictureSpreadPct(session);
    if (main?.technique.kind !== 'pair' || wide === null) return;
    for (const fix of move(session, main)) {
      const there = applyFix(session, fix);
      const moved = leadingArray(there);
      if (!moved || Math.abs((pictureSpreadPct(there) ?? wide) - wide) <= KEPT_PCT) continue;
      const levers =
        main.technique.spacingM > 0
          ? turns.spacings(there, moved, sign)
          : turns.angles(moved, sign);
      for (const setting of levers) {
        const plan = applyFix(there, setting);
        const now = pictureSpreadPct(plan) ?? wide;
        if (sign * (now - wide) < -KEPT_PCT) continue;
        if (Math.abs(now - wide) > KEPT_PCT) break;
        const both = `${lower(fix.label)}, and ${lower(setting.label)}: the picture stays as wide`;
        yield { label: `${main.name}: ${both}`, plan };
        break;
      }
    }
  };

/** Lower than its players' mouths and strings a main pair looks at music stands, m above them. */
const ABOVE_M = 0.2;
function* lowered(session: Session, main: MicArray): Generator<Fix> {
  const players = turns.playersFor(session, main);
  const lowest = (mean(players, ({ z }) => z) ?? 0) + ABOVE_M;
  for (const fix of turns.lowered(session, main)) {
    const [to] = fix.changes;
    if (to?.kind !== 'array' || (to.set.z ?? main.z) < lowest) return;
    yield fix;
  }
}

const tilts = (sign: 1 | -1): LeverOf =>
  ofMain((_session, main) =>
    [5, 10, 15, 20, 30].flatMap((by) => {
      const tiltDeg = Math.round(main.tiltDeg + sign * by);
      return Math.abs(tiltDeg) > 90 ? [] : [setOn(main, `Tilt it to ${tiltDeg}°`, { tiltDeg })];
    }),
  );

/** A fader down or up, farther than a fine adjustment goes: what was left open is closed. */
/** Below it is left out rather than turned down, above it is another main array, dB. */
const [LOWEST_DB, HIGHEST_DB] = [-20, 6];
const FADER_STEPS_DB = [1, 2, 3, 4, 6, 8, 10, 12, 15, 18, 21, 24];
function* faders(array: MicArray, sign: 1 | -1): Generator<Fix> {
  const { min, max } = BOUNDS.gainDb;
  for (const by of FADER_STEPS_DB) {
    const faderDb = Math.round((array.mix.faderDb + sign * by) * 2) / 2;
    if (sign < 0 ? faderDb < Math.max(min, LOWEST_DB) : faderDb > Math.min(max, HIGHEST_DB)) return;
    const words = `${sign < 0 ? 'Lower' : 'Raise'} the fader of ${array.name} to ${formatSigned(faderDb, 1)} dB`;
    yield setOn(array, words, { mix: { ...array.mix, faderDb } });
  }
}

/** Farther nobody moves a main pair out of the middle, m. */
const ASIDE_M = 1.2;
const aside = (sign: 1 | -1) =>
  function* (session: Session, main: MicArray): Generator<Fix> {
    for (const fix of turns.sideways(session, main, sign)) {
      const [to] = fix.changes;
      if (to?.kind !== 'array') return;
      const { x = main.x, y = main.y } = to.set;
      if (Math.hypot(x - main.x, y - main.y) > ASIDE_M) return;
      yield fix;
    }
  };

const DISTANT = ['ambience', 'surround'] as const;
const spotClearM = 0.25;

/** Every lever by its name. */
export const LEVERS = {
  closer: ofMain(turns.closer),
  back: ofMain(turns.back),
  'closer, kept': kept(turns.closer, -1),
  'back, kept': kept(turns.back, 1),
  higher: ofMain(turns.raised),
  lower: ofMain(lowered),
  'tilt down': tilts(-1),
  'tilt up': tilts(1),
  aim: ofMain(turns.aimed),
  'turn round': turnedRound,
  left: ofMain(aside(-1)),
  right: ofMain(aside(1)),
  'wider angle': ofMain((_s, main) => turns.angles(main, 1)),
  'smaller angle': ofMain((_s, main) => turns.angles(main, -1)),
  'wider spacing': ofMain((session, main) => turns.spacings(session, main, 1)),
  'smaller spacing': ofMain((session, main) => turns.spacings(session, main, -1)),
  'narrower pattern': ofMain(turns.narrowerPatterns),
  'wider pattern': ofMain(turns.widerPatterns),
  'more side': ofMain((_s, main) => turns.sideLevels(main, 1)),
  'less side': ofMain((_s, main) => turns.sideLevels(main, -1)),
  larger: ofMain((_s, main) => turns.scaled(main, 1)),
  smaller: ofMain((_s, main) => turns.scaled(main, -1)),
  strips: ofRole(['main', 'outrigger', 'spot', 'overhead', 'ambience', 'surround'], (_s, array) =>
    plainStrips(array, array),
  ),
  'spot up': ofSpots((_s, spot) => faders(spot, 1)),
  'spot down': ofSpots((_s, spot) => faders(spot, -1)),
  'other spots down': ofRole(['spot', 'overhead'], (_s, array) => faders(array, -1)),
  'spot nearer': ofSpots((session, spot, player) =>
    turns.nearer(session, spot, player, spotClearM),
  ),
  'spot farther': ofSpots((session, spot, player) => turns.farther(session, spot, player)),
  'spot pattern': ofSpots((session, spot) => turns.narrowerPatterns(session, spot)),
  'join spot': ofSpots(joined),
  'new spot': newSpot,
  'outriggers down': ofRole(['outrigger'], (_s, array) => faders(array, -1)),
  'outriggers up': ofRole(['outrigger'], (_s, array) => faders(array, 1)),
  'ambience down': ofRole(DISTANT, (_s, array) => faders(array, -1)),
  'ambience up': ofRole(DISTANT, (_s, array) => faders(array, 1)),
  'leave out': (session: Session) =>
    [...turns.leftOut(session)].map((fix) => ({ label: fix.label, plan: applyFix(session, fix) })),
  'open lid': lids(1),
  'close lid': lids(-1),
  nearer: seat(1),
  'farther off': seat(-1),
  'turn player': turned,
} as const satisfies Record<string, LeverOf>;

export type LeverName = keyof typeof LEVERS;
