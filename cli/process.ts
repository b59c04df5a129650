import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import {
  ByteSum,
  exported,
  exportParts,
  foldOf,
  FOLDS,
  measureTake,
  readBack,
  type ExportAsk,
  type Sound,
} from '../core/audio';
import { Checker } from './checker';
import { joinNegatives } from './options';
import { openTakes } from './recordings';
import { failed, succeeded, Usage, type CommandResult } from './result';
import type { Machine } from './session-file';

const TEXT = { type: 'string' } as const;
const OPTIONS = {
  out: TEXT,
  from: TEXT,
  to: TEXT,
  channels: TEXT,
  decode: TEXT,
  'side-db': TEXT,
  'side-high-pass': TEXT,
  shift: TEXT,
  align: TEXT,
  against: TEXT,
  plus: TEXT,
  most: TEXT,
  gain: TEXT,
  invert: TEXT,
  fold: TEXT,
  rate: TEXT,
  bits: TEXT,
  float: { type: 'boolean' },
  'no-dither': { type: 'boolean' },
  json: { type: 'boolean' },
} as const;

function read(args: readonly string[]) {
  try {
    const { values, positionals } = parseArgs({
      args: joinNegatives(args),
      options: OPTIONS,
      allowPositionals: true,
      strict: true,
    });
    if (positionals.length === 0) throw new Usage('process takes a FILE, or the files of a take');
    if (values.out === undefined) throw new Usage('process needs --out FILE');
    return { ...values, files: positionals, out: values.out };
  } catch (error) {
    throw error instanceof Usage
      ? error
      : new Usage(error instanceof Error ? error.message : String(error));
  }
}
type Given = ReturnType<typeof read>;

/** "1,2" as channels from 0; what is none of them is said. */
function tracks(
  name: 'channels' | 'decode' | 'align' | 'invert',
  given: Given,
  channels: number,
  check: Checker,
): number[] | null {
  const text = given[name];
  if (text === undefined) return null;
  const list = text.split(',').map((part) => Number(part.trim() || NaN));
  if (list.every((n) => Number.isInteger(n) && n >= 1 && n <= channels)) {
    return list.map((n) => n - 1);
  }
  check.errors.push(
    `--${name}: ${JSON.stringify(text)}; allowed: channels from 1 to ${channels}, joined by commas`,
  );
  return null;
}

/** "0,-1.5": a figure for each channel, or one for all of them. */
function each(
  name: 'shift' | 'gain',
  given: Given,
  channels: number,
  bounds: { min: number; max: number; unit: string },
  check: Checker,
): number[] {
  const text = given[name];
  if (text === undefined) return [];
  const parts = text.split(',');
  if (parts.length > channels) {
    check.errors.push(
      `--${name}: ${parts.length} figures; allowed: up to ${channels}, one for each channel`,
    );
  }
  return parts.map((part) => check.number(name, part, bounds));
}

/** What is asked of a recording; what is wrong is collected. */
function asked(given: Given, sound: Sound, check: Checker): ExportAsk {
  const { channels, sampleRateHz } = sound.info.format;
  const seconds = sound.info.frames / sampleRateHz;
  const number = (
    name: 'from' | 'to' | 'side-db' | 'side-high-pass' | 'rate',
    min: number,
    max: number,
    unit: string,
  ): number | null =>
    given[name] === undefined ? null : check.number(name, given[name], { min, max, unit });
  const fromS = number('from', 0, seconds, 's') ?? 0;
  const toS = number('to', fromS, seconds, 's');
  const pair = tracks('decode', given, channels, check);
  if (pair && (pair.length !== 2 || pair[0] === pair[1])) {
    check.errors.push('--decode: allowed: two channels, the mid first: 1,2');
  }
  const [sideDb, sideHighPassHz] = [
    number('side-db', -60, 24, 'dB'),
    number('side-high-pass', 1, sampleRateHz * 0.499, 'Hz'),
  ];
  if (!pair && (sideDb !== null || sideHighPassHz !== null)) {
    check.errors.push('--side-db and --side-high-pass need --decode MID,SIDE');
  }
  const kind = given.fold === undefined ? null : check.oneOf('fold', given.fold, FOLDS);
  const bits = given.bits === undefined ? null : check.oneOf('bits', given.bits, BITS);
  const inverted = tracks('invert', given, channels, check);
  if (given.float && bits === '16') check.errors.push('--float: allowed: 32 or 64 bits');
  const left = tracks('channels', given, kind === null ? channels : 2, check);
  return {
    fromS,
    toS,
    channels: left,
    sampleRateHz: number('rate', 8000, 384_000, 'Hz'),
    format: given.float
      ? { kind: 'float', bits: 32 }
      : { kind: 'integer', bits: bits === '16' ? 16 : bits === '32' ? 32 : 24 },
    dither: !given['no-dither'],
    processing: {
      shiftMs: each('shift', given, channels, { min: -2000, max: 2000, unit: 'ms' }, check),
      gainDb: each('gain', given, channels, { min: -120, max: 60, unit: 'dB' }, check),
      inverted: Array.from({ length: channels }, (_, c) => inverted?.includes(c) ?? false),
      decode: pair
        ? { mid: pair[0] ?? 0, side: pair[1] ?? 1, sideDb: sideDb ?? 0, sideHighPassHz }
        : null,
      fold: kind === null ? [] : foldOf(kind, channels),
    },
  };
}

