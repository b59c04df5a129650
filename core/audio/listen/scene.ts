import type { Receiver } from '../../acoustics/diffuse-field';
import { ROOM_SURFACES, type Room } from '../../acoustics/reflections';
import { heardArrays } from '../../analysis/mix';
import { placeCapsules } from '../../arrays/capsules';
import { readyArray } from '../../prepare/arrays';
import type { MicArray, Session } from '../../session/schema';
import { dbToAmplitude } from '../../units/guard';
import { followedSurfaces } from './followed';
import { done, refused, type Outcome } from '../../units/outcome';
import { speedOfSound } from '../../units/sound';
import type { Vec3 } from '../../units/vector';
import type { Hall } from '../render/hall';
import type { OctaveSurfaces } from '../render/image-filters';
import { soundingRoom } from '../render/sounding-room';
import { USUAL_RENDER, type RenderOptions } from '../render/options';
import { soundingPlaces, type PhraseSpec } from '../render/places';

/** One place that sounds. */
export interface ScenePoint {
  /** which stem it belongs to, from 0 */
  stem: number;
  position: Vec3;
  /** of its phrase at 1 m */
  amplitude: number;
  /** directivity factor, 0.1 … 100 */
  q: number;
  plays: PhraseSpec;
  /**
   * What of it is heard: everything; of the places of one spread instrument only the direct sound of
   * each, and reflections and the room once, from its middle.
   */
  ways: 'all' | 'direct' | 'room';
}

/** One microphone, and how it reaches the two channels. */
export interface SceneCapsule {
  receiver: Receiver;
  /** signed amplitudes */
  left: number;
  right: number;
  delayS: number;
  /** its direct sound and first reflections can follow the hand */
  live: boolean;
}

/** What can be heard alone: a player, or a section of them. */
export interface Stem {
  id: string;
  name: string;
  sourceIds: string[];
}

/** All that is needed to hear a plan in two channels. */
export interface Scene {
  sampleRateHz: number;
  speed: number;
  stems: Stem[];
  points: ScenePoint[];
  capsules: SceneCapsule[];
  room: Room | null;
  /** the surfaces whose first reflections follow the hand; all others do when it rests */
  followed: readonly string[];
  /** what its surfaces absorb by octave; null where that is the same in all of them */
  surfaces: OctaveSurfaces | null;
  hall: Hall | null;
  seed: number;
  /**
   * The hand is followed always; only while something is dragged, each stem from its middle, or of
   * that only the direct sound; or after it rests.
   */
  live: 'always' | 'by stem' | 'direct by stem' | 'at rest';
  /** what is left out or simplified, and why */
  notes: string[];
}

/** So many stems are kept; beyond it sections are one. */
export const MOST_STEMS = 12;
/** So many stems times microphones follow the hand at once with the first reflections. */
const MOST_LIVE = 24;
/** Three ways of the direct sound of a spread instrument, and its reflections. */
const MOST_WAYS = MOST_LIVE * (3 + ROOM_SURFACES.length);
const WAYS_OF: Readonly<Record<ScenePoint['ways'], number>> = {
  all: 1 + ROOM_SURFACES.length,
  direct: 1,
  room: ROOM_SURFACES.length,
};
/** Beyond it only the direct sound does, for as many ways as those are together. */
const MOST_DIRECT = MOST_LIVE * (1 + ROOM_SURFACES.length);
/** A phrase sounds as this many dB SPL where its amplitude is one. */
const REFERENCE_DB = 94;

function stemsOf({ sources }: Pick<Session, 'sources'>): Stem[] {
  if (sources.length <= MOST_STEMS) {
    return sources.map(({ id, name }) => ({ id, name, sourceIds: [id] }));
  }
  const groups = new Map<string, string[]>();
  for (const { id, name, group } of sources) {
    const section = group || name;
    groups.set(section, [...(groups.get(section) ?? []), id]);
  }
  const all = [...groups].map(([name, sourceIds]) => ({ id: name, name, sourceIds }));
  if (all.length <= MOST_STEMS) return all;
  const rest = all.slice(MOST_STEMS - 1);
  return [
    ...all.slice(0, MOST_STEMS - 1),
    { id: 'the others', name: 'the others', sourceIds: rest.flatMap((stem) => stem.sourceIds) },
  ];
}

function capsulesOf(array: MicArray, fader: number, live: boolean): SceneCapsule[] {
  const { routes } = readyArray(array);
  return placeCapsules(array).map((receiver, i) => {
    const { left = 0, right = 0, delayMs = 0 } = routes[i] ?? {};
    return {
      receiver,
      left: left * fader,
      right: right * fader,
      delayS: delayMs / 1000,
      live,
    };
  });
}

