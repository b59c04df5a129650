import { Printer } from 'lucide-react';
import { SOUNDCHECK_HEAD, soundcheckReport, soundcheckRows } from '../../paper/soundcheck-report';
import { useSession } from '../document/use-session';
import { exportReport } from '../keeping/exports';
import { downloadJson, downloadTable } from '../keeping/tables';
import { ReportSheet } from '../parts/report-sheet';
import { notifyFailure } from '../view/notices';

/** Who chose what, blind or not, by which figures. */
export function ReportPage() {
  const session = useSession();
  const model = soundcheckReport(session);
  const rows = soundcheckRows(session);
  if (rows.length === 0) {
    return (
      <p className="text-muted max-w-[64ch]">
        Nothing to report yet: make an option in the diary, enter a take, or compare what is there.
      </p>
    );
  }
  const name = `${session.title} soundcheck`;
  return (
    <>
      <div className="no-print flex flex-wrap gap-2 pb-3">
        <button className="btn btn-sm" onClick={() => print()}>
          <Printer size={14} /> Print
        </button>
        <button
          className="btn btn-sm"
          onClick={() => void exportReport(model, 'a4', '').catch(notifyFailure)}
        >
          PDF
        </button>
        <button
          className="btn btn-sm"
          onClick={() => void downloadTable(name, SOUNDCHECK_HEAD, rows)}
        >
          CSV
        </button>
        <button className="btn btn-sm" onClick={() => downloadJson(name, SOUNDCHECK_HEAD, rows)}>
          JSON
        </button>
      </div>
      <ReportSheet model={model} />
    </>
  );
}
