import { CheckField } from '../parts/fields';
import { useState } from 'react';
import { reachMatrix, type ReachCell } from '../../core/analysis';
import { microphoneName } from '../../core/arrays';
import { formatNumber, lengthText, type UnitSystem } from '../../core/units';
import { useSession } from '../document/use-session';
import { useSettled } from '../figures/use-settled';
import { ChoiceField } from '../parts/fields';
import { hover } from '../view/choice';
import { useSection } from './section-choice';

const REST_MS = 200;
/** Columns that a page shows without scrolling. */
const FEW = 8;

const FIGURES = {
  all: 'all four figures',
  distance: 'distance',
  time: 'arrival',
  level: 'level at the capsule',
  null: 'first null',
} as const;
type Figure = keyof typeof FIGURES;
const ALL: readonly Figure[] = ['distance', 'time', 'level', 'null'];

function figureText(figure: Figure, cell: ReachCell, units: UnitSystem): string {
  const { distanceM, arrivalMs, levelDb, firstNullHz } = cell;
  if (figure === 'distance') return lengthText(distanceM, units);
  if (figure === 'time') return `${formatNumber(arrivalMs, 2)} ms`;
  if (figure === 'level') return `${formatNumber(levelDb, 1)} dB`;
  return firstNullHz === null ? 'no null' : `${formatNumber(firstNullHz, 0)} Hz`;
}

/** Every piece at every microphone of the arrays that are ticked. */
export function MatrixPage() {
  const session = useSettled(useSession(), REST_MS);
  const { units } = session.settings;
  const [figure, setFigure] = useState<Figure>('all');
  const [off, setOff] = useState<ReadonlySet<string> | null>(null);
  const { players, field } = useSection(session.sources);
  if (session.sources.length === 0 || session.arrays.length === 0) {
    return <p>Nothing to show yet: it takes players and microphones on the Floor.</p>;
  }
  // Many microphones begin with those that are near: the spots and what hangs above.
  const many = session.arrays.length > FEW;
  const left =
    off ??
    new Set(
      session.arrays.filter((array, i) => !array.enabled || (many && i >= FEW)).map(({ id }) => id),
    );
  const arrays = session.arrays.filter(({ id }) => !left.has(id));
  const { columns, rows } = reachMatrix(session, arrays, players);
  const names = new Map(session.sources.map(({ id, name }) => [id, name]));
  const shown = figure === 'all' ? ALL : [figure];
  const toggle = (id: string) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setOff(next);
  };
  return (
    <section aria-label="Matrix" className="flex flex-col gap-3">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-1">
        <div className="w-80">
          <ChoiceField
            label="Show"
            value={figure}
            options={Object.entries(FIGURES).map(([value, label]) => ({ value, label }))}
            onChange={(value) => setFigure(value as Figure)}
          />
        </div>
        <div className="w-72">{field}</div>
      </div>
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="text-muted pb-1">Microphones of</legend>
        {session.arrays.map(({ id, name }) => (
          <CheckField key={id} label={name} value={!left.has(id)} onChange={() => toggle(id)} />
        ))}
      </fieldset>
      {columns.length === 0 ? (
        <p>Tick an array to see its microphones.</p>
      ) : (
        <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Matrix, scrolls">
          <table className="ledger-table" aria-label="Matrix">
            <thead>
              <tr>
                <th>Player</th>
                {columns.map(({ arrayId, arrayName, label }, i) => (
                  <th key={`${arrayId}${i}`} className="num min-w-20 whitespace-normal">
                    {microphoneName(arrayName, label)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map(({ sourceId, cells }) => (
                <tr
                  key={sourceId}
                  onPointerEnter={() => hover(sourceId)}
                  onPointerLeave={() => hover(null)}
                >
                  <th scope="row" className="whitespace-nowrap">
                    {names.get(sourceId)}
                  </th>
                  {cells.map((cell, i) => (
                    <td key={i} className="num whitespace-nowrap">
                      {cell === null
                        ? 'at the capsule'
                        : shown.map((kind) => (
                            <div key={kind} className={kind === 'level' ? 'font-semibold' : ''}>
                              {figureText(kind, cell, units)}
                            </div>
                          ))}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="text-muted text-[12.5px]">
        Arrival with the channel’s delay; level at the capsule with its pattern, before gain. The
        null is where the sum with the microphone that hears the player loudest first cancels: the
        less their levels differ, the deeper it is.
      </p>
    </section>
  );
}
