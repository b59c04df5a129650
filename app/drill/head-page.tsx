import { useState } from 'react';
import { CLAIMS, type Standing } from '../../core/drill';
import { ExerciseList } from './exercise-list';
import { ExerciseRun } from './exercise-run';
import { useRounds } from './rounds';
import { useStandings } from './standings';

/** Arithmetic of the trade, and its claims. */
export function HeadPage() {
  const rounds = useRounds();
  const standings = useStandings(rounds, 'head');
  const [chosen, setChosen] = useState<Standing | null>(null);
  if (!rounds || !standings) return <p className="text-muted">The results are read …</p>;
  if (chosen) {
    return <ExerciseRun exercise={chosen} rounds={rounds} end={() => setChosen(null)} />;
  }
  return (
    <section aria-label="Exercises of the head" className="flex flex-col gap-3">
      <p className="max-w-[76ch]">
        Numbers are fresh each time and an answer may be in any unit; the way to it is said
        afterwards. Of the {CLAIMS.length} claims, physics is kept apart from custom.
      </p>
      <ExerciseList
        label="Exercises of the head"
        standings={standings}
        about={({ id }) => (id.endsWith('claims') ? 'true, false, or it depends' : 'arithmetic')}
        begin={setChosen}
      />
    </section>
  );
}
