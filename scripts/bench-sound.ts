import { inPieces, yardstick } from './yardstick';
import { execFileSync } from 'node:child_process';
import {
  closeSync,
  existsSync,
  ftruncateSync,
  mkdtempSync,
  openSync,
  rmSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  curvesOf,
  Dither,
  encodeFrames,
  frameBytes,
  makeSignal,
  matchOf,
  measureTake,
  openSound,
  overviewOf,
  pyramidOf,
  sketchOf,
  wavHeader,
  type Sound,
  type WrittenFormat,
} from '../core/audio';
import { machineFiles } from '../cli/machine';

const FFMPEG = '/usr/bin/ffmpeg';
const FORMAT: WrittenFormat = { kind: 'integer', bits: 24, channels: 2, sampleRateHz: 96_000 };
const ROUNDS = 5;
/** As many as a wide screen draws. */
const COLUMNS = 2000;

const median = (values: number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

/** Measured where the table is printed, not where one row of it is. */
let piece = 1;

const say = (name: string, figure: string, wanted: string): void => {
  const pieces = inPieces(figure, piece).padStart(13);
  process.stdout.write(`${name.padEnd(58)}${figure.padStart(28)}${pieces}   ${wanted}\n`);
};

/** A file of so many frames: one second of noise again and again. */
function noiseFile(path: string, frames: number, format = FORMAT, gain = 1): void {
  const { channels, sampleRateHz } = format;
  const pair = makeSignal('correlated', { sampleRateHz, seconds: 1, levelDb: -14 }).map((plane) =>
    plane.map((value) => value * gain),
  );
  const planes = Array.from({ length: channels }, (_, c) => pair[c % 2] as Float32Array);
  const second = encodeFrames(planes, sampleRateHz, format);
  const file = openSync(path, 'w');
  writeSync(file, wavHeader(format, frames));
  for (let left = frames; left > 0; left -= sampleRateHz) {
    writeSync(file, second, 0, Math.min(left, sampleRateHz) * frameBytes(format));
  }
  closeSync(file);
}

/** A file of holes, as long as it says. */
function sparseFile(path: string, frames: number): void {
  const file = openSync(path, 'w');
  const header = wavHeader(FORMAT, frames);
  writeSync(file, header);
  ftruncateSync(file, header.length + frames * frameBytes(FORMAT));
  closeSync(file);
}

type Work = (sound: Sound, progress: () => void) => Promise<unknown>;

/** What is measured, by name: a process of its own is told it. */
const WORKS = {
  levels: (sound, progress) => measureTake(sound, { what: ['levels'], progress }),
  everything: (sound, progress) => measureTake(sound, { progress }),
  decays: (sound, progress) => measureTake(sound, { what: ['decay'], progress }),
  matched: (sound, progress) => matchOf(sound, 0, 1, { fromS: 0, toS: 60 }, { progress }),
  curves: (sound, progress) =>
    curvesOf(sound, { from: 0, to: sound.info.frames }, [0, 1], { progress }),
  pyramid: (sound, progress) => pyramidOf(sound, { progress }),
  sketch: (sound) => sketchOf(sound, COLUMNS),
  overview: (sound, progress) => overviewOf(sound, COLUMNS, { progress }),
} satisfies Record<string, Work>;
type WorkName = keyof typeof WORKS;

interface Measured {
  cpuS: number;
  wallS: number;
  /** of the whole process, which begins with some 50 */
  mib: number;
}

/** Measured in a process of its own: what others left in memory is not counted. */
const apart = (path: string, work: WorkName): Measured =>
  JSON.parse(
    execFileSync(process.execPath, [process.argv[1] ?? '', '--one', path, work], {
      encoding: 'utf8',
    }),
  ) as Measured;

async function measured(path: string, name: WorkName = 'levels'): Promise<Measured> {
  const { source, close } = await machineFiles.open(path);
  const sound = await openSound(source);
  if (!sound.ok) throw new Error(sound.message);
  const [cpu, wall] = [process.cpuUsage(), performance.now()];
  let most = 0;
  const progress = (): void => {
    most = Math.max(most, process.memoryUsage.rss());
  };
  await WORKS[name](sound.value, progress);
  progress();
  const { user, system } = process.cpuUsage(cpu);
  await close();
  return {
    cpuS: (user + system) / 1e6,
    wallS: (performance.now() - wall) / 1000,
    mib: most / 2 ** 20,
  };
}

/** CPU time of the general tool's loudness filter on the same file, s. */
function elsewhere(path: string): number {
  const out = execFileSync(
    'bash',
    [
      '-c',
      `TIMEFORMAT='%U %S'; { time ${FFMPEG} -v quiet -threads 1 -i ${path} -af ebur128=peak=true -f null - > /dev/null; } 2>&1`,
    ],
    { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] },
  );
  return out.split(' ').reduce((sum, part) => sum + Number(part), 0);
}

/** CPU time of writing a dithered sample of 24 bits, ns. */
function writing(): number {
  const frames = 48_000;
  const planes = makeSignal('pink', { sampleRateHz: frames, seconds: 1, levelDb: -20 });
  const pair = [0, 1].map(() => planes[0] as Float32Array);
  const format = { ...FORMAT, sampleRateHz: frames };
  const seconds = 20;
  const dither = new Dither(1);
  const before = process.cpuUsage();
  for (let i = 0; i < seconds; i++) encodeFrames(pair, frames, format, dither);
  const { user, system } = process.cpuUsage(before);
  return ((user + system) * 1000) / (2 * frames * seconds);
}

