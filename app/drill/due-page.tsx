import { useState } from 'react';
import { nextUp, type Standing } from '../../core/drill';
import { ExerciseRun } from './exercise-run';
import { useRounds } from './rounds';
import { dueText } from './standing-text';
import { useStandings } from './standings';

/** One exercise, chosen by what is due. */
export function DuePage() {
  const rounds = useRounds();
  const standings = useStandings(rounds);
  const [skipped, setSkipped] = useState<readonly string[]>([]);
  const [held, setHeld] = useState<Standing | null>(null);
  if (!rounds || !standings) return <p className="text-muted">What is due is looked up …</p>;
  const [first] = nextUp(standings.filter(({ id }) => !skipped.includes(id)));
  // What is under way stays, though its own answers move it back.
  const shown = held ?? first ?? standings[0];
  if (!shown) return null;
  if (!held) setHeld(shown);
  const end = (): void => {
    const all = [...skipped, shown.id];
    setSkipped(all.length >= standings.length ? [] : all);
    setHeld(null);
  };
  return (
    <div className="flex flex-col gap-4">
      <p className="text-muted flex flex-wrap items-center gap-3">
        <span>
          {shown.name} · {dueText(shown.due)}
        </span>
        <button className="btn btn-xs" onClick={end}>
          Another one
        </button>
      </p>
      <ExerciseRun key={shown.id} exercise={shown} rounds={rounds} end={end} />
    </div>
  );
}
