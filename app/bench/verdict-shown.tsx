import { Printer } from 'lucide-react';
import type { LogEntry, Plan } from '../../core/session';
import {
  builtBy,
  isOfRoom,
  channelsOf,
  type Cause,
  type Figure,
  type TakeAgainstPlan,
} from '../../core/verdict';
import { builtSession } from '../../core/rig';
import { capitalised, formatNumber, formatSigned } from '../../core/units';
import { editSaying } from '../document/edits';
import { enter, logIndex, strike } from '../document/journals';
import { useSession } from '../document/use-session';
import { downloadJson, downloadTable } from '../keeping/tables';
import { notify } from '../view/notices';
import { takeOf } from './opening';
import type { OpenRecording } from './recordings';
import { VerdictLine } from './verdict-line';
import { whenText } from './when';

type Kept = Extract<LogEntry, { kind: 'verdict' }>;

const UNITS: Readonly<
  Record<Figure['what'], { words: string; digits: number; by: number; unit: string }>
> = {
  image: { words: 'image', digits: 0, by: 100, unit: '% right' },
  delay: { words: 'later by', digits: 3, by: 1, unit: 'ms' },
  level: { words: 'louder by', digits: 1, by: 1, unit: 'dB' },
  polarity: { words: 'polarity', digits: 0, by: 1, unit: '' },
  direct: { words: 'direct to room', digits: 1, by: 1, unit: 'dB' },
  headroom: { words: 'headroom', digits: 1, by: 1, unit: 'dB' },
  correlation: { words: 'likeness', digits: 2, by: 1, unit: '' },
  decay: { words: 'reverberation', digits: 2, by: 1, unit: 's' },
};
const HEAD = ['Who', 'Of', 'What', 'Planned', 'Measured', 'Within', 'Unit', 'Verdict'] as const;

const whoseOf = ({ placeName, what }: Figure): string =>
  placeName || (what === 'headroom' ? 'all together' : 'the room');

const verdictWords = (figure: Figure): string =>
  figure.agreement === 'departs' && !isOfRoom(figure)
    ? `departs, ${figure.usual ? 'as is usual by tape' : 'look for a fault'}`
    : figure.agreement;

const cells = (figure: Figure) => {
  const { words, digits, by, unit } = UNITS[figure.what];
  const text = (value: number): string =>
    figure.what === 'decay' ? formatNumber(by * value, digits) : formatSigned(by * value, digits);
  return {
    words,
    unit,
    planned: text(figure.planned),
    measured: text(figure.measured),
    within: formatNumber(2 * by * figure.within, digits),
  };
};

/** One thing that explains it, and what to do about it. */
function CauseLine({ cause, plan }: { cause: Cause; plan: Plan }) {
  const built = builtBy(builtSession(plan), cause);
  return (
    <li className="flex flex-wrap items-center gap-3 py-0.5">
      <span>{cause.words}</span>
      {built.length > 0 && (
        <button
          className="btn btn-xs no-print"
          onClick={() =>
            editSaying(`As built: ${cause.words}.`, (draft) => {
              const others = draft.rig.asBuilt.filter(
                ({ arrayId, field }) =>
                  !built.some((one) => one.arrayId === arrayId && one.field === field),
              );
              draft.rig.asBuilt = [...others, ...built];
            })
          }
        >
          To As built
        </button>
      )}
    </li>
  );
}

/** Every figure, those that depart first. */
function Figures({ figures }: { figures: readonly Figure[] }) {
  const rank = { departs: 0, 'cannot be told': 1, agrees: 2 } as const;
  const sorted = [...figures].sort((a, b) => rank[a.agreement] - rank[b.agreement]);
  return (
    <table className="ledger-table w-full" aria-label="Planned and measured">
      <thead>
        <tr>
          {HEAD.map((head) => (
            <th key={head} className={/^(Planned|Measured|Within)$/.test(head) ? 'num' : ''}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sorted.map((figure, i) => {
          const { words, unit, planned, measured, within } = cells(figure);
          return (
            <tr key={i} className={figure.agreement === 'departs' ? 'font-semibold' : ''}>
              <th scope="row">{whoseOf(figure)}</th>
              <td>{figure.of}</td>
              <td>{words}</td>
              <td className="num">{planned}</td>
              <td className="num">{measured}</td>
              <td className="num">±{within}</td>
              <td>{unit}</td>
              <td>{verdictWords(figure)}</td>
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
  const rows = figures.map((figure) => {
    const { by, unit, words } = UNITS[figure.what];
    const { of, planned, measured, within } = figure;
    return [
      ...[whoseOf(figure), of, words, by * planned, by * measured, 2 * by * within],
      ...[unit, verdictWords(figure)],
    ];
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
          onClick={() => void downloadTable(`${recording.title} against the plan`, HEAD, rows)}
        >
          CSV
        </button>
        <button
          className="btn btn-sm"
          onClick={() => downloadJson(`${recording.title} against the plan`, HEAD, rows)}
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
      <p className="text-muted pt-3 text-[12.5px]">
        Later and louder are against {against}; within is two deviations of measuring and of places.
      </p>
      <Figures figures={figures} />
    </article>
  );
}