const [, , one, onePath, oneWork] = process.argv;
if (one === '--one') {
  process.stdout.write(JSON.stringify(await measured(onePath ?? '', oneWork as WorkName)));
  process.exit(0);
}
piece = yardstick('samples');
const folder = mkdtempSync(join(tmpdir(), 'rotunda-bench-sound-'));
try {
  const minute = join(folder, 'minute.wav');
  noiseFile(minute, 60 * 96_000);
  const runs = [];
  for (let i = 0; i < ROUNDS + 1; i++) runs.push(await measured(minute));
  const cpuS = median(runs.slice(1).map((run) => run.cpuS));
  const wallS = median(runs.slice(1).map((run) => run.wallS));
  say(
    'Levels of one minute, stereo, 96 kHz',
    `${(60 / cpuS).toFixed(0)} × (wall ${(60 / wallS).toFixed(0)} ×)`,
    'real time by CPU, wanted 150',
  );
  if (existsSync(FFMPEG)) {
    const other = median(Array.from({ length: ROUNDS }, () => elsewhere(minute)));
    say('The same, a general tool’s loudness filter', `${(60 / other).toFixed(0)} ×`, 'CPU time');
  }
  const whole60: number[] = [];
  for (let i = 0; i < ROUNDS; i++) whole60.push((await measured(minute, 'everything')).cpuS);
  say(
    'Everything of one minute, stereo, 96 kHz',
    `${(60 / median(whole60)).toFixed(0)} ×`,
    'real time by CPU, wanted 40',
  );
  const drawnOver: number[] = [];
  for (let i = 0; i < ROUNDS; i++) drawnOver.push((await measured(minute, 'curves')).cpuS);
  say('Curves over time of one minute', `${(60 / median(drawnOver)).toFixed(0)} ×`, 'wanted 40');
  const clipped = join(folder, 'clipped.wav');
  noiseFile(clipped, 60 * 96_000, FORMAT, 8);
  const loud: number[] = [];
  for (let i = 0; i < ROUNDS; i++) loud.push((await measured(clipped)).cpuS);
  say('Levels of one minute, clipped', `${(60 / median(loud)).toFixed(0)} ×`, 'wanted 150');
  const written = median(Array.from({ length: ROUNDS }, writing));
  say('Writing a sample, dithered', `${written.toFixed(0)} ns`, 'wanted 20');
  const many = join(folder, 'many.wav');
  const wide: WrittenFormat = { ...FORMAT, channels: 64, sampleRateHz: 48_000 };
  noiseFile(many, 30 * 48_000, wide);
  const samples = 64 * 30 * 48_000;
  for (const [name, work] of [
    ['Levels of 64 channels', 'levels'],
    ['Everything of 64 channels', 'everything'],
    ['A match of two of 64 channels', 'matched'],
  ] as const) {
    const run = apart(many, work);
    say(
      name,
      `${((run.cpuS * 1e9) / samples).toFixed(0)} ns a sample`,
      `${run.mib.toFixed(0)} MiB, wanted 150`,
    );
  }
  const high = join(folder, 'high.wav');
  noiseFile(high, 30 * 384_000, { ...FORMAT, sampleRateHz: 384_000 });
  const decay = apart(high, 'decays');
  say(
    'Decays of 30 s at 384 kHz',
    `${decay.cpuS.toFixed(1)} s`,
    `${decay.mib.toFixed(0)} MiB, wanted 150`,
  );
  for (const path of [clipped, many, high]) rmSync(path);
  const large = join(folder, 'large.wav');
  noiseFile(large, Math.floor(2 ** 30 / frameBytes(FORMAT)));
  const first = apart(large, 'sketch');
  say('First sketch of 1 GiB, stereo, 24 bits', `${first.wallS.toFixed(2)} s`, 'wanted 1 s');
  const curve = apart(large, 'overview');
  say(
    'Its curve from every sample',
    `${curve.cpuS.toFixed(1)} s (wall ${curve.wallS.toFixed(1)} s)`,
    `wanted 4 s; ${curve.mib.toFixed(0)} MiB, wanted 150`,
  );
  const drawn = apart(large, 'pyramid');
  say(
    'Its curve at every zoom',
    `${drawn.cpuS.toFixed(1)} s (wall ${drawn.wallS.toFixed(1)} s)`,
    `${drawn.mib.toFixed(0)} MiB, wanted 150`,
  );
  const whole = apart(large, 'levels');
  say(
    'Levels of 1 GiB, stereo, 24 bits',
    `${whole.cpuS.toFixed(1)} s (wall ${whole.wallS.toFixed(1)} s)`,
    `${whole.mib.toFixed(0)} MiB, wanted 150`,
  );
  rmSync(large);
  const sparse = join(folder, 'sparse.wav');
  sparseFile(sparse, Math.floor((5 * 2 ** 30) / frameBytes(FORMAT)));
  const long = apart(sparse, 'levels');
  say(
    'Levels of 5 GiB RF64 of holes',
    `${long.wallS.toFixed(1)} s`,
    `${long.mib.toFixed(0)} MiB, wanted 150`,
  );
} finally {
  rmSync(folder, { recursive: true, force: true });
}
