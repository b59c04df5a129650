import { instrumentOf, type Instrument } from '../ensembles/instruments';
import { mixedCues, nearArrivals, type Cues } from '../localisation/cues';
import type { PreparedArray } from '../localisation/prepared-array';
import { movedGroups } from '../localisation/event-groups';
import { eventsOf, heardApart, weighEvents, type ImageEvent } from '../localisation/events';
import type { PerModel } from '../localisation/recording-angle';
import type { StagePlace } from '../localisation/stage';
import { readyArray } from '../prepare/arrays';
import { knownArrays } from '../session/lists';
import type { MicArray, Session, Source } from '../session/schema';
import { dbToAmplitude, powerDb } from '../units/guard';
import { remembered } from '../units/remember';
import { speedOfSound } from '../units/sound';
import type { Vec3 } from '../units/vector';
import { edgesAt } from './edges-at';
import { imagesOf } from './source-figures';

/** The arrays that are heard: enabled, known in all their numbers, and not muted in the mix. */
export function heardArrays(session: Pick<Session, 'arrays'>): MicArray[] {
  return knownArrays(session).filter(({ mix }) => !mix.mute);
}

/**
 * All heard microphones as one array: every capsule with its pan, gain, polarity and delay, and
 * its array's fader.
 * @returns null where nothing is heard
 */
export function prepareMix(session: Pick<Session, 'arrays'>): PreparedArray | null {
  const heard = heardArrays(session);
  const prepared = heard.map((array) => ({
    array,
    ready: readyArray(array),
  }));
  const main = prepared.find(({ array }) => array.role === 'main') ?? prepared[0];
  if (!main) return null;
  const routes = prepared.flatMap(({ array, ready }) => {
    const fader = dbToAmplitude(array.mix.faderDb);
    return ready.routes.map(({ left, right, delayMs }) => ({
      left: left * fader,
      right: right * fader,
      delayMs,
    }));
  });
  let before = 0;
  const groups = prepared.flatMap(({ ready }, origin) => {
    const moved = movedGroups(ready.groups, before, origin);
    before += ready.capsules.length;
    return moved;
  });
  const alone = prepared.length === 1;
  return {
    ...main.ready,
    capsules: prepared.flatMap(({ ready }) => [...ready.capsules]),
    plane: prepared.flatMap(({ ready }) => [...ready.plane]),
    routes,
    groups,
    weights: routes.map(({ left, right }) => left * left + right * right),
    diffuse: prepared.flatMap(({ ready }) => [...ready.diffuse]),
    coincident: alone && main.ready.coincident,
    symmetric: false,
    bareRoutes: null,
    plainPair: false,
    steep: main.ready.steep,
  };
}

/**
 * What the whole mix makes of one point: exact for one pair, else an estimate by events.
 * @param speed speed of sound, m/s
 * @returns null where the point is within 1 cm of a capsule
 */
export function mixCues(mix: PreparedArray, source: Vec3, speed: number): Cues | null {
  const arrivals = nearArrivals(mix, source, speed);
  return arrivals && mixedCues(mix, arrivals);
}

/** Later than this, and less than 10 dB down, is heard as an echo. */
export interface EchoLimit {
  ms: number;
  /** of what: "percussive sounds" */
  of: string;
}

const PERCUSSIVE: EchoLimit = { ms: 30, of: 'percussive sounds' };
const SPEECH: EchoLimit = { ms: 50, of: 'voices' };
const LEGATO: EchoLimit = { ms: 80, of: 'legato' };
const UNKNOWN: EchoLimit = { ms: 30, of: 'percussive sounds; its kind is not known' };
const LIMITS: Readonly<Record<Instrument['family'], EchoLimit>> = {
  percussion: PERCUSSIVE,
  plucked: PERCUSSIVE,
  keyboard: PERCUSSIVE,
  voice: SPEECH,
  bowed: LEGATO,
  woodwind: LEGATO,
  brass: LEGATO,
};
/** Keyboards that hold their notes. */
const SUSTAINED = /organ|harmonium|accordion/i;
/** How far below what came before a late arrival is no longer heard apart, dB. */
export const ECHO_DB = 10;

/**
 * From which delay on a late arrival of a player is an echo, by its kind of sound.
 * Source: H. Haas (1951); R. Y. Litovsky et al. (1999).
 */
export function echoLimit({ kind }: Pick<Source, 'kind'>): EchoLimit {
  if (SUSTAINED.test(kind)) return LEGATO;
  const known = instrumentOf(kind);
  return known ? LIMITS[known.family] : UNKNOWN;
}

/** How much of a player's place one array makes. */
export interface Pull {
  arrayId: string;
  name: string;
  /** 0 … 100; all together 100 */
  pct: number;
}

/** An array that is heard after the others, as a sound of its own. */
export interface Echo {
  arrayId: string;
  name: string;
  /** after the strongest that came before it, ms */
  delayMs: number;
  /** against that one, dB; −10 and more */
  levelDb: number;
}

