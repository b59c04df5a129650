import { useId, useState } from 'react';
import { useStore } from 'zustand';
import { heardArrays } from '../../core/analysis';
import { setSolo, setSoloArrays } from '../audio/actions';
import { listeningStore, shownStore } from '../audio/listening';
import { useSession } from '../document/use-session';
import { Faders } from '../parts/faders';
import { useGrouping } from '../parts/groups';
import { Menu } from '../parts/menu';

const ALL = '';

interface Option {
  key: string;
  name: string;
  ids: readonly string[];
}

interface ChoiceProps {
  label: string;
  /** what it is called that nothing is left out */
  all: string;
  options: readonly Option[];
  alone: readonly string[] | null;
  without: readonly string[];
  choose: (alone: readonly string[] | null, without?: readonly string[]) => void;
}

const same = (ids: readonly string[], others: readonly string[]): boolean =>
  ids.join(' ') === others.join(' ');

/** More than this nobody looks through: the name is typed. */
const LIST_AT_MOST = 24;

interface TypedProps {
  label: string;
  entries: readonly { text: string; pick: () => void }[];
  /** what is chosen */
  now: string;
}

/** One of many by typing a part of its name: Enter takes the first that has it. */
function Typed({ label, entries, now }: TypedProps) {
  const list = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const take = (field: HTMLInputElement, entry: TypedProps['entries'][number] | undefined) => {
    if (!entry) return;
    entry.pick();
    setTyped(null);
    field.blur();
  };
  return (
    <>
      <input
        aria-label={label}
        title="Type a part of a name"
        list={list}
        autoComplete="off"
        className="input input-xs w-36"
        placeholder={now}
        value={typed ?? now}
        onFocus={() => setTyped('')}
        onBlur={() => setTyped(null)}
        onChange={(event) => {
          const { value } = event.currentTarget;
          setTyped(value);
          take(
            event.currentTarget,
            entries.find(({ text }) => text === value),
          );
        }}
        onKeyDown={(event) => {
          const part = (typed ?? '').trim().toLowerCase();
          if (event.key === 'Escape') event.currentTarget.blur();
          if (event.key !== 'Enter' || part === '') return;
          take(
            event.currentTarget,
            entries.find(({ text }) => text.toLowerCase().startsWith(part)) ??
              entries.find(({ text }) => text.toLowerCase().includes(part)),
          );
        }}
      />
      <datalist id={list}>
        {entries.map(({ text }) => (
          <option key={text} value={text} />
        ))}
      </datalist>
    </>
  );
}

/** All, one of them alone, or all without one. */
function Choice({ label, all, options, alone, without, choose }: ChoiceProps) {
  const keyOf = (wanted: readonly string[]): string =>
    options.find(({ ids }) => same(ids, wanted))?.key ?? '';
  const value = alone
    ? `alone ${keyOf(alone)}`
    : without.length > 0
      ? `without ${keyOf(without)}`
      : ALL;
  if (options.length > LIST_AT_MOST) {
    const entries = [
      { text: all, pick: () => choose(null) },
      ...options.flatMap(({ name, ids }) => [
        { text: `${name} alone`, pick: () => choose(ids) },
        { text: `without ${name}`, pick: () => choose(null, ids) },
      ]),
    ];
    const named = options.find(({ ids }) => same(ids, alone ?? without))?.name;
    const now = named === undefined ? all : alone ? `${named} alone` : `without ${named}`;
    return <Typed label={label} entries={entries} now={now} />;
  }
  return (
    <select
      aria-label={label}
      className="select select-xs w-auto max-w-32"
      value={value}
      onChange={(event) => {
        const [, how, key] = /^(alone|without) (.*)$/s.exec(event.currentTarget.value) ?? [];
        const ids = options.find((option) => option.key === key)?.ids ?? null;
        if (how === 'without') choose(null, ids ?? []);
        else choose(ids);
      }}
    >
      <option value={ALL}>{all}</option>
      {(['alone', 'without'] as const).map((how) => (
        <optgroup key={how} label={how}>
          {options.map(({ key, name }) => (
            <option key={key} value={`${how} ${key}`}>
              {how === 'alone' ? `${name} alone` : `without ${name}`}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}

/** Who is heard: everybody, a section or one player. */
export function Who() {
  const { sources } = useSession();
  const { groups } = useGrouping(sources);
  const alone = useStore(listeningStore, (state) => state.soloIds);
  const without = useStore(listeningStore, (state) => state.mutedIds);
  const sections = groups.filter(({ members }) => members.length > 1);
  const options = [
    ...sections.map(({ name, members }) => ({ key: `section ${name}`, name, ids: members })),
    ...sources.map(({ id, name }) => ({ key: id, name, ids: [id] })),
  ];
  return (
    <Choice
      label="Who is heard"
      all="everybody"
      {...{ options, alone, without }}
      choose={setSolo}
    />
  );
}

/** Which arrays are heard, where the line shows a mix of several. */
export function WhichArrays() {
  const session = useSession();
  const ofMix = useStore(shownStore, ({ shown }) => shown?.heard === 'mix');
  const alone = useStore(listeningStore, (state) => state.soloArrayIds);
  const without = useStore(listeningStore, (state) => state.mutedArrayIds);
  const arrays = heardArrays(session);
  if (!ofMix || arrays.length < 2) return null;
  const options = arrays.map(({ id, name }) => ({ key: id, name, ids: [id] }));
  return (
    <Choice
      label="Which arrays are heard"
      all="all arrays"
      {...{ options, alone, without }}
      choose={setSoloArrays}
    />
  );
}

/** How loud each array is in what is heard, where the line shows a mix of several. */
export function FadersMenu() {
  const session = useSession();
  const ofMix = useStore(shownStore, ({ shown }) => shown?.heard === 'mix');
  if (!ofMix || heardArrays(session).length < 2) return null;
  return (
    <Menu
      button="faders"
      title="How loud each array is in the mix"
      buttonClass="btn btn-ghost btn-xs px-1.5 font-normal"
      className="dropdown-top dropdown-end"
    >
      {() => (
        <div className="dropdown-content border-hairline bg-base-200 fixed! right-4! bottom-9! left-auto! z-30 max-h-36 w-[26rem] max-w-[calc(100vw-2rem)] overflow-y-auto rounded-[3px] border px-3 pb-2">
          <Faders />
        </div>
      )}
    </Menu>
  );
}
