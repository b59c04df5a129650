import { useMemo, useState } from 'react';
import {
  CartesianGrid,
  ComposedChart,
  ErrorBar,
  Line,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import {
  answersTable,
  EXERCISES,
  nextUp,
  progressOf,
  type Progress,
  type Round,
  type Standing,
} from '../../core/drill';
import { formatNumber } from '../../core/units';
import { AXIS, axisTitle, GRID, MARGIN } from '../charts/axes';
import { ChartFrame } from '../charts/chart-frame';
import { forgetDrill } from '../keeping/drill-store';
import { downloadJson, downloadTable } from '../keeping/tables';
import { notify, notifyFailure } from '../view/notices';
import { useRounds } from './rounds';
import { dueText, standingText } from './standing-text';
import { useStandings } from './standings';

/** What all answers say, over time, and what to practise next. */
export function ResultsPage() {
  const rounds = useRounds();
  const standings = useStandings(rounds);
  const [chosen, setChosen] = useState('');
  if (!rounds || !standings) return <p className="text-muted">The results are read …</p>;
  const practised = standings.filter((one) => one.answers > 0);
  const [next] = nextUp(standings);
  if (practised.length === 0) {
    return (
      <p role="status" className="max-w-[60ch]">
        Nothing was practised yet. “Due now” begins with {next?.name ?? 'an exercise'}; what comes
        of it stands here, with how sure it is.
      </p>
    );
  }
  const shown = practised.find(({ id }) => id === chosen) ?? practised[0];
  return (
    <div className="flex flex-col gap-5">
      {next && (
        <p role="status" aria-label="What to practise next" className="text-[17px]">
          Next: {next.name}, {dueText(next.due)}.
        </p>
      )}
      <table className="ledger-table w-full max-w-5xl" aria-label="Results">
        <thead>
          <tr>
            <th>Exercise</th>
            <th className="num">Rounds</th>
            <th className="num">Answers</th>
            <th>What is known</th>
            <th>Comes back</th>
          </tr>
        </thead>
        <tbody>
          {practised.map((standing) => (
            <tr key={standing.id}>
              <th scope="row">{standing.name}</th>
              <td className="num">{standing.rounds}</td>
              <td className="num">{standing.answers}</td>
              <td>{standingText(standing)}</td>
              <td className="whitespace-nowrap">{dueText(standing.due)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {shown && <OverTime {...{ shown, practised, rounds, setChosen }} />}
      <Exports rounds={rounds} />
    </div>
  );
}

interface OverTimeProps {
  shown: Standing;
  practised: readonly Standing[];
  rounds: readonly Round[];
  setChosen: (id: string) => void;
}

function OverTime({ shown, practised, rounds, setChosen }: OverTimeProps) {
  const progress = useMemo(() => {
    const exercise = EXERCISES.find(({ id }) => id === shown.id);
    return exercise ? progressOf(exercise, rounds) : null;
  }, [shown.id, rounds]);
  return (
    <section aria-label="Over time" className="max-w-3xl">
      <label className="flex items-center gap-2 pb-2">
        <span className="text-muted">Over time</span>
        <select
          className="select select-sm w-auto"
          value={shown.id}
          onChange={(event) => setChosen(event.currentTarget.value)}
        >
          {practised.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {progress && progress.points.length > 0 ? (
        <ProgressChart progress={progress} name={shown.name} />
      ) : (
        <p className="text-muted">So few answers make no first point yet.</p>
      )}
    </section>
  );
}

function ProgressChart({ progress, name }: { progress: Progress; name: string }) {
  const data = progress.points.map((point, i) => ({
    round: i + 1,
    value: point.value,
    spread: [point.value - point.low, point.high - point.value],
  }));
  return (
    <ChartFrame
      title={`${name}: ${progress.what}`}
      about="After each round, with where it lies nine times of ten."
      header={['when', progress.what, 'from', 'to']}
      rows={progress.points.map(({ at, value, low, high }) => [at, value, low, high])}
    >
      <ResponsiveContainer width="100%" height={230}>
        <ComposedChart data={data} margin={MARGIN}>
          <CartesianGrid {...GRID} />
          <XAxis
            dataKey="round"
            type="number"
            domain={[0.5, data.length + 0.5]}
            ticks={data.map(({ round }) => round)}
            label={axisTitle('round', 'bottom')}
            {...AXIS}
          />
          <YAxis
            type="number"
            domain={[0, (most: number) => Math.ceil(1.1 * most)]}
            tickFormatter={(value: number) => formatNumber(value, value < 10 ? 1 : 0)}
            label={axisTitle(progress.unit, 'left')}
            {...AXIS}
          />
          <Line
            dataKey="value"
            stroke="var(--color-primary)"
            strokeWidth={1.6}
            isAnimationActive={false}
            dot={{ r: 3, fill: 'var(--color-primary)' }}
          >
            <ErrorBar dataKey="spread" width={6} stroke="var(--muted)" strokeWidth={1.2} />
          </Line>
        </ComposedChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

function Exports({ rounds }: { rounds: readonly Round[] }) {
  const [asks, setAsks] = useState(false);
  const table = (): ReturnType<typeof answersTable> => answersTable(rounds);
  const forget = (): void => {
    forgetDrill(rounds.map(({ id }) => id)).then(
      () => notify('All results of exercises are gone; models are not.'),
      notifyFailure,
    );
    setAsks(false);
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <button
        className="btn btn-sm"
        onClick={() => {
          const { header, rows } = table();
          void downloadTable('drill results', header, rows).catch(notifyFailure);
        }}
      >
        CSV
      </button>
      <button
        className="btn btn-sm"
        onClick={() => {
          const { header, rows } = table();
          downloadJson('drill results', header, rows);
        }}
      >
        JSON
      </button>
      {asks ? (
        <>
          <span>Delete the answers of {rounds.length} rounds? They cannot be brought back.</span>
          <button className="btn btn-sm btn-error" onClick={forget}>
            Delete them
          </button>
          <button className="btn btn-sm" autoFocus onClick={() => setAsks(false)}>
            Keep them
          </button>
        </>
      ) : (
        <button className="btn btn-sm btn-ghost" onClick={() => setAsks(true)}>
          Delete all results …
        </button>
      )}
    </div>
  );
}
