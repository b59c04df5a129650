import { describe, expect, it } from 'vitest';
import { whiteNoise } from '../signal/generate';
import { guarded } from './interpolate';
import { LiveMix, OVERSAMPLED } from './live';
import { ListenMixer, STREAM_BLOCK, type ChannelGains, type Hearing } from './mixer';
import { CAPSULE, POINT, type Pose } from './pose';

const BLOCK = 128;
const PLAIN: Hearing = { volume: 1, mono: false, swap: false, dim: false, head: null };
const STRAIGHT: ChannelGains[] = [
  { left: 1, right: 0 },
  { left: 0, right: 1 },
];

/** A recording in memory: what a worker reads of a file. */
class Recording {
  readonly asked: number[] = [];

  constructor(
    readonly planes: readonly Float32Array[],
    readonly id = 'file',
  ) {}

  get frames(): number {
    return this.planes[0]?.length ?? 0;
  }

  open(mixer: ListenMixer, gains = STRAIGHT): void {
    const ids = this.planes.map((_, c) => `${this.id} ${c}`);
    mixer.openStream(this.id, { ids, gains, frames: this.frames }, 1);
  }

  piece(block: number): Float32Array[] {
    return this.planes.map((plane) => {
      const out = new Float32Array(STREAM_BLOCK);
      out.set(plane.subarray(block * STREAM_BLOCK, (block + 1) * STREAM_BLOCK));
      return out;
    });
  }

  /** @param except pieces that do not come */
  answer(mixer: ListenMixer, except: (block: number) => boolean = () => false): void {
    for (const { id, blocks } of mixer.wants()) {
      if (id !== this.id) continue;
      this.asked.push(...blocks);
      for (const block of blocks) if (!except(block)) mixer.feed(id, block, this.piece(block));
    }
  }
}

const recording = (frames: number, id?: string): Recording =>
  new Recording(
    [whiteNoise(frames, 1), whiteNoise(frames, 2)].map((one) => one.map((v) => v / 8)),
    id,
  );

interface Run {
  raw: { left: Float64Array; right: Float64Array; frame: number }[];
  left: Float32Array;
  right: Float32Array;
}

function run(
  mixer: ListenMixer,
  blocks: number,
  each: (block: number) => void = () => undefined,
  rate = 48_000,
): Run {
  const raw: Run['raw'] = [];
  const [left, right] = [new Float32Array(blocks * BLOCK), new Float32Array(blocks * BLOCK)];
  for (let block = 0; block < blocks; block++) {
    each(block);
    const [from, to] = [block * BLOCK, (block + 1) * BLOCK];
    mixer.process(left.subarray(from, to), right.subarray(from, to), from / rate, (l, r, frame) =>
      raw.push({ left: l.slice(), right: r.slice(), frame }),
    );
  }
  return { raw, left, right };
}

function playingOf(file: Recording, except?: (block: number) => boolean): ListenMixer {
  const mixer = new ListenMixer(4800, 48_000, BLOCK);
  file.open(mixer);
  mixer.setLength(file.frames, false);
  mixer.hear(PLAIN);
  mixer.choose(file.id);
  file.answer(mixer, except);
  mixer.play(true);
  return mixer;
}

