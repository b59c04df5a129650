import { notify } from '../view/notices';
import { forgetGone } from './gone';
import {
  isRecording,
  listeningStore,
  roomAlone,
  shownStore,
  sideOf,
  tellHeard,
  USUAL_RATE,
  type PlanSide,
  type Shown,
  type Side,
} from './listening';
import { PlanSource } from './plan-source';
import { RecordingSource, type HeardFile } from './recording-source';
import { Transport, type Captured } from './transport';
import type { FromProcessor, ToProcessor } from './protocol';

/** Rates at which sound is given out, Hz: a recording of one of them is heard as it is. */
const RATES = [44_100, USUAL_RATE, 88_200, 96_000];

interface CaptureAsk {
  frames: number;
  what: 'out' | 'mix';
  take: (captured: Captured) => void;
}

const NO_RECORDINGS =
  'recordings are heard only where the page came by a secure way (https, or this machine itself)';
const NOBODY = new Map<string, number>();

/** What of all that can be heard is heard: the plan with its candidate, and recordings, at one place. */
class Engine {
  private readonly transport = new Transport((message) => this.hear(message));
  private readonly plan = new PlanSource(this.transport, (message) => this.fail(message));
  private readonly recordings = new RecordingSource(this.transport, (side, message) => {
    if (listeningStore.getState().side === side) this.fail(message);
    else notify(`A recording cannot be read. ${message}`);
  });
  private shown: Shown | null = null;
  private files: readonly HeardFile[] = [];

  constructor() {
    this.plan.show((this.shown = shownStore.getState().shown ?? null));
    shownStore.subscribe(({ shown }) => this.show(shown ?? null));
    // For measurement: what is heard goes to whoever asks for it, and what is to be heard comes from there.
    addEventListener('listen-capture', (event) => {
      const { frames, what, take } = (event as CustomEvent<CaptureAsk>).detail;
      void this.transport.capture(frames, what).then(take);
    });
    addEventListener('listen-post', (event) => {
      this.transport.post((event as CustomEvent<ToProcessor>).detail);
    });
  }

  private get isSilent(): boolean {
    return this.transport.isSilent;
  }

  /** What is on the page now. */
  private show(shown: Shown | null): void {
    const another = shown?.session.id !== this.shown?.session.id;
    this.shown = shown;
    this.plan.show(shown);
    if (another) this.end();
    if (!shown) return;
    if (this.isSilent) listeningStore.setState({ problem: null });
    else this.follow();
  }

  /** Phrases are made while nobody waits for them. */
  prepare(): void {
    this.plan.prepare();
  }

  toggle(): void {
    if (this.isSilent) void this.play();
    else this.stop();
  }

  stop(): void {
    this.transport.stop();
    tellHeard(null);
  }

  async play(): Promise<void> {
    const { side } = listeningStore.getState();
    if (!isRecording(side)) {
      const scene = this.plan.scene('plan');
      if (typeof scene === 'string') {
        listeningStore.setState({ problem: scene });
        return;
      }
    }
    listeningStore.setState({ state: 'preparing', problem: null });
    try {
      const before = this.transport.output;
      if ((await this.transport.start()) !== before) this.recordings.again();
    } catch (error) {
      const reason = error instanceof Error ? error.message : String(error);
      listeningStore.setState({ state: 'silent', problem: `No sound: ${reason}` });
      return;
    }
    if (this.isSilent) return;
    this.length();
    this.transport.resume();
    this.follow();
    this.transport.play();
  }

  private fail(message: string): void {
    this.stop();
    listeningStore.setState({ problem: `No sound: ${message}` });
  }

  /** Which arrays of the mix are heard has changed. */
  arrays(): void {
    if (!this.isSilent) this.follow();
  }

  /** Brings what is heard to what is shown. */
  private follow(): void {
    const { transport } = this;
    if (!transport.output) return;
    const { side } = listeningStore.getState();
    if (!isRecording(side)) return this.followPlan(side);
    const take = this.recordings.take(side);
    if (take === null) return;
    if (!transport.output.direct) return this.fail(NO_RECORDINGS);
    transport.post({ kind: 'choose', take });
    listeningStore.setState({ notes: this.recordingNotes(side) });
  }

