import { microphoneName as inputName } from '../../core/arrays';
import { fieldKey } from '../view/validity';
import { CircleCheck, CircleX, Download, Upload } from 'lucide-react';
import { current } from 'immer';
import { useState } from 'react';
import { type Pattern, PATTERN_NAMES } from '../../core/acoustics';
import { allowedByKit, assignKit, ofKind, completedKit, patternWord } from '../../core/kit';
import type { Microphone } from '../../core/session';
import { Menu } from '../parts/menu';
import { QuantityField } from '../parts/quantity-field';
import { channelsKind, levelKind, sensitivityKind } from '../parts/quantity-kinds';
import { SortableTable, type Column } from '../parts/sortable-table';
import { chooseFile, download, fileName } from '../keeping/files';
import { newId } from '../document/new-id';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { MeasuredPairs } from './kit-matches';
import { kitFromCsv, kitToCsv, type ReadKit } from './kit-csv';
import { CellText, removeButton, StandsAndBars } from './kit-stands';

function changeMicrophone(id: string, change: Partial<Microphone>): void {
  edit((draft) => {
    const mic = draft.kit.microphones.find((known) => known.id === id);
    if (mic) Object.assign(mic, change);
  });
}

const KINDS: readonly Microphone['kind'][] = [
  'small condenser',
  'large condenser',
  'ribbon',
  'dynamic',
  'boundary',
];
const FRONTS = ['end', 'side', 'not said'] as const;
const PHANTOM: readonly Microphone['phantom'][] = ['needs', 'tolerates', 'must not'];

function choice<T extends string>(
  label: string,
  value: T,
  options: readonly T[],
  set: (v: T) => void,
) {
  return (
    <select
      aria-label={label}
      className="select select-xs w-auto"
      value={value}
      onChange={(event) => {
        const found = options.find((option) => option === event.currentTarget.value);
        if (found) set(found);
      }}
    >
      {options.map((option) => (
        <option key={option}>{option}</option>
      ))}
    </select>
  );
}

/** Which patterns it can be switched to, as a list that opens. */
function Patterns({ mic }: { mic: Microphone }) {
  const toggle = (pattern: Pattern, on: boolean) =>
    edit((draft) => {
      const entry = draft.kit.microphones.find(({ id }) => id === mic.id);
      if (!entry) return;
      entry.patterns = entry.patterns.filter((known) => known !== pattern);
      if (on) entry.patterns.push(pattern);
    });
  const words = mic.patterns.map(patternWord).join(', ') || 'none';
  return (
    <Menu
      label={`${mic.name}, patterns: ${words}`}
      buttonClass="cursor-pointer"
      button={words.length > 26 ? `${mic.patterns.length} patterns` : words}
    >
      {() => (
        <div className="dropdown-content border-hairline bg-base-200 z-10 w-44 border p-2">
          {PATTERN_NAMES.map((pattern) => (
            <label key={pattern} className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={mic.patterns.includes(pattern)}
                onChange={(event) => toggle(pattern, event.currentTarget.checked)}
              />
              {pattern}
            </label>
          ))}
        </div>
      )}
    </Menu>
  );
}

