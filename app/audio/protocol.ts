import type {
  Hearing,
  Levels,
  Loop,
  MixerState,
  Pose,
  Scene,
  StreamShape,
} from '../../core/audio/listen';
import type { Processing } from '../../core/audio/process/processed';
import type { Recorded } from '../workers/sound-of';

/** A take is whole. */
export interface Made {
  kind: 'made';
  take: string;
  /** of the ask that it answers */
  round: number;
  loudness: number | null;
  path: 'fast' | 'plain';
}

/** To the processor that makes the sound: from the page, and from the worker that makes the loops. */
export type ToProcessor =
  /** from whom else messages come: whoever makes loops, or feeds recordings and is told what is wanted */
  | { kind: 'port'; port: MessagePort; feeds: boolean }
  | { kind: 'open'; take: string; stems: readonly string[]; trim: number }
  | { kind: 'stream'; take: string; shape: StreamShape; trim: number }
  | { kind: 'block'; take: string; block: number; planes: Float32Array[] }
  | { kind: 'close'; take: string }
  | { kind: 'layer'; take: string; stem: number; name: string; loop: Loop }
  /** no layer more of it comes; told on to the page once all before it are in the sound */
  | Made
  | { kind: 'live'; take: string; loops: Float32Array[]; stems: number[]; pose: Pose }
  | { kind: 'pose'; take: string; pose: Pose; timeS: number }
  | { kind: 'live only'; on: boolean }
  | { kind: 'choose'; take: string }
  /** by the id of the stem */
  | { kind: 'stems'; gains: ReadonlyMap<string, number> }
  | { kind: 'hear'; hearing: Hearing }
  | { kind: 'play'; playing: boolean }
  | { kind: 'seek'; frame: number }
  | { kind: 'range'; from: number; to: number }
  /** how long it is that is heard, and whether it goes round without a gap */
  | { kind: 'length'; frames: number; round: boolean }
  /** fades, tells everything that it has, and is not used any more */
  | { kind: 'hand over' }
  /** what waited for it comes after it */
  | { kind: 'take over'; state: MixerState }
  /** so many frames of what goes out, or of what is mixed before it is listened to in any way */
  | { kind: 'capture'; id: number; frames: number; what: 'out' | 'mix' };

/** From the processor to the page. */
export type FromProcessor =
  | { kind: 'levels'; levels: Levels }
  | { kind: 'handed over'; state: MixerState }
  | Made
  | {
      kind: 'captured';
      /** of the ask that it answers */
      id: number;
      left: Float32Array;
      right: Float32Array;
      /** of the loop, for each sample */
      frames: Int32Array;
      /** of the first sample, on the clock of the sound */
      timeS: number;
    };

/** What a take is made of. */
export interface TakeAsk {
  take: string;
  /** counts what was asked of the takes */
  round: number;
  scene: Scene;
  trim: number;
  /** in layers that the hand can part, or whole */
  layers: 'parted' | 'whole';
  withoutDirect: boolean;
}

/** A recording as it is to be heard. */
export interface FeedAsk {
  take: string;
  file: Recorded;
  /** what is done to it before it is heard */
  processing: Partial<Processing>;
  /** channels of what comes out of that which are sent, from 0 */
  channels: readonly number[];
  /** at which it is sent, Hz */
  sampleRateHz: number;
  /** frames at that rate from the beginning of what is heard to its own; below 0 it began before */
  offset: number;
}

/** To the worker that feeds recordings. */
export type ToFeedWorker =
  | { kind: 'port'; port: MessagePort }
  | { kind: 'feed'; ask: FeedAsk }
  | { kind: 'drop'; take: string };

/** From the processor to the worker that feeds: what is wanted next of recordings, nearest first. */
export interface Wanted {
  kind: 'wanted';
  wants: readonly { id: string; blocks: readonly number[] }[];
}

/** From the worker that feeds to the page. */
export type FromFeedWorker = { kind: 'failed'; take: string; message: string };

/** To the worker that makes the loops. */
export type ToLoopWorker =
  | { kind: 'port'; port: MessagePort }
  | { kind: 'phrases'; scene: Scene }
  | { kind: 'make'; ask: TakeAsk }
  /** nothing is made while the hand moves something: what is heard needs the machine */
  | { kind: 'hold'; on: boolean }
  /** what has not begun or is under way of a take is not wanted any more */
  | { kind: 'drop'; take: string };

/** From the worker to the page. */
export type FromLoopWorker =
  | { kind: 'phrases ready' }
  /** its direct sound can be heard */
  | { kind: 'begun'; take: string }
  /** so much of the work on it is done, 0 … 1 */
  | { kind: 'progress'; take: string; fraction: number }
  | Made
  | { kind: 'layer'; take: string; stem: number; name: string; loop: Loop }
  | { kind: 'failed'; take: string; message: string };
