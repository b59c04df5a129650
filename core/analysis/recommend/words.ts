import { formatNumber, lengthText, type UnitSystem } from '../../units/format';
import {
  HIGH_STAND_M,
  IN_SIGHT_M,
  roomMissDb,
  type Measures,
  type Parts,
  type Wanted,
} from '../criteria';
import type { Place } from './candidates';

/** What speaks for and against an array, and in what two of them differ, in words. */

const pct = (value: number): string => `${formatNumber(value, 0)} %`;
const widthWords = (least: number, most: number): string =>
  Math.round(least) === Math.round(most)
    ? `${pct(least)} wide in every model`
    : `${formatNumber(least, 0)} to ${pct(most)} wide, by model`;

/** A difference of level that nobody hears, and a picture that is a point. */
const HARDLY_DB = 0.5;
const NEXT_TO_NOTHING_PCT = 5;

/** A room of this correlation and less is wide in the bass. */
const WIDE_BASS = 0.35;

/** From this on a part speaks for an array, and below the other against it. */
const GOOD = 0.85;
const BAD = 0.65;

/** A word for what makes the places; share of time 0 … 1. */
export function cueWords(timeShare: number): string {
  if (timeShare < 0.1) return 'by level alone';
  if (timeShare > 0.9) return 'by time alone';
  return 'by level and time';
}

/**
 * Reasons for and against one array; a part without weight is left out.
 * @param players how many it is for, 0 … 500
 */
export function reasons(
  place: Place,
  measures: Measures,
  parts: Parts,
  wanted: Wanted,
  players: number,
  units: UnitSystem,
): { reasonsFor: string[]; reasonsAgainst: string[] } {
  const reasonsFor: string[] = [];
  const reasonsAgainst: string[] = [];
  const say = (part: keyof Parts, good: string, bad = good) => {
    if (wanted.weights[part] === 0) return;
    if (parts[part] >= GOOD) reasonsFor.push(good);
    else if (parts[part] < BAD) reasonsAgainst.push(bad);
  };
  const m = measures;
  if (m.broken > 0) {
    const who = m.broken === 1 ? '1 player has' : `${m.broken} players have`;
    reasonsAgainst.push(`${who} no stable image, or one on the wrong side`);
  }
  if (m.bandsHeld !== null) say('bands', `${pct(m.bandsHeld * 100)} of the wanted places are met`);
  const width = widthWords(m.narrowestPct, m.widestPct);
  const { min: least, max: most } = wanted.widthPct;
  if (wanted.said.width) say('fill', `the picture is ${width}; ${pct(least)} wanted`);
  else if (players > 1 && m.bandsHeld === null) {
    say('fill', `the picture is ${width}; customary are ${least} to ${pct(most)}`);
  } else if (players === 1 && m.widestPct > NEXT_TO_NOTHING_PCT) {
    say('fill', `the instrument is ${width}`);
  }
  if (players > 2 && m.widestPct > NEXT_TO_NOTHING_PCT)
    say(
      'spacing',
      'players keep their distances in the picture',
      `the picture is bent: players are ${pct(m.spacingOffPct)} of the base off their own spacing`,
    );
  if (parts.gap < BAD) say('gap', '', `a gap of ${pct(m.largestGapPct)} of the base`);
  if (parts.speakers < BAD) {
    say('speakers', '', `${pct(m.atSpeakersPct)} of the players end up at a loudspeaker`);
  }
  if (m.directToReverberantDb !== null) {
    const { min, max } = wanted.roomDb;
    const range =
      max >= 20
        ? `at least ${formatNumber(min, 0)}`
        : `${formatNumber(min, 0)} to ${formatNumber(max, 0)}`;
    const text = `${formatNumber(m.directToReverberantDb, 1)} dB direct to room; ${wanted.said.room ? `${range} dB wanted` : `customary ${range} dB`}`;
    // A miss, however small, is nothing that speaks for it.
    if (roomMissDb(m.directToReverberantDb, wanted.roomDb) === 0 || parts.room < BAD)
      say('room', text);
  }
  const mono = formatNumber(Math.abs(m.worstMonoBandDb), 0);
  const sum = formatNumber(Math.abs(m.worstMonoDb), 1);
  say(
    'mono',
    'mono loses nothing that matters',
    wanted.said.mono
      ? `in mono somebody loses up to ${mono} dB in a third octave`
      : `in mono somebody loses ${sum} dB as a whole`,
  );
  const apart = formatNumber(m.unevennessDb, 1);
  const [all, they] = players === 2 ? ['both are', 'the two'] : ['all are', 'players'];
  if (players > 1)
    say(
      'even',
      m.unevennessDb < HARDLY_DB ? `${all} equally loud` : `${they} are within ${apart} dB`,
      `${they} are ${apart} dB apart through distance and pattern`,
    );
  const back = formatNumber(Math.abs(m.frontToBackDb), 1);
  const where = m.frontToBackDb > 0 ? 'behind' : 'above';
  if (Math.abs(m.frontToBackDb) >= HARDLY_DB) {
    say('depth', `the back is ${back} dB ${where} the front`);
  }
  const correlation = formatNumber(m.lowCorrelation, 2);
  const bass = m.lowCorrelation <= WIDE_BASS ? 'wide' : 'narrow';
  say(
    'space',
    `spacious: ${bass} in the bass, correlation ${correlation}`,
    m.timeShare >= 0.1
      ? `little space: ${bass} in the bass, correlation ${correlation}`
      : bass === 'wide'
        ? `a wide bass (correlation ${correlation}), but no time differences: little air`
        : `little space: narrow in the bass, correlation ${correlation}, and no time differences`,
  );
  say(
    'exact',
    `exact: placed ${cueWords(m.timeShare)}`,
    `soft edges: placed ${cueWords(m.timeShare)}`,
  );
  if (m.tolerancePct !== null) {
    const off = formatNumber(m.tolerancePct, 1);
    say('sure', `an ordinary set-up moves players by ±${off} %`);
  }
  if (place.z > HIGH_STAND_M) {
    reasonsAgainst.push(
      `${lengthText(place.z, units)} up: a high stand, secured as the venue asks`,
    );
  } else if (place.z < IN_SIGHT_M && parts.height < BAD) {
    reasonsAgainst.push(`${lengthText(place.z, units)} up it stands in people’s sight`);
  }
  if (place.overPeople) {
    reasonsAgainst.push('it stands over people: held twice, as the venue’s rules ask');
  }
  return { reasonsFor, reasonsAgainst };
}

