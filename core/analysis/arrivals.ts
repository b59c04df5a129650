import { clamp, zeroBetween } from '../units/numbers';
import { panGains, stripsOf, type ChannelStrip } from '../arrays/routing';
import { BOUNDS } from '../session/bounds';
import { nearCues } from '../localisation/cues';
import { placeOf } from '../localisation/placed';
import { speakingModel } from '../localisation/leading';
import type { LocalisationModel } from '../localisation/models/model';
import type { MicArray, Session, Source } from '../session/schema';
import { amplitudeDb, inRange } from '../units/guard';
import { speedOfSound } from '../units/sound';
import { arrivalsAt, readyArray, realGainOf } from '../prepare/arrays';
import { playersOf } from '../prepare/for-whom';
import { remembered } from '../units/remember';
import { ECHO_DB, heardArrays, mixFigures } from './mix';

/** One microphone's arrival of one source. */
export interface MicrophoneArrival {
  arrayId: string;
  arrayName: string;
  role: MicArray['role'];
  label: string;
  distanceM: number;
  /** channel delay included, ms */
  arrivalMs: number;
  /** level at the fader, dB SPL of the source at 1 m plus path, pattern, gain and fader */
  levelDb: number;
  pan: number;
  /** after the earliest arrival that is within 10 dB of the loudest, ms; negative before it */
  afterFirstMs: number;
  /** below the loudest, dB */
  belowLoudestDb: number;
  /** its array is heard as an echo of this player */
  echo: boolean;
}

/** What would put a spot in its place. */
export interface SpotProposal {
  arrayId: string;
  /** it arrives this much before the main array, ms; negative when it follows */
  leadsByMs: number;
  /** delay that puts it with the main array, ms */
  delayMs: number;
  /** pan whose level difference gives the main array's image; null where that has none */
  pan: number | null;
}

/** A pair as a spot lies so far to either side of its player, as a share of half the base. */
const PAIR_HALF_PAN = 0.2;

/**
 * The strips of a spot as proposed: delay to a hundredth of a millisecond; the pan of a single one,
 * and of a pair that still has its usual pans, a narrow base about the player's place.
 */
export function proposedStrips(
  { technique, mix }: Pick<MicArray, 'technique' | 'mix'>,
  { delayMs, pan }: SpotProposal,
): ChannelStrip[] {
  const strips = stripsOf(technique, mix.capsules);
  const alone = strips.length === 1;
  const pair = technique.kind === 'pair' && mix.capsules.length === 0;
  const panOf = (strip: ChannelStrip): number => {
    if (pan === null || (!alone && !pair)) return strip.pan;
    const aside = pair ? PAIR_HALF_PAN * Math.sign(strip.pan) : 0;
    // At an end of the base the pair keeps its width, inwards.
    const middle = pair ? clamp(pan, PAIR_HALF_PAN - 1, 1 - PAIR_HALF_PAN) : pan;
    return Math.round((middle + aside) * 1000) / 1000;
  };
  return strips.map((strip) => ({
    ...strip,
    pan: panOf(strip),
    delayMs: Math.round(Math.min(BOUNDS.delayMs.max, delayMs) * 100) / 100,
  }));
}

export interface SourceArrivals {
  arrivals: MicrophoneArrival[];
  proposals: SpotProposal[];
}

function heardAt(array: MicArray, source: Source, speed: number): MicrophoneArrival[] {
  const ready = readyArray(array);
  const arrivals = arrivalsAt(array, source, speed);
  if (!arrivals) return [];
  const strips = ready.routes;
  return arrivals.map((arrival, i) => {
    const { timeS } = arrival;
    const { left = 0, right = 0, delayMs = 0 } = strips[i] ?? {};
    const strength = Math.hypot(left, right);
    return {
      arrayId: array.id,
      arrayName: array.name,
      role: array.role,
      label: ready.capsules[i]?.label ?? '',
      distanceM: timeS * speed,
      arrivalMs: timeS * 1000 + delayMs,
      levelDb:
        source.levelDb + amplitudeDb(realGainOf(arrival, speed) * strength) + array.mix.faderDb,
      pan: strength > 0 ? (Math.abs(right) - Math.abs(left)) / strength : 0,
      afterFirstMs: 0,
      belowLoudestDb: 0,
      echo: false,
    };
  });
}