  private followPlan(chosen: PlanSide): void {
    if (!this.shown) return;
    forgetGone(this.shown.session);
    const { plan, transport } = this;
    const side = plan.lacksCandidate ? sideOf(false, roomAlone(chosen)) : chosen;
    const known = plan.take('plan');
    if (typeof known === 'string') {
      this.stop();
      listeningStore.setState({ problem: known });
      notify(`The sound stopped. ${known}`);
      return;
    }
    const heard = side === 'plan' ? known : plan.take(side);
    if (typeof heard === 'string') return;
    transport.post({ kind: 'live only', on: this.shown.dragging });
    transport.post({ kind: 'choose', take: heard.id });
    listeningStore.setState({ side, notes: heard.scene.notes });
    plan.solo();
  }

  private recordingNotes(side: Side): string[] {
    const heard = this.files.find((one) => one.side === side);
    if (!heard || heard.rateHz === this.transport.rateHz) return [];
    const [own, now] = [heard.rateHz, this.transport.rateHz].map((rate) => `${rate / 1000} kHz`);
    return [`recorded at ${own}, resampled to ${now} for listening`];
  }

  /** Recordings that can be heard beside the plan, or instead of it. */
  setRecordings(files: readonly HeardFile[]): void {
    this.files = files;
    const first = files[0]?.rateHz ?? USUAL_RATE;
    const rate = RATES.includes(first) ? first : USUAL_RATE;
    const { side, state } = listeningStore.getState();
    if (rate !== this.transport.rateHz) {
      if (state !== 'silent') this.stop();
      this.plan.end();
      this.transport.setRate(rate);
    }
    this.recordings.set(files);
    this.length();
    if (isRecording(side) && !files.some((one) => one.side === side)) this.choose('plan');
    else if (!this.isSilent) this.follow();
  }

  /** All are brought to one loudness, or heard as they are. */
  setMatched(matched: boolean): void {
    listeningStore.setState({ matched });
    this.recordings.bring();
  }

  private length(): void {
    const { transport } = this;
    const longest = this.recordings.frames;
    if (longest > 0) transport.setLength(longest, false);
    else transport.setLength(transport.loopFrames, true);
  }

  private hear(message: FromProcessor): void {
    if (message.kind === 'made') return this.plan.whole(message);
    if (message.kind !== 'levels') return;
    const { levels } = message;
    this.plan.active = levels.takeId;
    const { state, side, position, rateHz } = listeningStore.getState();
    if (state === 'silent') return;
    if (levels.ended) {
      this.stop();
      listeningStore.setState({ position: levels.position });
      return;
    }
    const waiting = isRecording(side)
      ? levels.takeId !== this.recordings.take(side) || levels.missing > 0
      : this.plan.isWaiting(side);
    if (levels.takeId !== null && state === 'preparing') {
      listeningStore.setState({ state: 'playing', latencyMs: this.transport.latencyMs });
    }
    if (waiting !== listeningStore.getState().waiting) listeningStore.setState({ waiting });
    const thinned = levels.thinned !== 'all';
    if (thinned !== listeningStore.getState().thinned) listeningStore.setState({ thinned });
    if (Math.abs(levels.position - position) > rateHz / 4) {
      listeningStore.setState({ position: levels.position });
    }
    tellHeard({ levels, byPlayer: isRecording(side) ? NOBODY : this.plan.powers(levels) });
  }

  /** Brings volume, mono, sides and head to what is wanted. */
  hearing(): void {
    this.transport.hearing();
  }

  /** Brings who is heard to what is wanted. */
  solo(): void {
    this.plan.solo();
  }

  choose(side: Side): void {
    listeningStore.setState({ side });
    if (!this.isSilent) this.follow();
  }

  /** @param share of the whole, 0 … 1 */
  seek(share: number): void {
    this.transport.seek(share);
  }

  /** @param range shares of the whole; null is all of it */
  setRange(range: readonly [from: number, to: number] | null): void {
    this.transport.setRange(range);
  }

  /** Everything is let go: another session is opened. */
  private end(): void {
    if (!this.isSilent) this.stop();
    this.plan.end();
    this.setRecordings([]);
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
