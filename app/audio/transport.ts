import { headFilters, type MixerState } from '../../core/audio/listen';
import { PHRASE_S } from '../../core/audio/players/score';
import { dbToAmplitude } from '../../core/units';
import { bufferOutput } from './buffer-output';
import { HandClock } from './hand-clock';
import { listeningStore } from './listening';
import { buffersOf } from './buffers';
import {
  growBuffer,
  hasProcessors,
  newContext,
  processorOutput,
  underruns,
  type Output,
} from './output';
import type { FromProcessor, ToProcessor } from './protocol';

/** A browser that gives no sound by then has none. */
const SILENT_AFTER_MS = 2500;
/** After a stop nothing is heard any more, ms. */
export const FADED_MS = 400;
/** Where the sound ran dry is looked so often; what came before anything was heard does not count. */
const WATCH_MS = 1000;
const BEGINS_MS = 2500;

export type Captured = Extract<FromProcessor, { kind: 'captured' }>;

/** A clock that was closed while it was asked is another's no more: the browser's word for it is no fault. */
const closedMeanwhile = (): void => {};

/** The clock stands still until something is heard. */
const rest = (context: AudioContext): void => void context.suspend().catch(closedMeanwhile);

/** Samples that somebody waits for. */
interface Capturing {
  ask: Extract<ToProcessor, { kind: 'capture' }>;
  take: (captured: Captured) => void;
}

/** Whoever makes what is heard, and has to do with the processor itself. */
export interface Feeder {
  feeds: boolean;
  give: (port: MessagePort) => void;
}

/**
 * The sound of the page: its clock, where it goes, how it is listened to, and the one place at which
 * everything is heard. What that is it does not know.
 */
export class Transport {
  output: Output | null = null;
  readonly hand = new HandClock();
  private starting: Promise<void> | null = null;
  private heads: { rateHz: number; filters: ReturnType<typeof headFilters> } | null = null;
  private readonly captures = new Map<number, Capturing>();
  private captured = 0;
  private readonly feeders: Feeder[] = [];
  private dry = 0;
  private settled = 0;
  private growing = false;

  /** @param hear what the processor says, but for what is the transport's */
  constructor(private readonly hear: (message: FromProcessor) => void) {
    // Before the page itself has heard of it.
    addEventListener('pointermove', ({ timeStamp }) => this.hand.moved(timeStamp), true);
    setInterval(() => this.watch(), WATCH_MS);
  }

  get rateHz(): number {
    return listeningStore.getState().rateHz;
  }

  /** Frames of one round of a plan. */
  get loopFrames(): number {
    return Math.round(PHRASE_S * this.rateHz);
  }

  get isSilent(): boolean {
    return listeningStore.getState().state === 'silent';
  }

  post(message: ToProcessor): void {
    this.output?.post(message);
  }

  /** Whoever is added is given a way of its own to every processor there is. */
  addFeeder(feeder: Feeder): void {
    this.feeders.push(feeder);
    this.join(feeder);
  }

  /** A way from whoever feeds to the processor there is; where there is none yet it is given with it. */
  join({ feeds, give }: Feeder, output = this.output): void {
    if (!output?.direct) return;
    const { port1, port2 } = new MessageChannel();
    output.post({ kind: 'port', port: port2, feeds }, [port2]);
    give(port1);
  }

  /** The sound, ready to be given something; @throws where the browser has none */
  async start(): Promise<Output> {
    try {
      await (this.starting ??= this.begin());
    } catch (error) {
      this.starting = null;
      throw error;
    }
    if (!this.output) throw new Error('the sound was stopped');
    return this.output;
  }

  private async begin(): Promise<void> {
    this.output = await this.newOutput(false);
    listeningStore.setState({ plain: !this.output.direct });
    this.hearing();
  }

  private async newOutput(takesOver: boolean): Promise<Output> {
    if (typeof AudioContext === 'undefined') throw new Error('this browser has no sound output');
    const context = newContext(this.rateHz);
    // What is made ready at first may take its time.
    rest(context);
    const hear = (message: FromProcessor): void => this.told(message);
    if (!hasProcessors(context)) return bufferOutput(context, this.loopFrames, hear);
    const output = await processorOutput(context, this.loopFrames, hear, takesOver);
    for (const feeder of this.feeders) this.join(feeder, output);
    return output;
  }

  /** Another rate: what was heard is closed, and whatever is heard next is made anew. */
  setRate(rateHz: number): void {
    if (rateHz === this.rateHz) return;
    const { output } = this;
    this.output = null;
    this.starting = null;
    output?.close();
    listeningStore.setState({ rateHz, lengthFrames: this.loopFrames, range: null, position: 0 });
  }

