import { CircleCheck } from 'lucide-react';
import { useState } from 'react';
import { cautionsRead, DEFERENCE, safetyCautions } from '../../core/rig';
import { matters, type Acknowledgement } from '../../core/session';
import { acknowledge, takeBackReading } from '../document/journals';
import { useSession } from '../document/use-session';

const minute = ({ at }: Acknowledgement): string => at.slice(0, 16).replace('T', ' ');

/** Readings that were taken back: they do not count any more, and stay on record. */
function TakenBack(props: {
  entries: readonly Acknowledgement[];
  words: ReadonlyMap<string, string>;
}) {
  const { entries, words } = props;
  const struck = matters(entries).filter(({ standing }) => standing === null);
  if (struck.length === 0) return null;
  return (
    <details>
      <summary className="text-muted cursor-pointer">Taken back ({struck.length})</summary>
      <ul className="text-muted pl-5">
        {struck.map(({ history }) => {
          const [first] = history;
          const last = history[history.length - 1];
          return first && last ? (
            <li key={first.id}>
              {words.get(first.code) ?? first.code}: read by {first.name}, {minute(first)}; taken
              back by {last.name}, {minute(last)}
            </li>
          ) : null;
        })}
      </ul>
    </details>
  );
}

/** The cautions that this plan really raises, each to be read by somebody with a name. */
export function SafetyPage() {
  const session = useSession();
  const cautions = safetyCautions(session);
  const [name, setName] = useState(session.brief.people[0]?.name ?? '');
  const read = cautionsRead(session);
  const words = new Map(cautions.map(({ code, what }) => [code, what]));
  const open = cautions.filter(({ code }) => !read.has(code)).length;
  return (
    <section aria-label="Safety" className="flex max-w-3xl flex-col gap-3">
      <p className="font-semibold">{DEFERENCE}</p>
      {cautions.length === 0 ? (
        <p>This plan raises no cautions of its own.</p>
      ) : (
        <>
          <label className="flex items-center gap-3">
            <span className="text-muted">Read by</span>
            <input
              className="input input-sm w-60"
              value={name}
              maxLength={200}
              placeholder="your name"
              onChange={(event) => setName(event.currentTarget.value)}
            />
            <span className="text-muted" role="status">
              {open === 0 ? 'All are read.' : `${open} of ${cautions.length} still to be read.`}
            </span>
          </label>
          <ul aria-label="Cautions">
            {cautions.map(({ code, what, todo }) => {
              const entry = read.get(code);
              return (
                <li key={code} className="border-hairline flex items-start gap-4 border-b py-3">
                  <div className="flex-1">
                    <p className="font-semibold">{what}</p>
                    <p>{todo}</p>
                  </div>
                  {entry ? (
                    <p className="text-muted flex items-center gap-1 whitespace-nowrap">
                      <CircleCheck size={15} className="text-primary" /> {entry.name},{' '}
                      {minute(entry)}
                      <button
                        className="btn btn-ghost btn-xs"
                        onClick={() => takeBackReading(entry.id, name.trim() || entry.name)}
                      >
                        Take back<span className="sr-only">: {what}</span>
                      </button>
                    </p>
                  ) : (
                    <button
                      className="btn btn-sm"
                      disabled={name.trim() === ''}
                      onClick={() => acknowledge(code, name.trim())}
                    >
                      Read<span className="sr-only">: {what}</span>
                    </button>
                  )}
                </li>
              );
            })}
          </ul>
          <TakenBack entries={session.acknowledgements} words={words} />
          <p className="text-muted">They stand on the printed sheet with the name and the time.</p>
        </>
      )}
    </section>
  );
}
