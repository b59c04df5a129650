import { describe, expect, it } from 'vitest';
import { readFlacHeader } from '../flac/header';
import { openSound } from '../sound';
import { decodeFrames, planesFor } from './decode';
import { readCues, readIxml } from './metadata';
import { heldSamples, memorySource } from '../fixtures/memory';

const bytesOf = (length: number, set: (view: DataView) => void): Uint8Array => {
  const bytes = new Uint8Array(length);
  set(new DataView(bytes.buffer));
  return bytes;
};

describe('what files may hold', () => {
  it('reads samples with the most significant byte first', () => {
    const read = (
      kind: 'integer' | 'float',
      bits: number,
      bytes: Uint8Array,
    ): (number | string)[] => {
      const format = { kind, bits, channels: 1, sampleRateHz: 8000, bigEndian: true };
      const planes = planesFor(1, 2);
      const { frames, faults } = decodeFrames(bytes, format, planes);
      expect(frames).toBe(2);
      return [...(planes[0] ?? []), ...(faults > 0 ? [`${faults} no sound`] : [])];
    };
    const three = Uint8Array.from([0x40, 0x10, 0x20, 0xff, 0x00, 0x80]);
    expect(read('integer', 24, three)).toEqual([
      (0x40 * 65_536 + 0x10 * 256 + 0x20) / 2 ** 23,
      (-65_536 + 0x80) / 2 ** 23,
    ]);
    expect(read('integer', 16, Uint8Array.from([0x40, 0, 0xc0, 0]))).toEqual([0.5, -0.5]);
    const four = Uint8Array.from([0x20, 0, 0, 0, 0x80, 0, 0, 0]);
    expect(read('integer', 32, four)).toEqual([0.25, -1]);
    const float = bytesOf(8, (view) => {
      view.setFloat32(0, 0.75);
      view.setFloat32(4, NaN);
    });
    expect(read('float', 32, float)).toEqual([0.75, 0, '1 no sound']);
    const double = bytesOf(16, (view) => {
      view.setFloat64(0, -0.125);
      view.setFloat64(8, 0.5);
    });
    expect(read('float', 64, double)).toEqual([-0.125, 0.5]);
    const wild = bytesOf(16, (view) => {
      view.setFloat64(0, 1e300);
      view.setFloat64(8, -Infinity);
    });
    expect(read('float', 64, wild)).toEqual([0, 0, '2 no sound']);
  });

  it('reads no more marked places than there are bytes for', () => {
    const bytes = bytesOf(4 + 2 * 24 + 7, (view) => {
      view.setUint32(0, 1000, true);
      view.setUint32(4, 7, true);
      view.setUint32(4 + 20, 4321, true);
      view.setUint32(28, 8, true);
      view.setUint32(28 + 20, 9876, true);
    });
    expect(readCues(bytes, true).map(({ id, position }) => [id, position])).toEqual([
      [7, 4321],
      [8, 9876],
    ]);
    expect(readCues(new Uint8Array(3), true)).toEqual([]);
  });

  it('reads a text to its end, or to where it was filled up', () => {
    const text = '<BWFXML><NOTE>Evensong</NOTE></BWFXML>';
    expect(readIxml(Buffer.from(text))).toBe(text);
    expect(readIxml(Buffer.from(`${text}\0\0\0`))).toBe(text);
  });

  it('takes of a FLAC file only comments that have a name', async () => {
    const texts = ['TITLE=Evensong', 'no name', '=nothing', 'artist=Choir=and organ'];
    const encoded = texts.map((text) => new TextEncoder().encode(text));
    const size = 4 + 4 + encoded.reduce((sum, text) => sum + 4 + text.length, 0);
    const comments = bytesOf(size, (view) => {
      view.setUint32(4, texts.length, true);
      let at = 8;
      for (const text of encoded) {
        view.setUint32(at, text.length, true);
        text.forEach((byte, i) => view.setUint8(at + 4 + i, byte));
        at += 4 + text.length;
      }
    });
    const stream = bytesOf(34, (view) => {
      view.setUint16(0, 4096);
      view.setUint16(2, 4096);
      // 48 kHz, two channels, 24 bits, 96 000 frames.
      const [rate, channels, bits] = [48_000, 2 - 1, 24 - 1];
      view.setUint32(10, (rate << 12) | (channels << 9) | (bits << 4));
      view.setUint32(14, 96_000);
    });
    const block = (kind: number, content: Uint8Array, last: boolean): Uint8Array =>
      Uint8Array.from([
        kind | (last ? 0x80 : 0),
        content.length >> 16,
        (content.length >> 8) & 255,
        content.length & 255,
        ...content,
      ]);
    const file = Buffer.concat([
      Buffer.from('fLaC'),
      block(0, stream, false),
      block(4, comments, true),
      new Uint8Array(64),
    ]);
    const header = await readFlacHeader(memorySource(file));
    if (!header.ok) throw new Error(header.message);
    const { info } = header.value;
    expect(info.format).toMatchObject({ channels: 2, sampleRateHz: 48_000, bits: 24 });
    expect(info.frames).toBe(96_000);
    expect(info.info).toEqual({ TITLE: 'Evensong', ARTIST: 'Choir=and organ' });
  });

  it('finds the sizes of an RF64 file that stand in its table', async () => {
    const frames = 100;
    const chunk = (name: string, size: number, content: Uint8Array): Buffer => {
      const head = Buffer.alloc(8);
      head.write(name, 0, 'latin1');
      head.writeUInt32LE(size, 4);
      return Buffer.concat([head, content]);
    };
    const sizes = bytesOf(28 + 24, (view) => {
      view.setUint32(0, 328, true);
      view.setUint32(8, frames * 2, true);
      view.setUint32(16, frames, true);
      view.setUint32(24, 2, true);
      [
        ['abcd', 6],
        ['efgh', 10],
      ].forEach(([name, size], i) => {
        Array.from(String(name)).forEach((letter, k) =>
          view.setUint8(28 + 12 * i + k, letter.charCodeAt(0)),
        );
        view.setUint32(32 + 12 * i, Number(size), true);
      });
    });
    const format = bytesOf(16, (view) => {
      view.setUint16(0, 1, true);
      view.setUint16(2, 1, true);
      view.setUint32(4, 8000, true);
      view.setUint32(8, 16_000, true);
      view.setUint16(12, 2, true);
      view.setUint16(14, 16, true);
    });
    const samples = bytesOf(frames * 2, (view) => {
      for (let i = 0; i < frames; i++) view.setInt16(2 * i, 100 * i, true);
    });
    const large = 0xffffffff;
    const file = Buffer.concat([
      chunk('RF64', large, Buffer.from('WAVE')),
      chunk('ds64', sizes.length, sizes),
      chunk('fmt ', 16, format),
      chunk('efgh', large, new Uint8Array(10)),
      chunk('abcd', large, new Uint8Array(6)),
      chunk('data', large, samples),
    ]);
    const sound = await openSound(memorySource(file));
    if (!sound.ok) throw new Error(sound.message);
    expect(sound.value.info).toMatchObject({ container: 'RF64', frames, warnings: [] });
    const planes = await heldSamples(sound.value, 0, 1);
    expect(planes[0]?.[99]).toBeCloseTo(9900 / 2 ** 15, 9);
  });
});
