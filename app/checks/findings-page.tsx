import { CheckField } from '../parts/fields';
import { CircleCheck } from 'lucide-react';
import { useState, type KeyboardEvent } from 'react';
import { RULES, type Finding, type Severity } from '../../core/analysis';
import type { Source } from '../../core/session';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { useFindings } from '../figures/figures';
import { ChosenFinding, SEVERITIES } from './chosen-finding';

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
    <div className="flex flex-wrap items-center gap-3 py-1">
      <select
        aria-label="Severity"
        className="select select-xs w-40"
        value={shown.severity}
        onChange={(event) =>
          onChange({ ...shown, severity: event.currentTarget.value as Shown['severity'] })
        }
      >
        <option value="all">every severity</option>
        {SEVERITY_NAMES.map((severity) => (
          <option key={severity} value={severity}>
            {count(severity)} {severity}
            {count(severity) === 1 ? '' : 's'}
          </option>
        ))}
      </select>
      {choice('Array', 'arrayId', 'every array', about('arrayIds', arrays))}
      {choice('Player', 'sourceId', 'every player', about('sourceIds', sources))}
      <CheckField
        label="By player"
        value={shown.byPlayer}
        onChange={(byPlayer) => onChange({ ...shown, byPlayer })}
      />
    </div>
  );
}

const SEVERITY_NAMES: readonly Severity[] = ['fault', 'caution', 'note'];

const countText = (count: number): string => `${count} ${count === 1 ? 'finding' : 'findings'}`;

const keyOf = ({ key }: Finding): string => key;

/** To the next or the one before, by the arrow keys. */
function toNeighbour(event: KeyboardEvent<HTMLButtonElement>): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (step === undefined) return;
  event.preventDefault();
  const all = [...document.querySelectorAll<HTMLButtonElement>('[data-finding]')];
  all[all.indexOf(event.currentTarget) + step]?.focus();
}

/** One line of the list; choosing it shows the whole beside it. */
function FindingItem(props: { finding: Finding; chosen: boolean; onChoose: () => void }) {
  const { finding, chosen, onChoose } = props;
  const { word, icon: Icon, tone } = SEVERITIES[finding.severity];
  return (
    <li className="border-hairline border-b">
      <button
        data-finding
        aria-current={chosen}
        className={`flex w-full items-start gap-2 border-l-[3px] py-2 pl-2 text-left ${chosen ? 'border-primary bg-base-200' : 'hover:bg-base-200 border-transparent'}`}
        onClick={onChoose}
        onFocus={onChoose}
        onKeyDown={toNeighbour}
      >
        <Icon size={17} className={`${tone} mt-0.5 shrink-0`} aria-hidden="true" />
        <span>
          <span className={`${tone} font-semibold`}>{finding.blocking ? 'Stop' : word}</span>{' '}
          <span>{finding.message}</span>
        </span>
      </button>
    </li>
  );
}

/** All findings of the session, whichever array is looked at elsewhere: the list, and one whole. */
export function FindingsPage() {
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
  const groups = groupsOf(findings, shown.byPlayer ? sources : null);
  const [chosenKey, setChosenKey] = useState<string | null>(null);
  const chosen = findings.find((finding) => keyOf(finding) === chosenKey) ?? findings[0] ?? null;
  return (
    <div className="flex min-h-full gap-6">
      <div className="min-w-0 flex-1">
        <h2 className="text-[17px]">
          {all.length === 0
            ? 'Checks'
            : findings.length === all.length
              ? countText(all.length)
              : `${findings.length} of ${countText(all.length)}`}
        </h2>
        <p className="text-muted pt-1 pb-2">
          {RULES.length} rules over every array in use, each judged for whom it is for. What stands
          under a finding is the figure it was judged by. What every set-up raises stands under
          Safety.
        </p>
        {failed !== null && <p className="py-3">Not checked: {failed}</p>}
        {left.length > 0 && (
          <p className="py-2">
            Left out while a field of theirs is not valid: {left.map(({ name }) => name).join(', ')}
            .
          </p>
        )}
        {failed === null && !used && (
          <p className="py-3">No array is in use yet. Put one up on the Floor.</p>
        )}
        {failed === null && sources.length === 0 && (
          <p className="py-3">
            No players yet, so there is nothing to check. Add them on the Floor.
          </p>
        )}
        {nothing && (
          <p className="text-success flex items-center gap-2 py-3">
            <CircleCheck size={18} aria-hidden="true" /> Everything that is checked passes.
          </p>
        )}
        {all.length > 0 && <Filters shown={shown} findings={all} onChange={setShown} />}
        <PreferencesOff />
        {groups.map(({ title, list }) => (
          <div key={title}>
            {title !== '' && <h3 className="pt-4 text-[15px]">{title}</h3>}
            <ul
              aria-busy={busy}
              aria-label={title === '' ? 'Findings' : `Findings: ${title}`}
              className={busy ? 'opacity-70' : ''}
            >
              {list.map((finding) => (
                <FindingItem
                  key={keyOf(finding)}
                  finding={finding}
                  chosen={chosen !== null && keyOf(finding) === keyOf(chosen)}
                  onChoose={() => setChosenKey(keyOf(finding))}
                />
              ))}
            </ul>
          </div>
        ))}
      </div>
      {chosen && (
        <section
          aria-label="The chosen finding"
          aria-live="polite"
          className="border-hairline sticky top-0 max-h-full w-[52%] shrink-0 self-start overflow-auto border-l pl-6"
        >
          <ChosenFinding key={keyOf(chosen)} finding={chosen} />
        </section>
      )}
    </div>
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
