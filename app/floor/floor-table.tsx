import { angleText, lengthText, shiftText } from '../../core/units';
import { useFigures } from '../state/figures';
import { select } from '../state/ui-store';
import { useSession } from '../state/use-session';

/** The same figures as the plan, as a table. */
export function FloorTable() {
  const { sources, settings } = useSession();
  const { bySource, array } = useFigures();
  const { units, school } = settings;
  return (
    <div className="bg-base-100 absolute inset-0 overflow-auto px-4 pt-14" tabIndex={0}>
      <table className="ledger-table w-full">
        <caption className="text-muted pb-2 text-left">
          Positions from the datum; distance and angle from {array?.name ?? 'the array'}
        </caption>
        <thead>
          <tr>
            <th>Player</th>
            <th className="num">Right of centre</th>
            <th className="num">Upstage</th>
            <th className="num">Height</th>
            <th className="num">Distance</th>
            <th className="num">On the plan</th>
            <th className="num">Angle</th>
            <th className="num">Image</th>
          </tr>
        </thead>
        <tbody>
          {sources.map((source) => {
            const figures = bySource.get(source.id);
            const image = figures?.image?.[school] ?? figures?.image?.traded;
            return (
              <tr key={source.id}>
                <td>
                  <button
                    className="hover:underline"
                    onClick={() => select({ kind: 'source', id: source.id })}
                  >
                    {source.name}
                  </button>
                </td>
                <td className="num">{lengthText(source.x, units)}</td>
                <td className="num">{lengthText(source.y, units)}</td>
                <td className="num">{lengthText(source.z, units)}</td>
                <td className="num">{lengthText(figures?.distanceM, units)}</td>
                <td className="num">{lengthText(figures?.planDistanceM, units)}</td>
                <td className="num">{angleText(figures?.azimuthDeg)}</td>
                <td className="num">
                  {figures?.antiphase ? 'antiphase' : shiftText(image?.shift)}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
