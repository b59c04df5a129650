import { CircleCheck } from 'lucide-react';
import { useState } from 'react';
import { DEFERENCE, safetyCautions } from '../../core/rig';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

/** The cautions that this plan really raises, each to be read by somebody with a name. */
export function SafetyPage() {
  const session = useSession();
  const cautions = safetyCautions(session);
  const [name, setName] = useState(session.brief.people[0]?.name ?? '');
  const read = new Map(session.rig.acknowledged.map((entry) => [entry.code, entry]));
  const open = cautions.filter(({ code }) => !read.has(code)).length;
  const acknowledge = (code: string) =>
    edit((draft) => {
      const others = draft.rig.acknowledged.filter((entry) => entry.code !== code);
      draft.rig.acknowledged = [
        ...others,
        { code, name: name.trim(), at: new Date().toISOString() },
      ];
    });
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
                      {entry.at.slice(0, 16).replace('T', ' ')}
                    </p>
                  ) : (
                    <button
                      className="btn btn-sm"
                      disabled={name.trim() === ''}
                      onClick={() => acknowledge(code)}
                    >
                      Read<span className="sr-only">: {what}</span>
                    </button>
                  )}
                </li>
              );
            })}
          </ul>
          <p className="text-muted">They stand on the printed sheet with the name and the time.</p>
        </>
      )}
    </section>
  );
}
