import { describe, expect, it } from 'vitest';
import { demoSessions } from '../../demo';
import { arched, crowded, turned } from '../../fixtures/set-ups';
import { told } from '../../fixtures/told';
import { contour, short } from '../fixtures/heard';
import { pinkNoise, whiteNoise } from '../signal/generate';
import { Follower } from './follow';
import { headFilters } from './head';
import { guarded } from './interpolate';
import { Limiter } from './limiter';
import { LiveMix } from './live';
import { doubled, expectedLoudness, sceneLoops } from './loops';
import { ListenMixer } from './mixer';
import { livePoints, poseOf, type Pose } from './pose';
import { Ramp } from './ramp';
import { sceneOf, type Scene } from './scene';

/** What is listened to, in figures; frozen anew with `vitest -u` when a change is meant. */

const RATE = 8000;
const BLOCK = 64;
const SESSIONS = [crowded, turned, arched, ...demoSessions('2026-11-26T10:00:00Z')];

const POSE: Pose = {
  points: Float64Array.from([-1, 3, 1.2, 0.8, 0, 1.4, 2.5, 1, 0.5, 0]),
  capsules: Float64Array.from([
    ...[-0.1, 0, 2.5, -0.7, 0.7, -0.1, 0.5, 1, 0, 0],
    ...[0.1, 0, 2.5, 0.7, 0.7, -0.1, 0.5, 0.2, 0.9, 0.001],
  ]),
  room: Float64Array.from([-5, -4, 0, 5, 9, 6, 0.9, 0.8, 0.7, 0.6, 0.5, 0.4]),
  speed: 343,
};
const movedBy = (x: number): Pose => ({
  ...POSE,
  capsules: POSE.capsules.map((value, i) => (i % 10 === 0 ? value + x : value)),
});

