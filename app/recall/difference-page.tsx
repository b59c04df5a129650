import { useCallback, useMemo, useState } from 'react';
import { ageText, type Effect } from '../../core/recall';
import type { Plan } from '../../core/session';
import { enter, strike } from '../document/journals';
import { takeOver } from '../document/take-over';
import { useSession } from '../document/use-session';
import { useLibrary } from '../keeping/library-read';
import { keptVersion, planOfVersion } from '../keeping/versions';
import { downloadJson, downloadTable } from '../keeping/tables';
import { notify, notifyFailure } from '../view/notices';
import { useAnswer, useTask, type Answering } from '../workers/use-task';
import { sidesOf, versionsOf, type NamedVersion, type Side } from './sides';

interface ChoiceProps {
  label: string;
  sides: readonly Side[];
  value: string;
  onChoose: (id: string) => void;
}

function SideChoice({ label, sides, value, onChoose }: ChoiceProps) {
  const groups = [...new Set(sides.map(({ group }) => group))];
  return (
    <label className="flex flex-col">
      <span className="text-muted">{label}</span>
      <select
        className="select select-sm w-72"
        value={value}
        onChange={(event) => onChoose(event.currentTarget.value)}
      >
        {groups.map((group) => (
          <optgroup key={group} label={group}>
            {sides
              .filter((side) => side.group === group)
              .map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
    </label>
  );
}

type Plans = { before: Plan; after: Plan } | { gone: string };

const plansOf: Answering<{ from: Side; to: Side }, Plans> = async ({ from, to }) => {
  const [before, after] = await Promise.all([from.plan(), to.plan()]);
  if (!before) return { gone: from.name };
  return after ? { before, after } : { gone: to.name };
};

export const DIFFERENCE_HEAD = [
  'Of',
  'What changed',
  'Heard',
  'What it does',
  'To the whole',
] as const;

const rowOf = ({ subject, words, sounds, players, whole }: Effect): string[] => [
  subject,
  words,
  sounds ? 'yes' : 'no',
  players.join('; '),
  whole.join('; '),
];

const MOST_PLAYERS = 6;

/** What a change does, the most changed players first. */
function Does({
  players,
  whole,
  sounds,
  changesWho,
}: Pick<Effect, 'players' | 'whole' | 'sounds' | 'changesWho'>) {
  const [all, setAll] = useState(false);
  if (!sounds) return <span className="text-muted">nothing to be heard</span>;
  const said = [...whole, ...(all ? players : players.slice(0, MOST_PLAYERS))];
  if (said.length === 0) {
    return (
      <span className="text-muted">
        {changesWho ? 'nothing to be heard of the others' : 'too little to be heard'}
      </span>
    );
  }
  return (
    <>
      {said.map((line) => (
        <span key={line} className="block">
          {line}
        </span>
      ))}
      {players.length > MOST_PLAYERS && !all && (
        <button className="btn btn-ghost btn-xs" onClick={() => setAll(true)}>
          {players.length - MOST_PLAYERS} more players
        </button>
      )}
    </>
  );
}

/** What is other from one side to the other, each change with what it does. */
function Held({ from, to }: { from: Side; to: Side }) {
  const ask = useMemo(() => ({ from, to }), [from, to]);
  const plans = useAnswer(
    ask,
    useCallback<typeof plansOf>((asked, help) => plansOf(asked, help), []),
  );
  const both = !plans.busy && plans.value && 'before' in plans.value ? plans.value : null;
  const { value, busy, progress, error } = useTask('effects', both);
  if (plans.value && 'gone' in plans.value) {
    return <p role="alert">The plan of “{plans.value.gone}” is not in this browser any more.</p>;
  }
  if (error !== null || plans.error !== null) {
    return <p role="alert">It cannot be told: {error ?? plans.error}.</p>;
  }
  if (busy || !value || plans.busy) {
    return (
      <p role="status" className="text-muted">
        Holding them against each other: {Math.round(100 * progress)} %
      </p>
    );
  }
  const { steps, together, model } = value.effects;
  const audible = steps.filter(({ sounds }) => sounds).length;
  const name = `${from.name} to ${to.name}`;
  return (
    <>
      <p role="status" aria-label="Difference" className="max-w-[72ch] pb-2 text-[17px]">
        {steps.length === 0
          ? 'Nothing is other: they are one plan.'
          : `${steps.length} ${steps.length === 1 ? 'thing is' : 'things are'} other; ${audible === 0 ? 'none of them is to be heard' : `${audible} can be heard`}.`}
      </p>
      {steps.length > 0 && (
        <>
          <div className="no-print flex gap-2 pb-2">
            <button
              className="btn btn-xs"
              onClick={() => void downloadTable(name, DIFFERENCE_HEAD, steps.map(rowOf))}
            >
              CSV
            </button>
            <button
              className="btn btn-xs"
              onClick={() => downloadJson(name, DIFFERENCE_HEAD, steps.map(rowOf))}
            >
              JSON
            </button>
            <button className="btn btn-xs" onClick={() => print()}>
              Print
            </button>
          </div>
          <table className="ledger-table w-full" aria-label="What changed">
            <thead>
              <tr>
                <th>What changed</th>
                <th>What it does, after those above it</th>
              </tr>
            </thead>
            <tbody>
              {steps.map((step, i) => (
                <tr key={`${i} ${step.words}`}>
                  <th scope="row" className="align-top font-normal!">
                    {step.words}
                  </th>
                  <td className="align-top">
                    <Does {...step} />
                  </td>
                </tr>
              ))}
              {audible > 1 && (
                <tr>
                  <th scope="row" className="align-top">
                    All of it together
                  </th>
                  <td className="align-top">
                    <Does {...together} sounds changesWho={false} />
                  </td>
                </tr>
              )}
            </tbody>
          </table>
          {audible > 0 && (
            <p className="text-muted pt-2 text-[12.5px]">
              Places are those of the {model} model, in the whole mix. What one change does depends
              on those that are in already.
            </p>
          )}
        </>
      )}
    </>
  );
}

/** A name for the plan as it stands, and those that were given. */
function Versions({ compare }: { compare: (version: NamedVersion) => void }) {
  const session = useSession();
  const [name, setName] = useState('');
  const versions = versionsOf(session);
  const now = new Date().toISOString();
  const restore = async (version: NamedVersion): Promise<void> => {
    const plan = await planOfVersion(session, version.version);
    if (!plan) return notify(`“${version.name}” is not in this browser any more.`);
    takeOver(`The plan is “${version.name}” again.`, plan);
  };
  return (
    <section aria-label="Named versions">
      <form
        className="flex flex-col gap-2 pb-3"
        onSubmit={(event) => {
          event.preventDefault();
          const called = name.trim();
          if (called === '') return;
          const version = keptVersion(session);
          const id = enter(
            'log',
            { kind: 'version', by: '', version: version.hash, name: called },
            [version],
          );
          if (id === '') return;
          setName('');
          notify(`The plan as it stands is kept as “${called}”.`);
        }}
      >
        <h2 className="text-[15px]">Name this version</h2>
        <input
          aria-label="Name of the version"
          className="input input-sm w-full"
          maxLength={200}
          placeholder="as sent to the hall"
          value={name}
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <button
          type="submit"
          className="btn btn-sm btn-primary self-start"
          disabled={name.trim() === ''}
          title={name.trim() === '' ? 'Type a name first' : undefined}
        >
          Keep the version
        </button>
      </form>
      <ul aria-label="Named versions">
        {versions.map((version) => (
          <li key={version.id} className="border-hairline border-t py-2">
            <p className="font-semibold">{version.name}</p>
            <p className="text-muted text-[12.5px]">{ageText(version.at, now)}</p>
            <p className="flex flex-wrap gap-1 pt-1">
              <button className="btn btn-xs" onClick={() => compare(version)}>
                Compare<span className="sr-only"> with {version.name}</span>
              </button>
              <button
                className="btn btn-xs"
                onClick={() => void restore(version).catch(notifyFailure)}
              >
                Restore<span className="sr-only"> {version.name}</span>
              </button>
              <button className="btn btn-ghost btn-xs" onClick={() => strike('log', version.id)}>
                Strike<span className="sr-only"> {version.name}</span>
              </button>
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Any two plans held against each other: what is other, and what each change does. */
export function DifferencePage() {
  const session = useSession();
  const { overview } = useLibrary();
  const sides = useMemo(() => sidesOf(session, overview), [session, overview]);
  const [chosen, setChosen] = useState<{ from: string | null; to: string | null }>({
    from: null,
    to: null,
  });
  const own = sides.filter(({ group, id }) => group !== 'Other sessions' && id !== 'plan');
  const first = own.find(({ group }) => group !== 'Now') ?? own[0];
  const from = sides.find(({ id }) => id === chosen.from) ?? first ?? sides[0];
  const to = sides.find(({ id }) => id === chosen.to) ?? sides[0];
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_15rem] gap-x-8 max-lg:grid-cols-1">
      <section aria-label="Difference" className="min-w-0">
        <div className="no-print flex flex-wrap items-end gap-3 pb-4">
          <SideChoice
            label="From"
            sides={sides}
            value={from?.id ?? ''}
            onChoose={(id) => setChosen({ ...chosen, from: id })}
          />
          <SideChoice
            label="To"
            sides={sides}
            value={to?.id ?? ''}
            onChoose={(id) => setChosen({ ...chosen, to: id })}
          />
          <button
            className="btn btn-sm"
            onClick={() => setChosen({ from: to?.id ?? null, to: from?.id ?? null })}
          >
            The other way round
          </button>
        </div>
        {from && to && from.id === to.id && (
          <p className="text-muted max-w-[64ch]">
            There is nothing yet to hold this plan against: keep a named version of it, make an
            option, or choose another session.
          </p>
        )}
        {from && to && from.id !== to.id && (
          <Held key={`${from.id} ${to.id}`} from={from} to={to} />
        )}
      </section>
      <aside className="no-print max-lg:pt-4">
        <Versions compare={({ id }) => setChosen({ from: `version ${id}`, to: 'plan' })} />
      </aside>
    </div>
  );
}
