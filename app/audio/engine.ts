import { dbToAmplitude } from '../../core/units';
import { PHRASE_S } from '../../core/audio/players/score';
import { headFilters, poseOf, type Scene } from '../../core/audio/listen';
import { contentOf, kindOf, matchedTrim, trimFor, type Known } from './known-takes';
import { notify } from '../view/notices';
import {
  listeningStore,
  ofCandidate,
  roomAlone,
  sideOf,
  shownStore,
  tellHeard,
  type Shown,
  type Side,
} from './listening';
import { arrayIdOn, sceneOn } from './sides';
import { bufferOutput } from './buffer-output';
import { forgetGone } from './gone';
import { powerByPlayer, stemGains } from './stems';
import { HandClock } from './hand-clock';
import { hasProcessors, newContext, processorOutput, type Output } from './output';
import type {
  FromLoopWorker,
  FromProcessor,
  Made,
  TakeAsk,
  ToLoopWorker,
  ToProcessor,
} from './protocol';

const RATE = 48_000;
const LOOP_FRAMES = Math.round(PHRASE_S * RATE);
/** What was moved is made anew so long after the hand has come to rest. */
const REST_MS = 250;
/** A browser that gives no sound by then has none. */
const SILENT_AFTER_MS = 2500;

/** After a stop nothing is heard any more, ms. */
const FADED_MS = 400;

type Captured = Extract<FromProcessor, { kind: 'captured' }>;

interface CaptureAsk {
  frames: number;
  what: 'out' | 'mix';
  take: (captured: Captured) => void;
}

const stemIds = ({ stems }: Scene): string[] => stems.map(({ id }) => id);

/** The one engine of the page. */
class Engine {
  private output: Output | null = null;
  private worker: Worker | null = null;
  private shown: Shown | null = shownStore.getState().shown ?? null;
  private readonly takes = new Map<Side, Known>();
  private numbers = 0;
  private rounds = 0;
  private rest: ReturnType<typeof setTimeout> | undefined;
  private starting: Promise<void> | null = null;
  private heads: ReturnType<typeof headFilters> | null = null;
  private captures: ((captured: Captured) => void)[] = [];
  private readonly hand = new HandClock();

  constructor() {
    shownStore.subscribe(({ shown }) => this.show(shown ?? null));
    // Before the page itself has heard of it.
    addEventListener('pointermove', ({ timeStamp }) => this.hand.moved(timeStamp), true);
    // For measurement: what is heard goes to whoever asks for it, and what is to be heard comes from there.
    addEventListener('listen-capture', (event) => {
      const { frames, what, take } = (event as CustomEvent<CaptureAsk>).detail;
      void this.capture(frames, what).then(take);
    });
    addEventListener('listen-post', (event) => {
      this.output?.post((event as CustomEvent<ToProcessor>).detail);
    });
  }

  /** What is on the page now. */
  private show(shown: Shown | null): void {
    const another = shown?.session.id !== this.shown?.session.id;
    this.shown = shown;
    if (another) this.end();
    if (!shown) return;
    if (listeningStore.getState().state === 'silent') {
      listeningStore.setState({ problem: null });
      return;
    }
    this.follow();
  }

  /** Phrases are made while nobody waits for them. */
  prepare(): void {
    const scene = sceneOn(this.shown, 'plan', RATE);
    if (typeof scene === 'object') this.tellWorker({ kind: 'phrases', scene });
  }

  toggle(): void {
    const { state } = listeningStore.getState();
    if (state === 'silent') void this.play();
    else this.stop();
  }

  stop(): void {
    const { output } = this;
    output?.post({ kind: 'play', playing: false });
    listeningStore.setState({ state: 'silent', waiting: false });
    tellHeard(null);
    // Once it has faded, the sound's clock need not run for nothing.
    setTimeout(() => {
      if (listeningStore.getState().state === 'silent') void output?.context.suspend();
    }, FADED_MS);
  }

  async play(): Promise<void> {
    const scene = sceneOn(this.shown, 'plan', RATE);
    if (typeof scene === 'string') {
      listeningStore.setState({ problem: scene });
      return;
    }
    listeningStore.setState({ state: 'preparing', problem: null });
    try {
      await (this.starting ??= this.start());
    } catch (error) {
      this.starting = null;
      const reason = error instanceof Error ? error.message : String(error);
      listeningStore.setState({ state: 'silent', problem: `No sound: ${reason}` });
      return;
    }
    const { output } = this;
    if (!output || listeningStore.getState().state === 'silent') return;
    this.hand.restart();
    void output.context.resume();
    setTimeout(() => {
      if (output.context.state === 'running') return;
      if (listeningStore.getState().state === 'silent') return;
      this.stop();
      listeningStore.setState({
        problem:
          'No sound: the browser gives none out. Is there a loudspeaker or headphone, and may this page use it?',
      });
    }, SILENT_AFTER_MS);
    this.hearing();
    this.follow();
    output.post({ kind: 'play', playing: true });
  }

