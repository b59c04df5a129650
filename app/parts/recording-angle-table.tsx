import { useMemo } from 'react';
import { arrayFigures, contextOf } from '../../core/analysis';
import type { MicArray } from '../../core/session';
import {
  MODELS,
  type PerModel,
  type RecordingAngle,
  type ModelId,
  leadingModel,
  looksSteeply,
} from '../../core/localisation';
import { angleText, formatNumber, formatLength } from '../../core/units';
import { useFigures } from '../figures/figures';
import { useSession } from '../document/use-session';
import { Readout } from './fields';
import { FormulaLink } from './formula-link';

/** "±48°", or that it is never reached. */
function halfText(angle: RecordingAngle | undefined, level: 100 | 75): string {
  if (!angle) return '—';
  const half = level === 100 ? angle.halfDeg : angle.half75Deg;
  if (half === null) return 'not reached';
  return half < 0.05 ? 'from straight ahead on' : `±${angleText(half)}`;
}

function totalText(angle: RecordingAngle | undefined): string {
  if (!angle) return '—';
  if (angle.halfDeg !== null) return angleText(angle.halfDeg * 2);
  return `at most ${formatNumber(angle.widest.shift * 100, 0)} %, at ${angleText(angle.widest.atDeg)}`;
}

interface TableProps {
  caption: string;
  angles: PerModel<RecordingAngle> | null | undefined;
  leading: ModelId;
}

/** The recording angle in every model, the session's choice first and strong. */
export function RecordingAngleTable({ caption, angles, leading }: TableProps) {
  const ordered = [...MODELS].sort((a, b) => Number(b.id === leading) - Number(a.id === leading));
  return (
    <table className="ledger-table w-full">
      <caption className="pb-1 text-left font-semibold">{caption}</caption>
      <thead>
        <tr>
          <th>Model</th>
          <th className="num">100 %, half</th>
          <th className="num">in all</th>
          <th className="num">75 %, half</th>
        </tr>
      </thead>
      <tbody>
        {ordered.map(({ id, name, holds, range }) => {
          const angle = angles?.[id];
          const refused = angles && !angle;
          return (
            <tr key={id} className={id === leading ? 'font-semibold' : ''}>
              <td title={`${holds} ${range}`}>
                {name}
                {id === leading ? ' (leads)' : ''}
              </td>
              {refused ? (
                <td colSpan={3} className="text-muted num">
                  refused: needs a pair without time difference
                </td>
              ) : (
                <>
                  <td className="num">{halfText(angle, 100)}</td>
                  <td className="num">{totalText(angle)}</td>
                  <td className="num">{halfText(angle, 75)}</td>
                </>
              )}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Recording angle and ensemble in a few lines, for the inspector. */
export function RecordingAngleSummary({ of }: { of?: MicArray }) {
  const session = useSession();
  const { settings } = session;
  const live = useFigures();
  const array = of ?? live.array;
  const other = of !== undefined && of.id !== live.array?.id;
  const own = useMemo(
    () => (other ? arrayFigures(of, session.sources, contextOf(session)) : null),
    [other, of, session],
  );
  const [figures, missing] = own ? [own, null] : [live.figures, live.missing];
  const leading = leadingModel(figures?.farField ?? null, settings.model);
  const ensemble = figures?.ensemble;
  return (
    <>
      <h3 className="pt-3 pb-1 text-[14px]">
        Recording angle{array && !of ? ` of ${array.name}` : ''}
      </h3>
      <FormulaLink to="recording-angle">How it is found</FormulaLink>
      {missing !== null && <p className="text-muted">No figures: {missing}</p>}
      <Readout label="In place, 100 %" number={halfText(figures?.inPlace?.[leading], 100)} />
      <Readout label="In place, 75 %" number={halfText(figures?.inPlace?.[leading], 75)} />
      <Readout label="Far field, 100 %" number={halfText(figures?.farField[leading], 100)} />
      <Readout label="Far field, 75 %" number={halfText(figures?.farField[leading], 75)} />
      <h3 className="pt-4 pb-1 text-[14px]">Ensemble</h3>
      <Readout label="Angle at the array" number={angleText(ensemble?.angleDeg)} />
      {array && looksSteeply(array) ? (
        <Readout
          label="Mean height difference"
          {...formatLength(ensemble && Math.abs(array.z - ensemble.heightM), settings.units)}
        />
      ) : (
        <Readout
          label="Mean distance on the plan"
          {...formatLength(ensemble?.distanceM, settings.units)}
        />
      )}
      {figures && !ensemble && (
        <p className="text-muted py-1">No players yet, so there is no ensemble to compare with.</p>
      )}
      {ensemble && ensemble.angleDeg < 0.05 && (
        <p className="text-warning py-1">
          All players lie in one direction: the ensemble has no width to compare with the recording
          angle. Move a player sideways, or give one a sounding width.
        </p>
      )}
    </>
  );
}
