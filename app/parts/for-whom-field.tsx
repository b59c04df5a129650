import { contextOf } from '../../core/analysis';
import { forWhomText, playersOf } from '../../core/prepare/for-whom';
import type { MicArray } from '../../core/session';
import { changeArray } from '../document/edits';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { ChoiceField } from './fields';

const KINDS = [
  { value: 'by role', label: 'as its role says' },
  { value: 'everybody', label: 'everybody' },
  { value: 'chosen', label: 'chosen players' },
] as const;

/**
 * Whom an array is for: it is judged for them alone, and what it hears of others is spill. Players
 * and sections are ticked once they are chosen one by one.
 */
export function ForWhomField({ array }: { array: MicArray }) {
  const session = useSession();
  const { speed } = contextOf(session);
  const { kind, ids } = array.forWhom;
  const set = (forWhom: MicArray['forWhom']) => edit(changeArray(array.id, { forWhom }));
  const players = playersOf(array, session.sources, speed);
  const choices = [
    ...session.sections
      .filter(({ id }) => session.sources.some(({ sectionId }) => sectionId === id))
      .map(({ id, name }) => ({ id, name: `${name} (section)` })),
    ...session.sources.map(({ id, name }) => ({ id, name })),
  ];
  return (
    <>
      <ChoiceField
        label="For whom"
        value={kind}
        options={KINDS.map(({ value, label }) => ({ value, label }))}
        onChange={(chosen) =>
          set({
            kind: chosen,
            // Those that it is for now are what one begins to choose from.
            ids: chosen === 'chosen' && ids.length === 0 ? players.map(({ id }) => id) : ids,
          })
        }
      />
      {kind === 'chosen' ? (
        <fieldset className="border-hairline max-h-40 overflow-y-auto border-b py-1">
          <legend className="sr-only">Players whom {array.name} is for</legend>
          {choices.length === 0 && <p className="text-muted">No players yet.</p>}
          {choices.map(({ id, name }) => (
            <label key={id} className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={ids.includes(id)}
                onChange={(event) =>
                  set({
                    kind,
                    ids: event.currentTarget.checked
                      ? [...ids, id]
                      : ids.filter((known) => known !== id),
                  })
                }
              />
              {name}
            </label>
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
