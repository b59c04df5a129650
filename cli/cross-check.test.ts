import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { TakeFigures } from '../core/audio';
import { runCommand } from './commands';
import { machineFiles } from './machine';

/** General tools of the system, against which files and figures are checked; the tests install them. */
const [SOX, FFMPEG] = ['/usr/bin/sox', '/usr/bin/ffmpeg'];
const there = existsSync(SOX) && existsSync(FFMPEG);

const folder = mkdtempSync(join(tmpdir(), 'rotunda-cross-'));
const machine = { ...machineFiles, progress: () => undefined };
const path = (name: string) => join(folder, `${name}.wav`);

interface Out extends TakeFigures {
  warnings: string[];
  file: { format: { bits: number; channels: number; kind: string } };
}

async function measured(name: string, what = 'levels'): Promise<Out> {
  const { out, errors, status } = await runCommand(
    ['measure', path(name), '--what', what],
    machine,
  );
  expect([status, errors]).toEqual([0, []]);
  return JSON.parse(out) as Out;
}

/** Loudness and true peak as the other tool has them. */
function judgedElsewhere(name: string): { lufs: number; range: number; peakDb: number } {
  const { stderr } = spawnSync(
    FFMPEG,
    ['-hide_banner', '-nostats', '-i', path(name), '-af', 'ebur128=peak=true', '-f', 'null', '-'],
    { encoding: 'utf8' },
  );
  const summary = stderr.slice(stderr.lastIndexOf('Summary:'));
  const read = (pattern: RegExp): number => Number(pattern.exec(summary)?.[1]);
  return {
    lufs: read(/I:\s+(-?[\d.]+) LUFS/),
    range: read(/LRA:\s+([\d.]+) LU/),
    peakDb: read(/Peak:\s+(-?[\d.]+) dBFS/),
  };
}

