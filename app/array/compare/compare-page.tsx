import { byJudgement, PART_WORDS, wantedOf, type Wanted } from '../../../core/analysis';
import type { MicArray, Session } from '../../../core/session';
import { formatNumber } from '../../../core/units';
import { allBeside } from '../../document/beside';
import {
  adoptArray,
  adoptSetUp,
  keepCandidate,
  keepSetUp,
  renameCandidate,
} from '../../document/edits';
import { edit } from '../../document/session-store';
import { exportSheet } from '../../keeping/exports';
import { choiceStore } from '../../view/choice';
import { notifyFailure } from '../../view/notices';
import { planOf } from '../../document/plan';
import { useSession } from '../../document/use-session';
import { useMemo, useState } from 'react';
import { Between } from './between';
import { differences, measured, type Entry, type Measured } from './measured';
import { useTask } from '../../workers/use-task';

/** In which wishes of the brief the first is ahead of the second, the largest first. */
function aheadIn(
  weights: Wanted['weights'],
  first: Measured | undefined,
  second: Measured | undefined,
): string {
  if (!first || !second) return '';
  const { parts } = first.judgement;
  const gains = (Object.keys(PART_WORDS) as (keyof typeof PART_WORDS)[])
    .map((key) => ({
      name: PART_WORDS[key],
      points: weights[key] * (parts[key] - second.judgement.parts[key]),
    }))
    .filter(({ points }) => points > 0)
    .sort((a, b) => b.points - a.points)
    .slice(0, 2)
    .map(({ name }) => name);
  return gains.length > 0 ? `, most of it by ${gains.join(', then ')}` : '';
}

/** The session as it would be rigged with one entry alone, for a sheet of its own. */
function alone(session: Session, { name, array, setUp }: Entry): Session {
  return {
    ...session,
    title: `${session.title}: ${name}`,
    arrays: setUp.length > 0 ? [...setUp] : [{ ...array, name, enabled: true }],
  };
}

/** What a candidate is called: as the array was, or as one likes. */
function CandidateName({ id, name }: { id: string | null; name: string }) {
  const { candidates } = useSession();
  const own = candidates.find((candidate) => candidate.id === id)?.name ?? name;
  return (
    <input
      aria-label={`Name of ${name}`}
      title={name}
      className="value-input -ml-1 w-auto! px-1! text-left! font-semibold"
      size={Math.min(24, Math.max(6, own.length))}
      maxLength={200}
      key={own}
      defaultValue={own}
      onKeyDown={(event) => {
        if (event.key === 'Escape') event.currentTarget.value = own;
        if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
      }}
      onBlur={(event) => {
        const typed = event.currentTarget.value.trim();
        if (typed === '') event.currentTarget.value = own;
        else if (typed !== own) edit(renameCandidate(id ?? '', typed));
      }}
    />
  );
}

/** What can be done with one of them. */
function Does({ entry, array }: { entry: Entry; array: MicArray }) {
  const session = useSession();
  return (
    <>
      <button
        className="btn btn-xs mr-1 font-normal"
        onClick={() => void exportSheet(alone(session, entry)).catch(notifyFailure)}
      >
        Sheet<span className="sr-only"> of {entry.name}</span>
      </button>
      {entry.kind === 'own' && (
        <span className="inline-flex gap-1">
          <button
            className="btn btn-xs"
            onClick={() => choiceStore.setState({ activeArrayId: entry.id })}
          >
            Work on it<span className="sr-only">: {entry.name}</span>
          </button>
          <button
            className="btn btn-xs btn-ghost font-normal"
            title="As rings on the image line, and heard by B at the same loudness"
            onClick={() => choiceStore.setState({ ghostId: entry.id })}
          >
            Beside it<span className="sr-only">: {entry.name}</span>
          </button>
        </span>
      )}
      {entry.kind === 'candidate' && (
        <span className="inline-flex gap-1">
          <button
            className="btn btn-xs"
            onClick={() =>
              entry.setUp.length > 0
                ? adoptSetUp(entry.setUp, entry.name)
                : adoptArray(array.id, entry.array, entry.name)
            }
          >
            Adopt<span className="sr-only"> {entry.name}</span>
          </button>
          <button
            className="btn btn-xs btn-ghost font-normal"
            onClick={() => choiceStore.setState({ ghostId: entry.id })}
          >
            Show as rings
          </button>
          <button
            className="btn btn-xs btn-ghost"
            aria-label={`Drop ${entry.name}`}
            onClick={() =>
              edit((draft) => {
                draft.candidates = draft.candidates.filter(({ id }) => id !== entry.id);
              })
            }
          >
            ×
          </button>
        </span>
      )}
    </>
  );
}

