import { formatNumber, formatSigned, lengthText, type UnitSystem } from '../../units/format';
import { nominalHz } from './bands';
import type { TakeFigures } from './take';

/** How grave something is on a recording. */
export type Grade = 'fault' | 'caution' | 'note';
/** How sure it is. */
export type Sureness = 'sure' | 'likely' | 'cannot be told';

/** What a recording says, as a sentence that leads to its place. */
export interface Reading {
  key: string;
  grade: Grade;
  sureness: Sureness;
  text: string;
  /** where to look, s from the beginning; null where it is everywhere */
  at: { fromS: number; toS: number } | null;
  /** from 0 */
  channels: number[];
}

/** What is known of a recording besides its samples. */
export interface Recorded {
  /** of its channels; one that is empty is called by its number */
  names: readonly string[];
  sampleRateHz: number;
  /** of sound, m/s */
  speed: number;
  units: UnitSystem;
}

const GRADES: readonly Grade[] = ['fault', 'caution', 'note'];
/** Less headroom than this is said, dB. */
const LITTLE_HEADROOM_DB = 1;
/** Below this everything was recorded softly, dBFS. */
const SOFT_DB = -40;
/** Samples whose mean is off by more, of full scale. */
const OFF_CENTRE = 0.001;
/** And by more than this share of what sounds; of less than so many s a mean says nothing. */
const OFF_SHARE = 0.1;
const LEAST_MEAN_S = 0.5;
/** Hum that is stronger is a caution, dBFS; below it a note. */
const LOUD_HUM_DB = -75;
/** Two channels that oppose each other for more of the time, percent, or lose more in a band, dB. */
const OPPOSED_PCT = 20;
const LOST_DB = -6;
/** Two microphones half a metre apart are later by this at most, ms. */
const PAIR_MS = 1.5;
/** Less is no delay, ms. */
const LEAST_DELAY_MS = 0.005;
/** A way that is shorter is given as bars are, m. */
const NEAR_M = 0.3;
/** More channels than these are counted, not named. */
const MOST_NAMED = 4;
/** Around a place that is led to, s. */
const AROUND_S = 0.05;

/** "0:12.345", "1:02:03.4" @param decimals of the seconds, 0 … 3 */
export function placeText(seconds: number, decimals = 3): string {
  // Rounded before it is taken apart: no minute has sixty seconds.
  const rounded = Math.round(seconds * 10 ** decimals) / 10 ** decimals;
  const minutes = Math.floor(rounded / 60);
  const rest = (rounded - minutes * 60)
    .toFixed(decimals)
    .padStart(decimals === 0 ? 2 : decimals + 3, '0');
  const hours = Math.floor(minutes / 60);
  return hours > 0
    ? `${hours}:${String(minutes % 60).padStart(2, '0')}:${rest}`
    : `${minutes}:${rest}`;
}

const around = (seconds: number): { fromS: number; toS: number } => ({
  fromS: Math.max(0, seconds - AROUND_S),
  toS: seconds + AROUND_S,
});

const listed = (names: readonly string[]): string =>
  names.length < 2
    ? (names[0] ?? '')
    : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;

const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** Takes sentences of one recording down. */
class Reader {
  readonly readings: Reading[] = [];

  constructor(
    readonly figures: TakeFigures,
    readonly recorded: Recorded,
  ) {}

  name(channel: number): string {
    return this.recorded.names[channel]?.trim() || `Channel ${channel + 1}`;
  }

  /** By name where they are few, else how many of them. */
  names(channels: readonly number[]): string {
    if (channels.length <= MOST_NAMED) return listed(channels.map((channel) => this.name(channel)));
    const all = this.recorded.names.length;
    return channels.length === all
      ? `All ${all} channels`
      : `${channels.length} of ${all} channels`;
  }

  say(grade: Grade, key: string, text: string, about: Partial<Reading> = {}): void {
    const usual: Omit<Reading, 'key' | 'grade' | 'text'> = {
      sureness: 'sure',
      at: null,
      channels: [],
    };
    this.readings.push({ ...usual, ...about, key, grade, text });
  }
}

