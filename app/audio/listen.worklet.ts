import { LiveMix, ListenMixer, type Thinned } from '../../core/audio/listen/sounding';
import { buffersOf } from './buffers';
import { warmedUp } from './warm-up';
import type { FromProcessor, ToProcessor, Wanted } from './protocol';

/** What the scope of a processor has beyond a worker's. */
declare const sampleRate: number;
declare const currentTime: number;
declare function registerProcessor(name: string, processor: unknown): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

const BLOCK = 128;
const TOLD_EVERY_S = 1 / 30;
/** The clock of the sound may fall so far behind that of the wall before the sound thins itself, s. */
const BEHIND_S = 0.06;
/** Two clocks never run quite alike, s a second. */
const DRIFT = 0.001;
const WATCH_S = 0.25;
/** Calm for so long, it tries the whole again, s. */
const CALM_S = 8;
/** A share of its time in which the sound is made that is near what it has. */
const BUSY = 0.6;
/** What is wanted next of recordings is looked at after so many blocks. */
const WANTED_BLOCKS = 8;

/** After so long it is faded wholly, s. */
const FADED_S = 0.08;

type Told = Exclude<ToProcessor, { kind: 'port' | 'take over' }>;

/** What the page says when it makes one. */
interface Given {
  loopFrames: number;
  /** it takes over from another one: whatever comes before that waits */
  takesOver: boolean;
}

interface Capture {
  id: number;
  what: 'out' | 'mix';
  left: Float32Array;
  right: Float32Array;
  frames: Int32Array;
  filled: number;
  timeS: number;
}

/** Makes the sound: everything that matters is in the mixer, which is tested without a browser. */
class ListenProcessor extends AudioWorkletProcessor {
  private readonly mixer: ListenMixer;
  private told = 0;
  private capture: Capture | null = null;
  /** when it was looked last, and how far the sound was behind at best */
  private watched = 0;
  private best = Infinity;
  private calmSince = 0;
  private thinned: Thinned = 'all';
  /** time in which sound was made since it was looked last, s */
  private spent = 0;
  private feeder: MessagePort | null = null;
  private blocks = 0;
  private queue: Told[] | null;
  /** blocks until it has faded and hands over */
  private leavingIn = -1;
  private wasPlaying = false;

  constructor({ processorOptions: { loopFrames, takesOver } }: { processorOptions: Given }) {
    super();
    this.queue = takesOver ? [] : null;
    warmedUp(sampleRate, BLOCK);
    this.mixer = new ListenMixer(loopFrames, sampleRate, BLOCK);
    this.listenTo(this.port);
  }

  private listenTo(port: MessagePort): void {
    port.onmessage = ({ data }: MessageEvent<ToProcessor>) => {
      if (data.kind === 'port') {
        this.listenTo(data.port);
        if (data.feeds) this.feeder = data.port;
      } else if (data.kind === 'take over') {
        this.mixer.takeOver(data.state);
        const waited = this.queue ?? [];
        this.queue = null;
        for (const message of waited) this.hear(message);
      } else if (this.queue) this.queue.push(data);
      else this.hear(data);
    };
  }

  private hear(message: Told): void {
    const { mixer } = this;
    switch (message.kind) {
      case 'open':
        return mixer.open(message.take, message.stems, message.trim);
      case 'stream':
        return mixer.openStream(message.take, message.shape, message.trim);
      case 'block':
        return mixer.feed(message.take, message.block, message.planes);
      case 'length':
        return mixer.setLength(message.frames, message.round);
      case 'hand over':
        this.wasPlaying = mixer.state().playing;
        mixer.play(false);
        this.leavingIn = Math.ceil((FADED_S * sampleRate) / BLOCK);
        return;
      case 'close':
        return mixer.close(message.take);
      case 'layer':
        return mixer.fill(message.take, message.stem, message.name, message.loop);
      case 'made':
        return this.tell(message);
      case 'live': {
        const { take, loops, stems, pose } = message;
        return mixer.setLive(take, new LiveMix(loops, stems, pose, sampleRate));
      }
      case 'pose':
        return void mixer.move(message.take, message.pose, message.timeS);
      case 'live only':
        return mixer.setLiveOnly(message.on);
      case 'choose':
        return mixer.choose(message.take);
      case 'stems':
        return mixer.setStems(message.gains);
      case 'hear':
        return mixer.hear(message.hearing);
      case 'play':
        return mixer.play(message.playing);
      case 'seek':
        return mixer.seek(message.frame);
      case 'range':
        return mixer.setRange(message.from, message.to);
      case 'capture': {
        const { id, frames, what } = message;
        const [left, right] = [new Float32Array(frames), new Float32Array(frames)];
        this.capture = {
          id,
          what,
          left,
          right,
          frames: new Int32Array(frames),
          filled: 0,
          timeS: 0,
        };
      }
    }
  }

