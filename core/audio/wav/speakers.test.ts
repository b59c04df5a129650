import { describe, expect, it } from 'vitest';
import { openSound } from '../sound';
import { LevelMeter } from '../measure/levels';
import { channelWeights } from '../measure/loudness';
import { encodeFrames, speakersOf, wavEnd, wavHeader } from '.';
import { memorySource } from '../fixtures/memory';

const RATE = 48_000;
const FIVE_ONE = 0x3f;
const FIVE_ONE_SIDES = 0x60f;
const SEVEN_ONE = 0x63f;

/** Loudness of a file of so many channels, a tone of 1 kHz at −20 dB in one of them. */
async function loudnessOf(channel: number, channels: number, channelMask: number, name = '') {
  const frames = 5 * RATE;
  const tone = Float32Array.from(
    { length: frames },
    (_, i) => 0.1 * Math.sin((2 * Math.PI * 1000 * i) / RATE),
  );
  const planes = Array.from({ length: channels }, (_, c) =>
    c === channel ? tone : new Float32Array(frames),
  );
  const format = { kind: 'integer', bits: 24, channels, sampleRateHz: RATE, channelMask } as const;
  const names = name === '' ? [] : planes.map((_, c) => (c === channel ? name : `${c}`));
  const parts = [
    wavHeader(format, frames, { channelNames: names }),
    encodeFrames(planes, frames, format),
    wavEnd(format, frames),
  ];
  const bytes = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  const sound = await openSound(memorySource(bytes));
  if (!sound.ok) throw new Error(sound.message);
  expect(sound.value.info.channelMask).toBe(channelMask === 0 ? null : channelMask);
  expect(sound.value.info.warnings).toEqual([]);
  const meter = new LevelMeter(sound.value.info);
  for await (const block of sound.value.blocks()) {
    meter.add(block.planes, block.frames, block.position);
  }
  return meter.result().loudness.integrated;
}

describe('channels that are for loudspeakers', () => {
  it('are told by their mask, in the order of its bits', () => {
    expect(speakersOf(FIVE_ONE, 6)).toEqual(['L', 'R', 'C', 'LFE', 'Lrs', 'Rrs']);
    expect(speakersOf(FIVE_ONE_SIDES, 6)).toEqual(['L', 'R', 'C', 'LFE', 'Lss', 'Rss']);
    expect(speakersOf(0x4, 3)).toEqual(['C', null, null]);
    expect(speakersOf(0, 2)).toEqual([null, null]);
  });

  it('count as BS.1770 says: the low effects not at all, those at the sides 1.5 dB more', async () => {
    const front = await loudnessOf(0, 6, FIVE_ONE);
    expect(front).toBeCloseTo(-23, 1);
    expect(await loudnessOf(3, 6, FIVE_ONE)).toBeNull();
    expect((await loudnessOf(4, 6, FIVE_ONE)) ?? 0).toBeCloseTo((front ?? 0) + 1.49, 1);
    expect((await loudnessOf(5, 6, FIVE_ONE_SIDES)) ?? 0).toBeCloseTo((front ?? 0) + 1.49, 1);
    // Of eight those behind count as the front does.
    expect((await loudnessOf(4, 8, SEVEN_ONE)) ?? 0).toBeCloseTo(front ?? 0, 1);
    expect((await loudnessOf(6, 8, SEVEN_ONE)) ?? 0).toBeCloseTo((front ?? 0) + 1.49, 1);
  });

  it('are all alike without a mask, and by their names where they have some', async () => {
    expect(await loudnessOf(3, 6, 0)).toBeCloseTo(-23, 1);
    expect(await loudnessOf(3, 6, 0, 'LFE')).toBeNull();
    expect(await loudnessOf(3, 6, FIVE_ONE, 'Organ spot')).toBeCloseTo(-23, 1);
    expect(channelWeights(['', ''], null)).toEqual([1, 1]);
  });
});