describe.skipIf(!there)('against general tools', () => {
  it.each([
    ['8 bits', ['-b', '8', '-e', 'unsigned-integer'], 1, 2 ** -6],
    ['16 bits', ['-b', '16'], 2, 2 ** -14],
    ['24 bits', ['-b', '24'], 2, 1e-5],
    ['32 bits', ['-b', '32', '-e', 'signed-integer'], 6, 1e-5],
    ['float', ['-b', '32', '-e', 'floating-point'], 2, 1e-5],
    ['double', ['-b', '64', '-e', 'floating-point'], 3, 1e-5],
  ] as const)('their file of %s opens here', async (name, options, channels, within) => {
    const file = name.replaceAll(' ', '-');
    execFileSync(SOX, [
      ...['-D', '-n', '-r', '48000', '-c', `${channels}`, ...options, path(file)],
      ...['synth', '2', 'sine', '997', 'vol', '0.5'],
    ]);
    const out = await measured(file);
    expect(out.warnings).toEqual([]);
    expect(out.frames).toBe(96_000);
    expect(out.file.format.channels).toBe(channels);
    for (const { peakDb } of out.channels ?? []) {
      expect(Math.abs(10 ** ((peakDb ?? 0) / 20) - 0.5)).toBeLessThan(within * 1.5);
    }
  });

  it('their file with the most significant byte first has the samples of the other order', async () => {
    const made = ['-D', '-R', '-n', '-r', '48000', '-c', '2', '-b', '24'];
    const synth = ['synth', '2', 'pinknoise', 'vol', '0.3'];
    execFileSync(SOX, [...made, path('usual'), ...synth]);
    execFileSync(SOX, ['-D', path('usual'), '-B', path('turned')]);
    const [usual, turned] = [await measured('usual'), await measured('turned')];
    expect(turned.file).toMatchObject({ container: 'RIFX' });
    expect(turned.channels).toEqual(usual.channels);
  });

  it.each([
    [16, 44_100, 1],
    [24, 96_000, 2],
    [24, 48_000, 6],
  ] as const)('their FLAC of %i bits has the samples of its WAV', async (bits, rate, channels) => {
    const wav = path(`flac-${bits}-${rate}`);
    const flac = wav.replace('.wav', '.flac');
    const shape = ['-r', `${rate}`, '-c', `${channels}`, '-b', `${bits}`];
    execFileSync(SOX, ['-D', '-R', '-n', ...shape, wav, 'synth', '3', 'pinknoise', 'vol', '0.3']);
    execFileSync(SOX, ['-D', wav, flac]);
    const what = 'levels,delays';
    const read = async (file: string): Promise<Out> => {
      const { out, errors } = await runCommand(['measure', file, '--what', what], machine);
      expect(errors).toEqual([]);
      return JSON.parse(out) as Out;
    };
    const [one, other] = [await read(wav), await read(flac)];
    expect(other.file).toMatchObject({ container: 'FLAC', format: { bits, channels } });
    expect(other.frames).toBe(3 * rate);
    expect(other.file).toMatchObject({ channelMask: channels === 6 ? 0x3f : null });
    for (const part of ['channels', 'loudness', 'correlation', 'delays'] as const) {
      expect(other[part]).toEqual(one[part]);
    }
  });

  it('our file opens there, with every sample', async () => {
    await runCommand(['signal', 'pink', '--seconds', '2', '--out', path('ours')], machine);
    const { stderr } = spawnSync(SOX, [path('ours'), '-n', 'stat'], { encoding: 'utf8' });
    const read = (label: string): number =>
      Number(new RegExp(`${label}:\\s+(-?[\\d.]+)`).exec(stderr)?.[1]);
    const [channel] = (await measured('ours')).channels ?? [];
    expect(read('Samples read')).toBe(96_000);
    const peak = Math.max(read('Maximum amplitude'), -read('Minimum amplitude'));
    expect(peak).toBeCloseTo(10 ** ((channel?.peakDb ?? 0) / 20), 5);
    expect(read('RMS\\s+amplitude')).toBeCloseTo(10 ** ((channel?.rmsDb ?? 0) / 20), 5);
    expect(spawnSync(FFMPEG, ['-v', 'error', '-i', path('ours'), '-f', 'null', '-']).status).toBe(
      0,
    );
  });

  it.each([
    ['correlated', 44_100],
    ['correlated', 48_000],
    ['correlated', 96_000],
    ['claps', 48_000],
    ['tone', 48_000],
    ['decay', 48_000],
  ] as const)(
    '%s at %i Hz is as loud there, and as high between its samples',
    async (name, rate) => {
      const file = `${name}-${rate}`;
      const options = ['--rate', `${rate}`, '--seconds', '20', '--level', '-14', '--hz', '997'];
      await runCommand(['signal', name, ...options, '--rt60', '8', '--out', path(file)], machine);
      const here = await measured(file);
      const elsewhere = judgedElsewhere(file);
      expect(Math.abs((here.loudness?.integrated ?? 0) - elsewhere.lufs)).toBeLessThanOrEqual(0.1);
      const peak = Math.max(...(here.channels ?? []).map(({ truePeakDb }) => truePeakDb ?? -99));
      // The other looks at four places a sample, and is lower by up to 0.5 dB where the crest lies between.
      expect(peak - elsewhere.peakDb).toBeGreaterThan(-0.1);
      expect(peak - elsewhere.peakDb).toBeLessThan(0.5);
      // A decay falls by 0.75 dB from one window to the next: the ranges differ by as much.
      const within = name === 'decay' ? 1 : 0.3;
      expect(Math.abs((here.loudness?.range ?? 0) - elsewhere.range)).toBeLessThanOrEqual(within);
    },
  );
});

it('the tools that files are checked against are there', () => {
  if (!there) process.stderr.write('not run: sox and ffmpeg are missing on this machine\n');
  expect(there || process.env.CI === undefined).toBe(true);
});
