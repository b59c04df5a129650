import type { Receiver } from '../../acoustics/diffuse-field';
import { eyringTime } from '../../acoustics/reverberation-time';
import type { Shoebox } from '../../acoustics/reflections';
import { ROOM_SURFACES } from '../../acoustics/reflections';
import { shoeboxOf } from '../../analysis/room';
import { placeCapsules } from '../../arrays/capsules';
import { channelMap } from '../../channels/map';
import type { Session, Source } from '../../session/schema';
import { cosDeg, inRange, sinDeg } from '../../units/guard';
import { done, refused, type Outcome } from '../../units/outcome';
import { speedOfSound } from '../../units/sound';
import { distance, type Vec3 } from '../../units/vector';
import { playerFor, PLAYERS, type Player, type PlayerName } from '../players/kinds';
import { sourceEdges } from '../../ensembles/extent';
import { bandShares } from '../players/band-shares';
import { phraseOf } from '../players/phrase';
import type { PhraseName } from '../players/score';
import { directPath } from './paths';
import type { Hall } from './hall';

/** What is rendered of a session, and how. */
export interface RenderOptions {
  /** 1 … 600 s */
  seconds: number;
  /** 8000 … 192000 Hz */
  sampleRateHz: number;
  phrase: PhraseName;
  /** any whole number: the same gives the same file */
  seed: number;
  /** direct sound alone */
  dry: boolean;
  /** of arrays and players; all of them where it is null */
  arrayIds: readonly string[] | null;
  playerIds: readonly string[] | null;
  /** what every player plays instead of its own kind */
  sound: PlayerName | null;
  /** instead of the players: somebody who walks from place to place and claps, m; at most 16 places */
  claps: readonly Vec3[] | null;
}

export const USUAL_RENDER: RenderOptions = {
  seconds: 30,
  sampleRateHz: 48_000,
  phrase: 'chorale',
  seed: 1,
  dry: false,
  arrayIds: null,
  playerIds: null,
  sound: null,
  claps: null,
};

/** One channel of a simulated take. */
export interface RenderChannel {
  name: string;
  arrayId: string;
  receiver: Receiver;
}

/** A place that sound comes from. */
export interface RenderPoint {
  sourceId: string;
  position: Vec3;
  /** of the phrase, at 1 m, against full scale */
  amplitude: number;
  /** directivity factor, 0.1 … 100 */
  q: number;
  /** played again and again */
  phrase: Float32Array;
}

/** All that a simulated take needs. */
export interface RenderPlan {
  sampleRateHz: number;
  frames: number;
  speed: number;
  channels: RenderChannel[];
  points: RenderPoint[];
  room: Shoebox | null;
  hall: Hall | null;
  seed: number;
  /** dB SPL at which a channel is full */
  fullScaleDb: number;
  /** what is left out, and why */
  notes: string[];
}

/** A source this wide sounds from its two ends and its middle, one performance in three. */
const SPREAD_M = 0.15;
const SPREAD_PLACES = 3;
/** A source this wide sounds from several places, one every so many metres. */
const WIDE_M = 0.8;
const EVERY_M = 0.7;
const MOST_PLACES = 5;
/** Room that full scale keeps over the loudest channel's level, and its step, dB. */
const HEADROOM_DB = 16;
const SCALE_STEP_DB = 5;

/** Instruments whose notes lie side by side: the low ones at the player's left. */
const KEYED: ReadonlySet<PlayerName> = new Set(['piano', 'harpsichord', 'harp', 'organ pipe']);

/**
 * A number from a text, the same everywhere (FNV-1a).
 * @param seed another stream of them, 0 … 2^32
 */
export function seedFrom(text: string, seed: number): number {
  let hash = (2_166_136_261 ^ seed) >>> 0;
  for (const character of text) {
    hash = Math.imul(hash ^ (character.codePointAt(0) ?? 0), 16_777_619) >>> 0;
  }
  return hash;
}

