import type { Processing } from './processed';

/** What several channels are made into. */
export const FOLDS = ['mono', 'stereo'] as const;
export type Fold = (typeof FOLDS)[number];

/**
 * Channels folded down: to mono each by 1/√2, as loud as two unlike ones are; to two, odd ones left and even
 * ones right, a last odd one in the middle.
 * @param channels 1 … 64
 */
export function foldOf(kind: Fold, channels: number): Processing['fold'] {
  const every = Array.from({ length: channels }, (_, c) => c);
  if (kind === 'mono') return [{ name: 'Mono', gains: every.map(() => Math.SQRT1_2) }];
  const middle = channels % 2 === 1 ? channels - 1 : -1;
  const gain = (c: number, side: number): number =>
    c === middle ? Math.SQRT1_2 : c % 2 === side ? 1 : 0;
  return [
    { name: 'L', gains: every.map((c) => gain(c, 0)) },
    { name: 'R', gains: every.map((c) => gain(c, 1)) },
  ];
}