  private async start(): Promise<void> {
    if (typeof AudioContext === 'undefined') throw new Error('this browser has no sound output');
    const context = newContext(RATE);
    const hear = (message: FromProcessor): void => this.hear(message);
    if (hasProcessors(context)) {
      this.output = await processorOutput(context, LOOP_FRAMES, hear);
      const { port1, port2 } = new MessageChannel();
      this.output.post({ kind: 'port', port: port2 }, [port2]);
      this.tellWorker({ kind: 'port', port: port1 }, [port1]);
    } else this.output = bufferOutput(context, LOOP_FRAMES, hear);
    listeningStore.setState({ loopFrames: LOOP_FRAMES, plain: !this.output.direct });
  }

  private tellWorker(message: ToLoopWorker, transfer: Transferable[] = []): void {
    if (!this.worker) {
      this.worker = new Worker(new URL('./loop.worker.ts', import.meta.url), { type: 'module' });
      this.worker.onmessage = ({ data }: MessageEvent<FromLoopWorker>) => this.hearWorker(data);
      this.worker.onerror = (event) => {
        this.fail(event.message || 'what makes it has stopped');
        this.worker = null;
      };
    }
    this.worker.postMessage(message, transfer);
  }

  private fail(message: string): void {
    this.stop();
    this.takes.clear();
    listeningStore.setState({ problem: `No sound: ${message}` });
  }

  /** Which arrays of the mix are heard has changed. */
  arrays(): void {
    if (listeningStore.getState().state !== 'silent') this.follow();
  }

  /** Brings what is heard to what is shown. */
  private follow(): void {
    const { output } = this;
    if (!output || !this.shown) return;
    forgetGone(this.shown.session);
    let { side } = listeningStore.getState();
    if (ofCandidate(side) && this.shown.candidate === null) side = sideOf(false, roomAlone(side));
    const plan = this.sideWith('plan');
    if (typeof plan === 'string') {
      this.stop();
      listeningStore.setState({ problem: plan });
      notify(`The sound stopped. ${plan}`);
      return;
    }
    const known = side === 'plan' ? plan : this.sideWith(side);
    if (typeof known === 'string') return;
    output.post({ kind: 'live only', on: this.shown.dragging });
    output.post({ kind: 'choose', take: known.id });
    listeningStore.setState({ side, notes: known.scene.notes });
    this.solo();
  }

  /** The take of a side as it is now: bent where it can be, made anew where it must. */
  private sideWith(side: Side): Known | string {
    const scene = sceneOn(this.shown, side, RATE);
    if (typeof scene === 'string') return scene;
    const arrayId = arrayIdOn(this.shown, side);
    const kind = kindOf(scene, side, arrayId);
    let known = this.takes.get(side);
    if (!known?.id.startsWith(`${kind} `)) {
      if (known) this.letGoLater(known.id);
      known = {
        id: `${kind} ${(this.numbers += 1)}`,
        scene,
        trim: trimFor(side, scene, this.takes.get('plan'), this.takes.get('candidate')),
        loudness: null,
        made: null,
        whole: null,
        round: 0,
      };
      this.takes.set(side, known);
    } else if (side === 'plan' && scene.live !== 'at rest' && known.made !== null) {
      this.output?.post({
        kind: 'pose',
        take: known.id,
        pose: poseOf(scene),
        timeS: this.hand.read(this.output.context.currentTime, performance.now()),
      });
    }
    known.scene = scene;
    const content = contentOf(scene);
    if (known.made === content) return known;
    clearTimeout(this.rest);
    const { id } = known;
    const wasMade = known.made !== null;
    if (!wasMade) this.make(side, known, content);
    else {
      // The late field, and whatever does not follow the hand, once it rests.
      this.rest = setTimeout(() => {
        for (const [one, take] of this.takes) {
          const now = contentOf(take.scene);
          if (take.made !== now && take.made !== null) this.make(one, take, now);
        }
      }, REST_MS);
      if (this.shown?.dragging !== true && side === 'plan' && id !== known.id) this.solo();
    }
    return known;
  }

  private make(side: Side, known: Known, content: string): void {
    known.made = content;
    const round = (this.rounds += 1);
    known.round = round;
    const { id, scene, trim } = known;
    const ask: TakeAsk = {
      take: id,
      round,
      scene,
      trim,
      layers: side === 'plan' && scene.live !== 'at rest' ? 'parted' : 'whole',
      withoutDirect: roomAlone(side),
    };
    if (this.output?.direct === false) {
      this.output.post({ kind: 'open', take: id, stems: stemIds(scene), trim });
    }
    this.tellWorker({ kind: 'make', ask });
    listeningStore.setState({ waiting: true, made: 0 });
  }

  private match(): void {
    const candidate = this.takes.get('candidate');
    const trim = matchedTrim(this.takes.get('plan'), candidate);
    if (!candidate || trim === null) return;
    for (const side of ['candidate', 'candidate’s room'] as const) {
      const known = this.takes.get(side);
      if (!known) continue;
      known.trim = trim;
      const { id, scene } = known;
      this.output?.post({ kind: 'open', take: id, stems: stemIds(scene), trim });
    }
  }

