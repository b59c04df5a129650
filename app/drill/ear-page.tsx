import { useState } from 'react';
import { EAR, EAR_KINDS, earExercise, type Standing } from '../../core/drill';
import { ExerciseList } from './exercise-list';
import { ExerciseRun } from './exercise-run';
import { useRounds } from './rounds';
import { useStandings } from './standings';

const shortOf = ({ id }: Standing): string => {
  const kind = EAR_KINDS.find((one) => earExercise(one) === id);
  return kind ? EAR[kind].short : '';
};

/** What the ear can be asked. */
export function EarPage() {
  const rounds = useRounds();
  const standings = useStandings(rounds, 'ear');
  const [chosen, setChosen] = useState<Standing | null>(null);
  if (!rounds || !standings) return <p className="text-muted">The results are read …</p>;
  if (chosen) {
    return <ExerciseRun exercise={chosen} rounds={rounds} end={() => setChosen(null)} />;
  }
  return (
    <section aria-label="Exercises of the ear" className="flex flex-col gap-3">
      <p className="max-w-[76ch]">
        Made-up players in made-up halls, another one with every question; all that is compared is
        brought to one loudness, and nothing but what is asked differs.
      </p>
      <ExerciseList
        label="Exercises of the ear"
        standings={standings}
        about={shortOf}
        begin={setChosen}
      />
    </section>
  );
}
