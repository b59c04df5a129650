import { memo } from 'react';
import { shiftText } from '../../core/units';
import type { Note, Stave } from './notes';

function placeText(note: Note): string {
  if (note.missing) return 'no figure';
  if (note.antiphase) return 'antiphase, no stable image';
  return shiftText(note.shift) + (note.mirrored ? ', reversed' : '');
}

const extentText = (note: Note): string =>
  note.shift === null || note.right - note.left < 0.005
    ? 'point'
    : `${shiftText(note.left)} to ${shiftText(note.right)}`;

const spreadText = (note: Note): string =>
  note.shift === null ? '—' : `${shiftText(note.low)} to ${shiftText(note.high)}`;

const Row = memo(function Row({ note }: { note: Note }) {
  return (
    <tr>
      <th scope="row" className="text-base-content!">
        {note.name}
      </th>
      <td>{placeText(note)}</td>
      <td>{extentText(note)}</td>
      <td>{spreadText(note)}</td>
    </tr>
  );
});

interface Props {
  staves: readonly Stave[];
  /** the figures are about to change */
  busy: boolean;
}

/** The playback line in words and figures. */
export const PlaybackTable = memo(function PlaybackTable({ staves, busy }: Props) {
  return (
    <table className="ledger-table w-full" aria-label="Playback line" aria-busy={busy}>
      <thead>
        <tr>
          <th>Player</th>
          <th>Between the loudspeakers</th>
          <th>Extent</th>
          <th>Spread of the schools</th>
        </tr>
      </thead>
      <tbody>
        {staves.flatMap(({ notes }) => notes.map((note) => <Row key={note.id} note={note} />))}
      </tbody>
    </table>
  );
});
