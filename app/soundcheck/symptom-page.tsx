import { modelOf } from '../../core/localisation';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import {
  saidOf,
  symptomById,
  SYMPTOMS,
  type Move,
  type Moves,
  type Symptom,
} from '../../core/soundcheck';
import { capitalised } from '../../core/units';
import { Working } from '../bench/asked';
import { planOf } from '../document/plan';
import { usePlan, useSession } from '../document/use-session';
import { notify } from '../view/notices';
import { useTask } from '../workers/use-task';
import { chooseCompared } from './compared';
import { addOption, soundingChanges, useOptions, usePlansOf } from './data';
import { optionsOf } from '../../core/soundcheck';
import { sessionStore } from '../document/session-store';

interface MoveProps {
  move: Move;
  best: boolean;
  tryIt: () => void;
  ready: boolean;
}

/** "move it closer by 0.50 m": without whom it is about and where that leads to. */
const shortName = (label: string): string => label.replace(/^[^:]+: /, '').split(', ')[0] ?? label;

/** One move: what it does for the symptom, what it costs, and a way to hear it. */
function MoveLine({ move, best, tryIt, ready }: MoveProps) {
  const { label, becomes, share, expected, whole, worsens, mends } = move;
  return (
    <li className="border-hairline border-b py-2">
      <div className="flex items-start gap-x-3">
        <span className={best ? 'text-[15px] font-semibold' : 'text-[15px]'}>{label}</span>
        <button className="btn btn-sm ml-auto" disabled={!ready} onClick={tryIt}>
          Try it<span className="sr-only">: {label}</span>
        </button>
      </div>
      <p>
        {capitalised(becomes)}
        {share < 0.995 && `, ${Math.round(share * 100)} % of what is asked for`}.
      </p>
      <p className="text-muted">
        {expected}
        {whole.length > 0 && ` The whole: ${whole.join(', ')}.`}
      </p>
      {mends.length > 0 && <p className="text-muted">Goes with it: {mends.join(' ')}</p>}
      {worsens.length > 0 && (
        <p role="note" className="text-warning">
          Makes worse: {worsens.join(' ')}
        </p>
      )}
    </li>
  );
}

interface FoundProps {
  symptom: Symptom;
  says: string;
  moves: Moves;
  ready: boolean;
  tryIt: (move: Move) => void;
}

/** What the plan has of it in figures, who does what about it, and what was tried. */
function Found({ symptom, says, moves, ready, tryIt }: FoundProps) {
  const { settings } = useSession();
  return (
    <>
      <h2 className="text-[17px]">{says}</h2>
      <p role="status" aria-label="In figures" className="pb-1">
        In the plan: {moves.nowText}
        {moves.now === null && ', so nothing can be said of it'}.
      </p>
      {moves.isUsual && (
        <p role="note">
          That is within what is usual: heard all the same, it may be on the recording (Bench) or in
          the monitoring.
        </p>
      )}
      {moves.causes.map((words) => (
        <p key={words} role="note" className="text-warning">
          First of all: {words}
        </p>
      ))}
      {symptom.schools && (
        <ul aria-label="Who says what" className="text-muted pb-1">
          {symptom.schools.map(({ who, says: what }) => (
            <li key={who}>
              {who}: {what}
            </li>
          ))}
        </ul>
      )}
      {moves.moves.length === 0 && moves.now !== null && (
        <p>
          In the plan it is not there, or nothing that the field turns changes it: look for it on
          the recording (Bench), or in the monitoring.
        </p>
      )}
      <ol aria-label="Moves">
        {moves.moves.map((move, i) => (
          <MoveLine
            key={move.label}
            move={move}
            best={i === 0 && move.worsens.length === 0}
            ready={ready}
            tryIt={() => tryIt(move)}
          />
        ))}
      </ol>
      {symptom.also && <p className="pt-2">{symptom.also}</p>}
      <p className="text-muted pt-2 text-[12.5px]">
        Of the plan’s figures, by {modelOf(settings).name}; how much is enough is a step that one
        hears for sure. Stands over people, lids and flown gear stay with the venue and its people.
      </p>
    </>
  );
}

/** From what somebody hears to what could be moved, each tried on a copy of the plan. */
export function SymptomPage() {
  const session = useSession();
  const plan = usePlan();
  const options = useOptions();
  const plans = usePlansOf(options);
  const [, setParams] = useSearchParams();
  const [id, setId] = useState('');
  const [player, setPlayer] = useState('');
  const symptom = symptomById(id);
  const focus = session.sources.some((one) => one.id === player)
    ? player
    : (session.sources[0]?.id ?? '');
  const asked = symptom?.ofPlayer ? focus : null;
  const ask = useMemo(
    () => (symptom ? { session: plan, symptom: symptom.id, focus: asked } : null),
    [plan, symptom, asked],
  );
  const found = useTask('moves', ask);
  const [given, setGiven] = useState<object | null>(null);
  const moves = found.busy ? null : found.value;
  const name = session.sources.find((one) => one.id === focus)?.name ?? '';
  const says = symptom ? saidOf(symptom, name) : '';
  const last = options[options.length - 1];
  const lastPlan = last ? (plans.value?.get(last.key) ?? null) : null;
  const tryIt = (move: Move): void => {
    const isUp = last && lastPlan && soundingChanges(lastPlan, plan).length === 0;
    // What is up now is an option of its own before anything is tried against it.
    const presentKey = isUp
      ? last.key
      : addOption(plan, last && lastPlan ? { option: last, plan: lastPlan } : null, {
          name: 'as it stands',
          why: says,
        });
    const now = sessionStore.getState().session;
    const present = now && optionsOf(now).find(({ key }) => key === presentKey);
    if (!present) return;
    const key = addOption(
      planOf({ ...move.plan, id: session.id }),
      { option: present, plan },
      { name: shortName(move.label), why: says },
    );
    if (key === '') return;
    chooseCompared(session.id, [present.key, key]);
    setParams({ page: 'compare' });
    notify(`${move.label}: it stands on B, what is up now on A.`);
  };
  return (
    <div className="max-w-[86ch]">
      <div className="flex flex-wrap items-end gap-4 pb-3">
        <label className="flex flex-col">
          <span className="text-muted">What is heard</span>
          <select
            className="select select-sm w-auto max-w-full"
            value={id}
            onChange={(event) => setId(event.currentTarget.value)}
          >
            <option value="">choose what is heard …</option>
            {SYMPTOMS.map((one) => (
              <option key={one.id} value={one.id}>
                {saidOf(one, 'One player')}
              </option>
            ))}
          </select>
        </label>
        {symptom?.ofPlayer && (
          <label className="flex flex-col">
            <span className="text-muted">Of whom</span>
            <select
              className="select select-sm w-auto"
              value={focus}
              onChange={(event) => setPlayer(event.currentTarget.value)}
            >
              {session.sources.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {session.sources.length === 0 && (
        <p className="text-muted">There are no players yet: add some on the Floor first.</p>
      )}
      {!symptom && session.sources.length > 0 && (
        <p className="text-muted">
          Say what is heard of the plan as it stands; what the field turns then is tried on a copy,
          and what helps most for the least stands first.
        </p>
      )}
      {symptom && given !== ask && (
        <Working state={found} what="Moves are tried" cancel={() => setGiven(ask)}>
          {moves && <Found {...{ symptom, says, moves }} ready={!plans.busy} tryIt={tryIt} />}
        </Working>
      )}
      {symptom && given === ask && (
        <button className="btn btn-sm" onClick={() => setGiven(null)}>
          Try the moves
        </button>
      )}
    </div>
  );
}
