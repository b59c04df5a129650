import { inPieces, yardstick } from './yardstick';
import { writeFileSync } from 'node:fs';
import { PLAYER_NAMES, PHRASE_S, phraseOf, type PlayerName } from '../core/audio/players';
import {
  fastEngine,
  plainEngine,
  planTake,
  renderBlocks,
  type RenderPlan,
  type SpectraEngine,
} from '../core/audio/render';
import {
  doubled,
  guarded,
  livePoints,
  LiveMix,
  ListenMixer,
  poseOf,
  sceneLoops,
  sceneOf,
} from '../core/audio/listen';
import { playedPhrase } from '../core/audio/render/places';
import { demoSession } from '../core/demo';
import type { Session } from '../core/session';

const SECONDS = 30;
const RUNS = 5;

const median = (values: number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

const piece = yardstick('samples');

const say = (name: string, figure: string, wanted: string): void => {
  const pieces = inPieces(figure, piece).padStart(13);
  process.stdout.write(`${name.padEnd(68)}${figure.padStart(28)}${pieces}   ${wanted}\n`);
};

/** Eight capsules before twelve players. */
function twelveByEight(): Session {
  const session = demoSession('2026-01-01T00:00:00Z');
  const [array] = session.arrays;
  if (!array) throw new Error('the demo has no array');
  const arrays = [0, 1, 2, 3].map((i) => ({ ...array, id: `a${i}`, y: array.y - i * 0.4 }));
  const sources = Array.from({ length: 12 }, (_, i) => {
    const source = session.sources[i % session.sources.length];
    if (!source) throw new Error('the demo has no players');
    return { ...source, id: `p${i}`, x: -3 + i * 0.5 };
  });
  return { ...session, arrays, sources };
}

async function cpuOf(work: () => unknown): Promise<number> {
  const before = process.cpuUsage();
  await work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1e6;
}

async function renderWhole(plan: RenderPlan, engine: SpectraEngine): Promise<number> {
  let frames = 0;
  for await (const block of renderBlocks(plan, { engine })) frames += block.frames;
  return frames;
}

const phrases = new Map<string, Float32Array>();
const session = twelveByEight();
// Asked for its session alone, as a file for the command.
const [, , sessionFile] = process.argv;
if (sessionFile !== undefined) {
  writeFileSync(sessionFile, JSON.stringify(session));
  process.exit(0);
}
const fast = await fastEngine();
for (const [name, engine, rate, wanted] of [
  ['', fast, 48_000, 40],
  [' at 96 kHz', fast, 96_000, 20],
  [', plain transforms', plainEngine, 48_000, 5],
] as const) {
  if (!engine) {
    say(`Take of 8 capsules × 12 players${name}`, 'not run', 'no vector instructions here');
    continue;
  }
  const planned = (seed: number): RenderPlan => {
    const plan = planTake(session, { seconds: SECONDS, sampleRateHz: rate, seed }, phrases);
    if (!plan.ok) throw new Error(plan.message);
    return plan.value;
  };
  // Another seed each time: nothing is remembered of the one before.
  const [first, again]: [number[], number[]] = [[], []];
  for (let i = 0; i < RUNS; i++) {
    const plan = planned(i + 1);
    for (const runs of [first, again]) runs.push(await cpuOf(() => renderWhole(plan, engine)));
    phrases.clear();
  }
  for (const [how, runs, figure] of [
    ['', first, `real time by CPU, wanted ${wanted}`],
    [', hall and microphones as before', again, ''],
  ] as const) {
    say(
      `Take of 8 capsules × 12 players${name}${how}`,
      `${(SECONDS / median(runs)).toFixed(1)} ×`,
      figure,
    );
  }
}
/** Twelve players before a pair: what a page that plays asks of a core, and how soon its loops are there. */
async function listening(): Promise<void> {
  const [array] = session.arrays;
  const scene = array && sceneOf(session, array, 48_000);
  if (!scene?.ok) throw new Error('nothing to hear');
  const loopOf = (point: (typeof scene.value.points)[number]): Float32Array =>
    playedPhrase(point.plays, phrases);
  const points = livePoints(scene.value);
  const loops = points.map((point) => guarded(doubled(loopOf(point))));
  const stems = points.map(({ stem }) => stem);
  const mixer = new ListenMixer(PHRASE_S * 48_000, 48_000, 128);
  mixer.open(
    'plan',
    scene.value.stems.map(({ id }) => id),
    1,
  );
  const pose = poseOf(scene.value);
  mixer.setLive('plan', new LiveMix(loops, stems, pose, 48_000));
  mixer.hear({ volume: 0.1, mono: false, swap: false, dim: false, head: null });
  mixer.play(true);
  mixer.choose('plan');
  const out = [new Float32Array(128), new Float32Array(128)] as const;
  for (const [name, moving] of [
    ['at rest', false],
    ['all moving', true],
  ] as const) {
    const runs: number[] = [];
    for (let run = 0; run < RUNS + 1; run++) {
      const from = run * 10 * 375;
      const seconds = await cpuOf(() => {
        for (let block = from; block < from + 10 * 375; block++) {
          const timeS = (block * 128) / 48_000;
          if (moving && block % 6 === 0) {
            const points = pose.points.map((v, i) => (i % 4 === 0 ? v + 0.2 * Math.sin(timeS) : v));
            mixer.move('plan', { ...pose, points }, timeS);
          }
          mixer.process(out[0], out[1], timeS);
        }
      });
      if (run > 0) runs.push(seconds * 10);
    }
    const share = `${median(runs).toFixed(0)} % of a core`;
    say(`Live, 12 players × 2 capsules × 7 ways, ${name}`, share, 'wanted 25');
  }
  if (!fast) return;
  const runs: number[] = [];
  for (let i = 0; i < RUNS; i++) {
    runs.push(
      await cpuOf(async () => {
        const work = sceneLoops(scene.value, { layers: 'parted', withoutDirect: false }, loopOf, {
          engine: fast,
        });
        while (!(await work.next()).done);
      }),
    );
  }
  say('Loops of 12 players through a pair, phrases ready', `${median(runs).toFixed(2)} s`, '');
}
await listening();
let slowest: [PlayerName, number] = ['violin', Infinity];
const speeds: number[] = [];
for (const name of PLAYER_NAMES) {
  const runs: number[] = [];
  for (let i = 0; i < RUNS; i++) {
    runs.push(await cpuOf(() => phraseOf(name, 'chorale', 10 + i, 48_000)));
  }
  const speed = PHRASE_S / median(runs);
  speeds.push(speed);
  if (name === 'choir') say('Phrase of 16 singers', `${speed.toFixed(0)} ×`, 'wanted 20');
  else if (speed < slowest[1]) slowest = [name, speed];
}
say('Phrase of a player, median', `${median(speeds).toFixed(0)} ×`, 'wanted 30');
say(`Phrase of the slowest, ${slowest[0]}`, `${slowest[1].toFixed(0)} ×`, 'wanted 30');
