import type { Receiver } from '../../acoustics/diffuse-field';
import type { Shoebox } from '../../acoustics/reflections';
import { heardArrays } from '../../analysis/mix';
import { placeCapsules } from '../../arrays/capsules';
import { readyArray } from '../../prepare/arrays';
import type { MicArray, Session } from '../../session/schema';
import { dbToAmplitude } from '../../units/guard';
import { done, refused, type Outcome } from '../../units/outcome';
import { speedOfSound } from '../../units/sound';
import type { Vec3 } from '../../units/vector';
import type { Hall } from '../render/hall';
import {
  soundingPlaces,
  soundingRoom,
  USUAL_RENDER,
  type PhraseSpec,
  type RenderOptions,
} from '../render/plan';

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
  room: Shoebox | null;
  hall: Hall | null;
  seed: number;
  /** the hand is followed always; only while something is dragged, by sections; or after it rests */
  live: 'always' | 'by section' | 'at rest';
  /** what is left out or simplified, and why */
  notes: string[];
}

/** So many stems are kept; beyond it sections are one. */
export const MOST_STEMS = 12;
/** Ways from a place to a microphone that follow the hand at once. */
export const MOST_LIVE = 24;
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

/**
 * What a session sounds like through an array, or through the whole mix.
 * @param sampleRateHz 8000 … 192000 Hz
 * @returns why there is nothing to hear, where there is nothing
 */
export function sceneOf(
  session: Session,
  heard: Heard,
  sampleRateHz: number,
  change: Partial<Pick<RenderOptions, 'phrase' | 'seed'>> = {},
): Outcome<Scene> {
  const options: RenderOptions = { ...USUAL_RENDER, ...change, sampleRateHz };
  if (session.sources.length === 0) return refused('No players yet: there is nothing to hear.');
  const arrays = heard === 'mix' ? heardArrays(session) : [heard];
  const main = arrays.find(({ role }) => role === 'main') ?? arrays[0];
  if (!main) return refused('No array is heard: every one is muted or out of use.');
  const capsules = arrays.flatMap((array) =>
    capsulesOf(array, heard === 'mix' ? dbToAmplitude(array.mix.faderDb) : 1, array === main),
  );
  if (capsules.length === 0) return refused('This array has no microphones yet.');
  const speed = speedOfSound(session.venue.temperatureC);
  const { room, hall, notes } = soundingRoom(session, false, speed);
  const stems = stemsOf(session);
  const stemOf = new Map(stems.flatMap(({ sourceIds }, s) => sourceIds.map((id) => [id, s])));
  const points = soundingPlaces(session, options).map(
    ({ sourceId, position, levelDb, q, plays }): ScenePoint => ({
      stem: stemOf.get(sourceId) ?? 0,
      position,
      amplitude: dbToAmplitude(levelDb - REFERENCE_DB),
      q,
      plays,
    }),
  );
  const following = capsules.filter(({ live }) => live).length;
  const live =
    points.length * following <= MOST_LIVE
      ? 'always'
      : stems.length * following <= MOST_LIVE
        ? 'by section'
        : 'at rest';
  return done({
    sampleRateHz,
    speed,
    stems,
    points,
    capsules,
    room,
    hall,
    seed: options.seed,
    live,
    notes: [...notes, ...simplified(live, arrays.length)],
  });
}

function simplified(live: Scene['live'], arrays: number): string[] {
  const notes: string[] = [];
  if (live === 'by section')
    notes.push('while something is dragged every section sounds from its middle');
  if (live === 'at rest') notes.push('the sound follows when the hand rests');
  else if (arrays > 1) notes.push('the other arrays follow when the hand rests');
  return notes;
}
