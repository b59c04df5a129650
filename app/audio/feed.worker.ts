import { feedSound, pieceOf } from './feed';
import type { Sound } from '../../core/audio/sound';
import type { FeedAsk, FromFeedWorker, ToFeedWorker, ToProcessor, Wanted } from './protocol';

/**
 * Feeds recordings to the processor, piece by piece as it wants them: straight, so that a page that is
 * busy does not hold them up.
 */
interface Fed {
  ask: FeedAsk;
  sound: Promise<Sound>;
  /** pieces that are wanted, nearest first */
  wanted: number[];
}

let port: MessagePort | null = null;
const fed = new Map<string, Fed>();
let busy = false;

const tell = (message: FromFeedWorker): void => postMessage(message);

/** Whose next piece is wanted first: in turn, so that none waits for another. */
let last = '';
function next(): [string, Fed, number] | null {
  const lacking = [...fed].filter(([, { wanted }]) => wanted.length > 0);
  const after = lacking.findIndex(([take]) => take === last) + 1;
  const chosen = lacking[after % Math.max(1, lacking.length)];
  if (!chosen) return null;
  const [take, one] = chosen;
  last = take;
  return [take, one, one.wanted.shift() as number];
}

async function goOn(): Promise<void> {
  if (busy) return;
  busy = true;
  for (let one = next(); one; one = next()) {
    const [take, { ask, sound }, block] = one;
    try {
      const planes = await pieceOf(await sound, ask, block);
      if (fed.get(take)?.ask !== ask) continue;
      const message: ToProcessor = { kind: 'block', take, block, planes };
      port?.postMessage(message, [...new Set(planes.map(({ buffer }) => buffer))]);
    } catch (error) {
      if (fed.get(take)?.ask !== ask) continue;
      fed.delete(take);
      tell({
        kind: 'failed',
        take,
        message: error instanceof Error ? error.message : String(error),
      });
    }
  }
  busy = false;
}

function want({ wants }: Wanted): void {
  for (const { id, blocks } of wants) {
    const one = fed.get(id);
    if (one) one.wanted = [...blocks];
  }
  void goOn();
}

addEventListener('message', ({ data }: MessageEvent<ToFeedWorker>) => {
  switch (data.kind) {
    case 'port':
      port?.close();
      port = data.port;
      port.onmessage = ({ data: wanted }: MessageEvent<Wanted>) => want(wanted);
      return;
    case 'feed': {
      const sound = feedSound(data.ask);
      // Said when a piece is asked for.
      sound.catch(() => undefined);
      fed.set(data.ask.take, { ask: data.ask, sound, wanted: [] });
      return;
    }
    case 'drop':
      fed.delete(data.take);
  }
});
