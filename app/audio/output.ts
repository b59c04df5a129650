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

/** Half the delay of what the browser would choose. */
const LATENCY_HINT = 0;

export const newContext = (sampleRateHz: number): AudioContext =>
  new AudioContext({ sampleRate: sampleRateHz, latencyHint: LATENCY_HINT });

/** Whether the browser runs processors of a page's own: only where the page came by a secure way. */
export const hasProcessors = (context: AudioContext): boolean =>
  (context.audioWorklet as AudioWorklet | undefined) !== undefined;

export async function processorOutput(
  context: AudioContext,
  loopFrames: number,
  hear: (message: FromProcessor) => void,
): Promise<Output> {
  await context.audioWorklet.addModule(listenUrl);
  const node = new AudioWorkletNode(context, 'listen', {
    numberOfInputs: 0,
    outputChannelCount: [2],
    processorOptions: { loopFrames },
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
    },
  };
}