/** What is listened to: one array by itself, or all that are heard at their faders. */
export type Heard = MicArray | 'mix';

/** What is played, and which arrays of the mix are listened to; null is all that are in it. */
export type ListenOptions = Pick<RenderOptions, 'phrase' | 'seed'> & {
  arrayIds: readonly string[] | null;
};

/**
 * What a session sounds like through an array, or through the whole mix.
 * @param sampleRateHz 8000 … 192000 Hz
 * @returns why there is nothing to hear, where there is nothing
 */
export function sceneOf(
  session: Session,
  heard: Heard,
  sampleRateHz: number,
  { arrayIds = null, ...change }: Partial<ListenOptions> = {},
): Outcome<Scene> {
  const options: RenderOptions = { ...USUAL_RENDER, ...change, sampleRateHz };
  if (session.sources.length === 0) return refused('No players yet: there is nothing to hear.');
  const mixed = (): MicArray[] =>
    heardArrays(session).filter(({ id }) => arrayIds === null || arrayIds.includes(id));
  const arrays = heard === 'mix' ? mixed() : [heard];
  const main = arrays.find(({ role }) => role === 'main') ?? arrays[0];
  if (!main) return refused('No array is heard: every one is muted or out of use.');
  const capsules = arrays.flatMap((array) =>
    capsulesOf(array, heard === 'mix' ? dbToAmplitude(array.mix.faderDb) : 1, array === main),
  );
  if (capsules.length === 0) return refused('This array has no microphones yet.');
  const speed = speedOfSound(session.venue.temperatureC);
  const { room, surfaces, hall, notes } = soundingRoom(session, false, speed);
  const stems = stemsOf(session);
  const stemOf = new Map(stems.flatMap(({ sourceIds }, s) => sourceIds.map((id) => [id, s])));
  const levels = new Map(session.sources.map(({ id, levelDb }) => [id, levelDb]));
  const points = soundingPlaces(session, options).flatMap(
    ({ sourceId, position, levelDb, q, plays }): ScenePoint[] => {
      const { bands, ...whole } = plays;
      const stem = stemOf.get(sourceId) ?? 0;
      const amplitude = dbToAmplitude(levelDb - REFERENCE_DB);
      if (!bands) return [{ stem, position, amplitude, q, plays, ways: 'all' }];
      const direct: ScenePoint = { stem, position, amplitude, q, plays, ways: 'direct' };
      // The one in the middle brings reflections and the room for all of them.
      if (bands[0] !== Math.floor(bands[1] / 2)) return [direct];
      const full = dbToAmplitude((levels.get(sourceId) ?? levelDb) - REFERENCE_DB);
      return [direct, { stem, position, amplitude: full, q, plays: whole, ways: 'room' }];
    },
  );
  const waysOfAll = points.reduce((sum, { ways }) => sum + WAYS_OF[ways], 0);
  const live = followed(waysOfAll, stems.length, capsules.filter(({ live }) => live).length);
  return done({
    sampleRateHz,
    speed,
    stems,
    points,
    capsules,
    room,
    followed: followedSurfaces(room, session.venue.stage),
    surfaces,
    hall,
    seed: options.seed,
    live,
    notes: [
      ...notes,
      ...simplified(live, { arrays: arrays.length, sections: session.sources.length > MOST_STEMS }),
    ],
  });
}

/** How the hand is followed, by how many ways of all places, stems and microphones there are. */
function followed(ways: number, stems: number, capsules: number): Scene['live'] {
  if (ways * capsules <= MOST_WAYS) return 'always';
  if (stems * capsules <= MOST_LIVE) return 'by stem';
  return stems * capsules <= MOST_DIRECT ? 'direct by stem' : 'at rest';
}

function simplified(
  live: Scene['live'],
  { arrays, sections }: { arrays: number; sections: boolean },
): string[] {
  if (live === 'at rest') return ['what is moved is heard when the hand rests'];
  const notes: string[] = [];
  if (live !== 'always') {
    const each = sections ? 'section' : 'player';
    notes.push(`while something is dragged every ${each} sounds from its middle`);
  }
  if (live === 'direct by stem') {
    notes.push('the direct sound follows the hand, reflections when it rests');
  }
  if (arrays > 1)
    notes.push('of several arrays the main one follows the hand, the others when it rests');
  return notes;
}
