import listenUrl from './listen.worklet.ts?worker&url';
import type { FromProcessor, ToProcessor } from './protocol';

/** Where the sound goes: a processor of the browser, or plain buffer sources where it gives none. */
export interface Output {
  readonly context: AudioContext;
  /** whether loops go to it straight from the worker */
  readonly direct: boolean;
  post(message: ToProcessor, transfer?: Transferable[]): void;
  close(): void;
}

/** So much the browser may hold back before it gives it out, s: more each time that it ran dry. */
const BUFFERS_S = [0, 0.005, 0.01, 0.02, 0.05] as const;
const KEPT = 'rotunda-sound-buffer';

/** As far as the browser lets the page remember it. */
let known = 0;
try {
  known = Number(localStorage.getItem(KEPT) ?? 0);
} catch {
  // It begins with the smallest one each time.
}

/** Which of them this machine needs, as far as it is known. */
const bufferStep = (): number =>
  Number.isInteger(known) && known >= 0 && known < BUFFERS_S.length ? known : 0;

/** Always there once something was heard: that it was needed is nothing that anybody reads from the names of what is stored. */
function remember(step: number): void {
  known = step;
  try {
    localStorage.setItem(KEPT, `${step}`);
  } catch {
    // Known for as long as the page is open.
  }
}

/** @returns whether there is a greater one than that which is used */
export function growBuffer(): boolean {
  const step = bufferStep() + 1;
  if (step >= BUFFERS_S.length) return false;
  remember(step);
  return true;
}

export function newContext(sampleRateHz: number): AudioContext {
  const step = bufferStep();
  remember(step);
  return new AudioContext({ sampleRate: sampleRateHz, latencyHint: BUFFERS_S[step] ?? 0 });
}

/** Whether the browser runs processors of a page's own: only where the page came by a secure way. */
export const hasProcessors = (context: AudioContext): boolean =>
  (context.audioWorklet as AudioWorklet | undefined) !== undefined;

/** What a browser tells of its own sound, where it does. */
interface Playback {
  playbackStats?: { underrunEvents: number };
}

/** How often it ran dry since it was made; null where the browser does not say. */
export const underruns = (context: AudioContext): number | null =>
  (context as unknown as Playback).playbackStats?.underrunEvents ?? null;

/** @param takesOver it waits until it is told what to go on with */
export async function processorOutput(
  context: AudioContext,
  loopFrames: number,
  hear: (message: FromProcessor) => void,
  takesOver = false,
): Promise<Output> {
  await context.audioWorklet.addModule(listenUrl);
  const node = new AudioWorkletNode(context, 'listen', {
    numberOfInputs: 0,
    outputChannelCount: [2],
    processorOptions: { loopFrames, takesOver },
  });
  node.port.onmessage = ({ data }: MessageEvent<FromProcessor>) => hear(data);
  node.connect(context.destination);
  return {
    context,
    direct: true,
    post: (message, transfer = []) => node.port.postMessage(message, transfer),
    close() {
      node.disconnect();
      node.port.close();
      void context.close();
    },
  };
}