  private letGoLater(id: string): void {
    this.tellWorker({ kind: 'drop', take: id });
    setTimeout(() => {
      const { active } = this;
      if (active === id) this.letGoLater(id);
      else this.output?.post({ kind: 'close', take: id });
    }, 500);
  }

  private active: string | null = null;

  private hearWorker(message: FromLoopWorker): void {
    switch (message.kind) {
      case 'layer':
        return void this.output?.post(message);
      case 'failed':
        return this.fail(message.message);
      case 'progress': {
        const wanted = this.takes.get(listeningStore.getState().side);
        if (wanted?.id === message.take) listeningStore.setState({ made: message.fraction });
        return;
      }
      case 'made':
        this.whole(message);
    }
  }

  private whole({ round, loudness }: Made): void {
    const known = [...this.takes.values()].find((one) => one.round === round);
    if (!known) return;
    known.loudness = loudness;
    known.whole = known.made;
    this.match();
  }

  private hear(message: FromProcessor): void {
    if (message.kind === 'captured') {
      this.captures.shift()?.(message);
      return;
    }
    if (message.kind === 'made') return this.whole(message);
    const { levels } = message;
    if (this.output) this.hand.look(this.output.context.currentTime, performance.now());
    this.active = levels.takeId;
    const { state, side, position } = listeningStore.getState();
    if (state === 'silent') return;
    const wanted = this.takes.get(side);
    const waiting =
      wanted !== undefined && (levels.takeId !== wanted.id || wanted.whole !== wanted.made);
    if (levels.takeId !== null && state === 'preparing') this.begun();
    if (waiting !== listeningStore.getState().waiting) listeningStore.setState({ waiting });
    const thinned = levels.thinned !== 'all';
    if (thinned !== listeningStore.getState().thinned) listeningStore.setState({ thinned });
    if (Math.abs(levels.position - position) > RATE / 4) {
      listeningStore.setState({ position: levels.position });
    }
    tellHeard({ levels, byPlayer: powerByPlayer(this.takes.get('plan')?.scene, levels) });
  }

  private begun(): void {
    const { baseLatency, outputLatency } = this.output?.context ?? {};
    const latencyMs = Math.round(1000 * ((baseLatency ?? 0) + (outputLatency ?? 0)));
    listeningStore.setState({ state: 'playing', latencyMs });
  }

  /** Brings volume, mono, sides and head to what is wanted. */
  hearing(): void {
    const { volumeDb, mono, swap, dim, headphones } = listeningStore.getState();
    if (headphones) this.heads ??= headFilters(RATE);
    const volume = volumeDb <= -60 ? 0 : dbToAmplitude(volumeDb);
    const head = headphones ? this.heads : null;
    this.output?.post({ kind: 'hear', hearing: { volume, mono, swap, dim, head } });
  }

  /** Brings who is heard to what is wanted. */
  solo(): void {
    const scene = this.takes.get('plan')?.scene;
    if (!scene || !this.output) return;
    const gains = stemGains(scene, listeningStore.getState());
    this.output.post({ kind: 'stems', gains });
  }

  choose(side: Side): void {
    listeningStore.setState({ side });
    if (listeningStore.getState().state !== 'silent') this.follow();
  }

  /** @param share of the round, 0 … 1 */
  seek(share: number): void {
    const frame = Math.round(share * (LOOP_FRAMES - 1));
    this.output?.post({ kind: 'seek', frame });
    listeningStore.setState({ position: frame });
  }

  /** @param range shares of the round; null is all of it */
  setRange(range: readonly [from: number, to: number] | null): void {
    listeningStore.setState({ range });
    const [from, to] = range ?? [0, 1];
    const frames = (share: number): number => Math.round(share * LOOP_FRAMES);
    this.output?.post({ kind: 'range', from: frames(from), to: frames(to) });
  }

  /** So many frames of what is heard, or of what is mixed before it is listened to in any way. */
  private capture(frames: number, what: 'out' | 'mix'): Promise<Captured> {
    return new Promise((resolve) => {
      this.captures.push(resolve);
      this.output?.post({ kind: 'capture', frames, what });
    });
  }

  /** Everything is let go: another session is opened. */
  private end(): void {
    if (listeningStore.getState().state !== 'silent') this.stop();
    clearTimeout(this.rest);
    const { output } = this;
    const ids = [...this.takes.values()].map(({ id }) => id);
    for (const take of ids) this.tellWorker({ kind: 'drop', take });
    // Once it has faded: what is closed while it sounds would step.
    setTimeout(() => {
      for (const take of ids) output?.post({ kind: 'close', take });
    }, FADED_MS / 2);
    this.takes.clear();
    listeningStore.setState({
      side: 'plan',
      problem: null,
      // How one session was checked says nothing of the next; the volume and the head are the listener's.
      mono: false,
      swap: false,
      range: null,
      soloIds: null,
      mutedIds: [],
      soloArrayIds: null,
      mutedArrayIds: [],
      hoveredId: null,
    });
    this.hearing();
  }
}

export const engine = new Engine();
