import type { ChannelGains } from '../../core/audio/listen';
import type { Processing } from '../../core/audio/process/processed';
import { dbToAmplitude } from '../../core/units';
import { trimDbOf } from '../../core/audio/listen/matching';
import { listeningStore, type HeardRecording, type RecordingSide } from './listening';
import { FADED_MS, type Feeder, type Transport } from './transport';
import type { FeedAsk, FromFeedWorker, ToFeedWorker } from './protocol';
import type { Recorded } from '../workers/sound-of';

/** A recording that is to be heard, and how. */
export interface HeardFile {
  side: RecordingSide;
  name: string;
  file: Recorded;
  /** its own, Hz, and how long it is, frames of that */
  rateHz: number;
  frames: number;
  /** s from the beginning of what is heard to its own: takes of one performance lie on one line */
  fromS: number;
  /** what is done to it before it is heard */
  processing: Partial<Processing>;
  /** channels of what comes out of that, by name, and how each is heard */
  channels: readonly ({ id: string; channel: number } & ChannelGains)[];
  /** of what is heard of it, LUFS; null where it is not known */
  loudness: number | null;
}

interface Fed {
  heard: HeardFile;
  /** what the output has it as: another one with everything that has to be read anew */
  take: string;
}

const readAs = ({ file, processing, fromS, channels, frames }: HeardFile): unknown[] => [
  file,
  fromS,
  frames,
  JSON.stringify([processing, channels.map(({ id, channel }) => [id, channel])]),
];

const isReadAlike = (a: HeardFile, b: HeardFile): boolean => {
  const other = readAs(b);
  return readAs(a).every((value, i) => value === other[i]);
};

/** Recordings, simulated takes among them: fed by a worker in pieces while they are heard. */
export class RecordingSource {
  private worker: Worker | null = null;
  private readonly fed = new Map<RecordingSide, Fed>();
  private numbers = 0;
  private readonly feeder: Feeder = {
    feeds: true,
    give: (port) => this.worker?.postMessage({ kind: 'port', port } satisfies ToFeedWorker, [port]),
  };

  /** @param fail what is told where one cannot be read */
  constructor(
    private readonly transport: Transport,
    private readonly fail: (side: RecordingSide, message: string) => void,
  ) {}

  private tellWorker(message: ToFeedWorker): void {
    if (!this.worker) {
      this.worker = new Worker(new URL('./feed.worker.ts', import.meta.url), { type: 'module' });
      this.worker.onmessage = ({ data }: MessageEvent<FromFeedWorker>) =>
        this.failed(data.take, data.message);
      this.worker.onerror = (event) => {
        this.worker = null;
        for (const { take } of this.fed.values()) {
          this.failed(take, event.message || 'what reads it has stopped');
        }
      };
      this.transport.addFeeder(this.feeder);
    }
    this.worker.postMessage(message);
  }

  private failed(take: string, message: string): void {
    for (const [side, one] of this.fed) if (one.take === take) this.fail(side, message);
  }

  /** The recordings that can be heard from now on; those that are read as before go on. */
  set(files: readonly HeardFile[]): void {
    const sides = new Set(files.map(({ side }) => side));
    for (const side of this.fed.keys()) if (!sides.has(side)) this.drop(side);
    for (const heard of files) {
      const known = this.fed.get(heard.side);
      if (known && isReadAlike(known.heard, heard)) known.heard = heard;
      else {
        if (known) this.drop(heard.side);
        this.fed.set(heard.side, { heard, take: `${heard.side} ${(this.numbers += 1)}` });
        this.feed(heard.side);
      }
    }
    this.bring();
  }

  /** Frames of the longest, at the rate of what is heard; 0 where there is none. */
  get frames(): number {
    return Math.max(0, ...[...this.fed.values()].map(({ heard }) => this.endOf(heard)));
  }

  /** Everything once more: the output is another one. */
  again(): void {
    for (const side of this.fed.keys()) this.feed(side);
    this.bring();
  }

  private get rateHz(): number {
    return this.transport.rateHz;
  }

  private endOf({ frames, rateHz, fromS }: HeardFile): number {
    return Math.ceil((frames / rateHz + fromS) * this.rateHz);
  }

  private feed(side: RecordingSide): void {
    const one = this.fed.get(side);
    if (!one) return;
    const { file, processing, channels, fromS } = one.heard;
    const ask: FeedAsk = {
      take: one.take,
      file,
      processing,
      channels: channels.map(({ channel }) => channel),
      sampleRateHz: this.rateHz,
      offset: Math.round(fromS * this.rateHz),
    };
    this.tellWorker({ kind: 'feed', ask });
  }

  /** dB that bring one to the loudness of all. */
  private trimDb({ loudness }: HeardFile): number | null {
    if (!listeningStore.getState().matched) return 0;
    return trimDbOf(loudness);
  }

  /** Brings gains and trims to what is wanted; what has them already changes gradually. */
  bring(): void {
    const told: HeardRecording[] = [];
    for (const { heard, take } of this.fed.values()) {
      const trimDb = this.trimDb(heard);
      this.transport.post({
        kind: 'stream',
        take,
        shape: {
          ids: heard.channels.map(({ id }) => id),
          gains: heard.channels.map(({ left, right }) => ({ left, right })),
          frames: this.endOf(heard),
        },
        trim: dbToAmplitude(trimDb ?? 0),
      });
      const { side, name, rateHz } = heard;
      told.push({ side, name, rateHz, trimDb: listeningStore.getState().matched ? trimDb : null });
    }
    listeningStore.setState({ recordings: told });
  }

  /** What the output has a recording as. */
  take(side: RecordingSide): string | null {
    return this.fed.get(side)?.take ?? null;
  }

  private drop(side: RecordingSide): void {
    const one = this.fed.get(side);
    this.fed.delete(side);
    if (!one) return;
    const { take } = one;
    const { output } = this.transport;
    // Once another one is heard: what is closed while it sounds would step.
    setTimeout(() => {
      this.worker?.postMessage({ kind: 'drop', take } satisfies ToFeedWorker);
      output?.post({ kind: 'close', take });
    }, FADED_MS);
  }
}
