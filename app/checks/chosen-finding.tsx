import { current } from 'immer';
import { Info, OctagonAlert, TriangleAlert } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import {
  applyFix,
  contextOf,
  figureWords,
  type Finding,
  type Fix,
  type Severity,
  type WayOut,
} from '../../core/analysis';
import { forWhomText } from '../../core/prepare/for-whom';
import type { Session } from '../../core/session';
import { formatNumber } from '../../core/units';
import { editSaying } from '../document/edits';
import { useSession } from '../document/use-session';
import { useFindings } from '../figures/figures';
import { useSettled } from '../figures/use-settled';
import { useTask } from '../workers/use-task';
import { stationPath } from '../stations';
import { hover, select } from '../view/choice';
import { FindingEvidence } from './evidence';

/** How each severity is told: by word and by sign. */
export const SEVERITIES: Readonly<
  Record<Severity, { word: string; icon: typeof Info; tone: string }>
> = {
  fault: { word: 'Fault', icon: OctagonAlert, tone: 'text-error' },
  caution: { word: 'Caution', icon: TriangleAlert, tone: 'text-warning' },
  note: { word: 'Note', icon: Info, tone: 'text-muted' },
};

function FigureText({ name, value }: { name: string; value: number | null }) {
  const { words, unit } = figureWords(name);
  const whole = value !== null && (Number.isInteger(value) || Math.abs(value) >= 100);
  return (
    <span>
      {words} <strong>{formatNumber(value, whole ? 0 : 1)}</strong> {unit}
    </span>
  );
}

const BASES = {
  physics: 'Physics',
  rule: 'Rule',
  safety: 'Safety',
  preference: 'Preference',
} as const;

function mend(fix: Fix): void {
  editSaying(`${fix.label}: done.`, (draft) => {
    const mended = applyFix(current<Session>(draft), fix);
    draft.sources = mended.sources;
    draft.arrays = mended.arrays;
  });
}

const KEY_REST_MS = 120;

/** The ways out of a finding, tried beside the page as it is read. */
function useWays(finding: Finding) {
  const { judged } = useFindings();
  const key = useSettled(finding.key, KEY_REST_MS);
  const ask = useMemo(
    () => (judged && key === finding.key ? { ...judged, key } : null),
    [judged, key, finding.key],
  );
  const { value, busy, error, progress } = useTask('ways', ask);
  // An answer stays until the next one is there, so that buttons do not jump; never another's.
  return {
    ways: value?.key === finding.key ? value : null,
    busy: busy || ask === null,
    error,
    progress,
  };
}

/** What one way out does and costs, beside its button. */
function Way({ way, first }: { way: WayOut; first: boolean }) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-3 py-1">
      <button
        className={`btn btn-sm h-auto min-h-8 py-1 text-left ${first ? 'btn-primary' : 'font-normal'}`}
        onClick={() => mend(way)}
      >
        {way.label}
      </button>
      <span className="min-w-[240px] flex-1 text-[12.5px]">
        {way.becomes}
        {way.price.length > 0 && <span className="text-muted">; {way.price.join('; ')}</span>}
      </span>
    </li>
  );
}

/** A preference can be switched off for the session, with the reason. */
function NotWanted({ code }: Pick<Finding, 'code'>) {
  const [reason, setReason] = useState('');
  function switchOff() {
    editSaying('This preference is off for the session.', (draft) => {
      draft.settings.preferencesOff.push({ code, reason: reason.trim() });
    });
  }
  return (
    <form
      className="flex items-center gap-1 py-1"
      onSubmit={(event) => {
        event.preventDefault();
        switchOff();
      }}
    >
      <input
        aria-label={`Why “${code.replaceAll('-', ' ')}” is not wanted`}
        className="input input-xs w-36"
        placeholder="why not"
        maxLength={1000}
        value={reason}
        onChange={(event) => setReason(event.currentTarget.value)}
      />
      <button className="btn btn-ghost btn-sm text-muted">Not wanted here</button>
    </form>
  );
}

