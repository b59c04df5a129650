import { current } from 'immer';
import { Info, OctagonAlert, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import {
  applyFix,
  contextOf,
  figureWords,
  type Finding,
  type Fix,
  type Severity,
} from '../../core/analysis';
import { forWhomText } from '../../core/prepare/for-whom';
import type { Session } from '../../core/session';
import { formatNumber } from '../../core/units';
import { editSaying } from '../document/edits';
import { useSession } from '../document/use-session';
import { stationPath } from '../shell/stations';
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

/** One action that mends the finding, or for a preference, the way to switch it off. */
function Remedy({ finding }: { finding: Finding }) {
  const { fix, others, basis, code } = finding;
  const [reason, setReason] = useState('');
  function switchOff() {
    editSaying('This preference is off for the session.', (draft) => {
      draft.settings.preferencesOff.push({ code, reason: reason.trim() });
    });
  }
  return (
    <div className="flex flex-wrap items-center gap-1 py-2">
      {fix && (
        <button className="btn btn-sm btn-primary" onClick={() => mend(fix)}>
          {fix.label}
        </button>
      )}
      {others.map((other) => (
        <button key={other.label} className="btn btn-sm font-normal" onClick={() => mend(other)}>
          {other.label}
        </button>
      ))}
      {basis === 'preference' && (
        <form
          className="flex items-center gap-1"
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
      )}
    </div>
  );
}

/** The places in which one cause is found, each with its own figures and its own way out. */
function Members({ members }: Pick<Finding, 'members'>) {
  if (members.length === 0) return null;
  return (
    <details className="pt-1" open>
      <summary className="text-muted cursor-pointer text-[12.5px]">
        All {members.length}, the worst first
      </summary>
      <ul aria-label="In detail">
        {[...members].reverse().map(({ message, fix }) => (
          <li key={message} className="border-hairline flex items-start gap-3 border-t py-2">
            <span className="flex-1">{message}</span>
            {fix && (
              <button className="btn btn-xs" onClick={() => mend(fix)}>
                {fix.label}
              </button>
            )}
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
      <Remedy finding={finding} />
      <FindingEvidence finding={finding} />
      <Members members={finding.members} />
    </>
  );
}
