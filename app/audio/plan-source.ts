import { poseOf, type Scene } from '../../core/audio/listen';
import { contentOf, kindOf, matchedTrim, trimFor, type Known } from './known-takes';
import { listeningStore, ofCandidate, roomAlone, type PlanSide, type Shown } from './listening';
import { arrayIdOn, sceneOn } from './sides';
import { powerByPlayer, stemGains } from './stems';
import { FADED_MS, type Feeder, type Transport } from './transport';
import type { FromLoopWorker, Made, TakeAsk, ToLoopWorker } from './protocol';
import type { Levels } from '../../core/audio/listen';

/** What was moved is made anew so long after the hand has come to rest. */
const REST_MS = 250;
/** What is not heard any more is closed so long after, ms. */
const CLOSE_MS = 500;

const stemIds = ({ stems }: Scene): string[] => stems.map(({ id }) => id);

/** The plan as it is on the page, and the candidate beside it: made by a worker, bent by the hand. */
export class PlanSource {
  private worker: Worker | null = null;
  private readonly takes = new Map<PlanSide, Known>();
  private numbers = 0;
  private rounds = 0;
  private rest: ReturnType<typeof setTimeout> | undefined;
  private shown: Shown | null = null;
  private held = false;
  /** what sounds now, by its id */
  active: string | null = null;

  /** @param fail what is told where it cannot be made */
  constructor(
    private readonly transport: Transport,
    private readonly fail: (message: string) => void,
  ) {
    transport.addFeeder(this.feeder);
  }

  private readonly feeder: Feeder = {
    feeds: false,
    give: (port) => this.tellWorker({ kind: 'port', port }, [port]),
  };

  /** What is on the page now. */
  show(shown: Shown | null): void {
    // What is heard while the hand moves something needs the machine; once it rests the rest is made.
    const hold = shown?.dragging === true && this.active !== null;
    if (hold !== this.held) {
      this.held = hold;
      this.worker?.postMessage({ kind: 'hold', on: hold } satisfies ToLoopWorker);
    }
    this.shown = shown;
  }

  scene(side: PlanSide): Scene | string {
    return sceneOn(this.shown, side, this.transport.rateHz);
  }

  /** Phrases are made while nobody waits for them. */
  prepare(): void {
    const scene = this.scene('plan');
    if (typeof scene === 'object') this.tellWorker({ kind: 'phrases', scene });
  }

  private tellWorker(message: ToLoopWorker, transfer: Transferable[] = []): void {
    if (!this.worker) {
      this.worker = new Worker(new URL('./loop.worker.ts', import.meta.url), { type: 'module' });
      this.worker.onmessage = ({ data }: MessageEvent<FromLoopWorker>) => this.hearWorker(data);
      this.worker.onerror = (event) => {
        this.worker = null;
        this.takes.clear();
        this.fail(event.message || 'what makes it has stopped');
      };
      this.transport.join(this.feeder);
    }
    this.worker.postMessage(message, transfer);
  }

  private hearWorker(message: FromLoopWorker): void {
    switch (message.kind) {
      case 'layer':
        return this.transport.post(message);
      case 'failed':
        this.takes.clear();
        return this.fail(message.message);
      case 'progress': {
        const { side } = listeningStore.getState();
        if (this.takes.get(side as PlanSide)?.id === message.take) {
          listeningStore.setState({ made: message.fraction });
        }
        return;
      }
      case 'made':
        this.whole(message);
    }
  }

  /** A take is whole. */
  whole({ round, loudness }: Made): void {
    const known = [...this.takes.values()].find((one) => one.round === round);
    if (!known) return;
    known.loudness = loudness;
    known.whole = known.made;
    this.match();
  }

  /**
   * The take of a side as it is now: bent where it can be, made anew where it must.
   * @returns why there is none, where there is none
   */
  take(side: PlanSide): Known | string {
    const scene = this.scene(side);
    if (typeof scene === 'string') return scene;
    const { transport } = this;
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
      const { output, hand } = transport;
      if (output) {
        const timeS = hand.read(output.context.currentTime, performance.now());
        output.post({ kind: 'pose', take: known.id, pose: poseOf(scene), timeS });
      }
    }
    known.scene = scene;
    const content = contentOf(scene);
    if (known.made === content) return known;
    clearTimeout(this.rest);
    if (known.made === null) this.make(side, known, content);
    else {
      // The late field, and whatever does not follow the hand, once it rests.
      this.rest = setTimeout(() => {
        for (const [one, take] of this.takes) {
          const now = contentOf(take.scene);
          if (take.made !== now && take.made !== null) this.make(one, take, now);
        }
      }, REST_MS);
    }
    return known;
  }

  private make(side: PlanSide, known: Known, content: string): void {
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
    if (this.transport.output?.direct === false) {
      this.transport.post({ kind: 'open', take: id, stems: stemIds(scene), trim });
    }
    this.tellWorker({ kind: 'make', ask });
    listeningStore.setState({ waiting: true, made: 0 });
  }

  /** A candidate is as loud as the plan. */
  private match(): void {
    const candidate = this.takes.get('candidate');
    const trim = matchedTrim(this.takes.get('plan'), candidate);
    if (!candidate || trim === null) return;
    for (const side of ['candidate', 'candidate’s room'] as const) {
      const known = this.takes.get(side);
      if (!known) continue;
      known.trim = trim;
      const { id, scene } = known;
      this.transport.post({ kind: 'open', take: id, stems: stemIds(scene), trim });
    }
  }

  private letGoLater(id: string): void {
    this.tellWorker({ kind: 'drop', take: id });
    setTimeout(() => {
      if (this.active === id) this.letGoLater(id);
      else this.transport.post({ kind: 'close', take: id });
    }, CLOSE_MS);
  }

  /** Whether the take of a side that is heard is not yet what it will be. */
  isWaiting(side: PlanSide): boolean {
    const known = this.takes.get(side);
    return known !== undefined && (this.active !== known.id || known.whole !== known.made);
  }

  powers(levels: Levels): ReadonlyMap<string, number> {
    return powerByPlayer(this.takes.get('plan')?.scene, levels);
  }

  /** Brings who is heard to what is wanted. */
  solo(): void {
    const scene = this.takes.get('plan')?.scene;
    if (!scene) return;
    const gains = stemGains(scene, listeningStore.getState());
    this.transport.post({ kind: 'stems', gains });
  }

  /** No side of which there is nothing any more. */
  get lacksCandidate(): boolean {
    return this.shown?.candidate == null && ofCandidate(listeningStore.getState().side);
  }

  /** Everything is let go. */
  end(): void {
    clearTimeout(this.rest);
    const ids = [...this.takes.values()].map(({ id }) => id);
    this.takes.clear();
    if (ids.length === 0) return;
    for (const take of ids) this.tellWorker({ kind: 'drop', take });
    const { output } = this.transport;
    // Once it has faded: what is closed while it sounds would step.
    setTimeout(() => {
      for (const take of ids) output?.post({ kind: 'close', take });
    }, FADED_MS / 2);
  }
}
