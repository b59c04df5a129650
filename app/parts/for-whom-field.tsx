import { contextOf } from '../../core/analysis';
import { forWhomText, playersOf } from '../../core/prepare/for-whom';
import type { MicArray } from '../../core/session';
import { changeArray } from '../document/edits';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { ChoiceField } from './fields';

type Kind = 'role' | 'all' | 'some';

const KINDS: readonly { value: Kind; label: string }[] = [
  { value: 'role', label: 'as its role says' },
  { value: 'all', label: 'everybody' },
  { value: 'some', label: 'chosen players' },
];

const toggled = (list: readonly string[], entry: string, on: boolean): string[] =>
  on ? [...list, entry] : list.filter((known) => known !== entry);

interface TickProps {
  label: string;
  on: boolean;
  onChange: (on: boolean) => void;
}

function Tick({ label, on, onChange }: TickProps) {
  return (
    <label className="flex items-center gap-2 py-0.5">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={on}
        onChange={(event) => onChange(event.currentTarget.checked)}
      />
      {label}
    </label>
  );
}

/**
 * Whom an array is for: it is judged for them alone, and what it hears of others is spill. Players
 * and sections are ticked once they are chosen one by one.
 */
export function ForWhomField({ array }: { array: MicArray }) {
  const session = useSession();
  const { speed } = contextOf(session);
  const { for: whom } = array;
  const kind: Kind = whom?.kind ?? 'role';
  const set = (next: MicArray['for']) => edit(changeArray(array.id, { for: next }));
  function choose(chosen: Kind) {
    if (chosen === 'role') return set(null);
    if (chosen === 'all') return set({ kind: 'all' });
    // Those that it is for now are what one begins to choose from.
    const players = playersOf(array, session.sources, speed);
    set({ kind: 'some', groups: [], sources: players.map(({ id }) => id) });
  }
  const groups = [...new Set(session.sources.map(({ group }) => group))].filter(
    (group) =>
      group !== '' && session.sources.filter((source) => source.group === group).length > 1,
  );
  return (
    <>
      <ChoiceField label="For whom" value={kind} options={KINDS} onChange={choose} />
      {whom?.kind === 'some' ? (
        <fieldset className="border-hairline max-h-40 overflow-y-auto border-b py-1">
          <legend className="sr-only">Players whom {array.name} is for</legend>
          {session.sources.length === 0 && <p className="text-muted">No players yet.</p>}
          {groups.map((group) => (
            <Tick
              key={`group ${group}`}
              label={`${group} (section)`}
              on={whom.groups.includes(group)}
              onChange={(on) => set({ ...whom, groups: toggled(whom.groups, group, on) })}
            />
          ))}
          {session.sources.map(({ id, name }) => (
            <Tick
              key={id}
              label={name}
              on={whom.sources.includes(id)}
              onChange={(on) => set({ ...whom, sources: toggled(whom.sources, id, on) })}
            />
          ))}
        </fieldset>
      ) : (
        <p className="text-muted truncate pb-1 text-[12.5px]">
          for {forWhomText(array, session.sources, speed)}
        </p>
      )}
    </>
  );
}
