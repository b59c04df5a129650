import type { Session, Source } from '../../session/schema';
import type { Vec3 } from '../../units/vector';
import type { SpectraEngine } from '../signal/spectra';
import type { Hall } from './hall';
import type { RenderOptions } from './options';
import { playedPhrase, soundingPlaces, type Phrases } from './places';
import type { NamedTurn, SignalTake } from './take-kinds';
import {
  beginningOf,
  calledName,
  knocksFor,
  SIGNAL_DB,
  signalOf,
  silenceAfter,
  type Turn,
} from './turns';

/** A place that sound comes from, before anybody knows how loud full scale is. */
export interface LoudPoint {
  sourceId: string;
  position: Vec3;
  /** at 1 m, dB SPL */
  levelDb: number;
  q: number;
  phrase: Float32Array;
  turn: Turn | null;
}

/** What is heard one after another. */
export interface InTurns {
  points: LoudPoint[];
  turns: NamedTurn[];
  frames: number;
}

/** Turn after turn, each with the silence that the room needs. */
class Queue {
  readonly turns: NamedTurn[] = [];
  private readonly waiting: { from: number; point: Omit<LoudPoint, 'turn'> }[] = [];
  private at = 0;

  constructor(
    private readonly sampleRateHz: number,
    private readonly silence: number,
  ) {}

  /** @param parts that sound at this turn, each so many frames after its beginning */
  add(
    called: { sourceId: string; name: string },
    parts: readonly { after: number; point: Omit<LoudPoint, 'turn'> }[],
  ): void {
    const number = this.turns.length + 1;
    this.turns.push({ ...called, number, fromS: this.at / this.sampleRateHz });
    let longest = 0;
    for (const { after, point } of parts) {
      this.waiting.push({ from: this.at + after, point });
      longest = Math.max(longest, after + point.phrase.length);
    }
    this.at += longest + this.silence;
  }

  done(): InTurns {
    const points = this.waiting.map(({ from, point }) => ({
      ...point,
      turn: { from, round: this.at },
    }));
    return { points, turns: this.turns, frames: this.at };
  }
}

const queueFor = (hall: Hall | null, { sampleRateHz }: RenderOptions): Queue =>
  new Queue(sampleRateHz, Math.ceil(silenceAfter(hall) * sampleRateHz));

/**
 * A signal from one place after another. A walking clapper is a row of stationary claps, each from its own
 * place: what moves between them is not heard.
 */
export function signalsInTurns(
  take: SignalTake,
  places: readonly { sourceId: string; name: string; position: Vec3 }[],
  hall: Hall | null,
  options: RenderOptions,
): InTurns {
  const { seed, sampleRateHz } = options;
  const queue = queueFor(hall, options);
  places.forEach(({ position, ...called }, i) => {
    const phrase = signalOf(take, hall, seed + i, sampleRateHz);
    const point = {
      sourceId: called.sourceId,
      position,
      levelDb: SIGNAL_DB[take],
      q: 1,
      phrase,
    };
    queue.add(called, [{ after: 0, point }]);
  });
  return queue.done();
}

/** Everybody in turn alone: as many knocks as the number in the list, then a little music. */
export function rollCall(
  session: Session,
  sources: readonly Source[],
  hall: Hall | null,
  options: RenderOptions,
  phrases: Phrases,
  engine: SpectraEngine,
): InTurns {
  const { seed, sampleRateHz } = options;
  const queue = queueFor(hall, options);
  sources.forEach((source, i) => {
    const knocks = knocksFor(i + 1, seed, sampleRateHz);
    const { x, y, z, levelDb, q } = source;
    const places = soundingPlaces(session, { ...options, playerIds: [source.id] });
    queue.add({ sourceId: source.id, name: calledName(source) }, [
      {
        after: 0,
        point: { sourceId: source.id, position: { x, y, z }, levelDb, q, phrase: knocks },
      },
      ...places.map(({ plays, ...place }) => ({
        after: knocks.length,
        point: {
          ...place,
          phrase: beginningOf(playedPhrase(plays, phrases, engine), sampleRateHz),
        },
      })),
    ]);
  });
  return queue.done();
}
