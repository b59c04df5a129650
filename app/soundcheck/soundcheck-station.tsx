import { PageTabs, useStationPage } from '../parts/page-tabs';
import { SOUNDCHECK_PAGES } from '../parts/station-pages';
import { BlendPage } from './blend-page';
import { ComparePage } from './compare-page';
import { DiaryPage } from './diary-page';
import { ReportPage } from './report-page';
import { SweepPage } from './sweep-page';
import { SymptomPage } from './symptom-page';
import { TakesPage } from './takes-page';

const PAGES = {
  diary: DiaryPage,
  takes: TakesPage,
  compare: ComparePage,
  symptom: SymptomPage,
  blend: BlendPage,
  sweep: SweepPage,
  report: ReportPage,
} as const satisfies Record<(typeof SOUNDCHECK_PAGES)[number]['id'], unknown>;

/** Which of these, and why? */
export function SoundcheckStation() {
  const page = useStationPage(SOUNDCHECK_PAGES);
  const Page = PAGES[page.id];
  return (
    <main aria-label="Soundcheck" className="bg-base-100 flex h-full flex-col">
      <PageTabs label="Pages of the soundcheck" pages={SOUNDCHECK_PAGES} shown={page} />
      <div className="relative min-h-0 flex-1 overflow-auto px-6 py-4 max-md:px-3" tabIndex={0}>
        <Page />
      </div>
    </main>
  );
}
