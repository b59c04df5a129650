import { useEffect, useId, useMemo, useRef, useState } from 'react';
import { TEMPLATES } from '../../core/ensembles';
import { HALL_SIZES } from '../../core/planning';
import { copyNamed, createSession } from '../keeping/library';
import type { SessionSummary } from '../keeping/storage';

interface Props {
  /** what can be copied */
  sessions: readonly SessionSummary[];
  onClose: () => void;
  /** told which session was begun */
  onBegun: (made: Promise<string | null>) => void;
}

const EMPTY = 'empty';

function useNewName(sessions: readonly SessionSummary[]): string {
  return useMemo(() => {
    const taken = new Set(sessions.map(({ title }) => title));
    let name = 'New session';
    for (let i = 2; taken.has(name); i++) name = `New session ${i}`;
    return name;
  }, [sessions]);
}

interface BeginWithProps {
  id: string;
  from: string;
  setFrom: (from: string) => void;
  sessions: readonly SessionSummary[];
}

/** Nothing, a template, or a copy of another one. */
function BeginWith({ id: own, from, setFrom, sessions }: BeginWithProps) {
  return (
    <div className="pb-3">
      <label htmlFor={own} className="text-muted block pb-1">
        Begin with
      </label>
      <select
        id={own}
        className="select select-sm w-full"
        value={from}
        onChange={(event) => setFrom(event.currentTarget.value)}
      >
        <option value={EMPTY}>An empty floor and one pair</option>
        <optgroup label="A template with its microphones">
          {TEMPLATES.map(({ id, name: label }) => (
            <option key={id} value={`template ${id}`}>
              {label}
            </option>
          ))}
        </optgroup>
        {sessions.length > 0 && (
          <optgroup label="A copy of">
            {sessions.map(({ id, title }) => (
              <option key={id} value={`copy ${id}`}>
                {title}
              </option>
            ))}
          </optgroup>
        )}
      </select>
    </div>
  );
}

/** What a new session is called and begins with; Enter goes on to the next of these, and begins it at the last. */
export function NewSessionDialog({ sessions, onClose, onBegun }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  const heading = useId();
  const suggested = useNewName(sessions);
  const [name, setName] = useState(suggested);
  const [from, setFrom] = useState(EMPTY);
  const [hall, setHall] = useState('');
  const template = TEMPLATES.find(({ id }) => `template ${id}` === from) ?? null;
  const copied = sessions.find(({ id }) => `copy ${id}` === from);
  useEffect(() => {
    dialog.current?.showModal();
  }, []);

  function begin() {
    const title = name.trim() || suggested;
    dialog.current?.close();
    onBegun(
      copied
        ? copyNamed(copied.id, title)
        : createSession({
            title,
            template,
            hall: HALL_SIZES.find(({ id }) => id === hall) ?? null,
          }),
    );
  }

  return (
    <dialog
      ref={dialog}
      aria-labelledby={heading}
      onClose={onClose}
      className="border-hairline bg-base-200 text-base-content m-auto w-[460px] rounded-[3px] border p-5 backdrop:bg-black/30"
    >
      <form
        onKeyDown={(event) => {
          const { target } = event;
          if (event.key !== 'Enter' || target instanceof HTMLButtonElement) return;
          // The name alone is no answer to where it is: nothing begins before all was asked.
          event.preventDefault();
          const fields = [...event.currentTarget.querySelectorAll<HTMLElement>('input, select')];
          const next = fields[fields.indexOf(target as HTMLElement) + 1];
          if (next) next.focus();
          else begin();
        }}
        onSubmit={(event) => {
          event.preventDefault();
          begin();
        }}
      >
        <h2 id={heading} className="pb-3 text-[17px]">
          New session
        </h2>
        <div className="pb-3">
          <label htmlFor={`${heading}-name`} className="text-muted block pb-1">
            Name
          </label>
          <input
            autoFocus
            id={`${heading}-name`}
            className="input input-sm w-full"
            maxLength={200}
            value={name}
            onFocus={(event) => event.currentTarget.select()}
            onChange={(event) => setName(event.currentTarget.value)}
          />
        </div>
        <BeginWith id={`${heading}-from`} from={from} setFrom={setFrom} sessions={sessions} />
        {!copied && (
          <div className="pb-1">
            <label htmlFor={`${heading}-hall`} className="text-muted block pb-1">
              Hall
            </label>
            <select
              id={`${heading}-hall`}
              className="select select-sm w-full"
              value={hall}
              onChange={(event) => setHall(event.currentTarget.value)}
            >
              <option value="">Not known yet</option>
              {HALL_SIZES.map(({ id, name: label, widthM, depthM, heightM }) => (
                <option key={id} value={id}>
                  {label}, {widthM} × {depthM} m, {heightM} m high
                </option>
              ))}
            </select>
          </div>
        )}
        <p className="text-muted min-h-10 pt-1 text-[12.5px]">
          {copied
            ? 'Plan, kit and hall as they are there; nothing of the original is changed.'
            : template
              ? `${template.about}.`
              : 'Sizes are measured later in Brief; how long the hall sounds is asked there.'}
        </p>
        <div className="flex justify-end gap-2 pt-3">
          <button type="button" className="btn btn-sm" onClick={() => dialog.current?.close()}>
            Cancel
          </button>
          <button type="submit" className="btn btn-sm btn-primary">
            Begin
          </button>
        </div>
      </form>
    </dialog>
  );
}
