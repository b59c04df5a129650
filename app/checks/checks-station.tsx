import { PageTabs, useStationPage } from '../parts/page-tabs';
import { CHECKS_PAGES } from '../parts/station-pages';
import { ArrivalsPage } from './arrivals-page';
import { FindingsPage } from './findings-page';
import { MatrixPage } from './matrix-page';
import { MixPage } from './mix-page';
import { MonoPage } from './mono-page';
import { SafetyPage } from './safety-page';
import { SeatsPage } from './seats-page';
import { SpillPage } from './spill-page';
import { StandsPage } from './stands-page';

const CONTENT = {
  findings: <FindingsPage />,
  arrivals: <ArrivalsPage />,
  spill: <SpillPage />,
  matrix: <MatrixPage />,
  seats: <SeatsPage />,
  mix: <MixPage />,
  mono: <MonoPage />,
  stands: <StandsPage />,
  safety: <SafetyPage />,
} as const;

/** What can be known before a microphone is up. */
export function ChecksStation() {
  const shown = useStationPage(CHECKS_PAGES);
  return (
    <main aria-label="Checks" className="bg-base-100 flex h-full flex-col">
      <PageTabs label="Pages of the checks" pages={CHECKS_PAGES} shown={shown} />
      <div className="min-h-0 flex-1 relative overflow-auto px-6 py-4 max-md:px-3" tabIndex={0}>
        {CONTENT[shown.id]}
      </div>
    </main>
  );
}
