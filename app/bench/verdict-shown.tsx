import { Printer } from 'lucide-react';
import type { LogEntry, Plan } from '../../core/session';
import {
  builtBy,
  channelsOf,
  type Cause,
  type Figure,
  type TakeAgainstPlan,
} from '../../core/verdict';
import {
  byVerdict,
  VERDICT_HEAD,
  verdictCells,
  verdictReport,
  verdictRow,
  withinWords,
} from '../../paper/verdict-report';
import { builtSession } from '../../core/rig';
import { capitalised } from '../../core/units';
import { noteBuilt } from '../document/edits';
import { enter, logIndex, strike } from '../document/journals';
import { useSession } from '../document/use-session';
import { exportReport } from '../keeping/exports';
import { downloadJson, downloadTable } from '../keeping/tables';
import { notify, notifyFailure } from '../view/notices';
import { takeOf } from './opening';
import type { OpenRecording } from './recordings';
import { VerdictLine } from './verdict-line';
import { whenText } from './when';

type Kept = Extract<LogEntry, { kind: 'verdict' }>;

/** One thing that explains it, and what to do about it. */
function CauseLine({ cause, plan }: { cause: Cause; plan: Plan }) {
  const built = builtBy(builtSession(plan), cause);
  return (
    <li className="flex flex-wrap items-center gap-3 py-0.5">
      <span>{cause.words}</span>
      {built.length > 0 && (
        <button
          className="btn btn-xs no-print"
          onClick={() => noteBuilt(built, `As built: ${cause.words}.`)}
        >
          To As built
        </button>
      )}
    </li>
  );
}

/** Every figure, those that depart first. */
function Figures({ figures }: { figures: readonly Figure[] }) {
  const numeric = (column: number): string => (column >= 3 && column <= 5 ? 'num' : '');
  return (
    <table className="ledger-table w-full" aria-label="Planned and measured">
      <thead>
        <tr>
          {VERDICT_HEAD.map((head, column) => (
            <th key={head} className={numeric(column)}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {byVerdict(figures).map((figure, i) => {
          const [who, ...cells] = verdictCells(figure);
          return (
            <tr key={i} className={figure.agreement === 'departs' ? 'font-semibold' : ''}>
              <th scope="row">{who}</th>
              {cells.map((cell, column) => (
                <td key={VERDICT_HEAD[column + 1]} className={numeric(column + 1)}>
                  {cell}
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Verdicts that were kept, the newest first. */
function KeptVerdicts({ about }: { about: string }) {
  const { log } = useSession();
  const kept = logIndex(log)
    .of('verdict')
    .flatMap(({ standing }): Kept[] => (standing?.of.includes(about) ? [standing] : []));
  if (kept.length === 0) return null;
  return (
    <ul aria-label="Kept verdicts" className="no-print pt-2">
      {kept.map((one) => (
        <li key={one.id} className="border-hairline flex items-baseline gap-3 border-b py-1">
          <span className="flex-1">{one.text}</span>
          <span className="text-muted text-[12.5px]">{whenText(one.at)}</span>
          <button className="btn btn-ghost btn-xs" onClick={() => strike('log', one.id)}>
            Strike it
          </button>
        </li>
      ))}
    </ul>
  );
}

interface Props {
  verdict: TakeAgainstPlan;
  /** the plan that it was held against */
  plan: Plan;
  recording: OpenRecording;
}

/** The whole verdict in a sentence, why it can be, the picture, then every figure. */
export function VerdictShown({ verdict, plan, recording }: Props) {
  const session = useSession();
  const { sentence, why, causes, figures, missing, notes } = verdict;
  const about = takeOf(session, recording)?.id ?? recording.key;
  const [first] = channelsOf(plan, recording.binding);
  const against = first?.name ?? 'the first channel';
  const images = figures.filter(({ what }) => what === 'image');
  const rows = figures.map(verdictRow);
  const model = verdictReport(verdict, {
    title: recording.title,
    facts: [session.title, whenText(new Date().toISOString())].join(' · '),
    against,
  });
  const keep = (): void => {
    const text = [sentence, why].filter(Boolean).join(' ');
    if (enter('log', { kind: 'verdict', by: '', text, of: [about] }) !== '') {
      notify('Kept: the verdict is in the session.');
    }
  };
  return (
    <article aria-label="Verdict">
      <p role="status" aria-label="Verdict" className="max-w-[76ch] text-[17px] font-semibold">
        {sentence}
      </p>
      {why !== '' && <p className="max-w-[76ch]">{why}</p>}
      {causes.found.length > 0 && (
        <ul aria-label="What explains it">
          {causes.found.map((cause) => (
            <CauseLine key={cause.words} cause={cause} plan={plan} />
          ))}
        </ul>
      )}
      {missing.length > 0 && (
        <p className="text-muted text-[12.5px]">
          Not on this recording, so nothing is said of them: {missing.join(', ')}.
        </p>
      )}
      {notes.map((note) => (
        <p key={note} role="note" className="text-muted text-[12.5px]">
          {capitalised(note)}.
        </p>
      ))}
      <div className="no-print flex flex-wrap gap-2 py-2">
        <button className="btn btn-sm" onClick={keep}>
          Keep the verdict
        </button>
        <button className="btn btn-sm" onClick={() => print()}>
          <Printer size={14} /> Print
        </button>
        <button
          className="btn btn-sm"
          onClick={() => void exportReport(model, 'a4', 'against the plan').catch(notifyFailure)}
        >
          PDF
        </button>
        <button
          className="btn btn-sm"
          onClick={() =>
            void downloadTable(`${recording.title} against the plan`, VERDICT_HEAD, rows)
          }
        >
          CSV
        </button>
        <button
          className="btn btn-sm"
          onClick={() => downloadJson(`${recording.title} against the plan`, VERDICT_HEAD, rows)}
        >
          JSON
        </button>
      </div>
      <KeptVerdicts about={about} />
      {images.length > 0 && (
        <div className="max-w-3xl">
          <VerdictLine images={images} />
        </div>
      )}
      <p className="text-muted pt-3 text-[12.5px]">{withinWords(against)}</p>
      <Figures figures={figures} />
    </article>
  );
}
