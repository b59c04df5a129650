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
  encodeFrames,
  frameBytes,
  makeSignal,
  measureTake,
  openSound,
  overviewOf,
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

const say = (name: string, figure: string, wanted: string): void => {
  process.stdout.write(`${name.padEnd(58)}${figure.padStart(28)}   ${wanted}\n`);
};

/** A file of so many frames: one second of noise again and again. */
function noiseFile(path: string, frames: number): void {
  const planes = makeSignal('correlated', { sampleRateHz: 96_000, seconds: 1, levelDb: -14 });
  const second = encodeFrames(planes, 96_000, FORMAT);
  const file = openSync(path, 'w');
  writeSync(file, wavHeader(FORMAT, frames));
  for (let left = frames; left > 0; left -= 96_000) {
    writeSync(file, second, 0, Math.min(left, 96_000) * frameBytes(FORMAT));
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

const levels: Work = (sound, progress) => measureTake(sound, { what: ['levels'], progress });
const sketch: Work = (sound) => sketchOf(sound, COLUMNS);
const overview: Work = (sound, progress) => overviewOf(sound, COLUMNS, progress);

async function measured(
  path: string,
  work: Work = levels,
): Promise<{ cpuS: number; wallS: number; mib: number }> {
  const { source, close } = await machineFiles.open(path);
  const sound = await openSound(source);
  if (!sound.ok) throw new Error(sound.message);
  const [cpu, wall] = [process.cpuUsage(), performance.now()];
  let most = 0;
  const progress = (): void => {
    most = Math.max(most, process.memoryUsage.rss());
  };
  await work(sound.value, progress);
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
  const large = join(folder, 'large.wav');
  noiseFile(large, Math.floor(2 ** 30 / frameBytes(FORMAT)));
  const first = await measured(large, sketch);
  say('First sketch of 1 GiB, stereo, 24 bits', `${first.wallS.toFixed(2)} s`, 'wanted 1 s');
  const curve = await measured(large, overview);
  say(
    'Its curve from every sample',
    `${curve.cpuS.toFixed(1)} s (wall ${curve.wallS.toFixed(1)} s)`,
    `wanted 4 s; ${curve.mib.toFixed(0)} MiB, wanted 150`,
  );
  const whole = await measured(large);
  say(
    'Levels of 1 GiB, stereo, 24 bits',
    `${whole.cpuS.toFixed(1)} s (wall ${whole.wallS.toFixed(1)} s)`,
    `${whole.mib.toFixed(0)} MiB, wanted 150`,
  );
  rmSync(large);
  const sparse = join(folder, 'sparse.wav');
  sparseFile(sparse, Math.floor((5 * 2 ** 30) / frameBytes(FORMAT)));
  const long = await measured(sparse);
  say(
    'Levels of 5 GiB RF64 of holes',
    `${long.wallS.toFixed(1)} s`,
    `${long.mib.toFixed(0)} MiB, wanted 150`,
  );
} finally {
  rmSync(folder, { recursive: true, force: true });
}
