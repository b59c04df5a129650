import { solveRecordingAngle, type Solution, type Wanted } from '../localisation/solve';
import type { MicArray, Session, SessionTechnique } from '../session/schema';
import { judgeArray } from './judge';

/** A way to a wanted recording angle, judged where the array stands. */
export interface JudgedSolution extends Solution {
  /** 0 … 100 by the brief, as everything that is recommended or compared */
  score: number;
  /** how much of the place time makes, 0 … 1 */
  timeShare: number;
  /** of both channels in the diffuse field at 125 Hz */
  lowCorrelation: number;
}

/** Enough to tell one technique from another. */
const DRAWS = 100;

/**
 * The ways to a wanted recording angle, ranked by the brief with the array where it stands. What
 * leaves a player without a stable image is left out, as long as anything does not. Without players
 * the order is that of the models' agreement.
 */
export function* solvedAndRanked(
  session: Session,
  array: MicArray,
  wanted: Wanted,
): Generator<number, JudgedSolution[], undefined> {
  const solutions = solveRecordingAngle(wanted);
  const judged: (JudgedSolution & { broken: number })[] = [];
  for (const [index, solution] of solutions.entries()) {
    const technique = solution.technique as SessionTechnique;
    const mix = { ...array.mix, capsules: [] };
    const { score, measures } = judgeArray(session, { ...array, technique, mix }, DRAWS);
    const { timeShare, lowCorrelation, broken } = measures;
    judged.push({ ...solution, score, timeShare, lowCorrelation, broken });
    yield (index + 1) / solutions.length;
  }
  if (session.sources.length === 0) return judged;
  const sound = judged.filter(({ broken }) => broken === 0);
  return (sound.length > 0 ? sound : judged).sort((a, b) => b.score - a.score);
}