/** What the whole mix makes of one player. */
export interface MixFigures {
  sourceId: string;
  /** right over left in power, and the time difference as a mean by pull */
  icldDb: number;
  ictdMs: number;
  /** no stable image: mostly, or for one pair alone, in antiphase */
  antiphase: boolean;
  /** 0 … 100 */
  antiphasePct: number;
  /** per model: place of the middle and of both ends; null in antiphase */
  image: PerModel<StagePlace> | null;
  /** who pulls, the strongest first */
  pulls: readonly Pull[];
  echoes: readonly Echo[];
}

/** An echo is late against what was there before it, and not far below. */
function echoOf(
  event: ImageEvent,
  events: readonly ImageEvent[],
  limitMs: number,
): Omit<Echo, 'arrayId' | 'name'> | null {
  if (!(heardApart(event, events, limitMs) > 0.5)) return null;
  const before = events.filter(({ timeS }) => timeS < event.timeS);
  const [first, ...rest] = before;
  if (!first) return null;
  const strongest = rest.reduce((most, one) => (one.energy > most.energy ? one : most), first);
  const levelDb = powerDb(event.energy) - powerDb(strongest.energy);
  if (levelDb <= -ECHO_DB) return null;
  return { delayMs: (event.timeS - strongest.timeS) * 1000, levelDb };
}

function whoPulls(
  events: readonly ImageEvent[],
  pulls: readonly number[],
  heard: readonly MicArray[],
): Pull[] {
  return heard
    .map(({ id, name }, origin) => ({
      arrayId: id,
      name,
      pct: events.reduce(
        (sum, event, i) => sum + (event.origin === origin ? 100 * (pulls[i] ?? 0) : 0),
        0,
      ),
    }))
    .sort((a, b) => b.pct - a.pct);
}

const preparedMix = remembered((session: Session) => ({ mix: prepareMix(session) }));

/**
 * The place of a player in the whole mix, who pulls it there, and what is heard apart.
 * @returns null where nothing is heard, or the player is within 1 cm of a capsule
 */
export function mixFigures(session: Session, source: Source): MixFigures | null {
  const known = knownMix(session);
  const before = known.get(source);
  if (before) return before.figures;
  const figures = mixOf(session, source);
  known.set(source, { figures });
  return figures;
}

/**
 * How much of a player's place an array would make if all of it came so much later, 0 … 100.
 * @param laterMs added to each of its channels, ms
 */
export function pullIfLater(
  session: Session,
  source: Source,
  arrayId: string,
  laterMs: number,
): number {
  const { mix } = preparedMix(session);
  const arrivals = mix && nearArrivals(mix, source, speedOfSound(session.venue.temperatureC));
  if (!arrivals) return 0;
  const origin = heardArrays(session).findIndex(({ id }) => id === arrayId);
  const events = eventsOf(mix.groups, mix.routes, arrivals).map((event) =>
    event.origin === origin ? { ...event, timeS: event.timeS + laterMs / 1000 } : event,
  );
  const pulls = weighEvents(events)?.pulls ?? [];
  return events.reduce(
    (sum, event, i) => sum + (event.origin === origin ? 100 * (pulls[i] ?? 0) : 0),
    0,
  );
}

const knownMix = remembered(
  (_session: Session) => new WeakMap<Source, { figures: MixFigures | null }>(),
);

function mixOf(session: Session, source: Source): MixFigures | null {
  const speed = speedOfSound(session.venue.temperatureC);
  const { mix } = preparedMix(session);
  const arrivals = mix && nearArrivals(mix, source, speed);
  if (!arrivals) return null;
  const heard = heardArrays(session);
  const ends = source.widthM > 0 ? edgesAt(mix, source) : [];
  const cues = mixedCues(mix, arrivals);
  // Only where the two channels are exact they are not weighed already.
  const weighed = cues.events ?? weighEvents(eventsOf(mix.groups, mix.routes, arrivals));
  const events = weighed?.events ?? [];
  const { ms } = echoLimit(source);
  const echoes = new Map<string, Echo>();
  for (const event of events) {
    const array = heard[event.origin];
    const echo = echoOf(event, events, ms);
    if (!array || !echo) continue;
    const { id, name } = array;
    if (echo.levelDb > (echoes.get(id)?.levelDb ?? -Infinity)) {
      echoes.set(id, { arrayId: id, name, ...echo });
    }
  }
  const placed = (): MixFigures['image'] =>
    cues.antiphase || !weighed
      ? null
      : imagesOf(
          mix,
          cues,
          ends.map((end) => mixCues(mix, end, speed)),
          session.settings.own,
        );
  let image: MixFigures['image'] | undefined;
  return {
    sourceId: source.id,
    icldDb: cues.icldDb,
    ictdMs: cues.ictdMs,
    antiphase: cues.antiphase,
    antiphasePct: 100 * (weighed?.antiphaseShare ?? 0),
    // Who pulls is asked of everybody, the place in every model of few.
    get image() {
      image ??= placed();
      return image;
    },
    pulls: whoPulls(events, weighed?.pulls ?? [], heard),
    echoes: [...echoes.values()],
  };
}