/** Only what differs, and who is best in it. */
function Differences({ list, array }: { list: readonly Measured[]; array: MicArray }) {
  const rows = differences(list);
  return (
    <table className="ledger-table" aria-label="Differences">
      <thead>
        <tr>
          <th>
            <span className="sr-only">Figure</span>
          </th>
          {list.map(({ entry }) => (
            <th key={entry.id ?? 'now'} className="min-w-40">
              {entry.kind === 'candidate' ? (
                <span className="flex items-baseline gap-1">
                  <CandidateName id={entry.id} name={entry.name} />
                  <span className="text-muted font-normal">
                    (kept{entry.setUp.length > 0 && `, ${entry.setUp.length} arrays`})
                  </span>
                </span>
              ) : (
                entry.name
              )}
              {entry.kind === 'now' && <span className="text-muted font-normal"> (now)</span>}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.length === 0 && (
          <tr>
            <td colSpan={list.length + 1}>Nothing differs.</td>
          </tr>
        )}
        {rows.map(({ name, texts, best }) => (
          <tr key={name}>
            <th scope="row">{name}</th>
            {texts.map((text, i) => (
              <td key={i} className={i === best ? 'text-primary font-semibold' : ''}>
                {text}
                {i === best && <span className="sr-only"> (best)</span>}
              </td>
            ))}
          </tr>
        ))}
        <tr>
          <th scope="row">do</th>
          {list.map(({ entry }) => (
            <td key={entry.id ?? 'now'}>
              <Does entry={entry} array={array} />
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  );
}

interface KeepProps {
  array: MicArray;
  more: ReturnType<typeof allBeside>;
  ask: (id: string) => void;
}

/** Another one to compare with. */
function KeepAndAsk({ array, more, ask }: KeepProps) {
  const several = useSession().arrays.length > 1;
  return (
    <>
      <button
        className="btn btn-sm"
        onClick={() => choiceStore.setState({ ghostId: keepCandidate(array) })}
      >
        Keep the present one as a candidate
      </button>
      {several && (
        <button
          className="btn btn-sm ml-2 font-normal"
          title="All arrays with their places and their mix; its figures here are those of this array"
          onClick={() => choiceStore.setState({ ghostId: keepSetUp(array) })}
        >
          Keep the whole set-up
        </button>
      )}
      {more.length > 0 && (
        <select
          aria-label="Compare with another array in use"
          className="select select-sm ml-2 w-auto max-w-56"
          value=""
          onChange={(event) => ask(event.currentTarget.value)}
        >
          <option value="">compare with …</option>
          {more.map(({ id, name, array: other }) => (
            <option key={id} value={id}>
              {name} ({other.role})
            </option>
          ))}
        </select>
      )}
    </>
  );
}

/** Candidates side by side: only what differs, the winner by the intent and its margin. */
export function ComparePage({ array }: { array: MicArray }) {
  const session = useSession();
  const plan = planOf(session);
  const beside = useMemo(() => allBeside(session, array), [session, array]);
  const [asked, setAsked] = useState<readonly string[]>([]);
  const entries = useMemo<Entry[]>(
    () => [
      { kind: 'now', id: null, name: array.name, array, setUp: [] },
      ...beside.flatMap(({ id, name, kind, array: other, setUp }): Entry[] => {
        if (kind === 'candidate') return [{ kind, id, name, array: other, setUp }];
        const listed = other.role === array.role || asked.includes(id);
        return listed ? [{ kind: 'own', id, name, array: other, setUp }] : [];
      }),
    ],
    [beside, asked, array],
  );
  const more = beside.filter(({ id }) => !entries.some((entry) => entry.id === id));
  const ask = useMemo(
    () =>
      entries.length < 2 ? null : { session: plan, arrays: entries.map(({ array: kept }) => kept) },
    [plan, entries],
  );
  const judged = useTask('judge', ask);
  const { units } = session.settings;
  const players = session.sources.length;
  const list = useMemo(
    () =>
      (judged.busy ? null : judged.value)?.flatMap((judgement, index) => {
        const entry = entries[index];
        return entry ? [measured(units, entry, judgement, players)] : [];
      }) ?? null,
    [judged.busy, judged.value, entries, units, players],
  );
  const keep = (
    <KeepAndAsk array={array} more={more} ask={(id) => setAsked((known) => [...known, id])} />
  );
  if (entries.length < 2) {
    return (
      <section aria-label="Candidates">
        <h2 className="pb-1 text-[16px]">Nothing to compare with yet</h2>
        <p className="text-muted pb-3">
          Keep the array as it is, change it, and both stand here side by side; the kept one also
          appears as rings on the image line. Other arrays of the same role stand here by
          themselves, those of another role where they are asked for.
        </p>
        {keep}
      </section>
    );
  }
  if (judged.error !== null) return <p role="alert">The comparison stopped: {judged.error}</p>;
  if (list === null) {
    return (
      <p className="text-muted" role="status">
        Comparing … {Math.round(judged.progress * 100)} %
      </p>
    );
  }
  const ranked = [...list].sort((a, b) => byJudgement(a.judgement, b.judgement));
  const [first, second] = ranked;
  const margin = first && second ? first.judgement.score - second.judgement.score : 0;
  const byKit = first?.judgement.lacks === null && second?.judgement.lacks !== null;
  const { weights } = wantedOf(session, session.sources.length);
  return (
    <section aria-labelledby="compare-heading">
      <div className="flex items-center gap-4 pb-3">
        <h2 id="compare-heading" className="text-[16px]">
          Candidates
        </h2>
        {keep}
      </div>
      <p className="pb-2" role="status" aria-label="Winner">
        {byKit
          ? `Only ${first.entry.name} can be built with the kit.`
          : margin < 0.5
            ? 'By the brief they are level.'
            : `By the brief ${first?.entry.name} is ahead by ${formatNumber(margin, 0)} of 100${aheadIn(weights, first, second)}.`}{' '}
        <span className="text-muted">
          By the weights of the brief, as under Recommend; a broken image outweighs all, and what
          the kit cannot build comes last. Tolerance is shown, and not weighed.
        </span>
      </p>
      <Differences list={list} array={array} />
      <Between list={list} />
    </section>
  );
}
