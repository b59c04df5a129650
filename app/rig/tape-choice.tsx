import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

/** Which two of the tape points the distances are given from: the first two of the list. */
export function TapeChoice() {
  const { datumPoints } = useSession().venue;
  if (datumPoints.length < 3) return null;
  const choose = (place: 0 | 1, id: string) =>
    edit((draft) => {
      const list = draft.venue.datumPoints;
      const from = list.findIndex((point) => point.id === id);
      const [point] = from < 0 ? [] : list.splice(from, 1);
      if (point) list.splice(place, 0, point);
    });
  return (
    <span className="flex items-center gap-2">
      <span className="text-muted">Tapes from</span>
      {([0, 1] as const).map((place) => (
        <select
          key={place}
          aria-label={place === 0 ? 'First tape point' : 'Second tape point'}
          className="select select-sm w-auto"
          value={datumPoints[place]?.id ?? ''}
          onChange={(event) => choose(place, event.currentTarget.value)}
        >
          {datumPoints.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      ))}
    </span>
  );
}
