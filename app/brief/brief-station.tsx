import { PageTabs, useStationPage } from '../parts/page-tabs';
import { BRIEF_PAGES } from '../parts/station-pages';
import { DayPage } from './day-page';
import { HallPage } from './hall-page';
import { JobPage } from './job-page';
import { KitPage } from './kit-page';
import { PicturePage } from './picture-page';

const CONTENT = {
  job: <JobPage />,
  hall: <HallPage />,
  picture: <PicturePage />,
  kit: <KitPage />,
  day: <DayPage />,
} as const;

/** What is recorded, where, with what, and how it should sound. */
export function BriefStation() {
  const shown = useStationPage(BRIEF_PAGES);
  return (
    <main aria-label="Brief" className="bg-base-100 flex h-full flex-col">
      <PageTabs label="Pages of the brief" pages={BRIEF_PAGES} shown={shown} />
      <div className="min-h-0 flex-1 relative overflow-auto px-6 py-4 max-md:px-3" tabIndex={0}>
        {CONTENT[shown.id]}
      </div>
    </main>
  );
}
