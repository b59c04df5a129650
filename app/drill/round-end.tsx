import { useMemo } from 'react';
import { useStore } from 'zustand';
import { EXERCISES, standingOf, type Answered, type Round } from '../../core/drill';
import { drillStore } from '../keeping/drill-store';
import { dueText, standingText } from './standing-text';

interface Props {
  exercise: string;
  answers: readonly Answered[];
  again: () => void;
  end: () => void;
}

const NO_ROUNDS: readonly Round[] = [];

/** What came of a round, with all that is known of its exercise. */
export function RoundEnd({ exercise, answers, again, end }: Props) {
  const rounds = useStore(drillStore, (state) => state.rounds) ?? NO_ROUNDS;
  const standing = useMemo(() => {
    const known = EXERCISES.find(({ id }) => id === exercise);
    return known ? standingOf(known, rounds, new Date().toISOString()) : null;
  }, [exercise, rounds]);
  const right = answers.filter((one) => one.right).length;
  const isPlace = answers.some(({ errorPct }) => errorPct !== null);
  const said = standing ? standingText(standing) : '';
  return (
    <section aria-label="After the round" className="flex max-w-[70ch] flex-col gap-3">
      <p role="status" aria-label="Round’s outcome" className="text-[18px]">
        {isPlace ? said : `${right} of ${answers.length} right. ${said}`}
      </p>
      {standing?.threshold === null && exercise.startsWith('ear') && !isPlace && (
        <p className="text-muted">
          The size at which three of four are right can be said from twelve answers on.
        </p>
      )}
      {standing && (
        <p className="text-muted">
          {standing.name} {dueText(standing.due)}.
        </p>
      )}
      <div className="flex flex-wrap gap-3">
        <button className="btn btn-primary" autoFocus onClick={again}>
          Another round
        </button>
        <button className="btn" onClick={end}>
          Something else
        </button>
      </div>
    </section>
  );
}
