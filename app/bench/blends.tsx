import { useState } from 'react';
import { mixesOf, readMixes, type Mixes } from '../../core/recorded';
import type { LogEntry, Session } from '../../core/session';
import { formatSigned } from '../../core/units';
import { editSaying } from '../document/edits';
import { enter, logIndex, strike } from '../document/journals';
import { sessionStore } from '../document/session-store';
import { useSession } from '../document/use-session';
import { keptVersion } from '../keeping/versions';
import { whenText } from './when';

type Blend = Extract<LogEntry, { kind: 'blend' }>;

function keep(session: Session, name: string, sends: Blend['sends']): boolean {
  const version = keptVersion(session);
  const strips = mixesOf(session);
  const said = { kind: 'blend' as const, by: '', name, version: version.hash, strips, sends };
  return enter('log', said, [version]) !== '';
}

/** How many arrays of the plan a blend says something of. */
const foundIn = ({ arrays }: Pick<Session, 'arrays'>, mixes: Mixes): number =>
  arrays.filter(({ id }) => mixes[id] !== undefined).length;

function setAgain({ name, strips }: Blend): void {
  const mixes = readMixes(strips);
  const there = sessionStore.getState().session;
  if (!there) return;
  const count = foundIn(there, mixes);
  editSaying(
    `${name}: the mix of ${count} ${count === 1 ? 'array' : 'arrays'} is set.`,
    (draft) => {
      for (const array of draft.arrays) {
        const mix = mixes[array.id];
        if (mix) array.mix = structuredClone(mix);
      }
    },
  );
}

interface Props {
  /** which reverberation is on which array: kept with it */
  sends?: Blend['sends'];
}

const NO_SENDS: Blend['sends'] = [];

/** Mixes of the plan that are kept by name, and set again. */
export function Blends({ sends = NO_SENDS }: Props) {
  const session = useSession();
  const [name, setName] = useState('');
  const blends = logIndex(session.log)
    .of('blend')
    .flatMap(({ standing }) => standing ?? []);
  const called = name.trim();
  return (
    <section aria-label="Kept blends" className="max-w-2xl pt-4">
      <h2 className="pb-1 text-[15px]">Kept blends</h2>
      <form
        aria-label="Keep the blend"
        className="flex flex-wrap items-center gap-3 pb-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (called !== '' && keep(session, called, sends)) setName('');
        }}
      >
        <label className="flex items-center gap-2">
          <span className="text-muted">The plan’s mix as it is now, as</span>
          <input
            className="input input-sm w-48"
            maxLength={200}
            value={name}
            onChange={(event) => setName(event.currentTarget.value)}
          />
        </label>
        <button className="btn btn-sm" type="submit" disabled={called === ''}>
          Keep it
        </button>
      </form>
      <ul aria-label="Kept blends">
        {blends.map((blend) => {
          const count = foundIn(session, readMixes(blend.strips));
          return (
            <li
              key={blend.id}
              className="border-hairline flex flex-wrap items-baseline gap-x-3 border-b py-1"
            >
              <span className="font-semibold">{blend.name}</span>
              <span className="text-muted flex-1 text-[12.5px]">
                {whenText(blend.at)}
                {blend.sends.map(
                  ({ arrayId, name: reverb, sendDb }) =>
                    `, ${session.arrays.find((one) => one.id === arrayId)?.name ?? 'an array that is gone'} to ${reverb || 'a reverberation'}${sendDb === null ? '' : ` at ${formatSigned(sendDb, 1)} dB`}`,
                )}
                {count === 0 && ', of arrays that are not in the plan any more'}
              </span>
              <button
                className="btn btn-ghost btn-xs"
                disabled={count === 0}
                onClick={() => setAgain(blend)}
              >
                Set it again
              </button>
              <button className="btn btn-ghost btn-xs" onClick={() => strike('log', blend.id)}>
                Strike it
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
