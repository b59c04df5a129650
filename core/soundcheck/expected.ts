import { mean } from 'd3-array';
import { coherentMono } from '../acoustics/coherent-mono';
import { directToReverberantDb } from '../acoustics/reverberant-field';
import { interchannelCorrelation } from '../analysis/correlation';
import { LOW_HZ } from '../analysis/criteria';
import { mixFigures, prepareMix } from '../analysis/mix';
import { monoWaves, nearArrivals } from '../localisation/cues';
import { imageIn } from '../localisation/leading';
import { stageFigures } from '../localisation/stage';
import { contextOf } from '../prepare/context';
import type { Session } from '../session/schema';
import { dbToPower, powerDb } from '../units/guard';
import { capitalised, formatNumber } from '../units/format';
import { remembered } from '../units/remember';

/** What a plan is expected to sound like, player by player: frozen with an option when that is made. */

/** Of one player in the whole mix. A figure that is not known is null. */
export interface ExpectedPlayer {
  id: string;
  name: string;
  /** place and ends, −1 left … 1 right */
  shift: number | null;
  left: number | null;
  right: number | null;
  /** direct sound against the room, dB */
  directDb: number | null;
  /** direct sound against the mean of all players, dB */
  levelDb: number | null;
  /** what mono leaves, against two uncorrelated channels, dB */
  monoDb: number | null;
}

export interface Expected {
  /** the model that places are of */
  model: string;
  players: ExpectedPlayer[];
  /** percent of the base */
  widthPct: number | null;
  gapPct: number | null;
  /** right loudspeaker against the left one, direct sound of all, dB */
  rightDb: number | null;
  /** mean over the players, dB */
  directDb: number | null;
  monoDb: number | null;
  /** of both channels in the room, at 125 Hz */
  lowCorrelation: number | null;
}

const known = (values: readonly (number | null)[]): number[] => values.flatMap((v) => v ?? []);

/** The figures of a plan as everybody would hear its whole mix; remembered for a session. */
export const expectedOf: (session: Session) => Expected = remembered((session) => {
  const { model } = session.settings;
  const { speed, criticalDistanceM } = contextOf(session);
  const mix = prepareMix(session);
  let [left, right] = [0, 0];
  const heard = session.sources.map((source): ExpectedPlayer => {
    const arrivals = mix && nearArrivals(mix, source, speed);
    const figures = mixFigures(session, source);
    const place = imageIn(figures, model);
    const power = arrivals
      ? arrivals.reduce((sum, { gain }, i) => sum + (mix.weights[i] ?? 0) * gain * gain, 0)
      : 0;
    const levelDb = power > 0 ? source.levelDb + powerDb(power) : null;
    if (levelDb !== null && figures) {
      const ratio = dbToPower(figures.icldDb);
      left += dbToPower(levelDb) / (1 + ratio);
      right += (dbToPower(levelDb) * ratio) / (1 + ratio);
    }
    const audible = mix?.weights.some((weight, i) => weight * (mix.diffuse[i] ?? 0) > 0) ?? false;
    return {
      id: source.id,
      name: source.name,
      shift: place?.shift ?? null,
      left: place?.left ?? null,
      right: place?.right ?? null,
      directDb:
        arrivals && audible && criticalDistanceM !== null
          ? directToReverberantDb(arrivals, mix.weights, mix.diffuse, source.q, criticalDistanceM)
          : null,
      levelDb,
      monoDb: arrivals && audible ? coherentMono(monoWaves(mix, arrivals)).sumDb : null,
    };
  });
  const levels = known(heard.map(({ levelDb }) => levelDb));
  const middleDb = levels.length > 0 ? powerDb(mean(levels.map(dbToPower)) ?? 1) : 0;
  const players = heard.map((player) => ({
    ...player,
    levelDb: player.levelDb === null ? null : player.levelDb - middleDb,
  }));
  const stage = stageFigures(
    players.map(({ shift, left: from, right: to }) =>
      shift === null || from === null || to === null ? undefined : { shift, left: from, right: to },
    ),
  );
  const monos = known(players.map(({ monoDb }) => monoDb));
  return {
    model,
    players,
    widthPct: stage?.imageWidthPct ?? null,
    gapPct: stage?.largestGapPct ?? null,
    rightDb: left > 0 && right > 0 ? powerDb(right / left) : null,
    directDb: mean(known(players.map(({ directDb }) => directDb))) ?? null,
    monoDb: monos.length > 0 ? Math.min(...monos) : null,
    lowCorrelation: mix ? (interchannelCorrelation(mix, LOW_HZ, speed)?.real ?? null) : null,
  };
});

