import { mkdtempSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { MidSideAudit, TakeFigures } from '../core/audio';
import { encodeFrames, makeSignal, pinkNoise, wavHeader, type Planes } from '../core/audio';
import { pair, player } from '../core/fixtures/parts';
import { sessionFrom, writeSessionText } from '../core/session';
import { runCommand } from './commands';
import { machineFiles } from './machine';
import { Usage } from './result';

const RATE = 48_000;
const folder = mkdtempSync(join(tmpdir(), 'rotunda-process-'));
const machine = { ...machineFiles, progress: () => undefined };
const run = (...args: string[]) => runCommand(args, machine);
const path = (name: string) => join(folder, name);

async function json<T>(...args: string[]): Promise<T> {
  const { out, status, errors } = await run(...args);
  expect([status, errors]).toEqual([0, []]);
  return JSON.parse(out) as T;
}

function put(name: string, planes: Planes): string {
  const frames = planes[0]?.length ?? 0;
  const format = { kind: 'float', bits: 32, channels: planes.length, sampleRateHz: RATE } as const;
  const bytes = Buffer.concat([wavHeader(format, frames), encodeFrames(planes, frames, format)]);
  writeFileSync(path(name), bytes);
  return path(name);
}

/** `samples` later by so many whole ones. */
const later = (samples: Float32Array, by: number): Float32Array =>
  samples.map((_, i) => samples[i - by] ?? 0);

const delayOf = async (file: string, channel: number): Promise<number> => {
  const { delays } = await json<TakeFigures>('measure', file, '--what', 'delays');
  return delays?.find((one) => one.channel === channel)?.whole?.delayMs ?? NaN;
};

describe('process', () => {
  it('a spot that is 4.1 ms early is aligned, and measured again at nothing', async () => {
    const cardioid = pair('cardioid', 0, 90);
    const session = sessionFrom({
      id: 'spot',
      settings: { temperatureC: 20 },
      sources: [player('v', 'violin', 0, 4)],
      arrays: [
        { id: 'main', name: 'Main', technique: cardioid, x: 0, y: 1, z: 1.2 },
        {
          id: 'spot',
          name: 'Spot',
          role: 'spot',
          technique: { kind: 'single', pattern: 'cardioid' },
          ...{ x: 0, y: 2.408, z: 1.2 },
        },
      ],
    });
    writeFileSync(path('spot.json'), writeSessionText(session));
    const take = path('take.wav');
    const render = ['render', path('spot.json'), '--out', take, '--dry', '--seconds', '6'];
    expect((await run(...render)).errors).toEqual([]);
    expect(await delayOf(take, 3)).toBeCloseTo(-4.1, 2);
    const out = path('aligned.wav');
    const done = await json<{ aligned: { foundMs: number }[]; readBack: boolean }>(
      ...['process', take, '--align', '3', '--out', out],
    );
    expect(done.readBack).toBe(true);
    expect(done.aligned[0]?.foundMs).toBeCloseTo(-4.1, 2);
    expect(Math.abs(await delayOf(out, 3))).toBeLessThan(0.02);
    // And ten behind, as one may want it.
    await json('process', take, '--align', '3', '--plus', '10', '--out', out);
    expect(await delayOf(out, 3)).toBeCloseTo(10, 2);
  });

  it('a copy of the side that is a sample late and 0.5 dB too loud is found, and mended', async () => {
    const [mid, side] = [1, 2].map((seed) => pinkNoise(4 * RATE, seed).map((v) => v / 10));
    if (!mid || !side) throw new Error('no noise');
    const copy = later(side, 1).map((v) => -v * 10 ** (0.5 / 20));
    const file = put('copied.wav', [mid, side, copy]);
    const audit = async (name: string) =>
      (
        await json<{ midSide: MidSideAudit }>(
          'measure',
          name,
          '--what',
          'levels',
          '--mid-side',
          '1,2,3',
        )
      ).midSide.copy;
    const found = await audit(file);
    expect(found?.faults.join()).toContain('1.00 samples late');
    expect(found?.faults.join()).toContain('0.50 dB too loud');
    const out = path('mended.wav');
    const shift = `0,0,${-1000 / RATE}`;
    await json('process', file, '--shift', shift, '--gain', '0,0,-0.5', '--out', out);
    expect((await audit(out))?.faults).toEqual([]);
    expect((await audit(out))?.leftInMonoDb).toBeLessThan(-45);
  });

  it('decodes mid and side, and folds down', async () => {
    const tone = makeSignal('tone', { sampleRateHz: RATE, seconds: 0.2, levelDb: -20 })[0];
    if (!tone) throw new Error('no tone');
    const file = put('ms.wav', [tone, tone.map((v) => v / 2)]);
    const out = path('lr.wav');
    const decode = ['process', file, '--decode', '1,2', '--out', out, '--float'];
    await json(...decode, '--side-db', '0');
    const levels = async () =>
      (await json<TakeFigures>('measure', out, '--what', 'levels')).channels?.map(
        ({ peakDb }) => peakDb,
      );
    // 1 ± 1/2 of the mid.
    const [left, right] = (await levels()) ?? [];
    expect((left ?? 0) - (right ?? 0)).toBeCloseTo(20 * Math.log10(3), 3);
    await json(...decode, '--side-db', '-6.0206', '--fold', 'mono');
    // Mono is the mid alone: half of the side is gone.
    expect((await levels())?.[0]).toBeCloseTo(-20 + 20 * Math.log10(Math.SQRT2), 2);
  });

  it('says what is wrong with what was asked, and leaves nothing', async () => {
    const file = put('two.wav', [pinkNoise(RATE, 1), pinkNoise(RATE, 2)]);
    const out = path('never.wav');
    const wrong = async (...args: string[]) => {
      const { status, errors } = await run('process', file, '--out', out, ...args);
      expect(status).toBe(1);
      return errors.join('\n');
    };
    expect(await wrong('--decode', '1')).toContain('--decode: allowed: two channels');
    expect(await wrong('--decode', '1,3')).toContain('channels from 1 to 2');
    expect(await wrong('--side-db', '-6')).toContain('need --decode');
    expect(await wrong('--shift', '2001')).toContain('--shift');
    expect(await wrong('--gain', '0,0,0')).toContain('3 figures; allowed: up to 2');
    expect(await wrong('--from', '1')).toContain('no sample');
    expect(await wrong('--rate', '7999')).toContain('--rate');
    expect(await wrong('--bits', '20')).toContain('--bits');
    expect(await wrong('--align', '1')).toContain('other channels than');
    // Two noises that have nothing to do with each other.
    expect(await wrong('--align', '2')).toContain('cannot be told');
    expect(existsSync(out)).toBe(false);
    expect(existsSync(`${out}.part`)).toBe(false);
    await expect(run('process', file)).rejects.toThrow(Usage);
    await expect(run('process', '--out', out)).rejects.toThrow(Usage);
    const missing = await run('process', path('none.wav'), '--out', out);
    expect(missing.errors.join()).toContain('cannot be read');
  });

  it('measures onto paper', async () => {
    const file = put('paper.wav', [pinkNoise(RATE, 1), pinkNoise(RATE, 2)]);
    await json('measure', file, '--report', path('report.pdf'));
    const pdf = readFileSync(path('report.pdf'));
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    expect(pdf.length).toBeGreaterThan(10_000);
    const nowhere = path(join('no', 'such', 'report.pdf'));
    const { status, errors } = await run('measure', file, '--report', nowhere);
    expect([status, errors.join()]).toEqual([1, expect.stringContaining('cannot be written')]);
  });

  it('never writes over what it reads, and over another file only once the new one is whole', async () => {
    const file = put('keep.wav', [pinkNoise(30 * RATE, 1)]);
    const before = readFileSync(file);
    const { status, errors } = await run('process', file, '--out', file);
    expect([status, errors.join()]).toEqual([1, expect.stringContaining('another file')]);
    const other = put('other.wav', [pinkNoise(RATE, 2)]);
    const there = readFileSync(other);
    const { open } = machine;
    // The recording breaks off while it is read.
    const broken = {
      ...machine,
      open: async (name: string) => {
        const { source, close } = await open(name);
        const read: typeof source.read = (at, length, into) =>
          name === file && at > 2_000_000
            ? Promise.reject(new Error('gone'))
            : source.read(at, length, into);
        return { source: { ...source, read }, close };
      },
    };
    const failed = await runCommand(['process', file, '--out', other], broken);
    expect(failed.status).toBe(1);
    for (const [name, bytes] of [
      [file, before],
      [other, there],
    ] as const) {
      expect(readFileSync(name).equals(bytes)).toBe(true);
    }
    expect(existsSync(`${other}.part`)).toBe(false);
  });
});
