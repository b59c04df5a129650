import { done, refused, type Outcome } from '../../units/outcome';
import type { Sound, SoundInfo } from '../sound';
import { stepDone, type Work } from '../work';
import { fourCharacters, type ByteSource } from '../wav/bytes';
import { planesFor, type Planes } from '../wav/decode';
import { blockFramesOf, type Block, type BlockRange } from '../wav/reader';
import { readFlacHeader } from './header';
import { placeBefore, type FlacStream, type FramePlace } from './seek';

/** Bytes given to the decoder at once. */
const CHUNK = 65_536;

/** @returns whether a file begins as FLAC does */
export const isFlac = async (source: ByteSource): Promise<boolean> =>
  fourCharacters(await source.read(0, 4)) === 'fLaC';

interface Decoded {
  channelData: Float32Array[];
  samplesDecoded: number;
  errors: { message: string }[];
}

/** Samples of so many bits, as every other reader has them: full scale is 2^(bits − 1) here, one less there. */
function rescaled(channelData: Float32Array[], bits: number): void {
  const full = 2 ** (bits - 1);
  for (const samples of channelData) {
    for (let i = 0; i < samples.length; i++) {
      samples[i] = Math.round((samples[i] as number) * (full - 1)) / full;
    }
  }
}

/** What a decoder needs to know before frames from the middle of a file. */
function headOf({ streamInfo }: FlacStream): Uint8Array {
  const head = new Uint8Array(8 + streamInfo.length);
  head.set([0x66, 0x4c, 0x61, 0x43, 0x80, 0, streamInfo.length >> 8, streamInfo.length & 255]);
  head.set(streamInfo, 8);
  return head;
}

/** All that the decoder gives from a frame on, piece by piece. */
async function* decoded(
  source: ByteSource,
  stream: FlacStream,
  { offset }: FramePlace,
): AsyncGenerator<Decoded, void, undefined> {
  // Loaded only where a FLAC file is read.
  const { FLACDecoder } = await import('@wasm-audio-decoders/flac');
  const decoder = new FLACDecoder();
  await decoder.ready;
  try {
    yield await decoder.decode(headOf(stream));
    for (let at = offset; at < source.size; at += CHUNK) {
      const bytes = await source.read(at, CHUNK);
      if (bytes.length === 0) break;
      yield await decoder.decode(Uint8Array.from(bytes));
    }
    yield await decoder.flush();
  } finally {
    decoder.free();
  }
}

const firstFrame = ({ framesAt }: FlacStream): FramePlace => ({ offset: framesAt, sample: 0 });

/** Samples of a stretch in blocks of one length, from the nearest frame before it. */
async function* flacBlocks(
  source: ByteSource,
  stream: FlacStream,
  { format: { channels }, validBits, frames }: SoundInfo,
  { from = 0, to = frames, blockFrames = blockFramesOf(channels) }: BlockRange,
  problem: (message: string) => void,
): AsyncGenerator<Block, void, undefined> {
  if (from >= to) return;
  const place = from > 0 ? await placeBefore(source, stream, from) : firstFrame(stream);
  const planes: Planes = planesFor(channels, Math.min(blockFrames, Math.max(1, to - from)));
  const room = planes[0]?.length ?? 0;
  let [position, filled, seen] = [from, 0, place.sample];
  for await (const { channelData, samplesDecoded, errors } of decoded(source, stream, place)) {
    for (const { message } of errors) problem(message);
    rescaled(channelData, validBits);
    let at = Math.max(0, from - seen);
    const end = Math.min(samplesDecoded, to - seen);
    while (at < end) {
      const take = Math.min(end - at, room - filled);
      planes.forEach((plane, c) => {
        const piece = channelData[c]?.subarray(at, at + take);
        if (piece) plane.set(piece, filled);
        else plane.fill(0, filled, filled + take);
      });
      filled += take;
      at += take;
      if (filled < room && position + filled < to) continue;
      yield { position, frames: filled, planes };
      position += filled;
      filled = 0;
    }
    seen += samplesDecoded;
    if (seen >= to) return;
  }
  if (filled > 0) yield { position, frames: filled, planes };
}

/** @returns frames that a file really holds, for one that does not say it */
async function countFrames(source: ByteSource, stream: FlacStream): Promise<number> {
  let frames = 0;
  for await (const { samplesDecoded } of decoded(source, stream, firstFrame(stream)))
    frames += samplesDecoded;
  return frames;
}

/**
 * Opens a FLAC file, decoded piece by piece in bounded memory.
 * @returns why it cannot be read, where it cannot
 */
export async function openFlac(source: ByteSource): Promise<Outcome<Sound>> {
  const header = await readFlacHeader(source);
  if (!header.ok) return header;
  const { info, counted, stream } = header.value;
  if (!counted) {
    info.warnings.push('the length of the samples was never written: they are counted');
    info.frames = await countFrames(source, stream);
    if (info.frames === 0)
      return refused('this FLAC file holds no samples; allowed: one that does');
  }
  let told = 0;
  const problem = (message: string): void => {
    told += 1;
    if (told === 1) info.warnings.push(`a part of the samples is damaged (${message})`);
  };
  return done({
    info,
    async *blocks(range = {}) {
      let end = range.from ?? 0;
      for await (const block of flacBlocks(source, stream, info, range, problem)) {
        end = block.position + block.frames;
        yield block;
      }
      const to = Math.min(info.frames, range.to ?? info.frames);
      if (end < to && told === 0) {
        told += 1;
        info.warnings.push(
          `the file ends ${((to - end) / info.format.sampleRateHz).toFixed(2)} s before its samples do: what is there is read`,
        );
      }
    },
  });
}

/** Is a FLAC file what was written? */
export type FlacCheck = 'whole' | 'damaged' | 'cannot be told';

/**
 * Decodes all of a FLAC file and compares its samples with the sum that was written with them.
 * @returns whether they are the same; 'cannot be told' where no sum was written
 * @throws Cancelled where it was given up
 */
export async function checkedFlac(
  source: ByteSource,
  work: Partial<Work> = {},
): Promise<Outcome<FlacCheck>> {
  const header = await readFlacHeader(source);
  if (!header.ok) return header;
  const { stream, md5: written, info } = header.value;
  if (written === null) return done('cannot be told');
  const [{ md5 }, { bytesToHex }] = await Promise.all([
    import('@noble/hashes/legacy.js'),
    import('@noble/hashes/utils.js'),
  ]);
  const sum = md5.create();
  const size = info.format.bits / 8;
  const full = 2 ** (info.validBits - 1);
  let [seen, faults] = [0, 0];
  for await (const piece of decoded(source, stream, firstFrame(stream))) {
    const { channelData, samplesDecoded, errors } = piece;
    faults += errors.length;
    const bytes = new Uint8Array(samplesDecoded * channelData.length * size);
    channelData.forEach((samples, c) => {
      for (let i = 0; i < samplesDecoded; i++) {
        const value = Math.round((samples[i] as number) * (full - 1));
        const at = (i * channelData.length + c) * size;
        for (let b = 0; b < size; b++) bytes[at + b] = value >> (8 * b);
      }
    });
    sum.update(bytes);
    seen += samplesDecoded;
    work.progress?.(Math.min(1, seen / Math.max(1, info.frames)));
    await stepDone(work);
  }
  return done(faults === 0 && bytesToHex(sum.digest()) === written ? 'whole' : 'damaged');
}