const isNumber = (value: unknown): value is number =>
  typeof value === 'number' && Number.isFinite(value);
const figureIn = (from: Record<string, unknown>, name: string): number | null =>
  isNumber(from[name]) ? from[name] : null;

/**
 * Expected figures as an entry of the log holds them; what is no figure in it is not known.
 * @returns null where no players are in it
 */
export function readExpected(kept: Readonly<Record<string, unknown>>): Expected | null {
  if (!Array.isArray(kept['players'])) return null;
  const players = kept['players'].flatMap((one: unknown): ExpectedPlayer[] => {
    if (typeof one !== 'object' || one === null) return [];
    const from = one as Record<string, unknown>;
    if (typeof from['id'] !== 'string') return [];
    return [
      {
        id: from['id'],
        name: typeof from['name'] === 'string' ? from['name'] : '',
        shift: figureIn(from, 'shift'),
        left: figureIn(from, 'left'),
        right: figureIn(from, 'right'),
        directDb: figureIn(from, 'directDb'),
        levelDb: figureIn(from, 'levelDb'),
        monoDb: figureIn(from, 'monoDb'),
      },
    ];
  });
  return {
    model: typeof kept['model'] === 'string' ? kept['model'] : '',
    players,
    widthPct: figureIn(kept, 'widthPct'),
    gapPct: figureIn(kept, 'gapPct'),
    rightDb: figureIn(kept, 'rightDb'),
    directDb: figureIn(kept, 'directDb'),
    monoDb: figureIn(kept, 'monoDb'),
    lowCorrelation: figureIn(kept, 'lowCorrelation'),
  };
}

/** What nobody would hear is not said: percent of the half base, dB. */
const SAID_PCT = 2;
const SAID_DB = 0.5;

/** What becomes of one player from one plan to another. */
export interface PlayerChange {
  id: string;
  name: string;
  /** percent of the half base, positive to the right; null where either has no place */
  shiftPct: number | null;
  /** more direct sound against the room, dB */
  directDb: number | null;
  /** against the mean of all, dB */
  levelDb: number | null;
  /** how much of it is to be heard, in steps that somebody would notice */
  size: number;
  /** "Viol: 9 % further left, 2 dB more room"; empty where nothing is to be heard */
  words: string;
}

const minus = (a: number | null, b: number | null): number | null =>
  a === null || b === null ? null : a - b;

function changeWords(before: ExpectedPlayer, after: ExpectedPlayer): string[] {
  const said: string[] = [];
  const shift = minus(after.shift, before.shift);
  if (before.shift !== null && after.shift === null) said.push('without a stable place');
  else if (before.shift === null && after.shift !== null) said.push('now with a stable place');
  else if (shift !== null && Math.abs(shift * 100) >= SAID_PCT) {
    said.push(
      `${formatNumber(Math.abs(shift * 100), 0)} % further ${shift < 0 ? 'left' : 'right'}`,
    );
  }
  const direct = minus(after.directDb, before.directDb);
  if (direct !== null && Math.abs(direct) >= SAID_DB) {
    said.push(`${formatNumber(Math.abs(direct), 1)} dB ${direct < 0 ? 'more' : 'less'} room`);
  }
  const level = minus(after.levelDb, before.levelDb);
  if (level !== null && Math.abs(level) >= SAID_DB) {
    said.push(
      `${formatNumber(Math.abs(level), 1)} dB ${level < 0 ? 'softer' : 'louder'} in the whole`,
    );
  }
  return said;
}

