import { readFileSync } from 'node:fs';
import {
  encodeFrames,
  makeSignal,
  measureTake,
  openSound,
  SIGNAL_NAMES,
  utf8Bytes,
  wavEnd,
  wavHeader,
  type ByteSource,
  type Sound,
  type WrittenFormat,
} from '../core/audio';
import { flacFile } from '../core/audio/fixtures/flac';
import { memorySource } from '../core/audio/fixtures/memory';
import { seededRandom } from '../core/units/random';
import { tryCall, type Trouble } from './run';

/** A whole file of some kind, made from a seed. */
function wholeFile(random: () => number): Uint8Array {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const kind = random() < 0.2 ? 'float' : 'integer';
  const planes = makeSignal(pick(SIGNAL_NAMES), { seconds: 0.02 + random() * 0.2, seed: 3 });
  const frames = planes[0]?.length ?? 0;
  const format: WrittenFormat = {
    kind,
    bits: kind === 'float' ? pick([32, 64] as const) : pick([16, 24, 32] as const),
    channels: planes.length,
    sampleRateHz: pick([44_100, 48_000, 96_000]),
  };
  const head = wavHeader(format, random() < 0.1 ? null : frames, {
    cues: [{ id: 1, position: Math.floor(frames / 2), label: 'Again' }],
    info: { INAM: 'Étude' },
    channelNames: ['L', 'R <&>'],
    note: 'made',
    broadcast: {
      description: 'take',
      originator: '',
      originatorReference: '',
      date: '2026-11-26',
      time: '10:00:00',
      timeReference: 48_000,
      codingHistory: 'A=PCM',
    },
  });
  const samples = encodeFrames(planes, frames, format);
  const behind = random() < 0.2 ? LIST : new Uint8Array(0);
  return Buffer.concat([head, samples, wavEnd(format, frames), behind]);
}

/** A chunk behind the samples. */
const LIST = utf8Bytes('LIST\x12\0\0\0INFOINAM\x06\0\0\0Quiet\0');

/** A FLAC file of noise, with or without a table to find one's way in it. */
function wholeFlac(random: () => number): Uint8Array {
  const bits = random() < 0.5 ? 16 : 24;
  const planes = Array.from({ length: 1 + Math.floor(random() * 2) }, () =>
    Int32Array.from({ length: 3000 }, () => Math.floor((random() - 0.5) * 2 ** bits)),
  );
  return flacFile(planes, bits, 48_000, random() < 0.5 ? 1 : 0);
}

/** One fault: bytes turned, numbers of the header put at their limits, a stretch cut out or doubled. */
function damage(bytes: Uint8Array, random: () => number): Uint8Array {
  const at = (most: number): number => Math.floor(random() * most);
  // Most of what can go wrong stands before the samples.
  const place = random() < 0.8 ? at(Math.min(bytes.length, 1200)) : at(bytes.length);
  const out = Uint8Array.from(bytes);
  switch (at(6)) {
    case 0:
      out[place] = at(256);
      return out;
    case 1:
      new DataView(out.buffer).setUint32(
        Math.min(place, out.length - 4),
        [0, 1, 0xffff, 0x7fffffff, 0xffffffff][at(5)] ?? 0,
        true,
      );
      return out;
    case 2:
      return out.subarray(0, place);
    case 3:
      return Buffer.concat([out.subarray(0, place), out.subarray(place + 1 + at(64))]);
    case 4:
      return Buffer.concat([out.subarray(0, place), out.subarray(Math.max(0, place - at(64)))]);
    default:
      out.fill(at(2) === 0 ? 0 : 255, place, place + at(40));
      return out;
  }
}

const FLAC = readFileSync('core/audio/flac/fixtures/late-noise.flac');
/** One file of so many is FLAC. */
const FLAC_EVERY = 8;

export function damagedSound(seed: number): Uint8Array {
  const random = seededRandom(seed * 7919);
  const flac = seed % (2 * FLAC_EVERY) === 0 ? wholeFlac(random) : Uint8Array.from(FLAC);
  let bytes = seed % FLAC_EVERY === 0 ? flac : wholeFile(random);
  const faults = 1 + Math.floor(random() * 3);
  for (let i = 0; i < faults && bytes.length > 4; i++) bytes = damage(bytes, random);
  return bytes;
}

/** No read of a damaged file may ask for more than this at once, bytes. */
const MOST_AT_ONCE = 64 * 2 ** 20;

const guarded = (bytes: Uint8Array): ByteSource => {
  const source = memorySource(bytes);
  return {
    size: source.size,
    read: (offset, length) => {
      if (!(length >= 0 && length <= MOST_AT_ONCE))
        throw new Error(`reads ${length} bytes at once`);
      return source.read(offset, length);
    },
  };
};

/** What was said of its length is what comes out, block by block. */
async function readWhole(sound: Sound): Promise<void> {
  let frames = 0;
  for await (const block of sound.blocks()) frames += block.frames;
  const { container, frames: said, warnings } = sound.info;
  // How long a FLAC file really is shows only when it is read.
  const short = container === 'FLAC' && frames < said && warnings.length > 0;
  if (frames !== said && !short) throw new Error(`${frames} frames were read of ${said}`);
}

/** Reads a damaged recording: refused with what is allowed, or read whole and measured. */
export async function tryDamagedSound(seed: number): Promise<Trouble[]> {
  const source = guarded(damagedSound(seed));
  const trouble = await tryCall(seed, [
    'a damaged recording',
    async () => {
      const sound = await openSound(source);
      if (!sound.ok) {
        if (!/allowed: |is missing; there are: /.test(sound.message)) {
          throw new Error(`a refusal that does not say what is allowed: ${sound.message}`);
        }
        return null;
      }
      await readWhole(sound.value);
      return measureTake(sound.value, { what: ['levels', 'bands', 'delays', 'identity'] });
    },
  ]);
  return trouble ? [trouble] : [];
}
