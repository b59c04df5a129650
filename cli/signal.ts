import {
  Dither,
  encodeFrames,
  makeSignal,
  SIGNAL_NAMES,
  USUAL_SIGNAL,
  wavEnd,
  wavHeader,
} from '../core/audio';
import { Checker } from './checker';
import { readOptions } from './options';
import { failed, succeeded, Usage, type CommandResult } from './result';
import type { Machine } from './session-file';

const OPTIONS = {
  rate: ['sampleRateHz', { min: 1000, max: 384_000, unit: 'Hz' }],
  seconds: ['seconds', { min: 0.01, max: 600, unit: 's' }],
  seed: ['seed', { min: 0, max: 4_294_967_295, unit: '' }],
  hz: ['hz', { min: 1, max: 192_000, unit: 'Hz' }],
  level: ['levelDb', { min: -120, max: 0, unit: 'dB' }],
  delay: ['delayMs', { min: -100, max: 100, unit: 'ms' }],
  correlation: ['correlation', { min: -1, max: 1, unit: '' }],
  rt60: ['rt60S', { min: 0.05, max: 20, unit: 's' }],
  noise: ['noiseDb', { min: -200, max: 0, unit: 'dB' }],
} as const;
type Option = keyof typeof OPTIONS;
const NAMES = Object.keys(OPTIONS) as Option[];

/** `signal NAME --out FILE`: a test signal as a WAV file of 24 bits. */
export async function signalCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const [name, ...rest] = args;
  if (name === undefined || name.startsWith('-')) throw new Usage('signal takes a NAME');
  const given = readOptions(rest, ['out', ...NAMES]);
  const check = new Checker();
  const known = check.oneOf('signal', name, SIGNAL_NAMES);
  const options = { ...USUAL_SIGNAL };
  for (const option of NAMES) {
    const text = given[option];
    if (text === undefined) continue;
    const [field, bounds] = OPTIONS[option];
    options[field] = check.number(option, text, bounds);
  }
  if (given.out === undefined) throw new Usage('signal needs --out FILE');
  if (known === null || check.errors.length > 0) return failed(check.errors);
  const planes = makeSignal(known, options);
  const frames = planes[0]?.length ?? 0;
  const format = {
    kind: 'integer',
    bits: 24,
    channels: planes.length,
    sampleRateHz: Math.round(options.sampleRateHz),
  } as const;
  const meta = { note: `test signal ${known}, seed ${options.seed}` };
  try {
    await machine.write(given.out, [
      wavHeader(format, frames, meta),
      encodeFrames(planes, frames, format, new Dither(options.seed)),
      wavEnd(format, frames),
    ]);
  } catch (error) {
    return failed([`--out: ${given.out} cannot be written (${(error as Error).message})`]);
  }
  return succeeded({ file: given.out, signal: known, ...options, frames });
}
