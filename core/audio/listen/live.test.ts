import { describe, expect, it } from 'vitest';
import { demoSession } from '../../demo';
import { speedOfSound } from '../../units/sound';
import { directPath, earlyPaths } from '../render/paths';
import { Follower, LATER_S } from './follow';
import { addWay, betweenSamples, guarded } from './interpolate';
import { LiveMix, OVERSAMPLED, TRUE_TO } from './live';
import { CAPSULE, poseOf, WAYS, waysOf, type Pose } from './pose';
import { sceneOf, type Scene } from './scene';

const RATE = 48_000;
const BLOCK = 128;
const LOOP = RATE;

const tone = (hz: number): Float32Array =>
  guarded(
    Float32Array.from({ length: OVERSAMPLED * LOOP }, (_, i) =>
      Math.sin((2 * Math.PI * hz * i) / (OVERSAMPLED * RATE)),
    ),
  );

const db = (ratio: number): number => 20 * Math.log10(ratio);

const demoScene = (): Scene => {
  const session = demoSession('2026-01-01T00:00:00Z');
  const [array] = session.arrays;
  if (!array) throw new Error('no array');
  const scene = sceneOf(session, array, RATE);
  if (!scene.ok) throw new Error(scene.message);
  return scene.value;
};

describe('what is read between samples', () => {
  const between = betweenSamples(TRUE_TO);

  it.each([
    [1000, -77],
    [4000, -76],
    [8000, -75],
  ])(
    'at %i Hz is off by less than %i dB while it moves at 1 m/s, and 3 dB more anywhere at rest',
    (hz, most) => {
      const loop = tone(hz);
      for (const slide of [0, (BLOCK / RATE / 343) * RATE * OVERSAMPLED]) {
        let [off, all] = [0, 0];
        for (let block = 0; block < 60; block++) {
          const out = new Float64Array(BLOCK);
          const delay = 1234.567 + slide * block;
          addWay(out, loop, between, OVERSAMPLED, block * BLOCK, {
            delay,
            delayEnd: delay + slide,
            gain: 1,
            gainEnd: 1,
          });
          out.forEach((value, i) => {
            const at = OVERSAMPLED * (block * BLOCK + i) - delay - (slide * i) / BLOCK;
            const wanted = Math.sin((2 * Math.PI * hz * at) / (OVERSAMPLED * RATE));
            off += (value - wanted) ** 2;
            all += wanted ** 2;
          });
        }
        expect(db(Math.sqrt(off / all))).toBeLessThan(slide === 0 ? most + 3 : most);
      }
    },
  );
});

describe('a pose', () => {
  it('has the ways that a render has: direct, and over six surfaces', () => {
    const scene = demoScene();
    const pose = poseOf(scene);
    expect(pose.room).not.toBeNull();
    const ways = new Float64Array(2 * WAYS);
    scene.points.forEach((point, p) => {
      scene.capsules.forEach(({ receiver }, c) => {
        waysOf(pose, p, c, ways);
        const direct = directPath(point.position, receiver, scene.speed);
        // Of what is spread the room is heard from the middle alone, the direct sound from each place.
        if (point.ways === 'room') expect(ways[1]).toBe(0);
        else {
          expect(ways[0]).toBeCloseTo(direct.delayS, 12);
          expect(ways[1]).toBeCloseTo(direct.gain * point.amplitude, 12);
        }
        if (point.ways === 'direct') return expect(ways.slice(2).every((v) => v === 0)).toBe(true);
        const all = scene.room ? earlyPaths(scene.room, point.position, receiver, scene.speed) : [];
        for (let w = 1; w < WAYS; w++) {
          const same = all.find(({ delayS }) => Math.abs(delayS - (ways[2 * w] ?? 0)) < 1e-9);
          expect(ways[2 * w + 1]).toBeCloseTo((same?.gain ?? 9) * point.amplitude, 9);
        }
        return undefined;
      });
    });
  });
});

/** One point before one omnidirectional capsule, at a distance. */
const facing = (y: number): Pose => ({
  points: Float64Array.from([0, y, 0, 1, 0]),
  capsules: Float64Array.from([0, 0, 0, 0, 1, 0, 1, 1, 0, 0]),
  room: null,
  speed: speedOfSound(20),
});

function play(mix: LiveMix, blocks: number, each: (block: number) => void = () => undefined) {
  const out = new Float64Array(blocks * BLOCK);
  for (let block = 0; block < blocks; block++) {
    each(block);
    const [left, right] = [new Float64Array(BLOCK), new Float64Array(BLOCK)];
    const timeS = (block * BLOCK) / RATE;
    mix.add(left, right, (block * BLOCK) % LOOP, timeS, [[1, 1]], new Float64Array(1));
    out.set(left, block * BLOCK);
  }
  return out;
}