  play(): void {
    const { output } = this;
    if (!output) return;
    this.hand.restart();
    this.settled = performance.now() + BEGINS_MS;
    void output.context.resume().catch(closedMeanwhile);
    setTimeout(() => {
      if (output !== this.output || output.context.state === 'running' || this.isSilent) return;
      this.stop();
      listeningStore.setState({
        problem:
          'No sound: the browser gives none out. Is there a loudspeaker or headphone, and may this page use it?',
      });
    }, SILENT_AFTER_MS);
    this.hearing();
    output.post({ kind: 'play', playing: true });
  }

  stop(): void {
    const { output } = this;
    output?.post({ kind: 'play', playing: false });
    listeningStore.setState({ state: 'silent', waiting: false });
    // Once it has faded, the sound's clock need not run for nothing.
    setTimeout(() => {
      if (this.isSilent && output) rest(output.context);
    }, FADED_MS);
  }

  private told(message: FromProcessor): void {
    if (message.kind === 'captured') {
      const { id } = message;
      this.captures.get(id)?.take(message);
      this.captures.delete(id);
      return;
    }
    if (message.kind === 'handed over') return this.handedOver(message.state);
    if (message.kind === 'levels' && this.output) {
      this.hand.look(this.output.context.currentTime, performance.now());
    }
    this.hear(message);
  }

  /** Where the sound ran dry while it was heard, it is given out with more in hand. */
  private watch(): void {
    const { output } = this;
    if (!output?.direct || this.isSilent || this.growing) return;
    const dry = underruns(output.context);
    const grown = dry !== null && dry > this.dry && performance.now() > this.settled;
    this.dry = dry ?? 0;
    if (grown && growBuffer()) void this.grow(output);
  }

  /** What is said in between waits at the new one until it sounds like the old one. */
  private async grow(old: Output): Promise<void> {
    this.growing = true;
    const next = await this.newOutput(true).catch(() => null);
    if (next && this.output === old) {
      const handed = new Promise<MixerState>((resolve) => (this.handedOver = resolve));
      old.post({ kind: 'hand over' });
      this.output = next;
      this.dry = 0;
      this.settled = performance.now() + BEGINS_MS;
      this.hand.restart();
      const state = await handed;
      next.post({ kind: 'take over', state }, buffersOf(state));
      // What was asked of the old one and not answered is asked of this one.
      for (const { ask } of this.captures.values()) next.post(ask);
      if (!this.isSilent) await next.context.resume();
      old.close();
    } else next?.close();
    this.growing = false;
  }

  private handedOver: (state: MixerState) => void = () => undefined;

  /** Brings volume, mono, sides and head to what is wanted. */
  hearing(): void {
    const { volumeDb, mono, swap, dim, headphones } = listeningStore.getState();
    const volume = volumeDb <= -60 ? 0 : dbToAmplitude(volumeDb);
    const head = headphones ? this.headsNow() : null;
    this.post({ kind: 'hear', hearing: { volume, mono, swap, dim, head } });
  }

  private headsNow(): ReturnType<typeof headFilters> {
    const { rateHz } = this;
    if (this.heads?.rateHz !== rateHz) this.heads = { rateHz, filters: headFilters(rateHz) };
    return this.heads.filters;
  }

  /** @param share of the whole, 0 … 1 */
  seek(share: number): void {
    const { lengthFrames } = listeningStore.getState();
    const frame = Math.round(share * (lengthFrames - 1));
    this.post({ kind: 'seek', frame });
    listeningStore.setState({ position: frame });
  }

  /** @param range shares of the whole; null is all of it */
  setRange(range: readonly [from: number, to: number] | null): void {
    listeningStore.setState({ range });
    const [from, to] = range ?? [0, 1];
    const { lengthFrames } = listeningStore.getState();
    const frames = (share: number): number => Math.round(share * lengthFrames);
    this.post({ kind: 'range', from: frames(from), to: frames(to) });
  }

  /** Brings place and range to where they were put while nothing was there to hear them. */
  resume(): void {
    const { range, position, lengthFrames } = listeningStore.getState();
    this.setRange(range);
    if (position > 0 && position < lengthFrames) this.post({ kind: 'seek', frame: position });
  }

  /** How long it is that is heard; @param round it goes round without a gap */
  setLength(frames: number, round: boolean): void {
    const { lengthFrames } = listeningStore.getState();
    if (frames !== lengthFrames) listeningStore.setState({ lengthFrames: frames, range: null });
    this.post({ kind: 'length', frames, round });
  }

  /** So many frames of what is heard, or of what is mixed before it is listened to in any way. */
  capture(frames: number, what: 'out' | 'mix'): Promise<Captured> {
    return new Promise((take) => {
      const id = (this.captured += 1);
      const ask = { kind: 'capture', id, frames, what } as const;
      this.captures.set(id, { ask, take });
      this.post(ask);
    });
  }

  /** From the processor to the loudspeaker, ms, as far as the browser knows. */
  get latencyMs(): number {
    const { baseLatency, outputLatency } = this.output?.context ?? {};
    return Math.round(1000 * ((baseLatency ?? 0) + (outputLatency ?? 0)));
  }
}
