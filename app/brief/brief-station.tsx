import { PageTabs, useStationPage } from '../parts/page-tabs';
import { DayPage } from './day-page';
import { HallPage } from './hall-page';
import { JobPage } from './job-page';
import { KitPage } from './kit-page';
import { PicturePage } from './picture-page';

const PAGES = [
  { id: 'job', name: 'The job', page: <JobPage /> },
  { id: 'hall', name: 'The hall', page: <HallPage /> },
  { id: 'picture', name: 'The picture', page: <PicturePage /> },
  { id: 'kit', name: 'The kit', page: <KitPage /> },
  { id: 'day', name: 'The day', page: <DayPage /> },
] as const;

/** What is recorded, where, with what, and how it should sound. */
export function BriefStation() {
  const shown = useStationPage(PAGES);
  return (
    <main aria-label="Brief" className="bg-base-100 flex h-full flex-col">
      <PageTabs label="Pages of the brief" pages={PAGES} shown={shown} />
      <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4" tabIndex={0}>
        {shown.page}
      </div>
    </main>
  );
}