const COLUMNS: readonly Column<Microphone>[] = [
  {
    id: 'name',
    header: 'Microphone',
    value: ({ name }) => name,
    cell: (mic) => (
      <CellText
        label="Name"
        value={mic.name}
        onCommit={(name) => changeMicrophone(mic.id, { name })}
      />
    ),
  },
  {
    id: 'kind',
    header: 'Kind',
    value: ({ kind }) => kind,
    cell: (mic) =>
      choice(`${mic.name}, kind`, mic.kind, KINDS, (kind) =>
        changeMicrophone(mic.id, ofKind(mic, kind)),
      ),
  },
  {
    id: 'patterns',
    header: 'Patterns',
    value: ({ patterns }) => patterns.map(patternWord).join(' '),
    cell: (mic) => <Patterns mic={mic} />,
  },
  {
    id: 'count',
    header: 'How many',
    numeric: true,
    value: ({ count }) => count,
    cell: (mic) => (
      <QuantityField
        bare
        label={`${mic.name}, how many`}
        fieldKey={fieldKey('mic', mic.id, 'count')}
        kind={channelsKind}
        value={mic.count}
        check={(value) => (Number.isInteger(value) ? null : 'Allowed: a whole number.')}
        onCommit={(count) => count !== null && changeMicrophone(mic.id, { count })}
      />
    ),
  },
  {
    id: 'matched',
    header: 'Matched',
    value: ({ matched }) => (matched ? 0 : 1),
    cell: (mic) => (
      <input
        type="checkbox"
        aria-label={`${mic.name}, matched pair`}
        className="checkbox checkbox-xs"
        checked={mic.matched}
        onChange={(event) => changeMicrophone(mic.id, { matched: event.currentTarget.checked })}
      />
    ),
  },
  {
    id: 'sensitivity',
    header: 'Sensitivity',
    numeric: true,
    value: ({ sensitivityMvPa }) => sensitivityMvPa ?? -1,
    cell: (mic) => (
      <QuantityField
        bare
        optional
        label={`${mic.name}, sensitivity`}
        fieldKey={fieldKey('mic', mic.id, 'sensitivity')}
        kind={sensitivityKind}
        value={mic.sensitivityMvPa}
        onCommit={(sensitivityMvPa) => changeMicrophone(mic.id, { sensitivityMvPa })}
      />
    ),
  },
  {
    id: 'max',
    header: 'Takes up to',
    numeric: true,
    value: ({ maxSplDb }) => maxSplDb ?? -1,
    cell: (mic) => (
      <QuantityField
        bare
        optional
        label={`${mic.name}, maximum level`}
        fieldKey={fieldKey('mic', mic.id, 'max')}
        kind={levelKind('levelDb')}
        value={mic.maxSplDb}
        onCommit={(maxSplDb) => changeMicrophone(mic.id, { maxSplDb })}
      />
    ),
  },
  {
    id: 'phantom',
    header: 'Phantom',
    value: ({ phantom }) => phantom,
    cell: (mic) =>
      choice(`${mic.name}, phantom power`, mic.phantom, PHANTOM, (phantom) =>
        changeMicrophone(mic.id, { phantom }),
      ),
  },
  {
    id: 'address',
    header: 'Front',
    value: ({ address }) => address ?? '',
    cell: (mic) =>
      choice(`${mic.name}, front`, mic.address ?? 'not said', FRONTS, (front) =>
        changeMicrophone(mic.id, { address: front === 'not said' ? null : front }),
      ),
  },
  {
    id: 'remove',
    header: '',
    cell: (mic) => removeButton(mic.name, 'microphones', mic.id),
  },
];

function ImportReport(props: { read: ReadKit; onDone: () => void }) {
  const { read, onDone } = props;
  const keep = (replace: boolean) => {
    edit((draft) => {
      draft.kit.microphones = replace ? read.good : [...draft.kit.microphones, ...read.good];
    });
    onDone();
  };
  return (
    <div role="alert" className="border-warning my-2 border-l-2 pl-4">
      <p className="font-semibold">
        {read.good.length} {read.good.length === 1 ? 'line' : 'lines'} can be read
        {read.bad.length > 0 && `, ${read.bad.length} cannot`}. Nothing has been changed yet.
      </p>
      <ul>
        {read.bad.slice(0, 10).map(({ line, message }) => (
          <li key={line}>
            <strong>Line {line}:</strong> {message}
          </li>
        ))}
        {read.bad.length > 10 && <li>and {read.bad.length - 10} more</li>}
      </ul>
      <div className="flex gap-2 py-2">
        {read.good.length > 0 && (
          <>
            <button className="btn btn-sm btn-primary" onClick={() => keep(false)}>
              Add the good lines
            </button>
            <button className="btn btn-sm" onClick={() => keep(true)}>
              Replace the list by them
            </button>
          </>
        )}
        <button className="btn btn-sm btn-ghost" onClick={onDone}>
          Cancel
        </button>
      </div>
    </div>
  );
}

const newMicrophone = (): Microphone => ({
  id: newId(),
  name: 'New microphone',
  kind: 'small condenser',
  patterns: ['cardioid'],
  count: 1,
  matched: false,
  sensitivityMvPa: null,
  maxSplDb: null,
  phantom: 'needs',
  address: null,
  matches: [],
});

