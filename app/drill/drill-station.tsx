import { PageTabs, useStationPage } from '../parts/page-tabs';
import { DRILL_PAGES } from '../parts/station-pages';
import { DuePage } from './due-page';
import { EarPage } from './ear-page';
import { HeadPage } from './head-page';
import { ModelPage } from './model-page';
import { PlanPage } from './plan-page';
import { ResultsPage } from './results-page';

const PAGES = {
  due: DuePage,
  ear: EarPage,
  model: ModelPage,
  head: HeadPage,
  plan: PlanPage,
  results: ResultsPage,
} as const satisfies Record<(typeof DRILL_PAGES)[number]['id'], unknown>;

/** How well do I judge? */
export function DrillStation() {
  const page = useStationPage(DRILL_PAGES);
  const Page = PAGES[page.id];
  return (
    <main aria-label="Drill" className="bg-base-100 flex h-full flex-col">
      <PageTabs label="Pages of the drill" pages={DRILL_PAGES} shown={page} />
      <div className="relative min-h-0 flex-1 overflow-auto px-6 py-5 max-md:px-3" tabIndex={0}>
        <Page key={page.id} />
      </div>
    </main>
  );
}