/** Differences that somebody would hear or see, the clearest first, at most four. */
export function differences(of: Measures, from: Measures): string[] {
  const found: { size: number; text: string }[] = [];
  const say = (size: number, heard: number, text: string) => {
    if (Math.abs(size) >= heard) found.push({ size: Math.abs(size) / heard, text });
  };
  const than = (a: string, b: string): string => `${a} against ${b}`;
  const correlation = from.lowCorrelation - of.lowCorrelation;
  say(
    correlation,
    0.1,
    `${correlation > 0 ? 'wider' : 'narrower'} bass: correlation ${than(formatNumber(of.lowCorrelation, 2), formatNumber(from.lowCorrelation, 2))}`,
  );
  const exact = from.timeShare - of.timeShare;
  say(
    exact,
    0.15,
    `${exact > 0 ? 'more' : 'less'} exact: placed ${than(cueWords(of.timeShare), cueWords(from.timeShare))}`,
  );
  const wide = of.imageWidthPct - from.imageWidthPct;
  say(
    wide,
    6,
    `a ${wide > 0 ? 'wider' : 'narrower'} picture: ${than(pct(of.imageWidthPct), pct(from.imageWidthPct))}`,
  );
  const spread = of.widestPct - of.narrowestPct - (from.widestPct - from.narrowestPct);
  say(spread, 10, `the models agree ${spread > 0 ? 'less' : 'more'} on its width`);
  const mono = of.worstMonoBandDb - from.worstMonoBandDb;
  say(
    mono,
    2,
    `${mono > 0 ? 'safer' : 'weaker'} in mono: ${than(formatNumber(of.worstMonoBandDb, 0), formatNumber(from.worstMonoBandDb, 0))} dB in the worst third octave`,
  );
  if (of.directToReverberantDb !== null && from.directToReverberantDb !== null) {
    const close = of.directToReverberantDb - from.directToReverberantDb;
    say(
      close,
      1,
      `${close > 0 ? 'closer' : 'more room'}: ${than(formatNumber(of.directToReverberantDb, 1), formatNumber(from.directToReverberantDb, 1))} dB direct to room`,
    );
  }
  const even = of.unevennessDb - from.unevennessDb;
  say(
    even,
    1.5,
    `${even > 0 ? 'less' : 'more'} even: ${than(formatNumber(of.unevennessDb, 1), formatNumber(from.unevennessDb, 1))} dB between players`,
  );
  const more = of.microphones - from.microphones;
  say(more, 1, `${of.microphones} microphones instead of ${from.microphones}`);
  return found
    .sort((a, b) => b.size - a.size)
    .slice(0, 4)
    .map(({ text }) => text);
}

/** What each part is called where it is weighed. */
export const PART_WORDS: Readonly<Record<keyof Parts, string>> = {
  fill: 'the width of the picture',
  spacing: 'even spacing',
  gap: 'a picture without gaps',
  speakers: 'players clear of the loudspeakers',
  bands: 'the wanted places',
  room: 'how much room',
  mono: 'mono',
  even: 'even levels',
  depth: 'front against back',
  space: 'spaciousness',
  exact: 'exactness',
  practice: 'the chosen practice',
  sure: 'a set-up that forgives',
  height: 'a handy height',
  few: 'few microphones',
};

/** More than this many times its weight nobody would give to a wish. */
const MOST_TIMES = 8;

/**
 * What would have to count more for one array to come before another, in words; null where no
 * single wish would do it.
 */
export function whatWouldWin(of: Parts, from: Parts, { weights }: Wanted): string | null {
  const keys = Object.keys(weights) as (keyof Parts)[];
  const behind = keys.reduce((sum, key) => sum + weights[key] * (from[key] - of[key]), 0);
  if (behind <= 0) return null;
  const [least] = keys
    .filter((key) => weights[key] > 0 && of[key] - from[key] > 0.02)
    .map((key) => ({ key, times: 1 + behind / (of[key] - from[key]) / weights[key] }))
    .sort((a, b) => a.times - b.times);
  if (!least || least.times > MOST_TIMES) return null;
  const { key, times } = least;
  const often = times < 1.25 ? 'a little more' : times < 2.5 ? 'clearly more' : 'far more';
  return `It would come first if ${PART_WORDS[key]} counted ${often}.`;
}
