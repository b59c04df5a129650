import { useMemo, useState } from 'react';
import { EXERCISES, standingOf, type Exercise, type Round, type Standing } from '../../core/drill';

/** How every exercise stands, by the clock of when the page was opened. */
export function useStandings(
  rounds: readonly Round[] | null,
  of: (exercise: Exercise) => boolean = () => true,
): readonly Standing[] | null {
  const [now] = useState(() => new Date().toISOString());
  return useMemo(
    () => rounds && EXERCISES.filter(of).map((exercise) => standingOf(exercise, rounds, now)),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- which ones never changes
    [rounds, now],
  );
}
