import type { ReactNode } from 'react';
import type { Standing } from '../../core/drill';
import { dueText, standingText } from './standing-text';

interface Props {
  label: string;
  standings: readonly Standing[];
  about: (standing: Standing) => ReactNode;
  begin: (standing: Standing) => void;
}

/** Exercises to choose from, each with how it stands. */
export function ExerciseList({ label, standings, about, begin }: Props) {
  return (
    <table className="ledger-table w-full max-w-5xl" aria-label={label}>
      <thead>
        <tr>
          <th>Exercise</th>
          <th>What is known of you</th>
          <th>Comes back</th>
          <th>
            <span className="sr-only">Begin</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {standings.map((standing) => (
          <tr key={standing.id}>
            <th scope="row">
              {standing.name}
              <span className="text-muted block font-normal">{about(standing)}</span>
            </th>
            <td>{standingText(standing) || '—'}</td>
            <td className="whitespace-nowrap">{dueText(standing.due)}</td>
            <td>
              <button className="btn btn-sm" onClick={() => begin(standing)}>
                Begin<span className="sr-only"> {standing.name}</span>
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