function placesOf(source: Source, count: number): Vec3[] {
  const { x, y, z, facingDeg, widthM } = source;
  const [dx, dy] = [cosDeg(facingDeg) * widthM, -sinDeg(facingDeg) * widthM];
  return Array.from({ length: count }, (_, i) => {
    const share = count === 1 ? 0 : (i + 0.5) / count - 0.5;
    return { x: x + share * dx, y: y + share * dy, z };
  });
}

/** What a phrase depends on: the same is made once. */
export type Phrases = Map<string, Float32Array>;

/** More players of a kind than this share their performances: nobody hears it among so many. */
const MOST_ALONE = 16;

const soundOf = (source: Source, sound: PlayerName | null): PlayerName =>
  sound ?? playerFor(source.kind || source.name);

/** The how-manieth of its kind every player is, whoever else is rendered. */
function ranksOf(sources: readonly Source[], sound: PlayerName | null): Map<string, number> {
  const counts = new Map<PlayerName, number>();
  return new Map(
    sources.map((source) => {
      const name = soundOf(source, sound);
      const rank = counts.get(name) ?? 0;
      counts.set(name, rank + 1);
      return [source.id, rank % MOST_ALONE];
    }),
  );
}

/** What one place plays: all that its phrase depends on. */
export interface PhraseSpec {
  name: PlayerName;
  phrase: PhraseName;
  seed: number;
  sampleRateHz: number;
  /** of an instrument whose notes lie side by side: which part of how many, from the low end */
  part: readonly [index: number, count: number] | null;
  /** of an instrument of some width: which share of its narrow bands, of how many; absent: all of it */
  bands?: readonly [index: number, count: number];
}

/** Under which a phrase is known. */
export const phraseKey = ({ name, phrase, seed, sampleRateHz, part, bands }: PhraseSpec): string =>
  `${name} ${phrase} ${seed} ${sampleRateHz} ${part?.join('/') ?? ''}${bands ? ` bands ${bands.join('/')}` : ''}`;

/** A phrase, made once for all that play the same. */
export function playedPhrase(spec: PhraseSpec, phrases: Phrases): Float32Array {
  const key = phraseKey(spec);
  const known = phrases.get(key);
  if (known) return known;
  const { name, phrase, seed, sampleRateHz, part, bands } = spec;
  if (bands) {
    const { bands: _bands, ...whole } = spec;
    const [index, count] = bands;
    // Another order of the places for another performance, so that no two players lean alike.
    const shares = bandShares(playedPhrase(whole, phrases), sampleRateHz, count, seed % count);
    shares.forEach((share, i) => phrases.set(phraseKey({ ...whole, bands: [i, count] }), share));
    return shares[index] ?? new Float32Array(0);
  }
  const player: Player = PLAYERS[name];
  const [low, high] = 'range' in player ? player.range : [0, 127];
  const placeOf = (key: number, count: number): number =>
    Math.max(0, Math.min(count - 1, Math.floor(((key - low) / (high - low + 1)) * count)));
  const made = phraseOf(
    name,
    phrase,
    seed,
    sampleRateHz,
    part ? (note) => placeOf(note.key, part[1]) === part[0] : undefined,
  );
  phrases.set(key, made);
  return made;
}

/** A place that sound comes from, and what it plays. */
export interface SoundingPlace {
  sourceId: string;
  position: Vec3;
  /** at 1 m, dB SPL */
  levelDb: number;
  q: number;
  plays: PhraseSpec;
}

function placesAndParts(
  source: Source,
  rank: number,
  { phrase, seed, sampleRateHz, sound }: RenderOptions,
): SoundingPlace[] {
  const name = soundOf(source, sound);
  const wide = source.widthM >= WIDE_M;
  const count = wide ? Math.min(MOST_PLACES, Math.max(2, Math.round(source.widthM / EVERY_M))) : 1;
  const own = seedFrom(`${name} ${rank}`, seed);
  if (!wide && source.widthM > SPREAD_M) {
    const [left, right] = sourceEdges(source);
    return [left, source, right].map(({ x, y, z }, i) => ({
      sourceId: source.id,
      position: { x, y, z },
      levelDb: source.levelDb - 10 * Math.log10(SPREAD_PLACES),
      q: source.q,
      plays: { name, phrase, seed: own, sampleRateHz, part: null, bands: [i, SPREAD_PLACES] },
    }));
  }
  // Side by side by note, or several players each with a performance of its own.
  const keyed = KEYED.has(name) && count > 1;
  return placesOf(source, count).map((position, i) => ({
    sourceId: source.id,
    position,
    levelDb: source.levelDb - 10 * Math.log10(count),
    q: source.q,
    plays: {
      name,
      phrase,
      seed: keyed ? own : own + i,
      sampleRateHz,
      part: keyed ? [i, count] : null,
    },
  }));
}

