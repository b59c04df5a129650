import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { joinedSound, openSound, takesOf, type Sound } from '.';
import { encodeFrames, wavEnd, wavHeader } from './wav/writer';
import { sketchOf } from './measure/overview';
import { makeSignal, whiteNoise } from './signal/generate';
import { heldSamples, memorySource } from './fixtures/memory';

const flac = (): Uint8Array =>
  Uint8Array.from(readFileSync(new URL('./flac/fixtures/late-noise.flac', import.meta.url)));

/** @param read told how many bytes each reading asks for */
async function opened(bytes: Uint8Array, read?: (length: number) => void): Promise<Sound> {
  const source = memorySource(bytes);
  const sound = await openSound({
    ...source,
    read: (offset, length, into) => {
      read?.(length);
      return source.read(offset, length, into);
    },
  });
  if (!sound.ok) throw new Error(sound.message);
  return sound.value;
}

async function refusal(bytes: Uint8Array): Promise<string> {
  const sound = await openSound(memorySource(bytes));
  return sound.ok ? '' : sound.message;
}

const whole = (sound: Sound) => heldSamples(sound, 0, 1e6);

function wav(planes: Float32Array[], rate = 48_000): Uint8Array {
  const format = { kind: 'float', bits: 32, channels: planes.length, sampleRateHz: rate } as const;
  const frames = planes[0]?.length ?? 0;
  return Buffer.concat([
    wavHeader(format, frames),
    encodeFrames(planes, frames, format),
    wavEnd(format, frames),
  ]);
}

describe('FLAC', () => {
  it('is read like WAV: format, length and every sample', async () => {
    const sound = await opened(flac());
    expect(sound.info).toMatchObject({ container: 'FLAC', frames: 17_640, validBits: 16 });
    expect(sound.info.format).toMatchObject({ channels: 2, sampleRateHz: 44_100, bits: 16 });
    // It was made from this signal, rounded to 16 bits.
    const given = makeSignal('delayed', {
      sampleRateHz: 44_100,
      seconds: 0.4,
      levelDb: -12,
      delayMs: 1.2,
    });
    const planes = await whole(sound);
    planes.forEach((plane, c) => {
      const off = plane.reduce(
        (most, value, i) => Math.max(most, Math.abs(value - (given[c]?.[i] ?? 9))),
        0,
      );
      expect(off).toBeLessThan(2 ** -15);
      expect(plane.every((value) => Number.isInteger(value * 2 ** 15))).toBe(true);
    });
    expect(sound.info.warnings).toEqual([]);
  });

  it('gives any stretch of it, in blocks of any length', async () => {
    const sound = await opened(flac());
    const [all] = await whole(sound);
    const seen: number[] = [];
    for await (const { position, frames, planes } of sound.blocks({
      from: 5000,
      to: 12_345,
      blockFrames: 1000,
    })) {
      seen.push(position);
      expect(planes[0]?.subarray(0, frames)).toEqual(all?.subarray(position, position + frames));
    }
    expect([seen.length, seen[0], seen[7]]).toEqual([8, 5000, 12_000]);
  });

  it('that is cut off is read as far as it goes, with a word about it', async () => {
    const sound = await opened(flac().subarray(0, 40_000));
    const [plane] = await whole(sound);
    expect(plane?.length).toBeGreaterThan(4000);
    expect(plane?.length).toBeLessThan(17_640);
    expect(sound.info.warnings.join()).toContain('before its samples do');
  });

  it('whose length was never written is counted', async () => {
    const bytes = flac();
    // The last four bytes of the count in STREAMINFO, and half of the byte before.
    bytes.fill(0, 8 + 14, 8 + 18);
    bytes[8 + 13] = (bytes[8 + 13] ?? 0) & 0xf0;
    const sound = await opened(bytes);
    expect(sound.info.frames).toBe(17_640);
    expect(sound.info.warnings.join()).toContain('they are counted');
  });

  it('that says nothing of itself is refused, with a reason', async () => {
    expect(await refusal(flac().subarray(0, 12))).toContain('STREAMINFO is missing');
    const odd = flac();
    odd.fill(0, 8 + 10, 8 + 13);
    expect(await refusal(odd)).toContain('allowed: 1000 to 655350 Hz');
    expect(await refusal(new TextEncoder().encode('fLaC'))).toContain('allowed');
  });
});

describe('the files of a take', () => {
  const sounds = async (files: Record<string, Uint8Array>, read?: (length: number) => void) => {
    const given = await Promise.all(
      Object.entries(files).map(async ([name, bytes]) => ({
        name,
        sound: await opened(bytes, read),
      })),
    );
    const [take] = takesOf(given.map(({ name, sound }) => ({ name, info: sound.info })));
    if (!take) throw new Error('no take');
    return joinedSound(take, ({ name }) => {
      const found = given.find((file) => file.name === name);
      if (!found) throw new Error(name);
      return found.sound;
    });
  };

  it('are read as one, the shorter one ended in silence', async () => {
    const [left, right] = [whiteNoise(70_001, 1), whiteNoise(100_000, 2)];
    const joined = await sounds({ 'Trio_L.wav': wav([left]), 'Trio_R.wav': wav([right]) });
    if (!joined.ok) throw new Error(joined.message);
    expect(joined.value.info.channelNames).toEqual(['L', 'R']);
    expect(joined.value.info.warnings.join()).toContain('differ in length');
    const planes = await whole(joined.value);
    expect(planes[1]).toEqual(right);
    expect(planes[0]?.subarray(0, 70_001)).toEqual(left);
    expect(planes[0]?.subarray(70_001).every((value) => value === 0)).toBe(true);
    // From the middle on, across the end of the shorter one.
    const part = await heldSamples(joined.value, 1.25, 0.5);
    expect(part[1]).toEqual(right.subarray(60_000, 84_000));
    expect(part[0]?.subarray(0, 10_001)).toEqual(left.subarray(60_000));
  });

  it('give a few frames without reading the block around them', async () => {
    let bytes = 0;
    const files = { 'Duo_L.wav': whiteNoise(400_000, 1), 'Duo_R.wav': whiteNoise(400_000, 2) };
    const joined = await sounds(
      Object.fromEntries(Object.entries(files).map(([name, plane]) => [name, wav([plane])])),
      (length) => (bytes += length),
    );
    if (!joined.ok) throw new Error(joined.message);
    bytes = 0;
    await sketchOf(joined.value, 500);
    // 500 columns of 256 frames of 4 bytes, of each file.
    expect(bytes).toBe(500 * 256 * 4 * 2);
  });

  it('of unlike rates are read at the highest of them', async () => {
    const tone = (rate: number): Float32Array =>
      Float32Array.from({ length: rate / 2 }, (_, i) => Math.sin((2 * Math.PI * 997 * i) / rate));
    const joined = await sounds({
      'A_L.wav': wav([tone(48_000)]),
      'A_R.wav': wav([tone(44_100)], 44_100),
    });
    if (!joined.ok) throw new Error(joined.message);
    expect(joined.value.info.format.sampleRateHz).toBe(48_000);
    expect(joined.value.info.frames).toBe(24_000);
    expect(joined.value.info.warnings.join()).toContain('all are read at 48000 Hz');
    const [left, right] = await whole(joined.value);
    for (let i = 500; i < 23_500; i += 7) {
      expect(Math.abs((left?.[i] ?? 9) - (right?.[i] ?? 0))).toBeLessThan(1e-4);
    }
  });
});
