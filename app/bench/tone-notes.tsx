import { useId, useState } from 'react';
import { highPassWords, toneWords, type ToneNote, type ToneSaid } from '../../core/recorded';
import { amend, enter, logIndex, strike } from '../document/journals';
import { useSession } from '../document/use-session';
import { downloadTable } from '../keeping/tables';
import { QuantityField } from '../parts/quantity-field';
import { filterKind, headroomKind, levelKind, plainNumberKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';
import { whenText } from './when';

type Filter = ToneSaid['filters'][number];

const NOTHING: ToneSaid = {
  text: '',
  layer: '',
  highPassHz: null,
  lowPassHz: null,
  filters: [],
  compressionDb: null,
  reverbSendDb: null,
};
const KINDS: readonly Filter['kind'][] = ['peak', 'low shelf', 'high shelf'];
const MOST_FILTERS = 16;
const gainKind = levelKind('gainDb');
const qKind = plainNumberKind('q');
const HEAD = ['Layer', 'Noted', 'At', 'By'] as const;

const saidOf = ({
  text,
  layer,
  highPassHz,
  lowPassHz,
  filters,
  compressionDb,
  reverbSendDb,
}: ToneNote): ToneSaid => ({
  text,
  layer,
  highPassHz,
  lowPassHz,
  filters,
  compressionDb,
  reverbSendDb,
});

interface FiltersProps {
  filters: readonly Filter[];
  change: (filters: Filter[]) => void;
}

/** The filters of a layer, one a line. */
function Filters({ filters, change }: FiltersProps) {
  const set = (at: number, part: Partial<Filter>): void =>
    change(filters.map((one, i) => (i === at ? { ...one, ...part } : one)));
  return (
    <>
      {filters.map(({ kind, hz, gainDb, q }, i) => (
        <div key={i} className="flex flex-wrap items-end gap-x-4 gap-y-1">
          <label className="flex items-center gap-2">
            <span className="text-muted">Filter {i + 1}</span>
            <select
              className="select select-sm w-auto"
              value={kind}
              onChange={(event) => {
                const found = KINDS.find((one) => one === event.currentTarget.value);
                if (found) set(i, { kind: found });
              }}
            >
              {KINDS.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </label>
          {(
            [
              ['frequency', 'hz', filterKind, hz],
              ['gain', 'gainDb', gainKind, gainDb],
              ['Q', 'q', qKind, q],
            ] as const
          ).map(([name, field, of, value]) => (
            <div key={field} className="w-48">
              <QuantityField
                label={`Filter ${i + 1}, ${name}`}
                fieldKey={fieldKey('tone', String(i), field)}
                kind={of}
                value={value}
                onCommit={(next) => next !== null && set(i, { [field]: next })}
              />
            </div>
          ))}
          <button
            type="button"
            className="btn btn-ghost btn-xs"
            aria-label={`Remove filter ${i + 1}`}
            onClick={() => change(filters.filter((_, at) => at !== i))}
          >
            ×
          </button>
        </div>
      ))}
      <button
        type="button"
        className="btn btn-sm self-start font-normal"
        disabled={filters.length >= MOST_FILTERS}
        onClick={() => change([...filters, { kind: 'peak', hz: 250, gainDb: -2, q: 1.4 }])}
      >
        Add a filter
      </button>
    </>
  );
}

interface FormProps {
  /** what is noted now; changed in place of a new one where it has an id */
  draft: ToneSaid;
  changing: boolean;
  change: (part: Partial<ToneSaid>) => void;
  keep: () => void;
  giveUp: () => void;
}

/** What is done to a layer: only what is filled in is noted. */
function Form({ draft, changing, change, keep, giveUp }: FormProps) {
  const { arrays } = useSession();
  const layers = useId();
  const noted = toneWords(draft).length > 0;
  const layer = draft.layer.trim();
  return (
    // No form element: Enter takes a field, it does not note half of what is meant.
    <div role="form" aria-label="Note of a layer" className="flex flex-col gap-2 pb-3">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <label className="flex items-center gap-2">
          <span className="text-muted">Layer</span>
          <input
            className="input input-sm w-52"
            list={layers}
            maxLength={200}
            placeholder="Main pair"
            value={draft.layer}
            onChange={(event) => change({ layer: event.currentTarget.value })}
          />
          <datalist id={layers}>
            {[...new Set([...arrays.map(({ name }) => name), 'Mix'])].map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </label>
        {(
          [
            ['High-pass', 'highPassHz', filterKind],
            ['Low-pass', 'lowPassHz', filterKind],
            ['Compressed by up to', 'compressionDb', headroomKind],
            ['Reverb send', 'reverbSendDb', gainKind],
          ] as const
        ).map(([label, field, kind]) => (
          <div key={field} className="w-72">
            <QuantityField
              label={label}
              optional
              fieldKey={fieldKey('tone', 'new', field)}
              kind={kind}
              value={draft[field]}
              onCommit={(value) => change({ [field]: value })}
            />
          </div>
        ))}
      </div>
      {draft.highPassHz !== null && (
        <p role="status" aria-label="What the high-pass takes" className="text-[12.5px]">
          {highPassWords(draft.highPassHz)}
        </p>
      )}
      <Filters filters={draft.filters} change={(filters) => change({ filters })} />
      <label className="flex items-center gap-2">
        <span className="text-muted">Words</span>
        <input
          className="input input-sm w-96 max-w-full"
          maxLength={2000}
          value={draft.text}
          onChange={(event) => change({ text: event.currentTarget.value })}
        />
      </label>
      <div className="flex items-center gap-3">
        <button className="btn btn-sm" disabled={!noted || layer === ''} onClick={keep}>
          {changing ? 'Note the change' : 'Note it'}
        </button>
        {changing && (
          <button className="btn btn-sm btn-ghost" type="button" onClick={giveUp}>
            Leave it as it was
          </button>
        )}
        {(!noted || layer === '') && (
          <span className="text-muted text-[12.5px]">
            Say which layer, and one thing that is done to it.
          </span>
        )}
      </div>
    </div>
  );
}

/** What is done to the tone of each layer, kept in the session and there again with it. */
export function ToneNotes() {
  const { log, title } = useSession();
  const [draft, setDraft] = useState<ToneSaid>(NOTHING);
  const [changing, setChanging] = useState<string | null>(null);
  const notes = logIndex(log)
    .of('tone')
    .flatMap(({ standing }) => standing ?? []);
  const done = (): void => {
    setDraft(NOTHING);
    setChanging(null);
  };
  const keep = (): void => {
    const said = { ...draft, layer: draft.layer.trim() };
    const id = changing
      ? amend('log', changing, said)
      : enter('log', { kind: 'tone', by: '', of: [], ...said });
    if (id !== '') done();
  };
  const rows = notes.map((note) => [note.layer, toneWords(note).join('; '), note.at, note.by]);
  return (
    <section aria-label="What is done to each layer" className="pt-6">
      <div className="flex items-baseline gap-3">
        <h2 className="pb-1 text-[15px]">What is done to each layer</h2>
        {rows.length > 0 && (
          <button
            className="btn btn-ghost btn-xs"
            onClick={() => void downloadTable(`${title} tone`, HEAD, rows)}
          >
            CSV
          </button>
        )}
      </div>
      <p className="text-muted max-w-[76ch] pb-2 text-[12.5px]">
        Filters, compression and sends as they are on the desk, to be set again next time. They stay
        with the session.
      </p>
      <Form
        draft={draft}
        changing={changing !== null}
        change={(part) => setDraft({ ...draft, ...part })}
        keep={keep}
        giveUp={done}
      />
      {notes.length > 0 && (
        <ul aria-label="Noted of the layers">
          {notes.map((note) => (
            <li
              key={note.id}
              className="border-hairline flex flex-wrap items-baseline gap-x-3 border-b py-1"
            >
              <span className="font-semibold">{note.layer || 'no layer'}</span>
              <span className="flex-1">{toneWords(note).join('; ')}</span>
              <span className="text-muted text-[12.5px]">{whenText(note.at)}</span>
              <button
                className="btn btn-ghost btn-xs"
                onClick={() => {
                  setDraft(saidOf(note));
                  setChanging(note.id);
                }}
              >
                Change it
              </button>
              <button
                className="btn btn-ghost btn-xs"
                onClick={() => {
                  strike('log', note.id);
                  if (changing === note.id) done();
                }}
              >
                Strike it
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
