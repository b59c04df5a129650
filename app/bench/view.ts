import { clamp } from '../../core/units';

/** What of a recording is seen: frames. */
export interface View {
  from: number;
  to: number;
}

/** Nobody looks at fewer, frames. */
const LEAST = 32;

/** A view that lies within a recording, and is wide enough to be one. */
export function within({ from, to }: View, frames: number): View {
  const wide = clamp(to - from, Math.min(LEAST, frames), frames);
  const begin = clamp(from, 0, frames - wide);
  return { from: begin, to: begin + wide };
}

/** Nearer or farther, about a place that stays where it is. @param by 2 shows twice as much */
export function zoomed({ from, to }: View, at: number, by: number, frames: number): View {
  // At its limits it does not wander.
  const wide = clamp((to - from) * by, Math.min(LEAST, frames), frames);
  const share = (at - from) / Math.max(1, to - from);
  return within({ from: at - share * wide, to: at + (1 - share) * wide }, frames);
}

/** Along by a share of what is seen. */
export function moved({ from, to }: View, share: number, frames: number): View {
  const by = (to - from) * share;
  return within({ from: from + by, to: to + by }, frames);
}

/** A place and what is around it, as much as is needed to see it. */
export const about = ({ from, to }: View, frames: number): View =>
  within({ from: from - 2 * (to - from), to: to + 2 * (to - from) }, frames);

/** "1:02.5", "62.5", "62,5 s", "0:01:02" as seconds; null where it is no time. */
export function secondsOf(text: string): number | null {
  const plain = text.trim().replace(/\s*s$/, '').replace(',', '.');
  if (!/^(\d+:){0,2}\d+(\.\d*)?$/.test(plain)) return null;
  return plain.split(':').reduce((sum, part) => 60 * sum + Number(part), 0);
}
