import { playerGroups, stateWords } from '../core/ensembles';
import type { Session, Source } from '../core/session';
import type { SheetTable } from './sheet-model';
import { depthText, sideways, turnText, UPSTAGE, type LengthWords } from './sheet-words';

/** A section of more than this is one row: from where to where it sits. */
const ONE_BY_ONE = 6;

const range = (values: readonly number[], words: (value: number) => string): string => {
  const [from, to] = [words(Math.min(...values)), words(Math.max(...values))];
  return from === to ? from : `${from} to ${to}`;
};

/** Where everybody sits and how the instruments are to stand: lid, panels, felt. */
export function playersTable({ sources }: Session, text: LengthWords): SheetTable {
  const byId = new Map(sources.map((source) => [source.id, source]));
  const row = (name: string, players: readonly Source[]): string[] => {
    const states = [...new Set(players.map(stateWords).filter(Boolean))];
    return [
      name,
      range(
        players.map(({ x }) => x),
        (x) => sideways(x, text),
      ),
      range(
        players.map(({ y }) => y),
        (y) => depthText(y, text),
      ),
      range(
        players.map(({ z }) => z),
        (z) => text(z),
      ),
      players.length === 1 ? turnText(players[0]?.facingDeg ?? 180, UPSTAGE) : '—',
      states.join('; ') || '—',
    ];
  };
  const rows = playerGroups(sources).flatMap(({ name, members }) => {
    const players = members.flatMap((id) => byId.get(id) ?? []);
    return players.length > ONE_BY_ONE
      ? [row(`${name}, ${players.length}`, players)]
      : players.map((player) => row(player.name || name, [player]));
  });
  const head = [
    'Player',
    'From centre line',
    'From stage edge',
    'Sounds at',
    'Faces, from upstage',
    'State',
  ];
  // A column that says nothing takes no room.
  if (rows.some((cells) => cells[5] !== '—')) return { head, rows };
  return { head: head.slice(0, 5), rows: rows.map((cells) => cells.slice(0, 5)) };
}
