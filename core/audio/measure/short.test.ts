import { expect, it } from 'vitest';
import { openSound } from '../sound';
import { encodeFrames, wavHeader } from '../wav';
import { MEASURABLE } from './meters';
import { measureTake } from './take';
import { memorySource } from '../fixtures/memory';

it.each([8000, 48_000, 192_000])(
  'nothing and next to nothing is measured without a figure that is none, at %s Hz',
  async (sampleRateHz) => {
    for (const channels of [1, 2, 3]) {
      for (const frames of [0, 1, 2, 3, 7, 16, 63, 100, 480, 2000]) {
        const format = { kind: 'float', bits: 32, channels, sampleRateHz } as const;
        const planes = Array.from({ length: channels }, (_, c) =>
          Float32Array.from({ length: frames }, (_, i) => 0.3 * Math.sin(i * (c + 1))),
        );
        const bytes = new Uint8Array([
          ...wavHeader(format, frames),
          ...encodeFrames(planes, frames, format),
        ]);
        const sound = await openSound(memorySource(bytes));
        if (!sound.ok) throw new Error(sound.message);
        const figures = await measureTake(sound.value, { what: MEASURABLE });
        expect(figures.frames).toBe(frames);
        // What is no number is null or said in words.
        const none: string[] = [];
        JSON.stringify(figures, (key, value: unknown) => {
          if (typeof value === 'number' && Number.isNaN(value)) none.push(key);
          return value;
        });
        expect(none, `${channels} × ${frames}`).toEqual([]);
      }
    }
  },
);
