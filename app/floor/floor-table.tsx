import { imageIn } from '../../core/localisation';
import { Download } from 'lucide-react';
import { downloadTable } from '../keeping/tables';
import { angleText, formatNumber, formatSigned, lengthText, shiftText } from '../../core/units';
import type { MicArray } from '../../core/session';
import { arrayCaption } from '../parts/technique-text';
import { useFigures } from '../figures/figures';
import { type Selection, select } from '../view/choice';
import { useSession } from '../document/use-session';

function Chooser({ one, name }: { one: Selection; name: string }) {
  return (
    <button className="hover:underline" onClick={() => select(one)}>
      {name}
    </button>
  );
}

const PLAYER_COLUMNS = [
  'Right of centre',
  'Upstage',
  'Height',
  'Distance',
  'On the plan',
  'Angle',
  'Up',
  'Room',
  'Mono',
  'Image',
];

function Players() {
  const { sources, settings } = useSession();
  const { bySource, array } = useFigures();
  const { units, model } = settings;
  return (
    <table className="ledger-table w-full">
      <caption className="text-muted pb-2 text-left">
        Positions from the datum; distance and angle from {array?.name ?? 'the array'}; room: direct
        to reverberant, mono: level of the sum, both in dB
      </caption>
      <thead>
        <tr>
          <th>Player</th>
          {PLAYER_COLUMNS.map((name) => (
            <th key={name} className="num">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sources.map((source) => {
          const figures = bySource.get(source.id);
          const image = imageIn(figures, model);
          return (
            <tr key={source.id}>
              <td>
                <Chooser one={{ kind: 'source', id: source.id }} name={source.name} />
              </td>
              <td className="num">{lengthText(source.x, units)}</td>
              <td className="num">{lengthText(source.y, units)}</td>
              <td className="num">{lengthText(source.z, units)}</td>
              <td className="num">{lengthText(figures?.distanceM, units)}</td>
              <td className="num">{lengthText(figures?.planDistanceM, units)}</td>
              <td className="num">{angleText(figures?.azimuthDeg)}</td>
              <td className="num">{angleText(figures?.elevationDeg)}</td>
              <td className="num">{formatSigned(figures?.directToReverberantDb, 1)}</td>
              <td className="num">{formatNumber(figures?.mono?.sumDb ?? null, 1)}</td>
              <td className="num">
                {figures?.antiphase ? 'antiphase' : shiftText(image?.shift)}
                {figures?.reversed && ', reversed'}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const placeText = (array: MicArray) =>
  `aim ${angleText(array.aimDeg)}, tilt ${angleText(array.tiltDeg)}`;

function Rest() {
  const { arrays, venue, settings } = useSession();
  const { units } = settings;
  const rows = [
    ...arrays.map((array) => ({
      kind: 'array' as const,
      id: array.id,
      name: arrayCaption(array, units),
      x: array.x,
      y: array.y,
      z: array.z,
      more: `${array.role}, ${placeText(array)}${array.enabled ? '' : ', switched off'}`,
    })),
    ...venue.obstacles.map((o) => ({
      ...o,
      kind: 'obstacle' as const,
      z: o.heightM,
      more: `${o.kind}, ${lengthText(o.widthM, units)} by ${lengthText(o.depthM, units)}`,
    })),
    ...venue.seats.map((s) => ({
      ...s,
      kind: 'seats' as const,
      z: 0,
      more: `${s.rows} rows of ${s.columns}`,
    })),
    ...venue.datumPoints.map((d) => ({
      ...d,
      kind: 'datum' as const,
      name: `Tape point ${d.name}`,
      more: '',
    })),
  ];
  return (
    <table className="ledger-table mt-6 w-full">
      <caption className="text-muted pb-2 text-left">Microphones, hall and tape points</caption>
      <thead>
        <tr>
          <th>What</th>
          <th className="num">Right of centre</th>
          <th className="num">Upstage</th>
          <th className="num">Height</th>
          <th>More</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ kind, id, name, x, y, z, more }) => (
          <tr key={`${kind}${id}`}>
            <td>
              <Chooser one={{ kind, id }} name={name} />
            </td>
            <td className="num">{lengthText(x, units)}</td>
            <td className="num">{lengthText(y, units)}</td>
            <td className="num">{lengthText(z, units)}</td>
            <td>{more}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const CSV_HEADER = [
  'player',
  'section',
  'right of centre m',
  'upstage m',
  'height m',
  'distance m',
  'on the plan m',
  'angle deg',
  'elevation deg',
  'direct to reverberant dB',
  'mono sum dB',
  'image %',
];

function SaveButton() {
  const { title, sources, settings } = useSession();
  const { bySource } = useFigures();
  const rows = sources.map((source) => {
    const figures = bySource.get(source.id);
    const image = imageIn(figures, settings.model);
    return [
      source.name,
      source.group,
      source.x,
      source.y,
      source.z,
      figures?.distanceM ?? null,
      figures?.planDistanceM ?? null,
      figures?.azimuthDeg ?? null,
      figures?.elevationDeg ?? null,
      figures?.directToReverberantDb ?? null,
      figures?.mono?.sumDb ?? null,
      image ? image.shift * 100 : null,
    ];
  });
  return (
    <button
      className="btn btn-sm mb-3 font-normal"
      onClick={() => void downloadTable(`${title} floor`, CSV_HEADER, rows)}
    >
      <Download size={14} /> Save as CSV
    </button>
  );
}

/** The same figures as plan and section, as tables. */
export function FloorTable() {
  return (
    <div className="bg-base-100 absolute inset-0 overflow-auto px-4 pt-4" tabIndex={0}>
      <SaveButton />
      <Players />
      <Rest />
    </div>
  );
}
