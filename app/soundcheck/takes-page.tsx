import { useId, useState } from 'react';
import { useStore } from 'zustand';
import { stateChanges, takeState } from '../../core/rig';
import type { Session, Take } from '../../core/session';
import {
  optionName,
  optionOfTake,
  slateText,
  takesOf,
  type Option,
  type TakeMatter,
} from '../../core/soundcheck';
import { formatSigned, formatTemperature } from '../../core/units';
import { boundFiles, takeOf } from '../bench/opening';
import { benchOf, benchStore } from '../bench/recordings';
import { whenText } from '../bench/when';
import { amend, enter, strike } from '../document/journals';
import { useSession } from '../document/use-session';
import { keptVersion } from '../keeping/versions';
import { QuantityField } from '../parts/quantity-field';
import { temperatureKind } from '../parts/quantity-kinds';
import { notify } from '../view/notices';
import { fieldKey } from '../view/validity';
import { useOptions } from './data';
import { SaidField } from '../parts/said-field';
import { nextNumber } from './simulating';

const performancesOf = (takes: readonly TakeMatter[]): string[] => [
  ...new Set(takes.flatMap(({ take }) => take.performance || [])),
];

/** The next take before it is made: what the announcer says, and everything as it stands. */
function NextTake({
  options,
  takes,
}: {
  options: readonly Option[];
  takes: readonly TakeMatter[];
}) {
  const session = useSession();
  const last = options[options.length - 1];
  const [chosen, setChosen] = useState<string | null>(null);
  const [piece, setPiece] = useState('');
  const [performance, setPerformance] = useState('');
  const list = useId();
  const number = nextNumber(session.takes);
  const option = options.find(({ key }) => key === (chosen ?? last?.key)) ?? null;
  const slate = slateText(piece, option?.letter ?? '', number);
  const make = (): void => {
    const version = option ? null : keptVersion(session);
    const id = enter(
      'takes',
      {
        ...{ by: '', number, name: piece.trim(), comment: '' },
        option: option?.key ?? '',
        version: option?.entry.version ?? version?.hash ?? '',
        performance: performance.trim() || `${piece.trim() || 'take'} ${number}`,
        ...{ files: [], simulation: null },
        state: takeState(session),
      },
      version ? [version] : [],
    );
    if (id === '') return;
    setPerformance('');
    notify(`Take ${number} is in the log, with everything as it stands.`, {
      label: 'Strike it',
      run: () => strike('takes', id),
    });
  };
  return (
    <form
      aria-label="Next take"
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        make();
      }}
    >
      <h2 className="text-[15px]">Take {number}</h2>
      <p role="status" aria-label="Slate" className="text-[17px]">
        “{slate}”
      </p>
      <label className="flex flex-col">
        <span className="text-muted">What is played</span>
        <input
          className="input input-sm w-full"
          maxLength={200}
          value={piece}
          onChange={(event) => setPiece(event.currentTarget.value)}
        />
      </label>
      <label className="flex flex-col">
        <span className="text-muted">Option that is up</span>
        <select
          className="select select-sm w-full text-ellipsis"
          value={option?.key ?? ''}
          onChange={(event) => setChosen(event.currentTarget.value)}
        >
          <option value="">none: the plan as it stands</option>
          {options.map((one) => (
            <option key={one.key} value={one.key}>
              {optionName(one)}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col">
        <span className="text-muted">Performance</span>
        <input
          className="input input-sm w-full"
          maxLength={100}
          list={list}
          placeholder="its own"
          value={performance}
          onChange={(event) => setPerformance(event.currentTarget.value)}
        />
        <datalist id={list}>
          {performancesOf(takes).map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
      </label>
      <p className="text-muted text-[12.5px]">
        Takes of one performance are like for like: several arrays that recorded it together. All
        others carry “another performance”.
      </p>
      <button type="submit" className="btn btn-sm btn-primary self-start">
        Enter it
      </button>
    </form>
  );
}

/** Files that are open on the Bench and of no take yet: they can be those of this one. */
function Files({ take }: { take: Take }) {
  const session = useSession();
  const { open } = useStore(benchStore, ({ of }) => benchOf(of, session.id));
  const free = open.filter((one) => one.simulation === null && takeOf(session, one) === null);
  const said =
    take.simulation !== null
      ? `Simulated: ${take.simulation.phrase}, seed ${take.simulation.seed}.`
      : take.files.length > 0
        ? take.files.map(({ name }) => name).join(', ')
        : 'No file yet: open it on the Bench, and it can be said here that it is this take.';
  return (
    <div className="flex flex-wrap items-baseline gap-2 py-0.5">
      <span className="text-muted w-24 shrink-0">Files</span>
      <span className="min-w-0 flex-1">{said}</span>
      {take.simulation === null &&
        free.map((one) => (
          <button
            key={one.key}
            className="btn btn-xs"
            onClick={() => amend('takes', take.id, { files: [...take.files, ...boundFiles(one)] })}
          >
            {one.title} is of it
          </button>
        ))}
    </div>
  );
}

const MADE = { timeStyle: 'short' } as const;
const timeText = (at: string): string => new Date(at).toLocaleTimeString('en-GB', MADE);

/** Everything as it stood, in words. */
function stateWords({ state }: Take, session: Session): string[] {
  const nameOf = (id: string): string =>
    session.sources.find((one) => one.id === id)?.name ?? 'somebody who is gone';
  const { lids, panels, felt, sources, arrays, gainsDb } = state;
  const gains = gainsDb.flatMap((db) => (db === null ? [] : [formatSigned(db, 0)]));
  return [
    `${sources.length} ${sources.length === 1 ? 'player' : 'players'} and ${arrays.length} ${arrays.length === 1 ? 'array' : 'arrays'}, each at its place`,
    ...lids.map(({ sourceId, lid }) => `${nameOf(sourceId)}: lid ${lid.replace('-', ' ')}`),
    ...panels.map(({ sourceId, open }) => `${nameOf(sourceId)}: open ${open.join(', ')}`),
    ...felt.map((id) => `${nameOf(id)}: felt in`),
    gains.length === 0 ? 'gains not known' : `gains ${gains.join(', ')} dB`,
  ];
}

/** What was ever said of it, the newest first. */
function History({ history }: { history: readonly Take[] }) {
  if (history.length < 2) return null;
  return (
    <details className="pt-1">
      <summary className="cursor-pointer">Said anew {history.length - 1} times</summary>
      <ul aria-label="What was said before">
        {[...history].reverse().map((one) => (
          <li key={one.id} className="text-muted">
            {whenText(one.at)}: take {one.number}
            {one.name !== '' && `, ${one.name}`}
            {one.performance !== '' && `, performance ${one.performance}`}
            {one.comment !== '' && `; ${one.comment}`}
            {one.files.length > 0 && `; ${one.files.length} files`}
          </li>
        ))}
      </ul>
    </details>
  );
}

interface RowProps {
  one: TakeMatter;
  before: Take | null;
  options: readonly Option[];
  alike: boolean;
}

/** One take: what it was made with, and what was other than in the one before. */
function TakeRow({ one: { take, history }, before, options, alike }: RowProps) {
  const session = useSession();
  const [open, setOpen] = useState(false);
  const option = optionOfTake(options, take);
  const changes = before ? stateChanges(before.state, take.state, session) : [];
  const { units } = session.settings;
  const { temperatureC, people } = take.state;
  const degrees = temperatureC === null ? null : formatTemperature(temperatureC, units);
  return (
    <li aria-label={`Take ${take.number}`} className="border-hairline border-b py-2">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <button className="text-left" aria-expanded={open} onClick={() => setOpen(!open)}>
          <span className="text-[15px] font-semibold">Take {take.number}</span> {take.name}
        </button>
        <span>{option ? `option ${option.letter}` : 'no option'}</span>
        <span className={alike || take.performance === '' ? 'text-muted' : 'text-warning'}>
          {take.performance === '' ? 'performance not said' : take.performance}
          {!alike && take.performance !== '' && ', another performance'}
        </span>
        <span className="flex-1" />
        {degrees && (
          <span className="text-muted">
            {degrees.number} {degrees.unit}
          </span>
        )}
        <span className="text-muted text-[12.5px]">{timeText(history[0]?.at ?? take.at)}</span>
        <button className="btn btn-ghost btn-xs" onClick={() => strike('takes', take.id)}>
          Strike<span className="sr-only"> take {take.number}</span>
        </button>
      </div>
      {changes.length > 0 && (
        <p className="text-muted">Other than the one before: {changes.join('; ')}.</p>
      )}
      {!open && take.comment !== '' && <p>{take.comment}</p>}
      {open && (
        <div className="max-w-[80ch] pt-1">
          <SaidField
            label="Name"
            value={take.name}
            most={200}
            onSay={(name) => amend('takes', take.id, { name })}
          />
          <SaidField
            label="Performance"
            value={take.performance}
            most={100}
            onSay={(performance) => amend('takes', take.id, { performance })}
          />
          <SaidField
            label="Comment"
            value={take.comment}
            most={5000}
            multiline
            onSay={(comment) => amend('takes', take.id, { comment })}
          />
          <SaidField
            label="Who"
            value={people}
            most={2000}
            onSay={(who) => amend('takes', take.id, { state: { ...take.state, people: who } })}
          />
          <div className="max-w-72">
            <QuantityField
              label="Temperature"
              fieldKey={fieldKey('take', take.id, 'temperatureC')}
              kind={temperatureKind(units)}
              value={temperatureC}
              optional
              onCommit={(value) =>
                amend('takes', take.id, { state: { ...take.state, temperatureC: value } })
              }
            />
          </div>
          <Files take={take} />
          <div className="flex items-baseline gap-2 py-0.5">
            <span className="text-muted w-24 shrink-0">State</span>
            <ul aria-label="State">
              {stateWords(take, session).map((words) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
          </div>
          <History history={history} />
        </div>
      )}
    </li>
  );
}

/** The log of takes: numbered, with everything that stood as it stood. */
export function TakesPage() {
  const session: Session = useSession();
  const options = useOptions();
  const takes = takesOf(session);
  const newest = takes[takes.length - 1]?.take.performance ?? '';
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_17rem] gap-x-8 max-lg:grid-cols-1">
      <section aria-label="Takes" className="min-w-0">
        {takes.length === 0 && (
          <p className="text-muted max-w-[64ch]">
            No takes yet. Enter one as it is made: it keeps which option is up, lids, panels, felt,
            places of players and arrays, gains, temperature and who is there. Files can be said to
            be of it later, from the Bench.
          </p>
        )}
        <ul aria-label="Log of takes">
          {[...takes].reverse().map((one, i, all) => (
            <TakeRow
              key={one.key}
              one={one}
              before={all[i + 1]?.take ?? null}
              options={options}
              alike={one.take.performance !== '' && one.take.performance === newest}
            />
          ))}
        </ul>
      </section>
      <aside aria-label="Next" className="max-lg:order-first max-lg:pb-4">
        <NextTake options={options} takes={takes} />
      </aside>
    </div>
  );
}
