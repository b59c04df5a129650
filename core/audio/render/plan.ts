import type { Receiver } from '../../acoustics/diffuse-field';
import type { Room } from '../../acoustics/reflections';
import { placeCapsules } from '../../arrays/capsules';
import { channelMap } from '../../channels/map';
import type { Session, Source } from '../../session/schema';
import { inRange } from '../../units/guard';
import { done, refused, type Outcome } from '../../units/outcome';
import { speedOfSound } from '../../units/sound';
import { distance, type Vec3 } from '../../units/vector';
import type { Hall } from './hall';
import type { OctaveSurfaces } from './image-filters';
import { rollCall, signalsInTurns, type LoudPoint } from './in-turns';
import { USUAL_RENDER, type RenderOptions } from './options';
import { directPath, NEAREST_M } from './paths';
import { playedPhrase, soundingPlaces, type Phrases } from './places';
import { soundingRoom } from './sounding-room';
import { plainEngine, type SpectraEngine } from '../signal/spectra';
import type { NamedTurn } from './take-kinds';
import { calledName, type Turn } from './turns';

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
  /** played again and again, or once at its turn */
  phrase: Float32Array;
  turn: Turn | null;
}

/** All that a simulated take needs. */
export interface RenderPlan {
  sampleRateHz: number;
  frames: number;
  speed: number;
  channels: RenderChannel[];
  points: RenderPoint[];
  room: Room | null;
  /** what its surfaces absorb by octave; null where that is the same in all of them */
  surfaces: OctaveSurfaces | null;
  hall: Hall | null;
  seed: number;
  /** dB SPL at which a channel is full */
  fullScaleDb: number;
  /** what is left out, and why */
  notes: string[];
  /** who is heard when, of a take in turns */
  turns: NamedTurn[];
}

/** Room that full scale keeps over the peaks of the loudest channel, and its step, dB. */
const HEADROOM_DB = 3;
const SCALE_STEP_DB = 5;

export const MOST_CLAPS = 16;
/** No take is longer, s. */
const MOST_SECONDS = 600;

const CRESTS = new WeakMap<Float32Array, number>();

/** The highest sample of a phrase, squared: its level is one. */
function peakPower(phrase: Float32Array): number {
  const known = CRESTS.get(phrase);
  if (known !== undefined) return known;
  let most = 0;
  for (const value of phrase) most = Math.max(most, Math.abs(value));
  CRESTS.set(phrase, most * most);
  return most * most;
}

/** Full scale above the peaks of the loudest channel, in steps, so that the same plan keeps its scale. */
function scaleFor(
  channels: readonly RenderChannel[],
  points: readonly LoudPoint[],
  hall: Hall | null,
  speed: number,
): number {
  const around = hall
    ? (4 * Math.PI * speed * (hall.rt60S[0]?.[1] ?? 0)) / hall.volumeM3 / 13.8
    : 0;
  const loudest = channels.map(({ receiver }) =>
    points.reduce((sum, { position, levelDb, q, phrase, turn }) => {
      const { gain } = directPath(position, receiver, speed);
      const own = 10 ** (levelDb / 10) * peakPower(phrase) * (gain * gain + around / q);
      return turn ? Math.max(sum, own) : sum + own;
    }, 0),
  );
  const level = 10 * Math.log10(Math.max(1, ...loudest)) + HEADROOM_DB;
  return Math.ceil(level / SCALE_STEP_DB) * SCALE_STEP_DB;
}

/** Microphones that stand where a player is: said, and heard as from a little way off. */
function tooNear(channels: readonly RenderChannel[], sources: readonly Source[]): string[] {
  const found = channels.flatMap(({ name, receiver }) => {
    const on = sources.find((source) => distance(source, receiver.position) < NEAREST_M);
    return on ? [`${name} on ${on.name || on.id}`] : [];
  });
  if (found.length === 0) return [];
  const more = found.length > 3 ? ` and ${found.length - 3} more` : '';
  return [
    `a microphone stands where a player sounds (${found.slice(0, 3).join(', ')}${more}): heard as from ${NEAREST_M * 100} cm`,
  ];
}

/**
 * What a simulated take of a session is made of.
 * @param change of the usual: 30 s of the chorale at 48 kHz, all arrays and players; takes in turns are as
 *   long as they take, up to 600 s
 * @param phrases kept from one plan to the next, so that none is made twice
 * @param engine of the transforms that phrases want
 * @returns why there is nothing to render, where there is nothing
 * @throws RangeError where seconds is outside 1 … 600 s, sampleRateHz is outside 8000 … 192000 Hz,
 *   claps has no or more than 16 places
 */
export function planTake(
  session: Session,
  change: Partial<RenderOptions> = {},
  phrases: Phrases = new Map(),
  engine: SpectraEngine = plainEngine,
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
  const take = claps !== null && options.take === 'music' ? 'claps' : options.take;
  const sources = session.sources.filter(({ id }) => playerIds === null || playerIds.includes(id));
  const places =
    claps?.map((position, i) => ({
      sourceId: `place ${i + 1}`,
      name: `place ${i + 1}`,
      position,
    })) ??
    sources.map((source) => ({ sourceId: source.id, name: calledName(source), position: source }));
  if (places.length === 0 || (sources.length === 0 && (take === 'music' || take === 'roll call')))
    return refused('no players: there is nothing to record');
  const { room, surfaces, hall, notes } = soundingRoom(session, dry, speed);
  const inTurns =
    take === 'music'
      ? null
      : take === 'roll call'
        ? rollCall(session, sources, hall, options, phrases, engine)
        : signalsInTurns(take, places, hall, options);
  if (inTurns && inTurns.frames > MOST_SECONDS * sampleRateHz) {
    const neededS = Math.ceil(inTurns.frames / sampleRateHz);
    return refused(
      `${inTurns.turns.length} turns take ${neededS} s; allowed: up to ${MOST_SECONDS} s: choose fewer players`,
    );
  }
  const loud: LoudPoint[] =
    inTurns?.points ??
    soundingPlaces(session, options).map(({ plays, ...place }) => ({
      ...place,
      phrase: playedPhrase(plays, phrases, engine),
      turn: null,
    }));
  const fullScaleDb = scaleFor(channels, loud, hall, speed);
  return done({
    sampleRateHz,
    frames: inTurns?.frames ?? Math.round(options.seconds * sampleRateHz),
    speed,
    channels,
    points: loud.map(({ levelDb, ...point }) => ({
      ...point,
      amplitude: 10 ** ((levelDb - fullScaleDb) / 20),
    })),
    room,
    surfaces,
    hall,
    seed,
    fullScaleDb,
    notes: [...notes, ...(claps ? [] : tooNear(channels, sources))],
    turns: inTurns?.turns ?? [],
  });
}
