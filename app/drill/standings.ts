import { useMemo, useState } from 'react';
import { EXERCISES, standingOf, type Exercise, type Round, type Standing } from '../../core/drill';

/** How every exercise stands, by the clock of when the page was opened. */
export function useStandings(
  rounds: readonly Round[] | null,
  page: Exercise['page'] | null = null,
): readonly Standing[] | null {
  const [now] = useState(() => new Date().toISOString());
  return useMemo(
    () =>
      rounds &&
      EXERCISES.filter((one) => page === null || one.page === page).map((exercise) =>
        standingOf(exercise, rounds, now),
      ),
    [rounds, now, page],
  );
}
