import { useEffect, useMemo, useState } from 'react';
import { isBound } from '../../core/recorded';
import type { Plan } from '../../core/session';
import { placesOf, type Alone } from '../../core/verdict';
import { usePlan, useSession } from '../document/use-session';
import { notifyFailure } from '../view/notices';
import type { Tasks } from '../workers/tasks';
import { useTask } from '../workers/use-task';
import { Working, type PageProps, type Seconds } from './asked';
import { takeOf } from './opening';
import { planOfTake } from './simulate';
import { Passages, usePassages } from './passages';
import { VerdictShown } from './verdict-shown';
import { WhereHeard } from './where-heard';

/** How the recording is heard, and that it be heard as it is. */
interface Hearing {
  heardAll: boolean;
  hearAll: () => void;
}

/** The plan that a recording was made under; null while it is looked for. */
function usePlanOf(recording: PageProps['recording']): { plan: Plan | null; earlier: boolean } {
  const session = useSession();
  const now = usePlan();
  const take = takeOf(session, recording);
  const version = take?.version ?? '';
  const [kept, setKept] = useState<{ version: string; plan: Plan } | null>(null);
  useEffect(() => {
    if (version === '' || kept?.version === version || !take) return;
    planOfTake(session, take).then((plan) => setKept({ version, plan }), notifyFailure);
  }, [session, take, version, kept]);
  const then = kept?.version === version ? kept.plan : null;
  const { asBuilt } = now.rig;
  // What was noted as built is about the rig that stood there, whenever it was noted. The same object
  // as long as it is the same plan: what is asked of it is not asked anew with every drawing.
  const plan = useMemo(() => then && { ...then, rig: { ...then.rig, asBuilt } }, [then, asBuilt]);
  if (version === '') return { plan: now, earlier: false };
  if (!plan) return { plan: null, earlier: false };
  const same = (part: 'arrays' | 'sources' | 'venue'): boolean =>
    JSON.stringify(plan[part]) === JSON.stringify(now[part]);
  return { plan, earlier: !(same('arrays') && same('sources') && same('venue')) };
}

interface AskProps {
  claps: boolean;
  setClaps: (claps: boolean) => void;
  /** null: nobody is alone yet */
  hold: (() => void) | null;
  stretch: Seconds | null;
  add: (stretch: Seconds) => void;
}

/** What sounds, and that it be held against the plan. */
function AskBar({ claps, setClaps, hold, stretch, add }: AskProps) {
  return (
    <div className="no-print flex flex-wrap items-center gap-4 pb-2">
      <label className="flex items-center gap-2">
        <span className="text-muted">What sounds</span>
        <select
          aria-label="What sounds"
          className="select select-sm w-auto"
          value={claps ? 'claps' : 'players'}
          onChange={(event) => setClaps(event.currentTarget.value === 'claps')}
        >
          <option value="players">players, one after another</option>
          <option value="claps">claps at their places</option>
        </select>
      </label>
      <button className="btn btn-sm btn-primary" disabled={hold === null} onClick={() => hold?.()}>
        Hold it against the plan
      </button>
      {stretch && (
        <button className="btn btn-sm font-normal" onClick={() => add(stretch)}>
          Add the stretch as a passage
        </button>
      )}
    </div>
  );
}

const passagesText = (passages: number, players: number): string =>
  passages === players
    ? `${passages} passages stand apart by a second of silence, in the order of the ${players} players.`
    : `${passages} ${passages === 1 ? 'passage stands' : 'passages stand'} apart by a second of silence, for ${players} players: say who is alone in each, or choose a stretch on the curve and add it.`;

interface LeadsProps {
  ask: Tasks['leads']['ask'];
  add: (leads: Tasks['leads']['answer']) => void;
}

