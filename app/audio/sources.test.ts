import { beforeEach, describe, expect, it, vi } from 'vitest';
import { demoSession } from '../../core/demo';
import { listeningStore } from './listening';
import { PlanSource } from './plan-source';
import { RecordingSource, type HeardFile } from './recording-source';
import type { ToLoopWorker, ToProcessor } from './protocol';
import type { Feeder, Transport } from './transport';

/** Workers that do nothing but remember what they were told. */
class Deaf {
  static told: unknown[] = [];
  onmessage = null;
  onerror = null;
  postMessage(message: unknown): void {
    Deaf.told.push(message);
  }
}

/** A transport that remembers what went to the processor. */
function standIn(rateHz = 48_000) {
  const posted: ToProcessor[] = [];
  const feeders: Feeder[] = [];
  const transport = {
    rateHz,
    output: {
      context: { currentTime: 0 },
      direct: true,
      post: (message: ToProcessor) => posted.push(message),
    },
    hand: { read: () => 0 },
    post: (message: ToProcessor) => posted.push(message),
    addFeeder: (feeder: Feeder) => feeders.push(feeder),
    join: () => undefined,
  } as unknown as Transport;
  return { transport, posted, feeders };
}

const heard = (change: Partial<HeardFile> = {}): HeardFile => ({
  side: 'recording a',
  name: 'Take 1',
  file: new Blob(['a']),
  rateHz: 48_000,
  frames: 480_000,
  fromS: 0,
  processing: {},
  channels: [
    { id: 'L', channel: 0, left: 1, right: 0 },
    { id: 'R', channel: 1, left: 0, right: 1 },
  ],
  loudness: -26,
  ...change,
});

const told = <K extends ToLoopWorker['kind'] | 'feed'>(kind: K) =>
  Deaf.told.filter((message) => (message as { kind: string }).kind === kind);

beforeEach(() => {
  Deaf.told = [];
  vi.stubGlobal('Worker', Deaf);
  listeningStore.setState({ side: 'plan', matched: true, recordings: [], state: 'silent' });
});

describe('recordings', () => {
  it('are brought to one loudness, which is said; heard as they are where that is wanted', () => {
    const { transport, posted } = standIn();
    const source = new RecordingSource(transport, () => undefined);
    source.set([
      heard(),
      heard({ side: 'recording b', loudness: -14 }),
      heard({ side: 'recording c', loudness: null }),
      heard({ side: 'recording d', loudness: -90 }),
    ]);
    const trims = () => listeningStore.getState().recordings.map(({ trimDb }) => trimDb);
    expect(trims()).toEqual([6, -6, null, 40]);
    const amplitudes = posted.flatMap((one) => (one.kind === 'stream' ? [one.trim] : []));
    expect(amplitudes.map((trim) => 20 * Math.log10(trim))).toEqual(
      [6, -6, 0, 40].map((db) => expect.closeTo(db, 9) as number),
    );
    listeningStore.setState({ matched: false });
    posted.length = 0;
    source.bring();
    expect(posted.map((one) => one.kind === 'stream' && one.trim)).toEqual([1, 1, 1, 1]);
    expect(trims()).toEqual([null, null, null, null]);
  });

  it('are read anew only where something else has to be read; gains change as they sound', () => {
    const { transport, posted } = standIn();
    const source = new RecordingSource(transport, () => undefined);
    const one = heard();
    source.set([one]);
    const take = source.take('recording a');
    source.set([{ ...one, channels: one.channels.map((c) => ({ ...c, left: 0.5, right: 0.5 })) }]);
    expect(source.take('recording a')).toBe(take);
    expect(told('feed')).toHaveLength(1);
    expect(posted.at(-1)).toMatchObject({ shape: { gains: [{ left: 0.5 }, { left: 0.5 }] } });
    source.set([{ ...one, processing: { inverted: [true] } }]);
    expect(source.take('recording a')).not.toBe(take);
    expect(told('feed')).toHaveLength(2);
    source.set([]);
    expect(source.take('recording a')).toBeNull();
    expect(source.frames).toBe(0);
  });

  it('lie on one line of time, at the rate of what is heard', () => {
    const { transport } = standIn(44_100);
    const source = new RecordingSource(transport, () => undefined);
    source.set([heard(), heard({ side: 'recording b', fromS: 12.5, rateHz: 96_000 })]);
    expect(source.frames).toBe((5 + 12.5) * 44_100);
    expect(told('feed').map((one) => (one as { ask: { offset: number } }).ask.offset)).toEqual([
      0, 551_250,
    ]);
  });
});

describe('the plan', () => {
  const session = demoSession('2026-12-01T00:00:00Z');
  const [array] = session.arrays;
  if (!array) throw new Error('the demo has an array');
  const shown = { session, heard: array, candidate: null, dragging: false };
  const asks = () => told('make').map((one) => (one as { ask: { take: string } }).ask);

  it('is made once, bent by the hand, and made anew when it has come to rest', () => {
    vi.useFakeTimers();
    try {
      const { transport, posted } = standIn();
      const plan = new PlanSource(transport, () => undefined);
      plan.show(shown);
      const known = plan.take('plan');
      expect(plan.take('plan')).toBe(known);
      expect(asks()).toHaveLength(1);
      const moved = { ...array, x: array.x + 0.1 };
      plan.show({ ...shown, session: { ...session, arrays: [moved] }, heard: moved });
      expect(plan.take('plan')).toBe(known);
      expect(posted.some(({ kind }) => kind === 'pose')).toBe(true);
      expect(asks()).toHaveLength(1);
      vi.advanceTimersByTime(300);
      expect(asks()).toHaveLength(2);
      expect(asks()[1]?.take).toBe(asks()[0]?.take);
    } finally {
      vi.useRealTimers();
    }
  });

  it('is not made while the hand moves something that is heard already', () => {
    const { transport } = standIn();
    const plan = new PlanSource(transport, () => undefined);
    plan.show(shown);
    plan.take('plan');
    plan.show({ ...shown, dragging: true });
    // Nothing is heard yet: what is to be heard is made.
    expect(told('hold')).toEqual([]);
    plan.active = 'something';
    plan.show({ ...shown, dragging: true });
    plan.show(shown);
    expect(told('hold')).toEqual([
      { kind: 'hold', on: true },
      { kind: 'hold', on: false },
    ]);
  });

  it('says why there is nothing to hear', () => {
    const { transport } = standIn();
    const plan = new PlanSource(transport, () => undefined);
    expect(plan.take('plan')).toBe('No session is open.');
    plan.show(shown);
    expect(plan.take('candidate')).toBe('No candidate is chosen.');
    plan.show({ ...shown, session: { ...session, sources: [] } });
    expect(plan.take('plan')).toContain('No players yet');
  });
});
