import type { Sound } from './sound';
import type { Block } from './wav/reader';

/** How whoever asks for long work hears of it, ends it, and gets a turn between. */
export interface Work {
  /** told 0 … 1, never less than before */
  progress(fraction: number): void;
  /** waited for between steps of at most some 50 ms */
  breathe(): Promise<void>;
  /** once it is aborted, the work ends with Cancelled at the next step */
  signal: { readonly aborted: boolean };
}

/** Work that was given up by whoever asked for it. */
export class Cancelled extends Error {
  constructor() {
    super('given up');
    this.name = 'Cancelled';
  }
}

/** One step is done. @throws Cancelled where it was given up */
export async function stepDone({ signal, breathe }: Partial<Work>): Promise<void> {
  if (signal?.aborted) throw new Cancelled();
  await breathe?.();
  if (signal?.aborted) throw new Cancelled();
}

/** Of a whole, the part from one fraction to another. */
export const partOf = (
  { progress, ...work }: Partial<Work>,
  from: number,
  to: number,
): Partial<Work> =>
  progress ? { ...work, progress: (fraction) => progress(from + fraction * (to - from)) } : work;

/**
 * The blocks of a stretch, each of them a step of the work.
 * @param range frames; and the channels that are wanted, where not all are
 * @throws Cancelled where it was given up
 */
export async function* walked(
  sound: Sound,
  range: { from: number; to: number; only?: readonly number[] },
  work: Partial<Work>,
): AsyncGenerator<Block, void, undefined> {
  const { from, to } = range;
  if (from >= to) return;
  for await (const block of sound.blocks(range)) {
    yield block;
    work.progress?.(Math.min(1, (block.position + block.frames - from) / (to - from)));
    await stepDone(work);
  }
}