/**
 * Where the sound of a session's players comes from, and what is played there.
 * @param playerIds of them; all where it is null
 */
export function soundingPlaces(
  session: Pick<Session, 'sources'>,
  options: RenderOptions,
): SoundingPlace[] {
  const ranks = ranksOf(session.sources, options.sound);
  return session.sources
    .filter(({ id }) => options.playerIds === null || options.playerIds.includes(id))
    .flatMap((source) => placesAndParts(source, ranks.get(source.id) ?? 0, options));
}

/** From one clap of a walk to the next, s, and how loud they are at 1 m, dB SPL. */
export const CLAP_EVERY_S = 1.5;
const CLAP_DB = 100;
export const MOST_CLAPS = 16;

/**
 * A walking clapper is a row of stationary claps, each from its own place: what moves between them is
 * not heard.
 */
function walkOf(
  places: readonly Vec3[],
  { seed, sampleRateHz }: RenderOptions,
  fullScaleDb: number,
): RenderPoint[] {
  const every = Math.round(CLAP_EVERY_S * sampleRateHz);
  const amplitude = 10 ** ((CLAP_DB - fullScaleDb) / 20);
  return places.map((position, i) => {
    const phrase = new Float32Array(every * places.length);
    // One stroke of the phrase, which begins with one.
    phrase.set(
      phraseOf('clap', 'chorale', seed + i, sampleRateHz).subarray(0, every / 2),
      i * every,
    );
    return { sourceId: `clap ${i + 1}`, position, amplitude, q: 1, phrase };
  });
}

function hallOf(session: Session, room: Shoebox, speed: number): Hall | null {
  const { rt60S } = session.venue;
  const [w, d, h] = (['x', 'y', 'z'] as const).map((axis) => room.max[axis] - room.min[axis]);
  if (rt60S === null || !w || !d || !h) return null;
  const times: [number, number][] =
    typeof rt60S === 'number'
      ? [[1000, rt60S]]
      : Object.entries(rt60S)
          .map(([hz, seconds]): [number, number] => [Number(hz), seconds ?? 0])
          .filter(([, seconds]) => seconds > 0)
          .sort(([a], [b]) => a - b);
  if (times.length === 0) return null;
  return { volumeM3: w * d * h, surfaceM2: 2 * (w * d + w * h + d * h), rt60S: times, speed };
}

/** Surfaces of which nothing is known absorb as much as the reverberation time says of all. */
function withAbsorption(room: Shoebox, hall: Hall): Shoebox {
  const mid = hall.rt60S.reduce((best, entry) =>
    Math.abs(Math.log(entry[0] / 1000)) < Math.abs(Math.log(best[0] / 1000)) ? entry : best,
  )[1];
  let [low, high] = [0.001, 0.999];
  for (let i = 0; i < 40; i++) {
    const absorption = (low + high) / 2;
    const seconds = eyringTime(hall.volumeM3, [{ areaM2: hall.surfaceM2, absorption }], 0);
    if (seconds !== null && seconds > mid) low = absorption;
    else high = absorption;
  }
  const mean = (low + high) / 2;
  const absorption = Object.fromEntries(
    ROOM_SURFACES.map((surface) => [surface, room.absorption[surface] ?? mean]),
  ) as Shoebox['absorption'];
  return { ...room, absorption };
}

/** The room that is heard, as far as the session says what it is. */
export interface SoundingRoom {
  room: Shoebox | null;
  hall: Hall | null;
  /** what is left out, and why */
  notes: string[];
}

