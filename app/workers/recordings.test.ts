import { describe, expect, it } from 'vitest';
import { encodeFrames, makeSignal, wavHeader, type WrittenFormat } from '../../core/audio';
import {
  measuredRecording,
  openedRecording,
  overviewOfRecording,
  exportedRecording,
} from './recordings';
import type { Help } from './serve';

const RATE = 48_000;
const FORMAT: WrittenFormat = { kind: 'integer', bits: 24, channels: 2, sampleRateHz: RATE };

function recording(seconds: number): Blob {
  const planes = makeSignal('delayed', { sampleRateHz: RATE, seconds, levelDb: -20, delayMs: 5 });
  const frames = planes[0]?.length ?? 0;
  const bytes = [wavHeader(FORMAT, frames), encodeFrames(planes, frames, FORMAT)];
  return new Blob(bytes as Uint8Array<ArrayBuffer>[]);
}

function helped(stopAfter = Infinity) {
  const told: number[] = [];
  const partials: unknown[] = [];
  let breaths = 0;
  const help: Help = {
    progress: (fraction) => told.push(fraction),
    partial: (value) => partials.push(value),
    breathe: () => {
      breaths += 1;
      return breaths > stopAfter ? Promise.reject(new Error('given up')) : Promise.resolve();
    },
    step: () => Promise.resolve(),
    signal: { aborted: false },
  };
  return { help, told, partials };
}

describe('a recording beside the page', () => {
  const file = recording(3);

  it('says what it is, and is known again', async () => {
    const opened = await openedRecording(file);
    expect(opened.info).toMatchObject({ frames: 3 * RATE, format: { channels: 2, bits: 24 } });
    expect(opened.fingerprint).toMatch(/^[0-9a-f]{64}$/);
    expect((await openedRecording(recording(3))).fingerprint).toBe(opened.fingerprint);
    expect((await openedRecording(recording(2))).fingerprint).not.toBe(opened.fingerprint);
    await expect(openedRecording(new Blob(['no sound']))).rejects.toThrow();
  });

  it('is drawn roughly at once, then finely', async () => {
    const { help, told, partials } = helped();
    const ask = { file, columns: 100, kept: null };
    const { pyramid, packed } = await overviewOfRecording(ask, help);
    expect(partials).toHaveLength(1);
    expect(pyramid.known).toBe(3 * RATE);
    expect(told.at(-1)).toBe(1);
    expect([...told].sort((a, b) => a - b)).toEqual(told);
    // What was kept of it is taken, and nothing read; of another recording it is not.
    const again = helped();
    const known = await overviewOfRecording({ ...ask, kept: packed }, again.help);
    expect(known).toEqual({ pyramid, packed: null });
    expect(again.partials).toHaveLength(0);
    const wrong = new Blob([new Uint8Array(100)]);
    const anew = await overviewOfRecording({ ...ask, kept: wrong }, helped().help);
    expect(anew.pyramid).toEqual(pyramid);
  });

  it('is measured, with levels so far, and can be given up', async () => {
    const { help, partials } = helped();
    const found = await measuredRecording(file, { what: ['levels', 'delays'] }, help);
    expect(found.delays?.[0]?.whole?.delayMs).toBeCloseTo(5, 2);
    expect(partials.length).toBeGreaterThan(1);
    await expect(measuredRecording(file, {}, helped(2).help)).rejects.toThrow('given up');
  });

  it('is written with something done to it', async () => {
    const { help, told } = helped();
    const done = await exportedRecording(
      {
        file,
        wanted: {
          processing: { shiftMs: [5, 0] },
          channels: null,
          sampleRateHz: 96_000,
          format: { kind: 'float', bits: 32 },
          dither: true,
          fromS: 0.5,
          toS: 2.5,
        },
        into: null,
      },
      help,
    );
    expect(done).toMatchObject({ readBack: true, frames: 192_000, over: 0 });
    const made = done.blob ?? new Blob();
    const { info } = await openedRecording(made);
    expect(info).toMatchObject({
      frames: 2 * 96_000,
      format: { sampleRateHz: 96_000, kind: 'float' },
    });
    const found = await measuredRecording(made, { what: ['delays'] }, help);
    expect(found.delays?.[0]?.whole?.delayMs).toBeCloseTo(0, 3);
    expect(told.at(-1)).toBe(1);
  });
});
