import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { completenessOf, completenessText } from '../../core/recall';
import { useSession } from '../document/use-session';
import { exportSheet } from '../keeping/exports';
import { stationPath } from '../stations';
import { select } from '../view/choice';
import { notifyFailure } from '../view/notices';

/** What is missing for somebody else to put it up again, figure by figure. */
export function CompletePage() {
  const session = useSession();
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const found = useMemo(() => completenessOf(session), [session]);
  const needs = [...new Set(found.missing.map(({ need }) => need))];
  return (
    <>
      <p role="status" aria-label="Complete" className="max-w-[64ch] pb-3 text-[17px]">
        {completenessText(found)}
      </p>
      <div className="no-print flex flex-wrap items-center gap-3 pb-4">
        <button
          className="btn btn-sm btn-primary"
          disabled={busy}
          onClick={() => {
            setBusy(true);
            void exportSheet(session)
              .catch(notifyFailure)
              .finally(() => setBusy(false));
          }}
        >
          {busy ? 'Making the PDF …' : 'Sheet as PDF, with the session in it'}
        </button>
        <p className="text-muted max-w-[52ch] text-[12.5px]">
          Whoever opens that PDF reads the sheet; whoever imports it here has the session again,
          figure for figure. Recordings stay where they are.
        </p>
      </div>
      {needs.map((need) => (
        <section key={need} aria-label={need} className="pb-4">
          <h2 className="pb-1 text-[15px]">{need.charAt(0).toUpperCase() + need.slice(1)}</h2>
          <table className="ledger-table w-full max-w-4xl" aria-label={need}>
            <thead>
              <tr>
                <th>Of</th>
                <th>Missing</th>
                <th>How it is given</th>
                <th>
                  <span className="sr-only">Give it</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {found.missing
                .filter((one) => one.need === need)
                .map(({ code, subject, what, give, station, page, arrayId }) => (
                  <tr key={code}>
                    <td>{subject}</td>
                    <th scope="row">{what}</th>
                    <td className="text-muted">{give}</td>
                    <td>
                      <button
                        className="btn btn-sm"
                        onClick={() => {
                          if (arrayId !== '') select({ kind: 'array', id: arrayId });
                          const base = stationPath(session.id, station);
                          void navigate(page === '' ? base : `${base}?page=${page}`);
                        }}
                      >
                        Give it
                        <span className="sr-only">
                          : {what}, {subject}
                        </span>
                      </button>
                    </td>
                  </tr>
                ))}
            </tbody>
          </table>
        </section>
      ))}
    </>
  );
}
