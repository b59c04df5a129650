import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { told } from '../../fixtures/told';
import { seededRandom } from '../../units/random';
import { contour, short } from '../fixtures/heard';
import { joinedSound } from '../joined';
import { openSound, type Sound } from '../sound';
import { Dither, encodeFrames, frameBytes, takesOf, wavEnd, wavHeader } from '.';
import type { TakeFile, WrittenFormat, WrittenMetadata } from '.';
import { heldSamples, memorySource } from '../fixtures/memory';

/** Files byte by byte, and what is read of them; frozen anew with `vitest -u` when a change is meant. */

const FORMATS: WrittenFormat[] = [
  { kind: 'integer', bits: 16, channels: 1, sampleRateHz: 44_100 },
  { kind: 'integer', bits: 24, channels: 2, sampleRateHz: 48_000 },
  { kind: 'integer', bits: 32, channels: 3, sampleRateHz: 96_000 },
  { kind: 'float', bits: 32, channels: 4, sampleRateHz: 8000 },
];
const META: WrittenMetadata = {
  broadcast: {
    description: 'Evensong, first half',
    originator: 'Rotunda',
    originatorReference: 'session 7',
    date: '2027-02-06',
    time: '14:05:09',
    timeReference: 5_000_000_123,
  } as NonNullable<WrittenMetadata['broadcast']>,
  channelNames: ['Main pair L', 'Main pair R', 'Spot "organ" & <bell>'],
  note: 'a simulation',
};

const planesOf = (channels: number, frames: number): Float32Array[] => {
  const random = seededRandom(channels + frames);
  return Array.from({ length: channels }, () =>
    Float32Array.from({ length: frames }, () => random() * 2.4 - 1.2),
  );
};

function fileOf(format: WrittenFormat, frames: number, meta?: WrittenMetadata): Uint8Array {
  const samples = encodeFrames(planesOf(format.channels, frames), frames, format);
  return Buffer.concat([wavHeader(format, frames, meta), samples, wavEnd(format, frames)]);
}

async function opened(bytes: Uint8Array): Promise<Sound> {
  const sound = await openSound(memorySource(bytes));
  if (!sound.ok) throw new Error(sound.message);
  return sound.value;
}

describe('a recording', () => {
  it('is written byte by byte as it was, and read again', async () => {
    const headers = FORMATS.flatMap((format) => [
      [format.bits, frameBytes(format), short(wavHeader(format, 1001))],
      [format.bits, short(wavHeader(format, 77, META))],
      [format.bits, 'large', short(wavHeader(format, 2 ** 31 + 5, { note: 'long' }))],
      [short(wavEnd(format, 3)), short(wavEnd(format, 8))],
    ]);
    const samples = FORMATS.map((format) => {
      const planes = planesOf(format.channels, 6);
      return [
        short(encodeFrames(planes, 6, format)),
        short(encodeFrames(planes, 5, format, new Dither(5))),
      ];
    });
    const read: unknown[] = [];
    for (const format of FORMATS) {
      for (const meta of [undefined, META]) {
        const sound = await opened(fileOf(format, 41, meta));
        const planes = await heldSamples(sound, 0, 1);
        read.push(
          short(sound.info),
          planes.map((plane) => short([...plane.slice(0, 8)])),
        );
      }
    }
    await expect(told({ headers, samples, read })).toMatchFileSnapshot(
      '../fixtures/pinned-wav.txt',
    );
  });

  it('in FLAC is read block by block, from anywhere', async () => {
    const bytes = readFileSync(new URL('../flac/fixtures/late-noise.flac', import.meta.url));
    const sound = await opened(new Uint8Array(bytes));
    const { frames, format } = sound.info;
    const parts: unknown[] = [];
    for (const [from, to] of [
      [0, frames],
      [1000, 5000],
      [frames - 300, frames],
      [4095, 4097],
    ] as const) {
      const rate = format.sampleRateHz;
      const planes = await heldSamples(sound, from / rate, (to - from) / rate);
      parts.push([from, to, ...planes.map((plane) => contour(plane, 6))]);
    }
    const all = { info: short(sound.info), parts };
    await expect(told(all)).toMatchFileSnapshot('../fixtures/pinned-flac.txt');
  });

  it('of several files is put together as it was', async () => {
    const format = { kind: 'integer', bits: 24, channels: 1, sampleRateHz: 8000 } as const;
    const at = (
      name: string,
      frames: number,
      timeReference: number,
      changes = {},
    ): [string, Uint8Array] => {
      const broadcast = { ...(META.broadcast as object), timeReference, ...changes };
      return [name, fileOf(format, frames, { broadcast } as WrittenMetadata)];
    };
    const files = [
      at('T01_Main L.wav', 900, 8000),
      at('T01_Main R.wav', 900, 8000),
      at('T01_Spot.wav', 700, 8000),
      at('T02_Main L.wav', 500, 90_000),
      at('T02_Main R.wav', 480, 90_000),
      at('long-001.wav', 400, 200_000),
      at('long-002.wav', 400, 200_400),
      at('long-003.wav', 400, 201_900),
      at('other day.wav', 100, 8000, { date: '2027-02-07' }),
      ['bare.wav', fileOf(format, 50)] as [string, Uint8Array],
    ];
    const sounds = new Map<string, Sound>();
    const given: TakeFile[] = [];
    for (const [name, bytes] of files) {
      const sound = await opened(bytes);
      sounds.set(name, sound);
      given.push({ name, info: sound.info });
    }
    const takes: unknown[] = [];
    for (const take of takesOf(given)) {
      const { tracks, ...of } = take;
      const joined = joinedSound(take, ({ name }) => sounds.get(name) as Sound);
      const planes = joined.ok ? await heldSamples(joined.value, 0, 1) : [];
      const named = tracks.map(({ name, channel, files: parts }) => [
        name,
        channel,
        parts.map((part) => part.name),
      ]);
      takes.push([
        of,
        named,
        joined.ok ? planes.map((plane) => contour(plane, 6)) : joined.message,
      ]);
    }
    await expect(told({ takes })).toMatchFileSnapshot('../fixtures/pinned-joined.txt');
  });
});
