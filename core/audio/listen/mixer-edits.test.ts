import { expect, it } from 'vitest';
import { seededRandom } from '../../units/random';
import { ListenMixer, type Hearing } from './mixer';

const RATE = 48_000;
const BLOCK = 128;
const PLAIN: Hearing = { volume: 1, mono: false, swap: false, dim: false, head: null };

function run(mixer: ListenMixer, blocks: number): Float32Array {
  const [left, right] = [new Float32Array(blocks * BLOCK), new Float32Array(blocks * BLOCK)];
  for (let from = 0; from < left.length; from += BLOCK) {
    const [l, r] = [left, right].map((channel) => channel.subarray(from, from + BLOCK));
    if (l && r) mixer.process(l, r, from / RATE);
  }
  return left;
}

it('thirty edits of who there is: nobody silent is heard, and nothing clicks', () => {
  const frames = 9600;
  const mixer = new ListenMixer(frames, RATE, BLOCK);
  const random = seededRandom(5);
  const gains = new Map<string, number>();
  // Each player is a tone of its own, so that whoever is heard is known by it.
  const toneOf = (n: number) =>
    Float32Array.from(
      { length: frames },
      (_, i) => 0.05 * Math.sin((2 * Math.PI * 40 * (n + 3) * i) / frames),
    );
  const takeOf = (take: string, players: readonly number[]) => {
    mixer.open(
      take,
      players.map((n) => `p${n}`),
      1,
    );
    players.forEach((n, s) => mixer.fill(take, s, 'all', [toneOf(n), toneOf(n)]));
  };
  mixer.hear(PLAIN);
  mixer.play(true);
  let players = [0, 1, 2, 3, 4, 5];
  // Only one is heard; the others stay silent whatever is edited.
  players.forEach((n) => gains.set(`p${n}`, n === 2 ? 1 : 0));
  takeOf('0', players);
  mixer.setStems(gains);
  mixer.choose('0');
  run(mixer, 400);
  const steady = run(mixer, 75);
  const slope = (samples: Float32Array) =>
    Math.max(...samples.slice(1).map((value, i) => Math.abs(value - (samples[i] ?? 0))));
  const usual = slope(steady);
  mixer.levels();
  for (let edit = 1; edit <= 30; edit++) {
    const others = players.filter((n) => n !== 2);
    const gone = others[Math.floor(random() * others.length)];
    const come = Math.floor(random() * 40) + 6;
    players = [...new Set([...players.filter((n) => n !== gone), come])];
    if (random() < 0.5) players.reverse();
    // As the page does it: who is heard is told at once, the take comes when it is made.
    mixer.choose(`${edit}`);
    players.forEach((n) => gains.set(`p${n}`, n === 2 ? 1 : 0));
    mixer.setStems(gains);
    const before = run(mixer, 3);
    takeOf(`${edit}`, players);
    const after = run(mixer, 60);
    mixer.close(`${edit - 1}`);
    expect(Math.max(slope(before), slope(after)) / usual, `edit ${edit}`).toBeLessThan(2);
    const told = mixer.levels().stems;
    for (const n of players.filter((one) => one !== 2)) expect(told[`p${n}`] ?? 0).toBe(0);
  }
  // Somebody who has come back is as he was left.
  expect(run(mixer, 75).reduce((sum, v) => sum + v * v, 0)).toBeCloseTo(
    steady.reduce((sum, v) => sum + v * v, 0),
    3,
  );
});
