import { FileDown, Printer } from 'lucide-react';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { PageTabs, useStationPage } from '../parts/page-tabs';
import { RIG_PAGES } from '../parts/station-pages';
import { notify } from '../view/notices';
import { validityStore } from '../view/validity';
import { useSession } from '../document/use-session';
import { BuiltPage } from './built-page';
import { ChannelsPage } from './channels-page';
import { ArchiveButton, BuildPage, CsvButton, PackPage } from './rig-pages';
import { planDrawing, sectionDrawing } from '../../paper/sheet-drawing';
import { sheetModel } from '../../paper/sheet-model';
import { exportSheet } from '../keeping/exports';
import { SheetDrawing } from '../parts/sheet-drawing';
import { SheetTableView } from '../parts/sheet-table';
import { TapeChoice } from './tape-choice';
import '../parts/sheet.css';

/** Positions on one sheet: for the printer, as PDF, or to be read here. */
function PositionsPage() {
  const session = useSession();
  const [bothUnits, setBothUnits] = useState(false);
  const [paper, setPaper] = useState<'a4' | 'letter'>('a4');
  const [busy, setBusy] = useState(false);
  const invalid = useStore(validityStore, (state) => Object.values(state.invalid)[0] ?? null);
  const model = useMemo(() => sheetModel(session, bothUnits), [session, bothUnits]);

  async function makePdf() {
    setBusy(true);
    try {
      await exportSheet(session, bothUnits, paper);
    } catch (error) {
      notify(
        `The PDF could not be made: ${error instanceof Error ? error.message : String(error)}`,
      );
    } finally {
      setBusy(false);
    }
  }

  return (
    <>
      <div className="no-print flex flex-wrap items-center gap-3 pb-4">
        <button className="btn btn-sm btn-primary" onClick={() => print()}>
          <Printer size={15} /> Print
        </button>
        <button className="btn btn-sm" disabled={busy} onClick={() => void makePdf()}>
          <FileDown size={15} /> {busy ? 'Making the PDF …' : 'PDF'}
        </button>
        <label className="flex items-center gap-2">
          <span className="text-muted">Paper</span>
          <select
            className="select select-sm w-auto"
            value={paper}
            onChange={(event) => setPaper(event.currentTarget.value === 'letter' ? 'letter' : 'a4')}
          >
            <option value="a4">A4</option>
            <option value="letter">Letter</option>
          </select>
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={bothUnits}
            onChange={(event) => setBothUnits(event.currentTarget.checked)}
          />
          Metric and imperial
        </label>
        <TapeChoice />
        <CsvButton name="positions" />
        <ArchiveButton bothUnits={bothUnits} paper={paper} />
      </div>
      {invalid !== null && (
        <p role="alert" className="no-print text-error pb-3">
          A field is not valid, so the sheet shows its last valid value: {invalid}
        </p>
      )}
      <article className="sheet" data-paper={paper} aria-label="Position sheet">
        <header>
          <h2>{model.title}</h2>
          <p>{model.facts}</p>
        </header>
        <p className="sheet-datum">{model.datum}</p>
        {model.heard !== '' && <p className="pb-2 font-semibold">{model.heard}</p>}
        <div className="sheet-plan">
          <SheetDrawing drawing={planDrawing(session)} />
          <SheetDrawing drawing={sectionDrawing(session)} />
        </div>
        {model.players.rows.length > 0 && (
          <section>
            <h3>Players</h3>
            <SheetTableView table={model.players} label="Players" />
          </section>
        )}
        {model.parts.map((section) => (
          <section key={section.title}>
            <h3>{section.title}</h3>
            {section.lines.map((line) => (
              <p key={line}>{line}</p>
            ))}
            <SheetDrawing drawing={section.detail} />
            <SheetTableView table={section.positions} label={`Positions of ${section.title}`} />
            <SheetTableView table={section.bar} label={`Bar of ${section.title}`} />
          </section>
        ))}
        {model.parts.length === 0 && <p>There is no array to rig yet.</p>}
        <section>
          <h3>Cautions</h3>
          <ul>
            {model.cautions.map((caution) => (
              <li key={caution}>{caution}</li>
            ))}
          </ul>
          <p>{model.deference}</p>
        </section>
      </article>
    </>
  );
}

/** Only where somebody opens it: most days have no second screen. */
const BoothPage = lazy(() =>
  import('../stage/booth-page').then((page) => ({ default: page.BoothPage })),
);

const CONTENT = {
  positions: <PositionsPage />,
  channels: <ChannelsPage />,
  pack: <PackPage />,
  build: <BuildPage />,
  built: <BuiltPage />,
  stage: (
    <Suspense fallback={<p className="text-muted">Opening …</p>}>
      <BoothPage />
    </Suspense>
  ),
} as const;

/** Session and date at the foot of every printed page, also where another page of the rig prints. */
function usePrintedFoot(): void {
  const session = useSession();
  const { title, facts } = sheetModel(session, false);
  const foot = JSON.stringify(`${title} · ${facts}`);
  useEffect(() => {
    const { style } = document.documentElement;
    style.setProperty('--sheet-foot', foot);
    return () => void style.removeProperty('--sheet-foot');
  }, [foot]);
}

/** What to carry, build and patch, and what was really built. */
export function RigStation() {
  usePrintedFoot();
  const shown = useStationPage(RIG_PAGES);
  return (
    <main aria-label="Rig" className="flex h-full flex-col print:block">
      <PageTabs label="Pages of the rig" pages={RIG_PAGES} shown={shown} />
      <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-sm:px-3 print:p-0" tabIndex={0}>
        {CONTENT[shown.id]}
      </div>
    </main>
  );
}