function readClips(reader: Reader): void {
  const { channels, clips } = reader.figures;
  channels?.forEach((levels, channel) => {
    if (levels.clips === 0) return;
    const own = (clips ?? []).filter((clip) => clip.channel === channel);
    const worst = own.reduce<(typeof own)[number] | null>(
      (most, clip) => (most && most.samples >= clip.samples ? most : clip),
      null,
    );
    const often = levels.clips === 1 ? 'once' : `${levels.clips} times`;
    const longest = levels.clips === 1 ? ':' : ', the longest';
    const where = worst
      ? `${longest} ${count(worst.samples, 'sample')} at ${placeText(worst.atS)}`
      : '';
    const text = `${reader.name(channel)} is clipped ${often}${where}.`;
    const at = worst && around(worst.atS);
    reader.say('fault', `clips ${channel}`, text, { at, channels: [channel] });
  });
}

function readTops(reader: Reader): void {
  reader.figures.channels?.forEach(
    ({ flatTops, truePeakDb, headroomDb, clips, peakDb }, channel) => {
      const name = reader.name(channel);
      const about = { channels: [channel] };
      if (flatTops) {
        const text = `${name} is cut off flat at ${formatNumber(flatTops.levelDb, 1)} dBFS, ${count(flatTops.crests, 'crest')} from ${placeText(flatTops.firstAtS)} on: something before the recorder was overdriven.`;
        const at = around(flatTops.firstAtS);
        reader.say('fault', `flat ${channel}`, text, { ...about, at, sureness: 'likely' });
      }
      if (clips > 0 || truePeakDb === null || headroomDb === null) return;
      if (headroomDb < 0) {
        const text = `${name} goes over full scale between its samples: ${formatSigned(truePeakDb, 1)} dBTP. A converter or a codec may clip there.`;
        reader.say('caution', `over ${channel}`, text, about);
      } else if (headroomDb < LITTLE_HEADROOM_DB) {
        const text = `${name} has ${formatNumber(headroomDb, 1)} dB of headroom left.`;
        reader.say('caution', `headroom ${channel}`, text, about);
      } else if (peakDb !== null && peakDb < SOFT_DB) {
        const text = `${name} was recorded softly: its highest sample is at ${formatNumber(peakDb, 0)} dBFS.`;
        reader.say('caution', `soft ${channel}`, text, about);
      }
    },
  );
}

/** @returns channels that nothing more is to be said of */
function readIdentity(reader: Reader): { silent: Set<number>; doubled: Set<number> } {
  const { identity } = reader.figures;
  const silent = new Set(identity?.silent ?? []);
  const doubled = new Set<number>();
  if (silent.size > 0) {
    const channels = [...silent];
    const are = channels.length === 1 ? 'is' : 'are';
    const text = `${reader.names(channels)} ${are} silent from beginning to end.`;
    reader.say('fault', 'silent', text, { channels });
  }
  for (const { first, second, gainDb, polarity } of identity?.same ?? []) {
    if (silent.has(first) || silent.has(second)) continue;
    doubled.add(second);
    const level = Math.abs(gainDb) < 0.05 ? '' : `, ${formatSigned(gainDb, 1)} dB`;
    const turned = polarity === -1 ? ', turned over' : '';
    const text = `${reader.name(second)} is the same signal as ${reader.name(first)}${level}${turned}: two tracks of one microphone, not two microphones.`;
    reader.say('fault', `same ${first} ${second}`, text, { channels: [first, second] });
  }
  return { silent, doubled };
}

