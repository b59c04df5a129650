import { useState } from 'react';
import { seatRows } from '../../core/analysis';
import { leadingArray } from '../../core/session';
import { angleText, formatNumber, formatSigned, lengthText, shiftText } from '../../core/units';
import { useSession } from '../document/use-session';
import { useSettled } from '../figures/use-settled';
import { ChoiceField } from '../parts/fields';
import { hover } from '../view/choice';
import { useSection } from './section-choice';

const REST_MS = 200;
const POLARITY = { same: 'same', inverted: 'both inverted', opposite: 'opposite' } as const;
const WEAK_DB = -1.5;

const side = (deg: number): string => (Math.abs(deg) < 0.05 ? '' : deg < 0 ? ' L' : ' R');

/** Every seat as one array hears it: left, right, polarity and mono in one table. */
export function SeatsPage() {
  const session = useSettled(useSession(), REST_MS);
  const [wanted, setWanted] = useState('');
  const { players, field } = useSection(session.sources);
  const array = session.arrays.find(({ id }) => id === wanted) ?? leadingArray(session);
  if (!array || session.sources.length === 0) {
    return <p>Nothing to show yet: it takes players and an array on the Floor.</p>;
  }
  const names = new Map(session.sources.map(({ id, name }) => [id, name]));
  const level = (db: number | null) => (db === null ? '—' : `${formatNumber(db, 1)} dB`);
  const difference = (value: number | null, places: number, unit: string) =>
    value === null ? '—' : `${formatSigned(value, places)} ${unit}`;
  return (
    <section aria-label="Seats" className="flex max-w-5xl flex-col gap-3">
      <div className="w-80">
        <ChoiceField
          label="As heard by"
          value={array.id}
          options={session.arrays.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setWanted}
        />
        {field}
      </div>
      <p className="text-muted">
        Direct sound in both channels at each player’s own level. Differences are right against
        left: above 0 pulls right.
      </p>
      <table className="ledger-table w-full" aria-label="Seats">
        <thead>
          <tr>
            <th>Player</th>
            <th className="num">distance</th>
            <th className="num">off the aim</th>
            <th className="num">left</th>
            <th className="num">right</th>
            <th className="num">level</th>
            <th className="num">time</th>
            <th>polarity</th>
            <th className="num">mono</th>
            <th className="num">image</th>
          </tr>
        </thead>
        <tbody>
          {seatRows(session, array, players).map((row) => (
            <tr
              key={row.sourceId}
              onPointerEnter={() => hover(row.sourceId)}
              onPointerLeave={() => hover(null)}
            >
              <th scope="row">{names.get(row.sourceId)}</th>
              <td className="num">{lengthText(row.distanceM, session.settings.units)}</td>
              <td className="num">
                {angleText(Math.abs(row.azimuthDeg))}
                {side(row.azimuthDeg)}
              </td>
              <td className="num">{level(row.leftDb)}</td>
              <td className="num">{level(row.rightDb)}</td>
              <td className="num">{difference(row.icldDb, 1, 'dB')}</td>
              <td className="num">{difference(row.ictdMs, 2, 'ms')}</td>
              <td className={row.polarity === 'opposite' ? 'text-error font-semibold' : ''}>
                {row.polarity === null ? 'at a capsule' : POLARITY[row.polarity]}
              </td>
              <td
                className={`num ${row.monoDb !== null && row.monoDb < WEAK_DB ? 'text-error font-semibold' : ''}`}
              >
                {difference(row.monoDb, 1, 'dB')}
              </td>
              <td className="num">
                {row.polarity === null
                  ? '—'
                  : row.shift === null
                    ? 'antiphase'
                    : shiftText(row.shift)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
