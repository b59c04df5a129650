import {
  doubled,
  guarded,
  livePoints,
  poseOf,
  sceneLoops,
  type Scene,
  type ScenePoint,
} from '../../core/audio/listen';
import { fastEngine, phraseKey, plainEngine, playedPhrase } from '../../core/audio/render';
import type { FromLoopWorker, TakeAsk, ToLoopWorker, ToProcessor } from './protocol';

/**
 * Makes what is listened to beside the page: phrases, and loops of takes. What is made goes straight to the
 * processor, so that a page that is busy does not hold it up; without a processor it goes to the page.
 */
let port: MessagePort | null = null;
const phrases = new Map<string, Float32Array>();
const engine = fastEngine().then((fast) => fast ?? plainEngine);

const tell = (message: FromLoopWorker, transfer: Transferable[] = []): void =>
  postMessage(message, { transfer });
const sound = (message: ToProcessor, transfer: Transferable[] = []): void =>
  port?.postMessage(message, transfer);

/** Nothing is made while the hand moves something. */
let held = false;
const goesOn: (() => void)[] = [];

const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    if (held) goesOn.push(resolve);
    else setTimeout(resolve);
  });

/** What is to be done, the latest ask of a take only. */
const waiting: TakeAsk[] = [];
let current: { take: string; dropped: boolean } | null = null;
/** Takes whose live sound the processor has, and for which points it is. */
const given = new Map<string, string>();

async function makePhrases(
  points: readonly ScenePoint[],
  given_up: () => boolean,
  step: () => void = () => undefined,
): Promise<void> {
  const transforms = await engine;
  for (const { plays } of points) {
    if (phrases.has(phraseKey(plays))) continue;
    playedPhrase(plays, phrases, transforms);
    step();
    await breathe();
    if (given_up()) throw new Error('given up');
  }
}

const loopOf = ({ plays }: ScenePoint): Float32Array => playedPhrase(plays, phrases);

const liveKey = (points: readonly ScenePoint[]): string =>
  points.map(({ plays, stem }) => `${phraseKey(plays)} ${stem}`).join('\n');

/** Phrases as they are read between their samples: those of the latest points. */
let readable = new Map<string, Float32Array>();

async function liveLoops(points: readonly ScenePoint[]): Promise<Float32Array[]> {
  const transforms = await engine;
  const now = new Map<string, Float32Array>();
  const loops = points.map((point) => {
    const key = phraseKey(point.plays);
    const loop = now.get(key) ?? readable.get(key) ?? guarded(doubled(loopOf(point), transforms));
    now.set(key, loop);
    return loop;
  });
  readable = now;
  return loops;
}

/** What follows the hand is heard as soon as its phrases are there. */
async function giveLive(take: string, scene: Scene): Promise<void> {
  const points = livePoints(scene);
  const key = liveKey(points);
  if (given.get(take) === key) return;
  given.set(take, key);
  const made = await liveLoops(points);
  const loops = made.map((loop) => loop.slice());
  const stems = points.map(({ stem }) => stem);
  const message: ToProcessor = { kind: 'live', take, loops, stems, pose: poseOf(scene) };
  sound(
    message,
    loops.map(({ buffer }) => buffer),
  );
}

const TELL_MS = 250;

/** Tells how far a take is, a few times a second: phrases that were missing, then players. */
function progressOf(take: string, scene: Scene): () => void {
  const lacking = new Set(
    scene.points.map(({ plays }) => phraseKey(plays)).filter((key) => !phrases.has(key)),
  );
  const total = lacking.size + scene.points.length + 1;
  let [done, told] = [0, 0];
  return () => {
    done += 1;
    const now = performance.now();
    if (now - told < TELL_MS) return;
    told = now;
    tell({ kind: 'progress', take, fraction: Math.min(0.99, done / total) });
  };
}

async function make({ take, round, scene, trim, layers, withoutDirect }: TakeAsk): Promise<void> {
  const doing = { take, dropped: false };
  current = doing;
  const givenUp = (): boolean => doing.dropped;
  const step = progressOf(take, scene);
  try {
    const live = port !== null && layers === 'parted' && scene.live !== 'at rest';
    await makePhrases(live ? livePoints(scene) : scene.points, givenUp, step);
    sound({ kind: 'open', take, stems: scene.stems.map(({ id }) => id), trim });
    if (live) {
      await giveLive(take, scene);
      tell({ kind: 'begun', take });
    }
    await makePhrases(scene.points, givenUp, step);
    const transforms = await engine;
    const wanted = {
      layers: port && scene.live !== 'at rest' ? layers : 'whole',
      withoutDirect,
    } as const;
    const work = sceneLoops(scene, wanted, loopOf, {
      engine: transforms,
      async breathe() {
        step();
        await breathe();
        if (givenUp()) throw new Error('given up');
      },
    });
    for (let step = await work.next(); ; step = await work.next()) {
      if (step.done) {
        const path = transforms.kind;
        const made = { kind: 'made', take, round, loudness: step.value, path } as const;
        // Behind the layers, by their way: the page says what is in the sound, not what was sent.
        if (port) sound(made);
        else tell(made);
        break;
      }
      const { stem, name, loop } = step.value;
      const buffers = loop.map(({ buffer }) => buffer as ArrayBuffer);
      const message = { kind: 'layer', take, stem, name, loop } as const;
      if (port) sound(message, buffers);
      else tell(message, buffers);
    }
  } catch (error) {
    if (!doing.dropped) {
      tell({
        kind: 'failed',
        take,
        message: error instanceof Error ? error.message : String(error),
      });
    }
  } finally {
    current = null;
  }
}

let busy = false;

async function goOn(): Promise<void> {
  if (busy) return;
  busy = true;
  for (let next = waiting.shift(); next; next = waiting.shift()) await make(next);
  busy = false;
}

function drop(take: string): void {
  if (current?.take === take) current.dropped = true;
  const at = waiting.findIndex((ask) => ask.take === take);
  if (at >= 0) waiting.splice(at, 1);
}

addEventListener('message', ({ data }: MessageEvent<ToLoopWorker>) => {
  switch (data.kind) {
    case 'port':
      port = data.port;
      return;
    case 'phrases':
      void makePhrases(data.scene.points, () => waiting.length > 0)
        .then(() => liveLoops(livePoints(data.scene)))
        .then(
          () => tell({ kind: 'phrases ready' }),
          () => undefined,
        );
      return;
    case 'drop':
      given.delete(data.take);
      return drop(data.take);
    case 'hold':
      held = data.on;
      if (held) return;
      for (const go of goesOn.splice(0)) go();
      return;
    case 'make':
      drop(data.ask.take);
      waiting.push(data.ask);
      void goOn();
  }
});