/**
 * The pan (by the constant-power law) whose level difference gives an image; −1 … +1.
 * @throws RangeError where shift is outside −1 … 1
 */
export function panForShift(model: LocalisationModel, shift: number): number {
  inRange('shift', shift, -1, 1);
  const excess = (pan: number): number => {
    const { left, right } = panGains(pan);
    return model.shift(amplitudeDb(right) - amplitudeDb(left), 0) - shift;
  };
  return zeroBetween(excess, -1, 1, 50);
}

function proposal(
  spot: MicArray,
  arrivals: readonly MicrophoneArrival[],
  mainMs: number,
  pan: number | null,
): SpotProposal | null {
  const own = arrivals.filter(({ arrayId }) => arrayId === spot.id);
  if (own.length === 0) return null;
  const first = Math.min(...own.map(({ arrivalMs }) => arrivalMs));
  const set = spot.mix.capsules[0]?.delayMs ?? 0;
  return {
    arrayId: spot.id,
    leadsByMs: mainMs - first,
    delayMs: Math.max(0, set + mainMs - first),
    pan,
  };
}

const arrivalsIn = remembered((_session: Session) => new WeakMap<Source, SourceArrivals>());

/**
 * Every heard microphone's arrival of one source, sorted by time, and for each spot the delay and
 * pan that put it with the main array. Computed once for a session.
 */
export function arrivalsOf(session: Session, source: Source): SourceArrivals {
  const known = arrivalsIn(session).get(source);
  if (known) return known;
  const found = findArrivals(session, source);
  arrivalsIn(session).set(source, found);
  return found;
}

function findArrivals(session: Session, source: Source): SourceArrivals {
  const speed = speedOfSound(session.venue.temperatureC);
  const heard = heardArrays(session);
  const arrivals = heard
    .flatMap((array) => heardAt(array, source, speed))
    .sort((a, b) => a.arrivalMs - b.arrivalMs);
  const loudest = Math.max(...arrivals.map(({ levelDb }) => levelDb));
  const first = arrivals.find(({ levelDb }) => levelDb >= loudest - ECHO_DB)?.arrivalMs ?? 0;
  const echoes = mixFigures(session, source)?.echoes ?? [];
  for (const arrival of arrivals) {
    arrival.afterFirstMs = arrival.arrivalMs - first;
    arrival.belowLoudestDb = loudest - arrival.levelDb;
    arrival.echo = echoes.some(({ arrayId }) => arrayId === arrival.arrayId);
  }
  return { arrivals, proposals: proposals(session, heard, source, arrivals, speed) };
}

function proposals(
  session: Session,
  heard: readonly MicArray[],
  source: Source,
  arrivals: readonly MicrophoneArrival[],
  speed: number,
): SpotProposal[] {
  const main = heard.find(({ role }) => role === 'main');
  const mainArrivals = arrivals.filter(({ arrayId }) => arrayId === main?.id);
  if (!main || mainArrivals.length === 0) return [];
  const mainMs = Math.min(...mainArrivals.map(({ arrivalMs }) => arrivalMs));
  const spots = heard.filter(
    (spot) => spot.role === 'spot' && playersOf(spot, session.sources, speed).includes(source),
  );
  if (spots.length === 0) return [];
  const cues = nearCues(readyArray(main), source, speed);
  const model = speakingModel(session.settings, readyArray(main).coincident);
  const pan = cues && !cues.antiphase ? panForShift(model, placeOf(cues, model)) : null;
  return spots.flatMap((spot) => proposal(spot, arrivals, mainMs, pan) ?? []);
}

/**
 * The one player that a microphone is for; null where it is for several or for nobody.
 * @returns also null for an array that is not in the session
 */
export function ownedSource(session: Session, arrayId: string): Source | null {
  const array = session.arrays.find(({ id }) => id === arrayId);
  if (!array) return null;
  const speed = speedOfSound(session.venue.temperatureC);
  const [one, more] = playersOf(array, session.sources, speed);
  return one && !more ? one : null;
}