/** What can be done: every way was tried on a copy, and stands here with what becomes of it. */
function Remedies({ finding }: { finding: Finding }) {
  const { ways: found, busy, error, progress } = useWays(finding);
  const whole = found?.ways.filter(({ member }) => member === null) ?? [];
  return (
    <div className="py-1" aria-busy={busy}>
      {whole.length > 0 && (
        <ul aria-label="Ways out">
          {whole.map((way, i) => (
            <Way key={way.label} way={way} first={i === 0} />
          ))}
        </ul>
      )}
      {!found && busy && (
        <p className="text-muted flex items-center gap-2 py-1 text-[12.5px]" role="status">
          <progress className="progress w-24" value={progress} max={1} aria-label="Progress" />
          trying what would help …
        </p>
      )}
      {error !== null && <p role="alert">Nothing was tried: {error}</p>}
      {found?.nothingHelps && (
        <p className="py-1">
          Nothing that was tried helps without making something graver.
          {found.instead !== null && ` ${found.instead}`}
        </p>
      )}
      {finding.basis === 'preference' && <NotWanted code={finding.code} />}
      <Members finding={finding} ways={found?.ways ?? []} />
    </div>
  );
}

/** The places in which one cause is found, each with its own figures and its own way out. */
function Members({ finding, ways }: { finding: Finding; ways: readonly WayOut[] }) {
  const { members } = finding;
  if (members.length === 0) return null;
  return (
    <details className="pt-1" open>
      <summary className="text-muted cursor-pointer text-[12.5px]">
        All {members.length}, the worst first
      </summary>
      <ul aria-label="In detail">
        {members
          .map((member, i) => ({ ...member, way: ways.find((way) => way.member === i) }))
          .reverse()
          .map(({ message, way }) => (
            <li key={message} className="border-hairline flex items-start gap-3 border-t py-2">
              <span className="flex-1">{message}</span>
              {way && (
                <button
                  className="btn btn-xs h-auto min-h-6 py-0.5"
                  title={[way.becomes, ...way.price].join('; ')}
                  onClick={() => mend(way)}
                >
                  {way.label}
                </button>
              )}
            </li>
          ))}
      </ul>
    </details>
  );
}

/** What a cause makes: it goes with it. */
function Explains({ explains }: Pick<Finding, 'explains'>) {
  if (explains.length === 0) return null;
  return (
    <details className="pt-1" open>
      <summary className="text-muted cursor-pointer text-[12.5px]">What goes with it</summary>
      <ul aria-label="What goes with it">
        {explains.map(({ message }) => (
          <li key={message} className="border-hairline text-muted border-t py-1.5">
            {message}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** So many players are named at once; the others on request. */
const FIRST_PLAYERS = 24;

/** One finding whole: what, how much, why, what to do, and what it was judged by. */
export function ChosenFinding({ finding }: { finding: Finding }) {
  const session = useSession();
  const { id, sources, arrays } = session;
  const { speed } = contextOf(session);
  const about = arrays.filter((array) => finding.arrayIds.includes(array.id));
  const { word, tone } = SEVERITIES[finding.severity];
  const players = sources.filter((source) => finding.sourceIds.includes(source.id));
  const [allOf, setAllOf] = useState<Finding | null>(null);
  const shown = allOf === finding ? players : players.slice(0, FIRST_PLAYERS);
  return (
    <>
      <p className={`${tone} font-semibold`}>{finding.blocking ? 'Stop' : word}</p>
      <p className="py-1 text-[15px]">
        {finding.message}
        {finding.todo !== null && ` ${finding.todo}`}
      </p>
      <p className="text-muted text-[12.5px]">
        {BASES[finding.basis]}: {finding.reason}
      </p>
      <div className="text-muted flex flex-wrap gap-x-6 py-1 text-[12.5px]">
        {about.length === 1 &&
          about.map((array) => (
            <span key={array.id}>
              {array.name}, for {forWhomText(array, sources, speed)}
            </span>
          ))}
        {Object.entries(finding.figures).map(([key, value]) => (
          <FigureText key={key} name={key} value={value} />
        ))}
        {shown.map((source) => (
          <Link
            key={source.id}
            to={stationPath(id, 'floor')}
            className="underline underline-offset-2"
            onPointerEnter={() => hover(source.id)}
            onPointerLeave={() => hover(null)}
            onClick={() => {
              // Leaving the page clears the selection of the old one first.
              setTimeout(() => select({ kind: 'source', id: source.id }));
            }}
          >
            {source.name}
          </Link>
        ))}
        {players.length > shown.length && (
          <button className="underline underline-offset-2" onClick={() => setAllOf(finding)}>
            and {players.length - shown.length} more
          </button>
        )}
      </div>
      <Remedies finding={finding} />
      <Explains explains={finding.explains} />
      <FindingEvidence finding={finding} />
    </>
  );
}
