import type { MicArray, Session } from '../../core/session';
import { createStore } from 'zustand/vanilla';
import type { Levels } from '../../core/audio/listen/mixer';

/** The plan or the candidate beside it, whole or its room alone. */
export type PlanSide = 'plan' | 'candidate' | 'room' | 'candidate’s room';
/** A recording, by its own name. */
export type RecordingSide = `recording ${string}`;
/** Which of all that can be heard at one place is heard. */
export type Side = PlanSide | RecordingSide;

export const isRecording = (side: Side): side is RecordingSide => side.startsWith('recording ');

export const ofCandidate = (side: Side): boolean => side.startsWith('candidate');
export const roomAlone = (side: Side): boolean => side.endsWith('room');

/** The side of one of both, whole or as its room alone. */
export const sideOf = (candidate: boolean, room: boolean): PlanSide =>
  candidate ? (room ? 'candidate’s room' : 'candidate') : room ? 'room' : 'plan';

/** A recording that can be heard. */
export interface HeardRecording {
  side: RecordingSide;
  name: string;
  /** of its own, Hz: resampled for listening where another one is heard */
  rateHz: number;
  /** what makes it as loud as the others, dB; null while it is not known yet, or nothing is brought to one */
  trimDb: number | null;
}

/** What is listened to and how; nothing of it is stored in a session. */
export interface Listening {
  state: 'silent' | 'preparing' | 'playing';
  /** what stands in the way, or what the sound is without */
  problem: string | null;
  /** what is simplified in what is heard */
  notes: string[];
  side: Side;
  /** that side is still being made; what is heard goes on */
  waiting: boolean;
  /** how far, 0 … 1 */
  made: number;
  mono: boolean;
  swap: boolean;
  dim: boolean;
  /** as from two loudspeakers, for headphones */
  headphones: boolean;
  /** of the whole, dB */
  volumeDb: number;
  /** who is heard alone: ids of players; null is everybody */
  soloIds: readonly string[] | null;
  mutedIds: readonly string[];
  /** the same of the arrays of the mix */
  soloArrayIds: readonly string[] | null;
  mutedArrayIds: readonly string[];
  /** the player under the pointer on the line, alone as long as it is there */
  hoveredId: string | null;
  /** shares of the round between which it goes round; null is all of it */
  range: readonly [from: number, to: number] | null;
  /** frames, and how many make the whole; how many are a second */
  position: number;
  lengthFrames: number;
  rateHz: number;
  /** recordings that can be heard beside the plan */
  recordings: readonly HeardRecording[];
  /** all of them, and the plan, are brought to one loudness */
  matched: boolean;
  /** the machine is too busy: reflections that follow the hand are left out for now */
  thinned: boolean;
  /** from the processor to the loudspeaker, ms, as far as the browser knows; null before the first sound */
  latencyMs: number | null;
  /** the browser gives no processor: mono, the head and the hand are not there */
  plain: boolean;
}

/** A plan, and what of it is heard: one array by itself, or all that are at their faders. */
export interface HeardPlan {
  session: Session;
  heard: MicArray | 'mix';
}

/** What the page shows, and therefore what is heard of it. */
export interface Shown extends HeardPlan {
  /** the candidate beside it: another array, or another plan altogether */
  candidate: HeardPlan | null;
  dragging: boolean;
}

/** Undefined until a page has told for the first time: it comes after the first drawing. */
export const shownStore = createStore<{ shown: Shown | null | undefined }>(() => ({
  shown: undefined,
}));

/** Resolves once it is told what is on the page. */
export const whenShown = (): Promise<void> =>
  new Promise((resolve) => {
    if (shownStore.getState().shown !== undefined) return resolve();
    const leave = shownStore.subscribe(({ shown }) => {
      if (shown === undefined) return;
      leave();
      resolve();
    });
  });

/** At which a plan is heard, Hz. */
export const USUAL_RATE = 48_000;

/** Low at first: louder is always a decision. */
const FIRST_VOLUME_DB = -18;
/** From here on it can be loud. */
export const LOUD_DB = -6;

export const listeningStore = createStore<Listening>(() => ({
  state: 'silent',
  problem: null,
  notes: [],
  side: 'plan',
  waiting: false,
  made: 0,
  mono: false,
  swap: false,
  dim: false,
  headphones: false,
  volumeDb: FIRST_VOLUME_DB,
  soloIds: null,
  mutedIds: [],
  soloArrayIds: null,
  mutedArrayIds: [],
  hoveredId: null,
  range: null,
  position: 0,
  lengthFrames: 1,
  rateHz: USUAL_RATE,
  recordings: [],
  matched: true,
  thinned: false,
  latencyMs: null,
  plain: false,
}));

/** Levels come thirty times a second: who draws them asks here, past all rendering. */
export interface HeardLevels {
  levels: Levels;
  /** of every player that sounds by itself or with its section, mean power as heard */
  byPlayer: ReadonlyMap<string, number>;
}

const hearers = new Set<(heard: HeardLevels | null) => void>();

export function onHeard(hearer: (heard: HeardLevels | null) => void): () => void {
  hearers.add(hearer);
  return () => hearers.delete(hearer);
}

export const tellHeard = (heard: HeardLevels | null): void => {
  for (const hearer of hearers) hearer(heard);
};