describe('what follows the hand', () => {
  it('is x(t − r/c)·g at rest', () => {
    const out = play(new LiveMix([tone(1000)], [0], facing(3.21), RATE), 40);
    const delay = 3.21 / speedOfSound(20);
    out.forEach((value, i) => {
      const wanted = Math.sin(2 * Math.PI * 1000 * (i / RATE - delay)) / 3.21;
      expect(Math.abs(value - wanted)).toBeLessThan(2e-4);
    });
  });

  it('is 95 % there within 60 ms of the pointer, and never steps', () => {
    const follower = new Follower(facing(3));
    follower.add(facing(3.2), 1);
    for (let timeS = 1; timeS < 1.06; timeS += BLOCK / RATE) {
      const before = follower.heard.points[1] ?? 0;
      follower.advance(timeS, BLOCK / RATE);
      // 8 m/s at most.
      expect(Math.abs((follower.heard.points[1] ?? 0) - before)).toBeLessThan(0.0214);
    }
    expect(follower.heard.points[1]).toBeGreaterThan(3.19);
    expect(LATER_S).toBeLessThan(0.06);
  });

  it('has no zipper noise: sidebands of a hand at 60 steps a second stay below −80 dB', () => {
    const mix = new LiveMix([tone(1000)], [0], facing(3), RATE);
    const hand = (s: number): number => 3 + 0.25 * s;
    let sent = 0;
    const out = play(mix, 3 * 375, (block) => {
      const timeS = (block * BLOCK) / RATE;
      while (sent / 60 <= timeS) {
        mix.move(facing(hand(sent / 60)), sent / 60);
        sent += 1;
      }
    });
    // After a second it glides evenly: a tone, a little lower, whose amplitude falls as 1/r.
    const [from, count] = [2 * RATE, RATE / 2];
    let [best, bestHz] = [0, 0];
    const power = (hz: number): number => {
      let [re, im] = [0, 0];
      for (let i = 0; i < count; i++) {
        const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / count);
        const r = hand((from + i) / RATE - LATER_S);
        re += window * r * (out[from + i] ?? 0) * Math.cos((2 * Math.PI * hz * i) / RATE);
        im += window * r * (out[from + i] ?? 0) * Math.sin((2 * Math.PI * hz * i) / RATE);
      }
      return re * re + im * im;
    };
    for (let hz = 998.5; hz < 1000; hz += 0.1) {
      if (power(hz) > best) [best, bestHz] = [power(hz), hz];
    }
    expect(bestHz).toBeCloseTo(1000 * (1 - 0.25 / speedOfSound(20)), 0);
    for (const off of [60, 120, 375, 750]) {
      expect(10 * Math.log10(power(bestHz + off) / best)).toBeLessThan(-80);
    }
  });

  it('crosses over to a place that is too far to be a way there, without a step', () => {
    const mix = new LiveMix([tone(200)], [0], facing(3), RATE);
    const out = play(mix, 60, (block) => {
      if (block === 20) mix.move(facing(9), (block * BLOCK) / RATE);
    });
    let most = 0;
    for (let i = 1; i < out.length; i++)
      most = Math.max(most, Math.abs((out[i] ?? 0) - (out[i - 1] ?? 0)));
    // No steeper than two such tones at once.
    expect(most).toBeLessThan(((2 * Math.PI * 200) / RATE) * (1 / 3 + 1 / 9) * 1.2);
    expect(mix.moving).toBe(false);
  });

  it('takes no pose of another set of players', () => {
    const mix = new LiveMix([tone(200)], [0], facing(3), RATE);
    const two = { ...facing(3), points: Float64Array.from([0, 3, 0, 1, 0, 1, 3, 0, 1, 0]) };
    expect(mix.move(two, 0)).toBe(false);
    expect(facing(3).capsules.length).toBe(CAPSULE);
  });

  it('leaves the reflections out under load, gradually, and brings them back', () => {
    const pose = { ...facing(3), room: Float64Array.from([-5, -2, -1, 5, 8, 4, 1, 1, 1, 1, 1, 1]) };
    const mix = new LiveMix([tone(500)], [0], pose, RATE);
    const rms = (from: number, out: Float64Array) =>
      Math.sqrt(out.slice(from, from + 4800).reduce((sum, v) => sum + v * v, 0) / 4800);
    mix.thinned = 'direct only';
    const thin = play(mix, 100);
    expect(rms(4800, thin)).toBeCloseTo(1 / 3 / Math.SQRT2, 3);
    mix.thinned = 'all';
    expect(Math.abs(rms(4800, play(mix, 100)) - rms(4800, thin))).toBeGreaterThan(0.01);
  });
});