describe('a recording that comes in pieces', () => {
  it('is heard sample by sample, holds few of its pieces, and stops at its end', () => {
    const file = recording(400_000);
    const mixer = playingOf(file);
    let ended = 0;
    const { raw } = run(mixer, 3200, (block) => {
      if (block % 10 === 0 && ended === 0) file.answer(mixer);
      if (mixer.levels().ended) ended = block;
    });
    expect(raw).toHaveLength(3125);
    for (const { left, right, frame } of raw.slice(20)) {
      for (let i = 0; i < BLOCK; i += 31) {
        expect(left[i]).toBeCloseTo(file.planes[0]?.[frame + i] ?? 0, 9);
        expect(right[i]).toBeCloseTo(file.planes[1]?.[frame + i] ?? 0, 9);
      }
    }
    expect(ended).toBeGreaterThanOrEqual(3125);
    expect(mixer.levels().position).toBe(0);
    // Each piece was asked for once.
    expect(file.asked).toEqual([...new Set(file.asked)]);
    expect(file.asked).toHaveLength(Math.ceil(400_000 / STREAM_BLOCK));
  });

  it('waits where a piece is late, without a step, and goes on from just there', () => {
    // A slow tone: a gap in it would show.
    const tone = Float32Array.from({ length: 200_000 }, (_, i) => 0.5 * Math.sin(i / 40));
    const file = new Recording([tone, tone]);
    const mixer = playingOf(file, (piece) => piece === 2);
    let late = true;
    const { raw, left } = run(mixer, 1000, (block) => {
      file.answer(mixer, (piece) => late && piece === 2);
      if (block === 600 && late) {
        late = false;
        mixer.feed('file', 2, file.piece(2));
      }
    });
    const steepest = left.reduce(
      (most, v, i) => (i === 0 ? 0 : Math.max(most, Math.abs(v - (left[i - 1] ?? 0)))),
      0,
    );
    expect(steepest).toBeLessThan(0.5 / 40 + 0.003);
    const frames = raw.map(({ frame }) => frame);
    const held = frames[500] ?? 0;
    expect(held).toBeLessThanOrEqual(2 * STREAM_BLOCK);
    expect(held).toBeGreaterThan(2 * STREAM_BLOCK - 1000);
    expect(new Set(frames.slice(300, 600))).toEqual(new Set([held]));
    // Nothing is left out: each frame follows the one before.
    const heard = frames.filter((frame, i) => i === 0 || frame !== frames[i - 1]);
    heard.forEach((frame, i) => expect(frame).toBe(i * BLOCK));
    expect(left.slice(400 * BLOCK, 500 * BLOCK).every((v) => v === 0)).toBe(true);
  });

  it('goes to another place once that has come, and round in a stretch without waiting', () => {
    const file = recording(2_000_000);
    const mixer = playingOf(file);
    let missing = 0;
    run(mixer, 50, () => file.answer(mixer));
    mixer.levels();
    mixer.seek(1_500_000);
    const { raw } = run(mixer, 100, (block) => block > 20 && file.answer(mixer));
    expect(raw.at(-1)?.frame).toBeGreaterThan(1_500_000);
    const [from, to] = [1_600_000, 1_600_000 + 96_000];
    mixer.levels();
    mixer.setRange(from, to);
    const round = run(mixer, 3000, () => {
      file.answer(mixer);
      missing += mixer.levels().missing;
    }).raw.slice(100);
    expect(Math.min(...round.map(({ frame }) => frame))).toBe(from);
    expect(Math.max(...round.map(({ frame }) => frame))).toBeLessThan(to);
    const turns = round.filter(({ frame }) => frame === from).length;
    expect(turns).toBeGreaterThanOrEqual(3);
    // The piece at its beginning is there before the end is reached: only the jump itself waited.
    expect(missing).toBeLessThan(5);
  });

  it('changes places with a plan at the same place, and its gains change without a step', () => {
    const file = recording(480_000);
    const mixer = playingOf(file);
    mixer.open('plan', ['s0'], 1);
    const loop = Float32Array.from({ length: 4800 }, (_, i) => i / 2 ** 16);
    mixer.fill('plan', 0, 'all', [loop, loop]);
    run(mixer, 200, () => file.answer(mixer));
    mixer.choose('plan');
    const plan = run(mixer, 40).raw.at(-1);
    for (let i = 0; i < BLOCK; i += 17) {
      expect(plan?.left[i]).toBeCloseTo(loop[((plan?.frame ?? 0) + i) % 4800] ?? NaN, 9);
    }
    mixer.choose('file');
    run(mixer, 40, () => file.answer(mixer));
    // Mid and side: the sum to the left, the difference to the right.
    file.open(mixer, [
      { left: 1, right: 1 },
      { left: 1, right: -1 },
    ]);
    const [, , ...decoded] = run(mixer, 60, () => file.answer(mixer)).raw.slice(-20);
    for (const { left, right, frame } of decoded) {
      const [m, s] = [file.planes[0]?.[frame] ?? NaN, file.planes[1]?.[frame] ?? NaN];
      expect(left[0]).toBeCloseTo(m + s, 6);
      expect(right[0]).toBeCloseTo(m - s, 6);
    }
  });

  it('is refused without a channel, with more than 64, or with a gain that is none', () => {
    const mixer = new ListenMixer(4800, 48_000, BLOCK);
    const shape = (count: number, gain: number) => ({
      ids: Array.from({ length: count }, (_, i) => `${i}`),
      gains: Array.from({ length: count }, () => ({ left: gain, right: gain })),
      frames: 100,
    });
    expect(() => mixer.openStream('none', shape(0, 1), 1)).toThrow(
      'channels is 0; allowed: 1 to 64',
    );
    expect(() => mixer.openStream('many', shape(65, 1), 1)).toThrow('channels is 65');
    expect(() => mixer.openStream('wild', shape(2, NaN), 1)).toThrow('left is NaN');
    expect(() => mixer.openStream('all', shape(64, 100), 1)).not.toThrow();
  });

  it('plays the shortest there is, and a piece of a wrong size is not taken', () => {
    const file = recording(1);
    const mixer = playingOf(file);
    mixer.feed('file', 0, [new Float32Array(5), new Float32Array(5)]);
    expect(run(mixer, 20).raw.every(({ left }) => Number.isFinite(left[0]))).toBe(true);
    expect(mixer.levels().ended).toBe(true);
  });
});

