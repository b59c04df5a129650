import { useState } from 'react';
import { PlanRun } from './plan-run';
import { useRounds } from './rounds';

/** What will this do? Asked of the open session. */
export function PlanPage() {
  const rounds = useRounds();
  const [turn, setTurn] = useState<number | null>(null);
  if (!rounds) return <p className="text-muted">The results are read …</p>;
  if (turn !== null) return <PlanRun key={turn} end={() => setTurn(null)} />;
  return (
    <section aria-label="From your plan" className="flex max-w-[70ch] flex-col gap-3">
      <h2 className="text-[18px]">What will this do?</h2>
      <p>
        Something is moved on a copy of this session: the array nearer, higher, wider, a spot
        louder, a player farther off. You say what becomes of a player, the width, the room or mono;
        then you see it with its figures and hear both, simulated. The plan itself stays as it is.
      </p>
      <p className="text-muted">
        Sound begins very softly there too: raise it yourself, and no louder than you would listen
        for an hour.
      </p>
      <div>
        <button className="btn btn-primary" onClick={() => setTurn(1)}>
          Begin
        </button>
      </div>
    </section>
  );
}
