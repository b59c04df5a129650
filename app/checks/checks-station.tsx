import { editSaying } from '../document/edits';
import { stationPath } from '../shell/stations';
import { CircleCheck, Info, OctagonAlert, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { forWhomText } from '../../core/prepare/for-whom';
import {
  applyFix,
  contextOf,
  RULES,
  type Finding,
  type Fix,
  type Severity,
  figureWords,
} from '../../core/analysis';
import { formatNumber } from '../../core/units';
import { PageTabs, useStationPage } from '../parts/page-tabs';
import { CHECKS_PAGES } from '../parts/station-pages';
import { useFindings } from '../figures/figures';
import { current } from 'immer';
import type { Session, Source } from '../../core/session';
import { edit } from '../document/session-store';
import { hover, select } from '../view/choice';
import { useSession } from '../document/use-session';
import { FindingEvidence } from './evidence';
import { MixPage } from './mix-page';
import { MonoPage } from './mono-page';
import { ArrivalsPage } from './arrivals-page';
import { SpillPage } from './spill-page';
import { SafetyPage } from './safety-page';
import { StandsPage } from './stands-page';

const SEVERITIES: Readonly<Record<Severity, { word: string; icon: typeof Info; tone: string }>> = {
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
    <span className="flex shrink-0 flex-col items-end gap-1">
      {fix && (
        <button className="btn btn-sm" onClick={() => mend(fix)}>
          {fix.label}
        </button>
      )}
      {others.map((other) => (
        <button
          key={other.label}
          className="btn btn-sm btn-ghost font-normal"
          onClick={() => mend(other)}
        >
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
    </span>
  );
}

/** The places in which one cause is found, each with its own figures and its own way out. */
function Members({ members }: Pick<Finding, 'members'>) {
  if (members.length === 0) return null;
  return (
    <details className="pt-1 pl-[106px]">
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

function FindingItem({ finding }: { finding: Finding }) {
  const session = useSession();
  const { id, sources, arrays } = session;
  const { speed } = contextOf(session);
  const about = arrays.filter((array) => finding.arrayIds.includes(array.id));
  const { word, icon: Icon, tone } = SEVERITIES[finding.severity];
  const players = sources.filter((source) => finding.sourceIds.includes(source.id));
  return (
    <li className="border-hairline border-b py-3">
      <p className="flex items-start gap-3">
        <Icon size={18} className={`${tone} mt-0.5 shrink-0`} aria-hidden="true" />
        <span className={`${tone} w-16 shrink-0 font-semibold`}>
          {finding.blocking ? 'Stop' : word}
        </span>
        <span className="flex-1">
          {finding.message}
          {finding.todo !== null && ` ${finding.todo}`}
          <span className="text-muted block text-[12.5px]">
            {BASES[finding.basis]}: {finding.reason}
          </span>
        </span>
        <Remedy finding={finding} />
      </p>
      <div className="text-muted flex flex-wrap gap-x-6 pt-1 pl-[106px] text-[12.5px]">
        {about.length === 1 &&
          about.map((array) => (
            <span key={array.id}>
              {array.name}, for {forWhomText(array, sources, speed)}
            </span>
          ))}
        {Object.entries(finding.figures).map(([key, value]) => (
          <FigureText key={key} name={key} value={value} />
        ))}
        {players.map((source) => (
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
      </div>
      <Members members={finding.members} />
      <FindingEvidence finding={finding} />
    </li>
  );
}

/** What was switched off, and the way back. */
function PreferencesOff() {
  const { preferencesOff } = useSession().settings;
  if (preferencesOff.length === 0) return null;
  return (
    <p className="text-muted py-2">
      Off for this session:{' '}
      {preferencesOff
        .map(({ code, reason }) => code.replaceAll('-', ' ') + (reason ? ` (${reason})` : ''))
        .join(', ')}
      .{' '}
      <button
        className="underline underline-offset-2"
        onClick={() => edit((draft) => void (draft.settings.preferencesOff = []))}
      >
        Judge them again
      </button>
    </p>
  );
}

/** What of the findings is shown. */
interface Shown {
  severity: Severity | 'all';
  arrayId: string;
  sourceId: string;
  byPlayer: boolean;
}

const EVERYTHING: Shown = { severity: 'all', arrayId: '', sourceId: '', byPlayer: false };

const isShown = (finding: Finding, { severity, arrayId, sourceId }: Shown): boolean =>
  (severity === 'all' || finding.severity === severity) &&
  (arrayId === '' || finding.arrayIds.includes(arrayId)) &&
  (sourceId === '' || finding.sourceIds.includes(sourceId));

interface FilterProps {
  shown: Shown;
  findings: readonly Finding[];
  onChange: (shown: Shown) => void;
}

/** By severity, array and player; only what something was found about can be chosen. */
function Filters({ shown, findings, onChange }: FilterProps) {
  const { arrays, sources } = useSession();
  const about = (kind: 'arrayIds' | 'sourceIds', list: readonly { id: string; name: string }[]) =>
    list.filter(({ id }) => findings.some((finding) => finding[kind].includes(id)));
  const count = (severity: Severity) =>
    findings.filter((finding) => finding.severity === severity).length;
  const choice = (
    label: string,
    key: 'arrayId' | 'sourceId',
    all: string,
    list: readonly { id: string; name: string }[],
  ) => (
    <select
      aria-label={label}
      className="select select-xs w-40"
      value={shown[key]}
      onChange={(event) => onChange({ ...shown, [key]: event.currentTarget.value })}
    >
      <option value="">{all}</option>
      {list.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
  return (
    <div className="flex max-w-4xl flex-wrap items-center gap-3 py-1">
      <select
        aria-label="Severity"
        className="select select-xs w-40"
        value={shown.severity}
        onChange={(event) =>
          onChange({ ...shown, severity: event.currentTarget.value as Shown['severity'] })
        }
      >
        <option value="all">every severity</option>
        {SEVERITY_NAMES.map(([severity, many]) => (
          <option key={severity} value={severity}>
            {count(severity)} {many}
          </option>
        ))}
      </select>
      {choice('Array', 'arrayId', 'every array', about('arrayIds', arrays))}
      {choice('Player', 'sourceId', 'every player', about('sourceIds', sources))}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={shown.byPlayer}
          onChange={(event) => onChange({ ...shown, byPlayer: event.currentTarget.checked })}
        />
        By player
      </label>
    </div>
  );
}

const SEVERITY_NAMES: readonly (readonly [Severity, string])[] = [
  ['fault', 'faults'],
  ['caution', 'cautions'],
  ['note', 'notes'],
];

const countText = (count: number): string => `${count} ${count === 1 ? 'finding' : 'findings'}`;

/** All findings of the session, whichever array is looked at elsewhere. */
function FindingsPage() {
  const [wanted, setShown] = useState(EVERYTHING);
  const { sources, arrays } = useSession();
  const { findings: all, left, failed, busy } = useFindings();
  // What was chosen and is mended is no longer a choice.
  const there = (kind: 'arrayIds' | 'sourceIds', id: string) =>
    all.some((finding) => finding[kind].includes(id)) ? id : '';
  const shown = {
    ...wanted,
    arrayId: there('arrayIds', wanted.arrayId),
    sourceId: there('sourceIds', wanted.sourceId),
  };
  const findings = all.filter((finding) => isShown(finding, shown));
  const used = arrays.some(({ enabled }) => enabled);
  const nothing = failed === null && sources.length > 0 && used && all.length === 0;
  return (
    <>
      <h2 className="max-w-4xl text-[17px]">
        {all.length === 0
          ? 'Checks'
          : findings.length === all.length
            ? countText(all.length)
            : `${findings.length} of ${countText(all.length)}`}
      </h2>
      <p className="text-muted max-w-4xl pt-1 pb-2">
        {RULES.length} rules over every array in use, each judged for whom it is for. What stands
        under a finding is the figure it was judged by. What every set-up raises stands under
        Safety.
      </p>
      {failed !== null && <p className="py-3">Not checked: {failed}</p>}
      {left.length > 0 && (
        <p className="py-2">
          Left out while a field of theirs is not valid: {left.map(({ name }) => name).join(', ')}.
        </p>
      )}
      {failed === null && !used && (
        <p className="py-3">No array is in use yet. Put one up on the Floor.</p>
      )}
      {failed === null && sources.length === 0 && (
        <p className="py-3">No players yet, so there is nothing to check. Add them on the Floor.</p>
      )}
      {nothing && (
        <p className="text-success flex items-center gap-2 py-3">
          <CircleCheck size={18} aria-hidden="true" /> Everything that is checked passes.
        </p>
      )}
      {all.length > 0 && <Filters shown={shown} findings={all} onChange={setShown} />}
      <PreferencesOff />
      {groupsOf(findings, shown.byPlayer ? sources : null).map(({ title, list }) => (
        <div key={title} className="max-w-4xl">
          {title !== '' && <h3 className="pt-4 text-[15px]">{title}</h3>}
          <ul aria-busy={busy} aria-label={title === '' ? 'Findings' : `Findings: ${title}`}>
            {list.map((finding) => (
              <FindingItem
                key={`${finding.arrayId}-${finding.code}-${finding.message}`}
                finding={finding}
              />
            ))}
          </ul>
        </div>
      ))}
    </>
  );
}

/** One list, or a list for each player that something was found about, the rest last. */
function groupsOf(findings: readonly Finding[], players: readonly Source[] | null) {
  if (!players) return [{ title: '', list: findings }];
  const groups = players.flatMap(({ id, name }) => {
    const list = findings.filter(({ sourceIds }) => sourceIds.includes(id));
    return list.length > 0 ? [{ title: name, list }] : [];
  });
  const rest = findings.filter(({ sourceIds }) => sourceIds.length === 0);
  return rest.length > 0 ? [...groups, { title: 'The set-up as a whole', list: rest }] : groups;
}

const CONTENT = {
  findings: <FindingsPage />,
  arrivals: <ArrivalsPage />,
  spill: <SpillPage />,
  mix: <MixPage />,
  mono: <MonoPage />,
  stands: <StandsPage />,
  safety: <SafetyPage />,
} as const;

/** What can be known before a microphone is up. */
export function ChecksStation() {
  const shown = useStationPage(CHECKS_PAGES);
  return (
    <main aria-label="Checks" className="bg-base-100 flex h-full flex-col">
      <PageTabs label="Pages of the checks" pages={CHECKS_PAGES} shown={shown} />
      <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4" tabIndex={0}>
        {CONTENT[shown.id]}
      </div>
    </main>
  );
}