const BITS = ['16', '24', '32'] as const;

interface Aligned {
  channel: number;
  against: number;
  foundMs: number;
  shiftMs: number;
}

/** Channels brought to another by what is measured between them, and so much behind it. */
async function aligned(
  given: Given,
  sound: Sound,
  machine: Machine,
  check: Checker,
): Promise<Aligned[]> {
  const { channels } = sound.info.format;
  const wanted = tracks('align', given, channels, check);
  const number = (name: 'against' | 'plus' | 'most', usual: number, min: number, max: number) =>
    given[name] === undefined ? usual : check.number(name, given[name], { min, max, unit: '' });
  const against = number('against', 1, 1, channels);
  const plus = number('plus', 0, 0, 100);
  const mostMs = number('most', 200, 1, 2000);
  if (!wanted) {
    if (given.against ?? given.plus) check.errors.push('--against and --plus need --align N');
    return [];
  }
  if (wanted.includes(against - 1))
    check.errors.push('--align: allowed: other channels than --against');
  if (given.shift !== undefined) check.errors.push('--align measures what --shift says: give one');
  if (check.errors.length > 0) return [];
  const { delays } = await measureTake(sound, {
    what: ['delays'],
    against: against - 1,
    mostMs,
    progress: (fraction) => machine.progress('Measuring', fraction),
  });
  return wanted.flatMap((channel) => {
    const found = delays?.find((one) => one.channel === channel)?.whole;
    if (found?.delayMs == null) {
      check.errors.push(
        `--align: how channel ${channel + 1} stands against ${against} cannot be told; say it by --shift`,
      );
      return [];
    }
    const foundMs = found.delayMs;
    return [{ channel: channel + 1, against, foundMs, shiftMs: plus - foundMs }];
  });
}

/**
 * `process FILE… --out FILE.wav …`: a recording, or a stretch of it, with something done to it, as a file
 * that was read back.
 */
export async function processCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const given = read(args);
  const closing: (() => Promise<void>)[] = [];
  try {
    const { takes, errors } = await openTakes(given.files, machine, closing);
    if (errors.length > 0) return failed(errors);
    const [take, another] = takes;
    if (!take || another) {
      return failed(['the files are of several takes; allowed: one file, or those of one take']);
    }
    const check = new Checker();
    if (given.files.some((file) => resolve(file) === resolve(given.out))) {
      check.errors.push('--out: allowed: another file than those that are read');
    }
    const ask = asked(given, take.sound, check);
    const shifts = await aligned(given, take.sound, machine, check);
    if (check.errors.length > 0) return failed(check.errors);
    if (shifts.length > 0) {
      const { channels } = take.sound.info.format;
      ask.processing.shiftMs = Array.from(
        { length: channels },
        (_, c) => shifts.find(({ channel }) => channel === c + 1)?.shiftMs ?? 0,
      );
    }
    const made = exported(take.sound, ask);
    const sum = new ByteSum();
    const progress = (fraction: number): void => machine.progress('Writing', fraction);
    try {
      await machine.write(given.out, exportParts(made, sum, { progress }));
    } catch (error) {
      return failed([`--out: ${given.out} cannot be written (${(error as Error).message})`]);
    }
    const written = await machine.open(given.out);
    closing.push(() => written.close());
    const wrong = await readBack(written.source, made, sum);
    if (wrong !== null) return failed([`${given.out}: ${wrong}`]);
    const { channelNames, format } = made.sound.info;
    return succeeded({
      file: given.out,
      seconds: (made.to - made.from) / format.sampleRateHz,
      frames: made.to - made.from,
      bytes: sum.bytes,
      readBack: true,
      peakDb: sum.peak > 0 ? 20 * Math.log10(sum.peak) : null,
      clipped: ask.format.kind === 'integer' ? sum.over : 0,
      channels: Array.from({ length: format.channels }, (_, c) => channelNames[c] ?? ''),
      format: { ...ask.format, sampleRateHz: format.sampleRateHz },
      processing: ask.processing,
      ...(shifts.length > 0 && { aligned: shifts }),
      stampMovedFrames: made.stampMoved,
    });
  } catch (error) {
    if (error instanceof RangeError) return failed([error.message]);
    throw error;
  } finally {
    for (const close of closing) await close();
  }
}
