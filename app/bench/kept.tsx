import { Printer } from 'lucide-react';
import { useState } from 'react';
import { placeText } from '../../core/audio/measure/readings';
import type { LogEntry } from '../../core/session';
import { reportModel, reportRows, type ReportModel } from '../../paper/measurement-report';
import { logIndex, strike } from '../document/journals';
import { useSession } from '../document/use-session';
import { exportReport } from '../keeping/exports';
import { download, fileName } from '../keeping/files';
import { downloadTable } from '../keeping/tables';
import { notify, notifyFailure } from '../view/notices';
import { ReportSheet } from '../parts/report-sheet';
import { whenText } from './when';
import { keepFigures, type Keepable } from './keep';

type Measurement = Extract<LogEntry, { kind: 'measurement' }>;

export function KeepButton(props: Keepable) {
  const keep = (): void => {
    if (!keepFigures(props)) return;
    notify('Kept: the figures are in the session, with the name of the recording.');
  };
  return (
    <button className="btn btn-sm mt-3" disabled={!props.figures} onClick={keep}>
      Keep these figures
    </button>
  );
}

const nameOf = ({ file, at, toS, fromS }: Measurement): string =>
  [
    file?.name || 'a recording',
    whenText(at),
    ...(toS === null ? [] : [`${placeText(fromS)} to ${placeText(toS)}`]),
  ].join(', ');

/** One report: read, printed and taken along without the file. */
function Report({ entry, model }: { entry: Measurement; model: ReportModel }) {
  const name = `${model.title} measured`;
  return (
    <>
      <div className="no-print flex flex-wrap gap-2 py-3">
        <button className="btn btn-sm" onClick={() => print()}>
          <Printer size={14} /> Print
        </button>
        <button
          className="btn btn-sm"
          onClick={() => void exportReport(model).catch(notifyFailure)}
        >
          PDF
        </button>
        <button
          className="btn btn-sm"
          onClick={() => {
            const { head, rows } = reportRows(model);
            downloadTable(name, head, rows).catch(notifyFailure);
          }}
        >
          CSV
        </button>
        <button
          className="btn btn-sm"
          onClick={() =>
            download(
              fileName(name, 'json'),
              new Blob([JSON.stringify(entry, null, 2)], { type: 'application/json' }),
            )
          }
        >
          JSON
        </button>
        <button className="btn btn-sm btn-ghost" onClick={() => strike('log', entry.id)}>
          Strike it
        </button>
      </div>
      <ReportSheet model={model} />
    </>
  );
}

/** What was measured stays with the session, and is read without the file. */
export function Kept() {
  const session = useSession();
  const kept = logIndex(session.log)
    .of('measurement')
    .flatMap(({ standing }) => (standing ? [standing] : []));
  const [chosen, setChosen] = useState<string | null>(null);
  const shown = kept.find(({ id }) => id === chosen) ?? kept[0];
  return (
    <section aria-label="Kept">
      <h2 className="no-print pb-1 text-[15px]">Kept measurements</h2>
      {kept.length === 0 && (
        <p className="text-muted text-[12.5px]">
          None yet. Open a recording and keep its figures: they become an entry of the session,
          which is read, printed and sent on without the file.
        </p>
      )}
      <ul aria-label="Kept measurements" className="no-print">
        {kept.map((entry) => (
          <li key={entry.id}>
            <button
              className={`btn btn-sm justify-start font-normal ${entry === shown ? 'btn-neutral' : 'btn-ghost'}`}
              aria-pressed={entry === shown}
              onClick={() => setChosen(entry.id)}
            >
              {nameOf(entry)}
            </button>
          </li>
        ))}
      </ul>
      {shown && <Report entry={shown} model={reportModel(shown, session.title)} />}
    </section>
  );
}
