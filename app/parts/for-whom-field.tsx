import { useState } from 'react';
import { contextOf } from '../../core/analysis';
import { playerGroups } from '../../core/ensembles';
import { forWhomText, playersOf } from '../../core/prepare/for-whom';
import type { MicArray, Source } from '../../core/session';
import { changeArray } from '../document/edits';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { CheckField, ChoiceField } from './fields';

type Kind = 'role' | 'all' | 'some';
type Some = Extract<NonNullable<MicArray['for']>, { kind: 'some' }>;

const KINDS: readonly { value: Kind; label: string }[] = [
  { value: 'role', label: 'as its role says' },
  { value: 'all', label: 'everybody' },
  { value: 'some', label: 'chosen players' },
];

/** A section of several players; one who stands alone is in none. */
interface Section {
  name: string;
  members: readonly Source[];
}

function sectionsOf(sources: readonly Source[]): Section[] {
  const byId = new Map(sources.map((source) => [source.id, source]));
  return playerGroups(sources.filter(({ group }) => group !== ''))
    .map(({ name, members }) => ({ name, members: members.flatMap((id) => byId.get(id) ?? []) }))
    .filter(({ members }) => members.length > 1);
}

/** Players as sections where all of one are among them, so that who joins it later is too. */
function chosenFrom(players: readonly Source[], sections: readonly Section[]): Some {
  const chosen = new Set(players.map(({ id }) => id));
  const whole = sections.filter(({ members }) => members.every(({ id }) => chosen.has(id)));
  const inside = new Set(whole.flatMap(({ members }) => members.map(({ id }) => id)));
  return {
    kind: 'some',
    groups: whole.map(({ name }) => name),
    sources: players.flatMap(({ id }) => (inside.has(id) ? [] : [id])),
  };
}

/** More players than this of one section are folded until they are asked for. */
const FOLD_FROM = 5;

/** A section as a whole, and its players one by one. */
function SectionTicks(props: {
  section: Section;
  whom: Some;
  isChosen: (id: string) => boolean;
  set: (whom: Some) => void;
  choose: (ids: readonly string[], on: boolean) => void;
}) {
  const { section, whom, isChosen, set, choose } = props;
  const { name, members } = section;
  const count = members.filter(({ id }) => isChosen(id)).length;
  const [open, setOpen] = useState(members.length < FOLD_FROM);
  const all = count === members.length;
  const toggle = (on: boolean) => {
    const ids = new Set(members.map(({ id }) => id));
    set({
      kind: 'some',
      groups: [...whom.groups.filter((known) => known !== name), ...(on ? [name] : [])],
      sources: whom.sources.filter((id) => !ids.has(id)),
    });
  };
  return (
    <div>
      <div className="flex items-center gap-2">
        <div className="flex-1">
          <CheckField label={`${name}, all ${members.length}`} value={all} onChange={toggle} />
        </div>
        {!all && count > 0 && <span className="text-muted text-[12px]">{count} chosen</span>}
        <button
          className="btn btn-ghost btn-xs font-normal"
          aria-expanded={open}
          aria-label={`Players of ${name}`}
          onClick={() => setOpen((known) => !known)}
        >
          {open ? 'fold' : 'one by one'}
        </button>
      </div>
      {open && (
        <div className="pl-6">
          {members.map(({ id, name: player }) => (
            <CheckField
              key={id}
              label={player}
              value={isChosen(id)}
              onChange={(on) => choose([id], on)}
            />
          ))}
        </div>
      )}
    </div>
  );
}

/** Sections and players to tick; a section with all its players is one choice. */
function Chosen({ array, whom }: { array: MicArray; whom: Some }) {
  const { sources } = useSession();
  const sections = sectionsOf(sources);
  const inSection = new Set(sections.flatMap(({ members }) => members.map(({ id }) => id)));
  const chosen = new Set([
    ...whom.sources,
    ...sources.flatMap(({ id, group }) => (whom.groups.includes(group) ? [id] : [])),
  ]);
  const set = (next: Some) => edit(changeArray(array.id, { for: next }));
  const choose = (ids: readonly string[], on: boolean) => {
    const next = new Set(chosen);
    for (const id of ids) {
      if (on) next.add(id);
      else next.delete(id);
    }
    set(
      chosenFrom(
        sources.filter(({ id }) => next.has(id)),
        sections,
      ),
    );
  };
  const isChosen = (id: string) => chosen.has(id);
  return (
    <fieldset className="border-hairline max-h-52 overflow-y-auto border-b py-1">
      <legend className="sr-only">Players whom {array.name} is for</legend>
      {sources.length === 0 && <p className="text-muted">No players yet.</p>}
      {sections.map((section) => (
        <SectionTicks key={section.name} {...{ section, whom, isChosen, set, choose }} />
      ))}
      {sources
        .filter(({ id }) => !inSection.has(id))
        .map(({ id, name }) => (
          <CheckField
            key={id}
            label={name}
            value={isChosen(id)}
            onChange={(on) => choose([id], on)}
          />
        ))}
    </fieldset>
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
    set(chosenFrom(players, sectionsOf(session.sources)));
  }
  return (
    <>
      <ChoiceField label="For whom" value={kind} options={KINDS} onChange={choose} />
      {whom?.kind === 'some' ? (
        <Chosen array={array} whom={whom} />
      ) : (
        <p className="text-muted truncate pb-1 text-[12.5px]">
          for {forWhomText(array, session.sources, speed)}
        </p>
      )}
    </>
  );
}
