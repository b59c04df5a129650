import { EAR, EAR_KINDS, earExercise, type Due, type Standing } from '../../core/drill';
import { formatNumber } from '../../core/units';

/** "comes back in 3 days", "due today", "never practised". */
export function dueText({ at, inDays }: Due): string {
  if (at === null) return 'never practised';
  if (inDays <= -1) return `due for ${formatNumber(-inDays, 0)} days`;
  if (inDays <= 0) return 'due today';
  return inDays < 1.5 ? 'comes back tomorrow' : `comes back in ${formatNumber(inDays, 0)} days`;
}

/** What an exercise shows of the listener, with how sure that is; empty where nothing is known. */
export function standingText({ id, error, threshold, right, answers }: Standing): string {
  if (error) {
    const { meanPct, withinPct, sidePct } = error;
    const side =
      Math.abs(sidePct) < 2
        ? ''
        : `, ${formatNumber(Math.abs(sidePct), 0)} % too far ${sidePct < 0 ? 'left' : 'right'} as a whole`;
    // Of so few nothing can be said of how sure it is.
    if (error.answers < 5) {
      return `Off by ${formatNumber(meanPct, 0)} % of the half base, of ${error.answers === 1 ? 'one answer' : `${error.answers} answers`}: too few to rely on.`;
    }
    return `Off by ${formatNumber(meanPct, 0)} ± ${formatNumber(withinPct, 0)} % of the half base on average, of ${error.answers} answers${side}.`;
  }
  if (threshold) {
    const kind = EAR_KINDS.find((one) => earExercise(one) === id);
    const { unit = '', decimals = 1 } = (kind && EAR[kind].scale) ?? {};
    const [size, low, high] = [threshold.size, threshold.low, threshold.high].map((value) =>
      formatNumber(value, decimals),
    );
    return `Three of four right at ${size} ${unit}; nine times of ten between ${low} and ${high} ${unit}, from the last ${threshold.trials} answers.`;
  }
  if (right) {
    const [low, high] = [right.low, right.high].map((share) => formatNumber(100 * share, 0));
    return `${formatNumber(100 * right.share, 0)} % of ${answers === 1 ? 'one answer' : `${answers} answers`} right; nine times of ten between ${low} and ${high} %.`;
  }
  return '';
}