/**
 * What becomes of every player from one plan to another, the most changed first; who is in one of them
 * alone is left out, as that is said by what changed.
 */
export function playerChanges(before: Expected, after: Expected): PlayerChange[] {
  const was = new Map(before.players.map((player) => [player.id, player]));
  const now = after.players.filter(({ id }) => was.has(id));
  // A level is against the mean: of one alone there is none.
  const alone = now.length < 2;
  return now
    .map((player): PlayerChange => {
      const old = was.get(player.id) ?? player;
      const shift = minus(player.shift, old.shift);
      const directDb = minus(player.directDb, old.directDb);
      const levelDb = alone ? null : minus(player.levelDb, old.levelDb);
      const words = changeWords(alone ? { ...old, levelDb: null } : old, player);
      const lost = (player.shift === null) !== (old.shift === null);
      return {
        id: player.id,
        name: player.name,
        shiftPct: shift === null ? null : shift * 100,
        directDb,
        levelDb,
        size:
          Math.abs(shift ?? 0) * 10 +
          Math.abs(directDb ?? 0) / 2 +
          Math.abs(levelDb ?? 0) +
          (lost ? 20 : 0),
        words: words.length === 0 ? '' : `${player.name}: ${words.join(', ')}`,
      };
    })
    .sort((a, b) => b.size - a.size);
}

/** What becomes of the whole, a sentence each; nothing where nobody would hear it. */
export function wholeChanges(before: Expected, after: Expected): string[] {
  const said: string[] = [];
  const width = minus(after.widthPct, before.widthPct);
  if (width !== null && Math.abs(width) >= SAID_PCT) {
    said.push(
      `picture ${formatNumber(before.widthPct, 0)} → ${formatNumber(after.widthPct, 0)} % of the base`,
    );
  }
  const direct = minus(after.directDb, before.directDb);
  if (direct !== null && Math.abs(direct) >= SAID_DB) {
    said.push(
      `${formatNumber(Math.abs(direct), 1)} dB ${direct < 0 ? 'more' : 'less'} room on average`,
    );
  }
  const balance = minus(after.rightDb, before.rightDb);
  if (balance !== null && Math.abs(balance) >= SAID_DB) {
    said.push(
      `${formatNumber(Math.abs(balance), 1)} dB more on the ${balance < 0 ? 'left' : 'right'}`,
    );
  }
  const mono = minus(after.monoDb, before.monoDb);
  if (mono !== null && Math.abs(mono) >= 1) {
    said.push(
      `mono ${formatNumber(Math.abs(mono), 1)} dB ${mono < 0 ? 'weaker' : 'stronger'} at the worst player`,
    );
  }
  const low = minus(after.lowCorrelation, before.lowCorrelation);
  if (low !== null && Math.abs(low) >= 0.1) {
    said.push(
      `bass ${low < 0 ? 'more' : 'less'} spacious (correlation ${formatNumber(before.lowCorrelation, 2)} → ${formatNumber(after.lowCorrelation, 2)})`,
    );
  }
  return said;
}

/** So many players are named in one sentence. */
const MOST_NAMED = 3;

/** The change in one line: "Viol: 9 % further left, 2 dB more room; Oboe: …; 3 more change less." */
export function expectedText(before: Expected, after: Expected): string {
  const changes = playerChanges(before, after).filter(({ words }) => words !== '');
  if (changes.length === 0) {
    const [whole] = wholeChanges(before, after);
    return whole ? `${capitalised(whole)}.` : 'Nothing that would be heard.';
  }
  const named = changes.slice(0, MOST_NAMED).map(({ words }) => words);
  const more = changes.length - named.length;
  return `${[...named, ...(more > 0 ? [`${more} more change less`] : [])].join('; ')}.`;
}