describe('listening', () => {
  it('has the scenes that it had', async () => {
    const scenes = SESSIONS.flatMap((session) =>
      (['mix', ...session.arrays.slice(0, 1)] as const).map((heard) => {
        const scene = sceneOf(session, heard, RATE, { seed: 3 });
        if (!scene.ok) return scene.message;
        const { stems, points, capsules, live, notes } = scene.value;
        return [
          [session.id, live, notes, short(expectedLoudness(scene.value))],
          stems.map(({ name, sourceIds }) => [name, sourceIds.length]),
          points.map(({ stem, amplitude, q }) => short([stem, amplitude, q], 8)),
          livePoints(scene.value).map(({ position }) => short(Object.values(position), 8)),
          capsules.map(({ left, right, delayS, live: on }) => short([left, right, delayS, on])),
          short([...poseOf(scene.value).capsules], 8),
          short([...(poseOf(scene.value).room ?? [])], 8),
        ];
      }),
    );
    await expect(told({ scenes })).toMatchFileSnapshot('../fixtures/pinned-scenes.txt');
  });

  it('follows, mixes and limits as it did', async () => {
    const follower = new Follower(POSE);
    const way: unknown[] = [];
    for (let block = 0; block < 40; block++) {
      const timeS = (block * BLOCK) / RATE;
      if (block === 2 || block === 5 || block === 9) follower.add(movedBy(block / 100), timeS);
      follower.advance(timeS, BLOCK / RATE);
      if (block % 2 === 0) way.push(short([follower.heard.capsules[0], follower.moving], 8));
    }
    const jumps = [0.1, 0.29, 0.31, 2].map((x) => [x, follower.jumpsTo(movedBy(0.09 + x))]);
    const loops = [1, 2].map((seed) => guarded(doubled(pinkNoise(RATE, seed))));
    const live = new LiveMix(loops, [0, 1], POSE, RATE);
    const [left, right] = [new Float64Array(60 * BLOCK), new Float64Array(60 * BLOCK)];
    const powers = new Float64Array(2);
    for (let block = 0; block < 60; block++) {
      const from = block * BLOCK;
      if (block === 10) live.move(movedBy(0.05), from / RATE);
      if (block === 30) live.move(movedBy(3), from / RATE);
      if (block === 45) live.thinned = 'direct only';
      live.add(
        left.subarray(from, from + BLOCK),
        right.subarray(from, from + BLOCK),
        from,
        from / RATE,
        [
          [1, 1],
          [0.5, 0.25],
        ],
        powers,
      );
    }
    const limiter = new Limiter(BLOCK, RATE);
    const limited = new Float32Array(30 * BLOCK);
    const gains: unknown[] = [];
    for (let block = 0; block < 30; block++) {
      const loud = block > 8 && block < 14 ? 3 : 0.3;
      const one = Float64Array.from(whiteNoise(BLOCK, block + 1), (value) => value * loud);
      const out = limited.subarray(block * BLOCK, (block + 1) * BLOCK);
      gains.push(short(limiter.next([one, one.slice()], out, new Float32Array(BLOCK)), 8));
    }
    const ramp = new Ramp(0);
    const ramps = [1, 1, 1, 0.2, 0.2].map((goal) => short(ramp.next(goal, 0.35)));
    const heads = [44_100, 48_000].map((rate) =>
      headFilters(rate).map((taps) => contour(taps, 12)),
    );
    const all = {
      ...{ way, jumps, mixed: [contour(left, 30), contour(right, 30)], powers: short([...powers]) },
      ...{ gains, limited: contour(limited, 30), ramps, heads },
    };
    await expect(told(all)).toMatchFileSnapshot('../fixtures/pinned-live.txt');
  });

  it('tells and sounds what it did, through all that a hand does', async () => {
    const frames = 4000;
    const mixer = new ListenMixer(frames, RATE, BLOCK);
    const noise = (seed: number): Float32Array => whiteNoise(frames, seed).map((v) => v * 0.1);
    mixer.open('a', ['s0', 's1'], 0.8);
    mixer.open('b', ['s0', 's1'], 0.5);
    const [near, far] = headFilters(RATE);
    const plain = { volume: 0.7, mono: false, swap: false, dim: false, head: null };
    const steps: Record<number, () => unknown> = {
      2: () => mixer.fill('a', 0, 'rest', [noise(1), noise(2)]),
      4: () => mixer.fill('a', 1, 'rest', [noise(3), noise(4)]),
      5: () => mixer.choose('a'),
      20: () => mixer.fill('a', 0, 'near', [noise(5), noise(6)]),
      24: () => mixer.fill('a', 1, 'near', [noise(7), noise(8)]),
      30: () => mixer.fill('b', 0, 'all', [noise(9), noise(10)]),
      34: () => mixer.choose('b'),
      40: () => mixer.fill('b', 1, 'all', [noise(11), noise(12)]),
      60: () => mixer.hear({ ...plain, mono: true }),
      70: () => mixer.hear({ ...plain, swap: true }),
      80: () => mixer.hear({ ...plain, dim: true, head: [near, far] }),
      90: () =>
        mixer.setStems(
          new Map([
            ['s0', 0],
            ['s1', 1],
          ]),
        ),
      100: () => mixer.setRange(500, 1800),
      120: () => mixer.seek(900),
      130: () => mixer.setRange(0, frames),
      140: () => mixer.open('b', ['s0', 's1'], 0.9),
      150: () => mixer.close('a'),
      160: () => mixer.play(false),
      170: () => mixer.play(true),
      180: () => mixer.close('b'),
    };
    mixer.hear(plain);
    mixer.play(true);
    const [left, right] = [new Float32Array(200 * BLOCK), new Float32Array(200 * BLOCK)];
    const levels: unknown[] = [];
    for (let block = 0; block < 200; block++) {
      steps[block]?.();
      const [from, to] = [block * BLOCK, (block + 1) * BLOCK];
      mixer.process(left.subarray(from, to), right.subarray(from, to), from / RATE);
      if (block % 8 === 7) levels.push(short(mixer.levels(), 8));
    }
    const all = { levels, sound: [contour(left, 100), contour(right, 100)] };
    await expect(told(all)).toMatchFileSnapshot('../fixtures/pinned-mixer.txt');
  });

  it('makes the loops that it made', async () => {
    const loops: unknown[] = [];
    const one = { ...crowded, sources: crowded.sources.slice(0, 2) };
    for (const layers of ['whole', 'parted'] as const) {
      const scene = sceneOf(one, 'mix', RATE);
      if (!scene.ok) throw new Error(scene.message);
      const own: Scene = { ...scene.value, live: 'by stem' };
      const wanted = { layers, withoutDirect: layers === 'whole' };
      const work = sceneLoops(own, wanted, () => pinkNoise(16_000, 8));
      for (let step = await work.next(); ; step = await work.next()) {
        if (step.done) {
          loops.push(short(step.value, 8));
          break;
        }
        const { stem, name, loop } = step.value;
        loops.push([stem, name, contour(loop[0], 16), contour(loop[1], 16)]);
      }
    }
    await expect(told({ loops })).toMatchFileSnapshot('../fixtures/pinned-loops.txt');
  });
});
