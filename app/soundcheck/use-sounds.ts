import { useMemo } from 'react';
import { dbToAmplitude } from '../../core/units';
import { trimDbOf } from '../../core/audio/listen/matching';
import { run, type Options } from '../workers/run';
import { useAnswer, type Answering, type AnswerState } from '../workers/use-task';
import type { Comparable, Lines, Sounding } from './compared';

/** What is chosen as it can be heard, and what brings it to one loudness over the passage. */

export interface Made {
  comparables: readonly Comparable[];
  sounds: readonly Sounding[];
}

const made: Answering<readonly Comparable[], Made> = async (comparables, help) => {
  const sounds: Sounding[] = [];
  for (const [i, one] of comparables.entries()) {
    const part: Options = {
      ...(help.signal && { signal: help.signal }),
      onProgress: (done) => help.onProgress?.((i + done) / comparables.length),
    };
    try {
      sounds.push(await one.sound(part));
    } catch (error) {
      if (help.signal?.aborted) throw error;
      throw new Error(`${one.name}: ${error instanceof Error ? error.message : String(error)}`, {
        cause: error,
      });
    }
    help.signal?.throwIfAborted();
  }
  return { comparables, sounds };
};

/** Made beside the page; made again only where another version is chosen. */
export function useMade(chosen: readonly Comparable[]): AnswerState<Made> {
  const same = chosen
    .map(({ id, version, performance }) => [id, version, performance].join())
    .join('\n');
  const ask = useMemo(
    () => (chosen.length > 0 ? chosen : null),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is heard of them is all that matters
    [same],
  );
  return useAnswer(ask, made);
}

export interface Passage {
  fromS: number;
  toS: number;
}

/** One thing at the loudness of all. */
export interface Matched {
  /** as it is, LUFS; null where nothing is to be heard of it */
  loudness: number | null;
  trimDb: number | null;
}

export interface Matching {
  of: Matched[];
  /** the two that are farthest from each other once they are trimmed, LU; null where one is silent */
  residualLu: number | null;
}

interface MatchAsk {
  sounds: readonly Sounding[];
  lines: Lines;
  passage: Passage;
}

/** Blind nothing may be louder than another by more, LU. */
export const MOST_RESIDUAL_LU = 0.1;

const matched: Answering<MatchAsk, Matching> = async ({ sounds, lines, passage }, help) => {
  const of: Matched[] = [];
  const after: (number | null)[] = [];
  for (const [i, { file, gains, processing }] of sounds.entries()) {
    const fromS = lines.fromS[i] ?? 0;
    const stretch = { fromS: passage.fromS - fromS, toS: passage.toS - fromS };
    const part: Options = {
      ...(help.signal && { signal: help.signal }),
      onProgress: (done) => help.onProgress?.((i + done / 2) / sounds.length),
    };
    const loudness = await run('heard', { file, gains, processing, stretch }, part);
    const trimDb = trimDbOf(loudness);
    of.push({ loudness, trimDb });
    // What comes of the trim is measured as well, not believed.
    const by = dbToAmplitude(trimDb ?? 0);
    const trimmed = gains.map(({ left, right }) => ({ left: by * left, right: by * right }));
    after.push(
      loudness === null
        ? null
        : await run('heard', { file, gains: trimmed, processing, stretch }, part),
    );
  }
  const known = after.flatMap((value) => value ?? []);
  const residualLu = known.length < sounds.length ? null : Math.max(...known) - Math.min(...known);
  return { of, residualLu };
};

/** What brings each to one loudness over the passage. */
export function useMatching(
  made: Made | null,
  lines: Lines | null,
  passage: Passage | null,
): AnswerState<Matching> {
  const [fromS, toS] = [passage?.fromS ?? 0, passage?.toS ?? 0];
  const ask = useMemo(
    () =>
      made && lines && toS > fromS ? { sounds: made.sounds, lines, passage: { fromS, toS } } : null,
    [made, lines, fromS, toS],
  );
  return useAnswer(ask, matched);
}
