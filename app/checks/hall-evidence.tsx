import { OCTAVES_HZ } from '../../core/acoustics';
import { roomOf, screensOf, shadowedAt, type Finding } from '../../core/analysis';
import { surfaceWords } from '../../core/hall';
import type { MicArray, Source } from '../../core/session';
import { formatNumber } from '../../core/units';
import { useSession } from '../document/use-session';
import { HallDrawing, isLevel } from './hall-drawing';

const MOST_PLAYERS = 6;

/** What stands between an array and some players, where, and what it takes off by octave. */
export function ShadowEvidence({
  array,
  players,
}: {
  array: MicArray;
  players: readonly Source[];
}) {
  const session = useSession();
  const screens = screensOf(session);
  const hidden = shadowedAt(session, array, players.slice(0, MOST_PLAYERS), screens);
  const [worst] = hidden;
  if (!worst) return null;
  const between = screens.filter(({ name }) => worst.by.includes(name));
  return (
    <>
      <figure className="w-fit pb-2">
        <HallDrawing
          room={roomOf(session)}
          fromSide={false}
          lit={[]}
          things={between.flatMap(({ faces }) => faces.map(({ corners }) => corners))}
          sights={[[worst.source, array]]}
          marks={[
            { ...worst.source, kind: 'player' },
            { ...array, kind: 'bar' },
          ]}
          label={`${worst.by.join(', ')} between ${worst.source.name} and ${array.name}, from above`}
        />
        <figcaption className="text-muted">
          From above: circle {worst.source.name}, bar {array.name}; between them{' '}
          {worst.by.join(', ')}
        </figcaption>
      </figure>
      <table className="ledger-table" aria-label="Lost by the direct sound">
        <thead>
          <tr>
            <th>Lost, dB</th>
            {OCTAVES_HZ.map((hz) => (
              <th key={hz} className="num">
                {hz < 1000 ? hz : `${hz / 1000}k`}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {hidden.map(({ source, octaves }) => (
            <tr key={source.id}>
              <td>{source.name}</td>
              {OCTAVES_HZ.map((hz) => {
                const lost = octaves?.find((each) => each.hz === hz)?.db;
                return (
                  <td key={hz} className="num">
                    {lost === undefined ? 'all' : formatNumber(lost, 0)}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** The surfaces of the hall that a finding is about, and its players. */
export function FaceEvidence({ finding }: { finding: Finding }) {
  const session = useSession();
  const room = roomOf(session);
  const { surfaces, sourceIds } = finding;
  if (!room || surfaces.length === 0) return null;
  const players = session.sources.filter(({ id }) => sourceIds.includes(id));
  const fromSide = surfaces.every((surface) => isLevel(room, surface));
  const names = surfaces.map((surface) => surfaceWords(room, surface)).join(', ');
  return (
    <figure className="w-fit pb-2">
      <HallDrawing
        room={room}
        fromSide={fromSide}
        lit={surfaces}
        marks={players.map((player) => ({ ...player, kind: 'player' }))}
        label={`${names}, ${fromSide ? 'from the side' : 'from above'}`}
      />
      <figcaption className="text-muted">
        {fromSide ? 'From the side, audience left' : 'From above'}: {names}
      </figcaption>
    </figure>
  );
}
