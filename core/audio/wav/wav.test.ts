import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../units/random';
import {
  Dither,
  encodeFrames,
  frameBytes,
  readWavInfo,
  utf8Bytes,
  wavBlocks,
  wavEnd,
  wavHeader,
  type BroadcastInfo,
  type ByteSource,
  type Planes,
  type WavInfo,
  type WrittenFormat,
} from '.';
import { memorySource } from '../fixtures/memory';

const joined = (...parts: Uint8Array[]): Uint8Array => {
  const whole = new Uint8Array(parts.reduce((total, { length }) => total + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
};

const noise = (channels: number, frames: number, seed = 1): Planes => {
  const random = seededRandom(seed);
  return Array.from({ length: channels }, () =>
    Float32Array.from({ length: frames }, () => random() * 1.8 - 0.9),
  );
};

const fileOf = (planes: Planes, format: WrittenFormat, meta = {}): Uint8Array => {
  const frames = planes[0]?.length ?? 0;
  return joined(
    wavHeader(format, frames, meta),
    encodeFrames(planes, frames, format),
    wavEnd(format, frames),
  );
};

async function infoOf(bytes: Uint8Array | ByteSource): Promise<WavInfo> {
  const read = await readWavInfo(bytes instanceof Uint8Array ? memorySource(bytes) : bytes);
  if (!read.ok) throw new Error(read.message);
  return read.value;
}

async function samplesOf(bytes: Uint8Array, blockFrames = 100): Promise<number[][]> {
  const info = await infoOf(bytes);
  const all: number[][] = Array.from({ length: info.format.channels }, () => []);
  for await (const { frames, planes } of wavBlocks(memorySource(bytes), info, { blockFrames })) {
    planes.forEach((plane, c) => all[c]?.push(...plane.subarray(0, frames)));
  }
  return all;
}

const stereo = (bits: 16 | 24 | 32, kind: 'integer' | 'float' = 'integer'): WrittenFormat => ({
  kind,
  bits,
  channels: 2,
  sampleRateHz: 96_000,
});

describe('a WAV file written and read again', () => {
  it.each([
    [16, 'integer', 2 ** -16],
    [24, 'integer', 2 ** -24],
    [32, 'integer', 2 ** -25],
    [32, 'float', 0],
  ] as const)('%i bits, %s: every sample within half a step', async (bits, kind, half) => {
    for (const channels of [1, 2, 5, 64]) {
      const planes = noise(channels, 333);
      const bytes = fileOf(planes, { ...stereo(bits, kind), channels });
      const info = await infoOf(bytes);
      expect(info.warnings).toEqual([]);
      expect(info).toMatchObject({ frames: 333, format: { bits, kind, channels } });
      const read = await samplesOf(bytes);
      for (const [c, plane] of planes.entries()) {
        for (const [i, sample] of plane.entries()) {
          expect(Math.abs((read[c]?.[i] ?? 9) - sample)).toBeLessThanOrEqual(half);
        }
      }
    }
  });

  it('in any blocks is the same', async () => {
    const bytes = fileOf(noise(2, 1000), stereo(24));
    const whole = await samplesOf(bytes, 1000);
    for (const size of [1, 7, 999, 4096]) expect(await samplesOf(bytes, size)).toEqual(whole);
  });

  it('of one channel alone has the samples that it has among all', async () => {
    for (const [bits, kind] of [
      [16, 'integer'],
      [24, 'integer'],
      [32, 'integer'],
      [32, 'float'],
    ] as const) {
      for (const channels of [1, 2, 3, 8]) {
        const bytes = fileOf(noise(channels, 501), { ...stereo(bits, kind), channels });
        const info = await infoOf(bytes);
        const whole = await samplesOf(bytes);
        for (let c = 0; c < channels; c++) {
          const alone: number[] = [];
          const range = { blockFrames: 100, only: [c] };
          for await (const block of wavBlocks(memorySource(bytes), info, range)) {
            alone.push(...(block.planes[c] as Float32Array).subarray(0, block.frames));
          }
          expect(alone).toEqual(whole[c]);
        }
      }
    }
  });

  it('clips at full scale, and is dithered by choice, the same for the same seed', () => {
    const loud: Planes = [Float32Array.of(2, -2, 0.5)];
    const format: WrittenFormat = { ...stereo(16), channels: 1 };
    const view = new DataView(encodeFrames(loud, 3, format).buffer);
    expect([view.getInt16(0, true), view.getInt16(2, true)]).toEqual([32767, -32768]);
    const silence: Planes = [new Float32Array(1000)];
    const dithered = (seed: number) => encodeFrames(silence, 1000, format, new Dither(seed));
    expect(dithered(1)).toEqual(dithered(1));
    expect(dithered(1)).not.toEqual(dithered(2));
    const values = new Int16Array(dithered(1).buffer);
    expect(Math.max(...values.map(Math.abs))).toBe(1);
  });

  it('is dithered by white triangular noise, unlike in every channel, in any blocks', () => {
    const frames = 200_000;
    const format = stereo(32);
    const silence: Planes = [new Float32Array(frames), new Float32Array(frames)];
    const whole = encodeFrames(silence, frames, { ...format, bits: 16 }, new Dither(3));
    const dither = new Dither(3);
    const parts = [0, 70_000, 70_001].map((from, i) => {
      const to = [70_000, 70_001, frames][i] ?? frames;
      const cut = silence.map((plane) => plane.subarray(from, to));
      return Buffer.from(encodeFrames(cut, to - from, { ...format, bits: 16 }, dither));
    });
    expect(Buffer.concat(parts).equals(Buffer.from(whole))).toBe(true);
    const values = new Int16Array(whole.buffer);
    const channel = (c: number) => Array.from({ length: frames }, (_, i) => values[2 * i + c] ?? 0);
    const [left, right] = [channel(0), channel(1)];
    const mean = (list: number[]) => list.reduce((sum, v) => sum + v, 0) / list.length;
    const alike = (a: number[], b: number[]) =>
      mean(a.map((v, i) => v * (b[i] ?? 0))) / mean(a.map((v) => v * v));
    expect(Math.abs(mean(left))).toBeLessThan(0.005);
    // Rounded silence under triangular noise: one step up or down in an eighth of the samples each.
    expect(mean(left.map(Math.abs))).toBeCloseTo(0.25, 2);
    for (const lag of [1, 2, 3, 17])
      expect(Math.abs(alike(left, left.slice(lag)))).toBeLessThan(0.01);
    expect(Math.abs(alike(left, right))).toBeLessThan(0.01);
  });

  it('carries broadcast data, names of channels and a note', async () => {
    const broadcast: BroadcastInfo = {
      description: 'Nonet, take 3',
      originator: 'Rotunda',
      originatorReference: 'session-1',
      date: '2026-11-26',
      time: '14:05:09',
      timeReference: 14.1 * 3600 * 96_000 + 2 ** 33,
      codingHistory: 'A=PCM,F=96000',
    };
    const meta = { broadcast, channelNames: ['Main <L>', 'Große R & S'], note: 'simulation' };
    const info = await infoOf(fileOf(noise(2, 10), stereo(24), meta));
    expect(info.broadcast).toEqual(broadcast);
    expect(info.channelNames).toEqual(meta.channelNames);
    expect(info.ixml).toContain('<NOTE>simulation</NOTE>');
    expect(info.warnings).toEqual([]);
  });

  it('becomes RF64 beyond 4 GiB, and is read from there', async () => {
    const frames = 2 ** 30;
    const format = stereo(24);
    const header = wavHeader(format, frames);
    expect(String.fromCharCode(...header.subarray(0, 4))).toBe('RF64');
    const size = header.length + frames * frameBytes(format);
    // A file of holes: only its header is there, the rest is zero.
    const sparse: ByteSource = {
      size,
      read: (offset, length) => {
        const bytes = new Uint8Array(Math.min(length, size - offset));
        if (offset < header.length) bytes.set(header.subarray(offset, offset + length));
        return Promise.resolve(bytes);
      },
    };
    const info = await infoOf(sparse);
    expect(info).toMatchObject({ container: 'RF64', frames, warnings: [] });
    const last: number[] = [];
    for await (const block of wavBlocks(sparse, info, { from: frames - 5 })) {
      last.push(block.position, block.frames);
    }
    expect(last).toEqual([frames - 5, 5]);
    expect(String.fromCharCode(...wavHeader(format, 700_000_000).subarray(0, 4))).toBe('RIFF');
  });
});

/** A file put together by hand, chunk by chunk. */
function byHand(chunks: readonly (readonly [string, Uint8Array])[], head = 'RIFF'): Uint8Array {
  const big = head === 'RIFX';
  const parts = chunks.map(([id, content]) => {
    const sized = new Uint8Array(8);
    sized.set(utf8Bytes(id));
    new DataView(sized.buffer).setUint32(4, content.length, !big);
    return joined(sized, content, new Uint8Array(content.length % 2));
  });
  const body = joined(utf8Bytes('WAVE'), ...parts);
  const first = new Uint8Array(8);
  first.set(utf8Bytes(head));
  new DataView(first.buffer).setUint32(4, body.length, !big);
  return joined(first, body);
}

function fmt(tag: number, channels: number, rate: number, bits: number, big = false): Uint8Array {
  const bytes = new Uint8Array(16);
  const view = new DataView(bytes.buffer);
  view.setUint16(0, tag, !big);
  view.setUint16(2, channels, !big);
  view.setUint32(4, rate, !big);
  view.setUint32(8, (rate * channels * bits) / 8, !big);
  view.setUint16(12, (channels * bits) / 8, !big);
  view.setUint16(14, bits, !big);
  return bytes;
}

describe('a WAV file as others write it', () => {
  it('of 8 bits, of 64 bit floats, with the high byte first', async () => {
    const eight = byHand([
      ['fmt ', fmt(1, 1, 44_100, 8)],
      ['data', Uint8Array.of(0, 128, 255)],
    ]);
    expect(await samplesOf(eight)).toEqual([[-1, 0, 127 / 128]]);
    const doubles = new Uint8Array(new Float64Array([0.25, -0.5, NaN]).buffer);
    const floats = byHand([
      ['fmt ', fmt(3, 1, 48_000, 64)],
      ['data', doubles],
    ]);
    expect(await samplesOf(floats)).toEqual([[0.25, -0.5, 0]]);
    const high = Uint8Array.of(0x40, 0x00, 0x00, 0xc0, 0x00, 0x00);
    const rifx = byHand(
      [
        ['fmt ', fmt(1, 1, 48_000, 24, true)],
        ['data', high],
      ],
      'RIFX',
    );
    expect(await samplesOf(rifx)).toEqual([[0.5, -0.5]]);
  });

  it('with odd chunks, marks and their names', async () => {
    const cue = new Uint8Array(28);
    new DataView(cue.buffer).setUint32(0, 1, true);
    new DataView(cue.buffer).setUint32(4, 7, true);
    new DataView(cue.buffer).setUint32(24, 2, true);
    const labl = joined(
      utf8Bytes('adtllabl'),
      Uint8Array.of(8, 0, 0, 0, 7, 0, 0, 0),
      utf8Bytes('bar'),
      Uint8Array.of(0),
    );
    const list = joined(utf8Bytes('INFOINAM'), Uint8Array.of(5, 0, 0, 0), utf8Bytes('Chant'));
    const bytes = byHand([
      ['odd ', Uint8Array.of(1, 2, 3)],
      ['fmt ', fmt(1, 1, 48_000, 16)],
      ['data', new Uint8Array(8)],
      ['cue ', cue],
      ['LIST', labl],
      ['LIST', list],
    ]);
    const info = await infoOf(bytes);
    expect(info.cues).toEqual([{ id: 7, position: 2, label: 'bar' }]);
    expect(info.info).toEqual({ INAM: 'Chant' });
    expect(info.warnings).toEqual([]);
  });

  it('of samples whose length was never written end where other chunks begin', async () => {
    const format: WrittenFormat = { kind: 'integer', bits: 24, channels: 1, sampleRateHz: 48_000 };
    const planes = noise(1, 1000);
    const list = utf8Bytes('LIST\x12\0\0\0INFOINAM\x06\0\0\0Quiet\0');
    const file = joined(fileOf(planes, format), list);
    const at = file.length - list.length - 3000 - 4;
    for (const size of [0, 0xffffffff]) {
      new DataView(file.buffer).setUint32(at, size, true);
      const info = await infoOf(file);
      expect(info.frames).toBe(1000);
      expect(info.info.INAM).toBe('Quiet');
      expect(info.warnings.join()).toContain('up to the chunk “LIST” behind them');
    }
  });

  it('of more than 4 GiB with sizes of 32 bits that began again are read whole', async () => {
    const format: WrittenFormat = { kind: 'integer', bits: 16, channels: 2, sampleRateHz: 48_000 };
    const header = wavHeader(format, 1000);
    const list = utf8Bytes('LIST\x12\0\0\0INFOINAM\x06\0\0\0Quiet\0');
    for (const [times, behind] of [
      [1, list],
      [2, list],
      [1, new Uint8Array(0)],
    ] as const) {
      const sound = times * 2 ** 32 + 4000;
      const size = header.length + sound + behind.length;
      const source: ByteSource = {
        size,
        read(offset, length) {
          const bytes = new Uint8Array(Math.max(0, Math.min(length, size - offset)));
          for (const [part, from] of [
            [header, 0],
            [behind, header.length + sound],
          ] as const) {
            for (let i = Math.max(offset, from); i < offset + bytes.length; i++) {
              const byte = part[i - from];
              if (byte === undefined) break;
              bytes[i - offset] = byte;
            }
          }
          return Promise.resolve(bytes);
        },
      };
      const info = await infoOf(source);
      expect(info.frames).toBe(sound / 4);
      expect(info.info.INAM ?? '').toBe(behind.length > 0 ? 'Quiet' : '');
      expect(info.warnings.join()).toContain(`${times} × 4 GiB too small`);
    }
  });

  it('cut off, with sizes that were never written, unpadded: what is there is read, and said', async () => {
    const whole = byHand([
      ['fmt ', fmt(1, 2, 48_000, 16)],
      ['data', new Uint8Array(4000)],
    ]);
    const cut = await infoOf(whole.subarray(0, 2043));
    expect(cut.frames).toBe(499);
    // One cause, said once.
    expect(cut.warnings).toEqual([
      'the file ends 2001 bytes before its samples do: what is there is read',
    ]);

    const streamed = whole.slice();
    new DataView(streamed.buffer).setUint32(40, 0xffffffff, true);
    expect((await infoOf(streamed)).frames).toBe(1000);
    new DataView(streamed.buffer).setUint32(40, 0, true);
    const zero = await infoOf(streamed);
    expect([zero.frames, zero.warnings.join()]).toEqual([
      1000,
      expect.stringContaining('said to be none'),
    ]);

    const odd = byHand([
      ['junk', Uint8Array.of(1, 2, 3)],
      ['fmt ', fmt(1, 1, 48_000, 16)],
      ['data', new Uint8Array(4)],
    ]);
    const unpadded = joined(odd.subarray(0, 23), odd.subarray(24));
    const read = await infoOf(unpadded);
    expect([read.frames, read.warnings.join()]).toEqual([2, expect.stringContaining('not padded')]);
  });

  it.each([
    ['nothing', new Uint8Array(0), 'it has 0 bytes'],
    ['an AIFF file', utf8Bytes('FORM....AIFF'), 'AIFF file'],
    ['a text', utf8Bytes('Dear engineer, the take is attached.'), 'it begins with “Dear”'],
    ['a file with an ID3 tag', utf8Bytes('ID3\u0004\0\0\0\0\0\0\0\0\0'), 'ID3 tag'],
    ['Wave64', utf8Bytes('riff..........'), 'Wave64'],
    [
      'A-law',
      byHand([
        ['fmt ', fmt(6, 1, 8000, 8)],
        ['data', new Uint8Array(4)],
      ]),
      'A-law',
    ],
    ['RIFF of another kind', utf8Bytes('RIFF\0\0\0\0AVI '), 'the file holds “AVI ”'],
    ['no samples', byHand([['fmt ', fmt(1, 1, 48_000, 16)]]), '“data” is missing; there are: fmt '],
    ['no format', byHand([['data', new Uint8Array(4)]]), '“fmt” is missing'],
    [
      'a code',
      byHand([
        ['fmt ', fmt(0x55, 2, 48_000, 16)],
        ['data', new Uint8Array(4)],
      ]),
      'MP3, compressed',
    ],
    [
      '65 channels',
      byHand([
        ['fmt ', fmt(1, 65, 48_000, 16)],
        ['data', new Uint8Array(4)],
      ]),
      'channels is 65; allowed: 1 to 64',
    ],
    [
      'no rate',
      byHand([
        ['fmt ', fmt(1, 1, 0, 16)],
        ['data', new Uint8Array(4)],
      ]),
      'the sample rate is 0 Hz',
    ],
    [
      '12 bits of float',
      byHand([
        ['fmt ', fmt(3, 1, 48_000, 16)],
        ['data', new Uint8Array(4)],
      ]),
      'a sample has 16 bits; allowed: 32, 64',
    ],
  ])('refuses %s and says why', async (_, bytes, why) => {
    const read = await readWavInfo(memorySource(bytes));
    expect(read.ok ? '' : read.message).toContain(why);
  });
});