  process(_inputs: unknown, [output]: Float32Array[][]): boolean {
    const [left, right] = output ?? [];
    if (!left || !right) return true;
    const begun = Date.now();
    this.mixer.process(left, right, currentTime, (mixLeft, mixRight, frame) => {
      if (this.capture?.what === 'mix') this.take(mixLeft, mixRight, frame);
    });
    if (this.capture?.what === 'out') this.take(left, right, 0);
    this.feed();
    this.spent += (Date.now() - begun) / 1000;
    this.watchLoad();
    if (this.leavingIn >= 0 && this.leavingIn-- === 0) this.handOver();
    if (currentTime - this.told >= TOLD_EVERY_S) {
      this.told = currentTime;
      this.tell({ kind: 'levels', levels: this.mixer.levels() });
    }
    return true;
  }

  /** Whoever feeds recordings is told what is wanted next of them. */
  private feed(): void {
    this.blocks += 1;
    if (!this.feeder || this.blocks % WANTED_BLOCKS !== 0) return;
    const wants = this.mixer.wants().filter(({ blocks }) => blocks.length > 0);
    const message: Wanted = { kind: 'wanted', wants };
    if (wants.length > 0) this.feeder.postMessage(message);
  }

  private handOver(): void {
    const state = { ...this.mixer.state(), playing: this.wasPlaying };
    const message: FromProcessor = { kind: 'handed over', state };
    this.port.postMessage(message, buffersOf(state));
  }

  private take(left: ArrayLike<number>, right: ArrayLike<number>, frame: number): void {
    const { capture } = this;
    if (!capture) return;
    if (capture.filled === 0) capture.timeS = currentTime;
    const count = Math.min(BLOCK, capture.left.length - capture.filled);
    for (let i = 0; i < count; i++) {
      capture.left[capture.filled + i] = left[i] as number;
      capture.right[capture.filled + i] = right[i] as number;
      capture.frames[capture.filled + i] = frame + i;
    }
    capture.filled += count;
    if (capture.filled < capture.left.length) return;
    this.capture = null;
    const { id, left: l, right: r, frames, timeS } = capture;
    const message: FromProcessor = { kind: 'captured', id, left: l, right: r, frames, timeS };
    this.port.postMessage(message, [l.buffer, r.buffer, frames.buffer]);
  }

  /** Where the sound cannot keep up, the reflections that follow the hand are left out, and tried again later. */
  private watchLoad(): void {
    const wall = Date.now() / 1000;
    const passed = wall - this.watched;
    if (passed < WATCH_S) return;
    this.watched = wall;
    const behind = wall - currentTime;
    // A sound that was stopped, or a machine that slept, is not one that is too slow.
    if (passed > 4 * WATCH_S) this.best = behind;
    this.best = Math.min(behind, this.best + DRIFT * passed);
    const load = this.spent / passed;
    this.spent = 0;
    // Before it is late where that can be seen, else as soon as it was.
    if (load > BUSY || behind - this.best > BEHIND_S) {
      this.best = behind;
      this.calmSince = wall;
      this.thin('direct only');
    } else if (wall - this.calmSince > CALM_S) this.thin('all');
  }

  private thin(thinned: Thinned): void {
    if (this.thinned === thinned) return;
    this.thinned = thinned;
    this.mixer.thin(thinned);
  }

  private tell(message: FromProcessor): void {
    this.port.postMessage(message);
  }
}

registerProcessor('listen', ListenProcessor);