/** One point, one capsule, a metre of air. */
function poseAt(x: number): Pose {
  const points = new Float64Array(POINT);
  const capsules = new Float64Array(CAPSULE);
  points.set([x, 1, 1, 1, 0]);
  // Looking at it, an omnidirectional one.
  capsules.set([0, 0, 1, 0, 1, 0, 1, 0.7, 0.7, 0]);
  return { points, capsules, room: null, speed: 343 };
}

describe('another mixer', () => {
  it('takes over what one sounded like: plans, what follows the hand, recordings, place and all', () => {
    const file = recording(480_000);
    const first = playingOf(file);
    const live = guarded(whiteNoise(OVERSAMPLED * 4800, 5));
    first.open('plan', ['s0'], 0.5);
    first.fill('plan', 0, 'rest', [whiteNoise(4800, 3), whiteNoise(4800, 4)]);
    first.setLive('plan', new LiveMix([live], [0], poseAt(0), 48_000));
    first.setStems(new Map([['s0', 0.25]]));
    first.setRange(48_000, 240_000);
    for (const id of ['plan', 'file']) {
      first.choose(id);
      run(first, 100, () => file.answer(first));
      const second = new ListenMixer(4800, 48_000, BLOCK);
      second.takeOver(structuredClone(first.state()));
      file.answer(second);
      const [a, b] = [first, second].map((mixer) => run(mixer, 120, () => file.answer(mixer)).raw);
      const at = b?.[100];
      const same = a?.find(({ frame }) => frame === at?.frame);
      expect(same).toBeDefined();
      expect(same?.left.some((v) => v !== 0)).toBe(true);
      for (let i = 0; i < BLOCK; i++) expect(at?.left[i]).toBeCloseTo(same?.left[i] ?? NaN, 9);
      expect(second.levels().takeId).toBe(id);
    }
  });
});

describe('other rates', () => {
  it.each([44_100, 48_000, 88_200, 96_000])(
    'at %i Hz a loop and what follows the hand go round without a gap',
    (rate) => {
      // 44.1 kHz has rounds that are no multiple of a block.
      const frames = Math.round(rate * 0.25) + 1;
      const mixer = new ListenMixer(frames, rate, BLOCK);
      const tone = (count: number, turns: number): Float32Array =>
        Float32Array.from({ length: count }, (_, i) => Math.sin((2 * Math.PI * turns * i) / count));
      mixer.open('plan', ['s0'], 1);
      mixer.fill('plan', 0, 'rest', [tone(frames, 50), new Float32Array(frames)]);
      mixer.setLive(
        'plan',
        new LiveMix([guarded(tone(OVERSAMPLED * frames, 50))], [0], poseAt(0), rate),
      );
      mixer.hear({ ...PLAIN, volume: 0.2 });
      mixer.choose('plan');
      mixer.play(true);
      const blocks = Math.ceil((3 * frames) / BLOCK);
      const { left, right } = run(mixer, blocks, undefined, rate);
      const begun = Math.round(rate * 0.45);
      for (const heard of [left, right]) {
        const most = heard.slice(begun).reduce((max, v) => Math.max(max, Math.abs(v)), 0);
        expect(most).toBeGreaterThan(0.01);
        // A sine has no third difference beyond its own: a gap of one sample would.
        const own = most * ((2 * Math.PI * 50) / frames) ** 3;
        for (let i = begun + 3; i < heard.length; i++) {
          const [a, b, c, d] = [heard[i - 3], heard[i - 2], heard[i - 1], heard[i]] as [
            number,
            number,
            number,
            number,
          ];
          expect(Math.abs(d - 3 * c + 3 * b - a)).toBeLessThan(1.5 * own + 1e-6);
        }
      }
    },
  );
});