function readOffset(reader: Reader): void {
  if (reader.figures.seconds < LEAST_MEAN_S) return;
  const off = (reader.figures.channels ?? []).flatMap(({ offset, rmsDb }, channel) => {
    // The mean of deep sounds is not quite nothing either.
    const most = Math.max(OFF_CENTRE, OFF_SHARE * 10 ** ((rmsDb ?? -200) / 20));
    return Math.abs(offset) > most ? [{ offset, channel }] : [];
  });
  if (off.length === 0) return;
  const channels = off.map(({ channel }) => channel);
  const most = off.reduce((a, b) => (Math.abs(b.offset) > Math.abs(a.offset) ? b : a));
  const by =
    off.length <= MOST_NAMED
      ? `by ${listed(off.map(({ offset }) => formatSigned(100 * offset, 2)))} %`
      : `by up to ${formatSigned(100 * most.offset, 2)} % (${reader.name(most.channel)})`;
  const text = `${reader.names(channels)} ${off.length === 1 ? 'stands' : 'stand'} off the middle ${by} of full scale: edits there would click, and it takes headroom.`;
  reader.say('caution', 'offset', text, { channels });
}

function readHum(reader: Reader): void {
  reader.figures.hum?.forEach((found, channel) => {
    const [hum] = found
      .filter(({ levelDb }) => levelDb !== null)
      .sort((a, b) => (b.levelDb ?? 0) - (a.levelDb ?? 0));
    if (!hum || hum.levelDb === null) return;
    const strongest = [...hum.harmonics].sort((a, b) => b.levelDb - a.levelDb).slice(0, 4);
    const lines = strongest
      .sort((a, b) => a.hz - b.hz)
      .map(({ hz }) => `${formatNumber(hz, 0)}`)
      .join(', ');
    const text = `Hum of ${hum.mainsHz} Hz in ${reader.name(channel)}, ${formatNumber(hum.levelDb, 0)} dBFS in all, strongest at ${lines} Hz.`;
    const grade = hum.levelDb > LOUD_HUM_DB ? 'caution' : 'note';
    reader.say(grade, `hum ${channel}`, text, { channels: [channel], sureness: 'likely' });
  });
}

/** The third octave that mono loses most, where it loses much. */
function worstInMono({ figures }: Reader): { hz: number; db: number } | null {
  let worst: { hz: number; db: number } | null = null;
  for (const { hz, db } of figures.bands?.monoLoss ?? []) {
    if (db !== null && db < (worst?.db ?? LOST_DB)) worst = { hz, db };
  }
  return worst;
}

/** What a delay does to mono, said with it. */
function combOf(reader: Reader): string {
  const worst = worstInMono(reader);
  return worst
    ? ` In mono that combs: the third octave at ${formatNumber(nominalHz(worst.hz), 0)} Hz loses ${formatNumber(-worst.db, 1)} dB.`
    : '';
}

/** @returns whether a channel was found turned over, and whether a delay explains what mono loses */
function readDelays(
  reader: Reader,
  left: (channel: number) => boolean,
): { turned: boolean; explained: boolean } {
  const { figures, recorded } = reader;
  const delays = figures.delays ?? [];
  const others = new Set(delays.map(({ channel }) => channel));
  const against = Array.from({ length: delays.length + 1 }, (_, c) => c).find(
    (c) => !others.has(c),
  );
  let [turned, explained] = [false, false];
  const untold: number[] = [];
  if (against === undefined || left(against)) return { turned, explained };
  for (const { channel, whole } of delays) {
    if (!whole || left(channel)) continue;
    const [name, first] = [reader.name(channel), reader.name(against)];
    const channels = [against, channel];
    const { delayMs, polarity, verdict, orMs } = whole;
    if (verdict === 'cannot be told' || delayMs === null) {
      untold.push(channel);
      continue;
    }
    const sureness = verdict === 'certain' ? 'sure' : 'likely';
    if (polarity === -1) {
      turned = true;
      const text = `${name} is turned over against ${first}, ${sureness}: turn its polarity, or look for a cable that swaps its legs.`;
      reader.say('fault', `polarity ${channel}`, text, { channels, sureness });
    }
    const late = Math.abs(delayMs);
    if (late < LEAST_DELAY_MS) continue;
    const samples = formatNumber((late / 1000) * recorded.sampleRateHz, 1).replace(/\.0$/, '');
    const way = (late / 1000) * recorded.speed;
    const metres = lengthText(way, recorded.units, way < NEAR_M ? 'bar' : 'floor');
    const again = orMs === null ? '' : ` ${formatSigned(orMs, 2)} ms is nearly as likely.`;
    // No two microphones of an ordinary pair are so far apart: a cable, a desk or an edit made it so.
    const strange = delays.length === 1 && late > PAIR_MS;
    const comb = strange ? combOf(reader) : '';
    const text = `${name} is ${samples} samples ${delayMs > 0 ? 'behind' : 'ahead of'} ${first}: ${formatNumber(late, 2)} ms, ${metres} of air, ${sureness}.${again}${comb}`;
    reader.say(strange ? 'caution' : 'note', `delay ${channel}`, text, { channels, sureness });
    explained ||= strange;
  }
  if (untold.length > 0) {
    const are = untold.length === 1 ? 'is' : 'are';
    const text = `How late ${reader.names(untold)} ${are} against ${reader.name(against)} cannot be told from this: too little of both agrees. A clap in the middle of the stage would tell.`;
    reader.say('note', 'delays', text, { channels: untold, sureness: 'cannot be told' });
  }
  return { turned, explained };
}

