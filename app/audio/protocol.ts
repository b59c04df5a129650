import type { Hearing, Levels, Loop, Pose, Scene } from '../../core/audio/listen';

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
  | { kind: 'port'; port: MessagePort }
  | { kind: 'open'; take: string; stems: readonly string[]; trim: number }
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
  /** so many frames of what goes out, or of what is mixed before it is listened to in any way */
  | { kind: 'capture'; frames: number; what: 'out' | 'mix' };

/** From the processor to the page. */
export type FromProcessor =
  | { kind: 'levels'; levels: Levels }
  | Made
  | {
      kind: 'captured';
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

/** To the worker that makes the loops. */
export type ToLoopWorker =
  | { kind: 'port'; port: MessagePort }
  | { kind: 'phrases'; scene: Scene }
  | { kind: 'make'; ask: TakeAsk }
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