function Microphones() {
  const session = useSession();
  const { microphones } = session.kit;
  const [read, setRead] = useState<ReadKit | null>(null);
  async function importCsv() {
    const file = await chooseFile('.csv,text/csv');
    if (file) setRead(kitFromCsv(await file.text(), newId));
  }
  return (
    <section aria-labelledby="microphones-heading">
      <h2 id="microphones-heading" className="text-[17px]">
        Microphones
      </h2>
      <div className="flex flex-wrap gap-2 py-2">
        <button
          className="btn btn-sm font-normal"
          onClick={() => edit((draft) => void draft.kit.microphones.push(newMicrophone()))}
        >
          Add a microphone
        </button>
        <button className="btn btn-sm font-normal" onClick={() => void importCsv()}>
          <Upload size={14} /> Read a CSV list
        </button>
        {microphones.length > 0 ? (
          <button
            className="btn btn-sm font-normal"
            onClick={() =>
              download(
                fileName(`${session.title} microphones`, 'csv'),
                new Blob([kitToCsv(microphones)], { type: 'text/csv' }),
              )
            }
          >
            <Download size={14} /> Save as CSV
          </button>
        ) : (
          <button
            className="btn btn-sm btn-primary font-normal"
            onClick={() => edit((draft) => void (draft.kit = completedKit(current(draft.kit))))}
          >
            Begin with a starter kit
          </button>
        )}
      </div>
      {read && <ImportReport read={read} onDone={() => setRead(null)} />}
      {microphones.length === 0 ? (
        <p className="text-muted pb-2">
          No list yet: nothing is ruled out, and nothing can be counted.
        </p>
      ) : (
        <SortableTable label="Microphones" columns={COLUMNS} rows={microphones} />
      )}
    </section>
  );
}

function Allowed() {
  const { kit } = useSession();
  return (
    <section aria-labelledby="allowed-heading">
      <h2 id="allowed-heading" className="pb-1 text-[17px]">
        What it builds
      </h2>
      <ul>
        {allowedByKit(kit).map(({ name, lacks }) => (
          <li key={name} className="flex items-baseline gap-2 py-0.5">
            {lacks === null ? (
              <CircleCheck size={14} className="text-primary shrink-0 self-center" />
            ) : (
              <CircleX size={14} className="text-muted shrink-0 self-center" />
            )}
            <span className={lacks === null ? '' : 'text-muted'}>{name}</span>
            {lacks !== null && <span className="text-error">needs {lacks}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Shares() {
  const session = useSession();
  const { capsules, left, unmatched, alternatives } = assignKit(session);
  const leftOver = session.kit.microphones.filter(({ id }) => (left[id] ?? 0) > 0);
  return (
    <section aria-labelledby="shares-heading">
      <h2 id="shares-heading" className="pb-1 text-[17px]">
        Who gets what
      </h2>
      <table className="ledger-table w-full" aria-label="Who gets what">
        <tbody>
          {capsules.map(({ arrayId, arrayName, label, pattern, microphoneName }) => (
            <tr key={`${arrayId}${label}`}>
              <td>{inputName(arrayName, label)}</td>
              <td>{pattern}</td>
              <td>{microphoneName ?? <span className="text-error">none left</span>}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {unmatched.map((name) => (
        <p key={name} className="text-warning pt-1">
          {name}: two different microphones. Image and mono sum will wander with frequency.
        </p>
      ))}
      {alternatives.map((text) => (
        <p key={text} className="text-error pt-1">
          {text}
        </p>
      ))}
      <p className="text-muted pt-1">
        Left over:{' '}
        {leftOver.length === 0
          ? 'nothing'
          : leftOver.map(({ id, name }) => `${left[id]} × ${name}`).join(', ')}
      </p>
    </section>
  );
}

/** What there is, what it builds, who gets it. */
export function KitPage() {
  const { kit } = useSession();
  return (
    <div className="flex max-w-6xl flex-col gap-6">
      <Microphones />
      <MeasuredPairs />
      {kit.microphones.length > 0 && (
        <div className="grid gap-10 md:grid-cols-2">
          <Allowed />
          <Shares />
        </div>
      )}
      <StandsAndBars />
    </div>
  );
}
