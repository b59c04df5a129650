import { Fragment, useState } from 'react';
import type { SpillRow } from '../../core/analysis';
import { microphoneName } from '../../core/arrays';
import { playerGroups } from '../../core/ensembles';
import { clamp, formatSigned } from '../../core/units';
import { useSession } from '../document/use-session';
import { hover } from '../view/choice';

/** More microphones than this stand in one column for each array. */
const MOST_COLUMNS = 12;

/** Whom a microphone is for; one of an array for all says so. */
function isFor(mic: SpillRow | undefined, names: ReadonlyMap<string, string>): string {
  if (!mic) return '—';
  if (mic.role !== 'spot' && mic.role !== 'overhead') return 'everybody';
  return names.get(mic.ownSourceId ?? '') ?? '—';
}

interface Column {
  key: string;
  name: string;
  microphones: SpillRow[];
}

function columnsOf(microphones: readonly SpillRow[]): Column[] {
  if (microphones.length <= MOST_COLUMNS) {
    return microphones.map((mic, i) => ({
      key: `${mic.arrayId} ${i}`,
      name: microphoneName(mic.arrayName, mic.label),
      microphones: [mic],
    }));
  }
  const byArray = new Map<string, Column>();
  for (const mic of microphones) {
    const column = byArray.get(mic.arrayId);
    if (column) column.microphones.push(mic);
    else byArray.set(mic.arrayId, { key: mic.arrayId, name: mic.arrayName, microphones: [mic] });
  }
  return [...byArray.values()];
}

/** The loudest of some players in a column's microphones; own where one of them is its own. */
function cellOf(column: Column, ids: readonly string[]): { own: boolean; db: number | null } {
  let db: number | null = null;
  for (const { spillDb, ownSourceId } of column.microphones) {
    for (const id of ids) {
      if (id === ownSourceId) return { own: true, db: 0 };
      const here = spillDb[id] ?? null;
      if (here !== null && (db === null || here > db)) db = here;
    }
  }
  return { own: false, db };
}

function Cells({ columns, ids }: { columns: readonly Column[]; ids: readonly string[] }) {
  return columns.map((column) => {
    const { own, db } = cellOf(column, ids);
    const dark = db === null ? 0 : clamp(1 + db / 30, 0, 1);
    return (
      <td
        key={column.key}
        className={`num ${own ? 'font-semibold' : ''}`}
        style={{
          background: `color-mix(in srgb, var(--color-primary) ${Math.round(dark * 30)}%, transparent)`,
        }}
      >
        {own ? 'own' : db === null ? '—' : formatSigned(db, 0)}
      </td>
    );
  });
}

/** Sections down, microphones across; a section opens into its players. */
export function SpillTable({ microphones }: { microphones: readonly SpillRow[] }) {
  const { sources } = useSession();
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const columns = columnsOf(microphones);
  const names = new Map(sources.map(({ id, name }) => [id, name]));
  const toggle = (name: string) => {
    const next = new Set(open);
    if (!next.delete(name)) next.add(name);
    setOpen(next);
  };
  return (
    <>
      <p className="text-muted">
        Level of each section’s loudest player against the one that the microphone is for, in dB;
        darker is louder. A section opens into its players.
      </p>
      <div className="overflow-x-auto">
        <table className="ledger-table" aria-label="Spill matrix">
          <thead>
            <tr>
              <th>Section</th>
              {columns.map(({ key, name }) => (
                <th key={key} className="num min-w-16 whitespace-normal">
                  {name}
                </th>
              ))}
            </tr>
            <tr>
              <th className="font-normal">is for</th>
              {columns.map(({ key, microphones: list }) => (
                <td key={key} className="num text-muted">
                  {isFor(list[0], names)}
                </td>
              ))}
            </tr>
          </thead>
          <tbody>
            {playerGroups(sources).map(({ name, members }) => (
              <Fragment key={name}>
                <tr>
                  <th scope="row" className="whitespace-nowrap">
                    {members.length === 1 ? (
                      name
                    ) : (
                      <button
                        className="underline underline-offset-2"
                        aria-expanded={open.has(name)}
                        onClick={() => toggle(name)}
                      >
                        {name} ({members.length})
                      </button>
                    )}
                  </th>
                  <Cells columns={columns} ids={members} />
                </tr>
                {open.has(name) &&
                  members.length > 1 &&
                  members.map((id) => (
                    <tr
                      key={id}
                      onPointerEnter={() => hover(id)}
                      onPointerLeave={() => hover(null)}
                    >
                      <th scope="row" className="pl-5! font-normal whitespace-nowrap">
                        {names.get(id)}
                      </th>
                      <Cells columns={columns} ids={[id]} />
                    </tr>
                  ))}
              </Fragment>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
