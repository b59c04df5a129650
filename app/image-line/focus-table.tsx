import { useMemo } from 'react';
import { formatNumber, shiftText } from '../../core/units';
import { usePlan } from '../document/use-session';
import { useSettled } from '../figures/use-settled';
import { FormulaLink } from '../parts/formula-link';
import { TaskNotes } from '../parts/task-notes';
import { useTask } from '../workers/use-task';

const REST_MS = 200;
/** Bands that are so far apart are loose, and so near to each other of one mind; half bases. */
const LOOSE = 0.6;
const SHARP = 0.25;

function focusWord(apart: number): string {
  if (apart <= SHARP) return 'sharp';
  return apart >= LOOSE ? 'loose' : 'fair';
}

/** Low, middle and high place of every player, and how far they disagree. */
export function FocusTable({ arrayId }: { arrayId: string | null }) {
  const session = usePlan();
  const rested = useSettled(session, REST_MS);
  const ask = useMemo(() => ({ session: rested, arrayId }), [rested, arrayId]);
  const { value, busy, error, progress } = useTask('focus', ask);
  const names = new Map(session.sources.map(({ id, name }) => [id, name]));
  const rows = value ?? [];
  return (
    <>
      <p className="text-muted py-1 text-[12.5px]">
        What steady sound says at a listener’s ears in three bands. Far apart is the loose, spacious
        quality of time differences; it is a picture of focus and no other opinion on the place.{' '}
        <FormulaLink to="focus">Formula</FormulaLink>
      </p>
      <TaskNotes
        doing="Listening"
        error={error}
        busy={busy}
        answered={rows.length > 0}
        progress={progress}
      />
      {rows.length > 0 && (
        <table
          className="ledger-table w-full"
          aria-label="Focus"
          aria-busy={busy}
          style={{ opacity: busy ? 0.6 : 1 }}
        >
          <thead>
            <tr>
              <th>Player</th>
              <th className="num">low, to 500 Hz</th>
              <th className="num">middle</th>
              <th className="num">high, from 1.6 kHz</th>
              <th className="num">apart</th>
              <th>Focus</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ sourceId, focus }) => (
              <tr key={sourceId}>
                <th scope="row">{names.get(sourceId) ?? ''}</th>
                <td className="num">{shiftText(focus?.low)}</td>
                <td className="num">{shiftText(focus?.middle)}</td>
                <td className="num">{shiftText(focus?.high)}</td>
                <td className="num">{focus ? `${formatNumber(focus.apart * 100, 0)} %` : '—'}</td>
                <td>{focus ? focusWord(focus.apart) : 'no figure'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
