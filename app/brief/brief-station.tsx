import { useSearchParams } from 'react-router';
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
  const [params, setParams] = useSearchParams();
  const shown = PAGES.find(({ id }) => id === params.get('page')) ?? PAGES[0];
  return (
    <main aria-label="Brief" className="bg-base-100 flex h-full flex-col">
      <nav
        aria-label="Pages of the brief"
        className="border-hairline bg-base-200 flex h-11 shrink-0 items-center gap-0.5 border-b px-4"
      >
        {PAGES.map(({ id, name }) => (
          <button
            key={id}
            aria-current={id === shown.id ? 'page' : undefined}
            className={`btn btn-sm px-3 ${id === shown.id ? 'btn-neutral' : 'font-normal'}`}
            onClick={() => setParams({ page: id }, { replace: true })}
          >
            {name}
          </button>
        ))}
      </nav>
      <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4" tabIndex={0}>
        {shown.page}
      </div>
    </main>
  );
}