/**
 * The room that is heard.
 * @param dry direct sound alone is wanted
 * @param speed of sound, 250 … 450 m/s
 */
export function soundingRoom(session: Session, dry: boolean, speed: number): SoundingRoom {
  const box = dry ? null : shoeboxOf(session);
  const hall = box && hallOf(session, box, speed);
  const notes: string[] = [];
  if (!dry && !box)
    notes.push(
      'without the size of the hall and the place of the stage in it there is no room in the sound',
    );
  else if (!dry && !hall)
    notes.push('without a reverberation time there are early reflections only');
  return { room: box && hall ? withAbsorption(box, hall) : box, hall, notes };
}

/** Full scale above the loudest channel, in steps, so that the same plan keeps its scale. */
function scaleFor(
  channels: readonly RenderChannel[],
  sources: readonly (Vec3 & Pick<Source, 'levelDb' | 'q'>)[],
  hall: Hall | null,
  speed: number,
): number {
  const loudest = channels.map(({ receiver }) =>
    sources.reduce((sum, source) => {
      const { gain } = directPath(source, receiver, speed);
      const lateral = hall
        ? (4 * Math.PI * speed * (hall.rt60S[0]?.[1] ?? 0)) / hall.volumeM3 / 13.8
        : 0;
      const near = distance(source, receiver.position) < 0.01 ? 0 : gain * gain;
      return sum + 10 ** (source.levelDb / 10) * (near + lateral / source.q);
    }, 0),
  );
  const level = 10 * Math.log10(Math.max(1, ...loudest)) + HEADROOM_DB;
  return Math.ceil(level / SCALE_STEP_DB) * SCALE_STEP_DB;
}

/**
 * What a simulated take of a session is made of.
 * @param change of the usual: 30 s of the chorale at 48 kHz, all arrays and players
 * @param phrases kept from one plan to the next, so that none is made twice
 * @returns why there is nothing to render, where there is nothing
 * @throws RangeError where seconds is outside 1 … 600 s, sampleRateHz is outside 8000 … 192000 Hz,
 *   claps has no or more than 16 places
 */
export function planTake(
  session: Session,
  change: Partial<RenderOptions> = {},
  phrases: Phrases = new Map(),
): Outcome<RenderPlan> {
  const options = { ...USUAL_RENDER, ...change };
  inRange('seconds', options.seconds, 1, 600, 's');
  inRange('sampleRateHz', options.sampleRateHz, 8000, 192_000, 'Hz');
  const { sampleRateHz, arrayIds, playerIds, dry, seed } = options;
  const speed = speedOfSound(session.venue.temperatureC);
  const channels = channelMap(session).inputs.flatMap(({ arrayId, capsule, name }) => {
    const array = session.arrays.find(({ id }) => id === arrayId);
    const receiver = array && placeCapsules(array)[capsule];
    const wanted = arrayIds === null || arrayIds.includes(arrayId);
    return receiver && wanted ? [{ name, arrayId, receiver }] : [];
  });
  if (channels.length === 0)
    return refused('no array is in use: there is nothing that would record');
  const { claps } = options;
  if (claps !== null) inRange('claps', claps.length, 1, MOST_CLAPS, 'places');
  const sources = session.sources.filter(({ id }) => playerIds === null || playerIds.includes(id));
  if (sources.length === 0 && claps === null)
    return refused('no players: there is nothing to record');
  const { room, hall, notes } = soundingRoom(session, dry, speed);
  const loud = claps ? claps.map((place) => ({ ...place, levelDb: CLAP_DB, q: 1 })) : sources;
  const fullScaleDb = scaleFor(channels, loud, hall, speed);
  return done({
    sampleRateHz,
    frames: Math.round(options.seconds * sampleRateHz),
    speed,
    channels,
    points: claps
      ? walkOf(claps, options, fullScaleDb)
      : soundingPlaces(session, options).map(({ levelDb, plays, ...place }) => ({
          ...place,
          amplitude: 10 ** ((levelDb - fullScaleDb) / 20),
          phrase: playedPhrase(plays, phrases),
        })),
    room,
    hall,
    seed,
    fullScaleDb,
    notes,
  });
}
