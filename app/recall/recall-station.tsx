import { PageTabs, useStationPage } from '../parts/page-tabs';
import { RECALL_PAGES } from '../parts/station-pages';
import { CompletePage } from './complete-page';
import { CopiesPage } from './copies-page';
import { DifferencePage } from './difference-page';
import { FindPage } from './find-page';
import { ListeningPage } from './listening-page';
import { MarksPage } from './marks-page';
import { PiecesPage } from './pieces-page';

const PAGES = {
  find: FindPage,
  marks: MarksPage,
  listening: ListeningPage,
  pieces: PiecesPage,
  complete: CompletePage,
  difference: DifferencePage,
  copies: CopiesPage,
} as const satisfies Record<(typeof RECALL_PAGES)[number]['id'], unknown>;

/** Have I been here, and what worked? */
export function RecallStation() {
  const page = useStationPage(RECALL_PAGES);
  const Page = PAGES[page.id];
  return (
    <main aria-label="Recall" className="bg-base-100 flex h-full flex-col">
      <PageTabs label="Pages of recall" pages={RECALL_PAGES} shown={page} />
      <div className="relative min-h-0 flex-1 overflow-auto px-6 py-4 max-md:px-3" tabIndex={0}>
        <Page />
      </div>
    </main>
  );
}
