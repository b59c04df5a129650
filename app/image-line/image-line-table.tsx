import { memo } from 'react';
import type { BandResult } from '../../core/analysis';
import { angleText, formatNumber, shiftText } from '../../core/units';
import type { Note, Stave } from './notes';

function placeText(note: Note): string {
  if (note.missing) return 'no figure';
  if (note.antiphase) return 'antiphase, no stable image';
  return shiftText(note.shift) + (note.reversed ? ', reversed' : '');
}

const extentText = (note: Note): string =>
  note.shift === null || note.right - note.left < 0.005
    ? 'point'
    : `${shiftText(note.left)} to ${shiftText(note.right)}`;

const spreadText = (note: Note): string =>
  note.shift === null ? '—' : `${shiftText(note.low)} to ${shiftText(note.high)}`;

function constraintText(band: BandResult | undefined): string {
  if (!band) return '—';
  if (band.missPct === null) return 'no image';
  return band.met ? 'met' : `${formatNumber(band.missPct, 0)} % off`;
}

const degreesText = (note: Note): string =>
  note.shift === null ? '—' : angleText(note.shift * 30);

const Row = memo(function Row({ note, wish }: { note: Note; wish: string }) {
  return (
    <tr>
      <th scope="row" className="text-base-content!">
        {note.name}
      </th>
      <td>{placeText(note)}</td>
      <td>{degreesText(note)}</td>
      <td>{extentText(note)}</td>
      <td>{spreadText(note)}</td>
      <td>{wish}</td>
    </tr>
  );
});

interface Props {
  staves: readonly Stave[];
  wanted: readonly BandResult[];
  /** the figures are about to change */
  busy: boolean;
}

/** The stereo image in words and figures. */
export const ImageLineTable = memo(function ImageLineTable({ staves, wanted, busy }: Props) {
  const byId = new Map(wanted.map((band) => [band.sourceId, band]));
  return (
    <table className="ledger-table w-full" aria-label="Stereo image" aria-busy={busy}>
      <thead>
        <tr>
          <th>Player</th>
          <th>Between the loudspeakers</th>
          <th>On a ±30° base</th>
          <th>Extent</th>
          <th>Spread of the models</th>
          <th>Wanted place</th>
        </tr>
      </thead>
      <tbody>
        {staves.flatMap(({ notes }) =>
          notes.map((note) => (
            <Row key={note.id} note={note} wish={constraintText(byId.get(note.id))} />
          )),
        )}
      </tbody>
    </table>
  );
});