/** Where nothing separates them: stretches in which one leads, by the delay that they keep to. */
function Leads({ ask, add }: LeadsProps) {
  const [asked, setAsked] = useState<Tasks['leads']['ask'] | null>(null);
  const state = useTask('leads', asked);
  const found = asked && !state.busy ? state.value : null;
  return (
    <div className="pt-2">
      {!asked && (
        <button className="btn btn-sm font-normal" onClick={() => setAsked(ask)}>
          Look for who leads
        </button>
      )}
      <Working state={state} what="Looking for who leads" cancel={() => setAsked(null)}>
        {found && (
          <p
            role="status"
            aria-label="Who leads"
            className="flex max-w-[72ch] flex-wrap items-center gap-3"
          >
            {found.length === 0
              ? 'Nobody leads for two seconds: mark passages by hand.'
              : `${found.length} ${found.length === 1 ? 'stretch keeps' : 'stretches keep'} to one delay: ${[...new Set(found.map(({ place }) => place?.name ?? 'somebody who fits nobody of the plan alone'))].join(', ')}. Listen whether they are alone there.`}
            {found.length > 0 && (
              <button
                className="btn btn-xs"
                onClick={() => {
                  add(found);
                  setAsked(null);
                }}
              >
                Add them as passages
              </button>
            )}
          </p>
        )}
      </Working>
    </div>
  );
}

/** What of a take in which one after the other is alone is as planned, and why the rest is not. */
function Held(props: PageProps & Hearing & { plan: Plan; earlier: boolean }) {
  const { recording, stretch, go, plan, earlier, heardAll, hearAll } = props;
  const { source, binding, simulation } = recording;
  const [claps, setClaps] = useState(simulation?.phrase === 'claps');
  const places = useMemo(() => placesOf(plan, claps), [plan, claps]);
  const { channels, found, giveUp, passages, add, addLeads, choose } = usePassages(
    recording,
    plan,
    places,
  );
  const [held, setHeld] = useState<Tasks['againstPlan']['ask'] | null>(null);
  const state = useTask('againstPlan', held);
  const [asking, setAsking] = useState(false);
  if (channels.length < 2) {
    return (
      <p className="max-w-[72ch]">
        {isBound(binding)
          ? 'One channel alone tells nothing of where anybody stands: bind a second one on Channels.'
          : 'Nothing is bound to the channel list yet: say on Channels which microphone each channel is.'}
      </p>
    );
  }
  const alone = passages.flatMap(({ at, who }): Alone[] => (who ? [{ ...at, place: who }] : []));
  const answer = state.busy ? null : state.value;
  // While somebody is asked where they hear it, nothing on the page may tell.
  return (
    <>
      {!asking && (
        <>
          {earlier && (
            <p role="note" className="pb-2">
              The plan has been changed since: the take is held against the plan that it was made
              under.
            </p>
          )}
          <AskBar
            {...{ claps, setClaps, stretch, add }}
            hold={alone.length === 0 ? null : () => setHeld({ file: source, plan, binding, alone })}
          />
          <Working state={state} what="Held against the plan" cancel={() => setHeld(null)}>
            {held && answer && !answer.ok && (
              <p role="status" aria-label="Verdict">
                Cannot be told: {answer.message}.
              </p>
            )}
            {held && answer?.ok && (
              <VerdictShown verdict={answer.value} plan={held.plan} recording={recording} />
            )}
          </Working>
          <section aria-label="Passages" className="no-print pt-4">
            <h2 className="pb-1 text-[15px]">Passages</h2>
            <Working state={found} what="Looking for passages" cancel={giveUp}>
              <p
                role="status"
                aria-label="Passages found"
                className="text-muted pb-2 text-[12.5px]"
              >
                {passagesText(passages.length, places.length)}
              </p>
              <Passages passages={passages} places={places} choose={choose} go={go} />
              <Leads ask={{ file: source, plan, binding }} add={addLeads} />
            </Working>
          </section>
        </>
      )}
      <WhereHeard
        {...{ recording, plan, heardAll, hearAll, asking, setAsking }}
        passages={alone.map(({ place, ...at }) => ({ at, who: place }))}
      />
    </>
  );
}

/** A take against the plan that it was made under. */
export function AgainstPage(props: PageProps & Hearing) {
  const { plan, earlier } = usePlanOf(props.recording);
  return (
    <section aria-label="Against the plan">
      {plan ? (
        <Held {...props} plan={plan} earlier={earlier} />
      ) : (
        <p role="status">Looking for the plan of then …</p>
      )}
    </section>
  );
}
