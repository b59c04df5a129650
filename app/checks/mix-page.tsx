import { heardArrays } from '../../core/analysis';
import { imageIn } from '../../core/localisation';
import { shiftText } from '../../core/units';
import { usePlan } from '../document/use-session';
import { useFigures } from '../figures/figures';
import { useSettled } from '../figures/use-settled';
import { FormulaLink } from '../parts/formula-link';
import { TaskNotes } from '../parts/task-notes';
import { useTask } from '../workers/use-task';
import { ImageText, pullText } from './mix-text';

const REST_MS = 200;
/** A mix that takes a player so far out of the picture of the array is marked. */
const FAR = 0.15;

/** Where every player is in the whole mix, and which microphones put it there. */
export function MixPage() {
  const session = usePlan();
  const { array, bySource } = useFigures();
  const { value, busy, error, progress } = useTask('mix', useSettled(session, REST_MS));
  const { model } = session.settings;
  const rows = (value ?? []).flatMap((figures) => {
    const source = session.sources.find(({ id }) => id === figures?.sourceId);
    return figures && source ? [{ figures, source }] : [];
  });
  const heard = heardArrays(session);
  return (
    <section aria-label="Mix" className="flex max-w-5xl flex-col gap-3">
      {error === null && rows.length === 0 && !busy && (
        <p>Nothing to mix yet: it takes players, and an array that is heard.</p>
      )}
      <TaskNotes
        doing="Mixing"
        error={error}
        busy={busy}
        answered={rows.length > 0}
        progress={progress}
      />
      {rows.length > 0 && (
        <table
          className="ledger-table w-full"
          aria-label="The whole mix"
          aria-busy={busy}
          style={{ opacity: busy ? 0.6 : 1 }}
        >
          <thead>
            <tr>
              <th>Player</th>
              <th>{array ? `in ${array.name} alone` : 'in one array'}</th>
              <th>in the mix</th>
              <th>Who pulls</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ figures, source }) => {
              const alone = imageIn(bySource.get(source.id), model);
              const mixed = imageIn(figures, model);
              const moved = alone && mixed && Math.abs(mixed.shift - alone.shift) > FAR;
              return (
                <tr key={source.id}>
                  <th scope="row">{source.name}</th>
                  <td>{shiftText(alone?.shift)}</td>
                  <td className={moved ? 'text-warning' : ''}>
                    <ImageText figures={figures} model={model} />
                  </td>
                  <td>{pullText(figures)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      <p className="text-muted text-[12.5px]">
        {heard.length === 1
          ? 'One array is heard: the mix is its own picture. '
          : 'An estimate: what arrives first holds back what follows for 30 ms, by 10 dB, and all pull by their energy. A place that is more than 15 % off the one array’s is marked. '}
        <FormulaLink to="mix">Formula</FormulaLink>
      </p>
    </section>
  );
}