/** @param known what is said already explains how both stand to each other */
function readPair(reader: Reader, known: boolean): void {
  if (known) return;
  const { correlation } = reader.figures;
  const channels = [0, 1];
  const opposed = correlation !== null && correlation.belowZeroPct > OPPOSED_PCT;
  if (opposed) {
    const text = `${reader.names(channels)} oppose each other for ${formatNumber(correlation.belowZeroPct, 0)} % of the time (correlation ${formatSigned(correlation.mean, 2)} on average): wide and without a place, and thin in mono.`;
    reader.say('caution', 'correlation', text, { channels });
  }
  const worst = worstInMono(reader);
  if (worst && !opposed) {
    const text = `In mono the third octave at ${formatNumber(nominalHz(worst.hz), 0)} Hz loses ${formatNumber(-worst.db, 1)} dB against both channels.`;
    reader.say('caution', 'mono', text, { channels });
  }
}

function readLoudness(reader: Reader): void {
  const { loudness } = reader.figures;
  if (!loudness || loudness.integrated === null) return;
  const { integrated, shortTermMax, range } = loudness;
  const most = shortTermMax === null ? '' : `, the loudest 3 s ${formatNumber(shortTermMax, 1)}`;
  const wide = range === null ? '' : `, a range of ${formatNumber(range, 1)} LU`;
  const text = `Loudness ${formatNumber(integrated, 1)} LUFS${most}${wide}.`;
  reader.say('note', 'loudness', text);
}

/**
 * All that a recording says, the gravest first: a cause once, and not its symptoms.
 * @param figures what was measured of it; parts that were not asked for say nothing
 * @param recorded what is known of it besides
 */
export function readingsOf(figures: TakeFigures, recorded: Recorded): Reading[] {
  const reader = new Reader(figures, recorded);
  readClips(reader);
  readTops(reader);
  const { silent, doubled } = readIdentity(reader);
  const left = (channel: number): boolean => silent.has(channel) || doubled.has(channel);
  if (figures.faults.samples > 0) {
    const { samples, firstAtS } = figures.faults;
    const text = `${count(samples, 'sample')} ${samples === 1 ? 'is no number' : 'are no numbers'}, or beyond all sound: read as silence.`;
    reader.say('caution', 'no numbers', text, { at: firstAtS === null ? null : around(firstAtS) });
  }
  readOffset(reader);
  readHum(reader);
  const { turned, explained } = readDelays(reader, left);
  const pair = (figures.channels?.length ?? 0) === 2;
  if (pair && !left(0) && !left(1)) readPair(reader, turned || explained);
  readLoudness(reader);
  const rank = ({ grade }: Reading): number => GRADES.indexOf(grade);
  return reader.readings
    .map((reading, i) => ({ reading, i }))
    .sort((a, b) => rank(a.reading) - rank(b.reading) || a.i - b.i)
    .map(({ reading }) => reading);
}
