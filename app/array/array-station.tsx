import { lazy, Suspense } from 'react';
import type { MicArray } from '../../core/session';
import { ArrayPlaceFields } from '../parts/array-fields';
import { TextField } from '../parts/fields';
import { ForWhomField } from '../parts/for-whom-field';
import { PageTabs, useStationPage } from '../parts/page-tabs';
import { ARRAY_PAGES } from '../parts/station-pages';
import { addMainPair, changeArray } from '../document/edits';
import { Behind } from '../figures/behind';
import { useFigures } from '../figures/figures';
import { edit } from '../document/session-store';
import { choiceStore } from '../view/choice';
import { useSession } from '../document/use-session';
import { PairGeometryPage } from './design/pair-geometry-page';
import { ComparePage } from './compare/compare-page';
import { MultichannelPage } from './multichannel/multichannel-page';
import { MidSidePage } from './design/mid-side-page';
import { OverheadsPage } from './multichannel/overheads-page';
import { RecommendPage } from './compare/recommend-page';
import { SolvePage } from './design/solve-page';
import { TechniqueChoice, TechniqueFields } from './design/technique-fields';

const ResponsePage = lazy(() =>
  import('./behaviour/response-page').then((m) => ({ default: m.ResponsePage })),
);
const PatternsPage = lazy(() =>
  import('./design/patterns-page').then((m) => ({ default: m.PatternsPage })),
);
const AimPage = lazy(() => import('./design/aim-page').then((m) => ({ default: m.AimPage })));
const SpacingAnglePage = lazy(() =>
  import('./design/spacing-angle-page').then((m) => ({ default: m.SpacingAnglePage })),
);

const CONTENT = {
  'pair-geometry': PairGeometryPage,
  'spacing-angle': SpacingAnglePage,
  solve: SolvePage,
  'mid-side': MidSidePage,
  aim: AimPage,
  multichannel: MultichannelPage,
  overheads: OverheadsPage,
  response: ResponsePage,
  patterns: PatternsPage,
  compare: ComparePage,
  recommend: RecommendPage,
} as const;

function ArrayTabs() {
  const { arrays } = useSession();
  const { array } = useFigures();
  const enabled = arrays.filter((entry) => entry.enabled);
  if (enabled.length < 2) return null;
  return (
    <div role="group" aria-label="Arrays" className="flex flex-wrap gap-1 pb-2">
      {enabled.map(({ id, name }) => (
        <button
          key={id}
          aria-pressed={id === array?.id}
          className={`btn btn-xs ${id === array?.id ? 'btn-neutral' : 'font-normal'}`}
          onClick={() => choiceStore.setState({ activeArrayId: id })}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

function Numbers({ array }: { array: MicArray }) {
  return (
    <aside
      aria-label="Numbers of the array"
      className="border-hairline bg-base-200 w-[292px] shrink-0 overflow-y-auto border-l px-4 py-3"
    >
      <ArrayTabs />
      <div key={array.id}>
        <h2 className="truncate pb-2 text-[17px]">{array.name}</h2>
        <TextField
          label="Name"
          value={array.name}
          most={200}
          required
          onCommit={(name) => edit(changeArray(array.id, { name }))}
        />
        <TechniqueChoice array={array} />
        <TechniqueFields array={array} />
        <ForWhomField array={array} />
        <h3 className="pt-4 pb-1 text-[14px]">Where it stands</h3>
        <ArrayPlaceFields array={array} />
      </div>
    </aside>
  );
}

/** Where the decision is made: one array, its behaviour, its rivals. */
export function ArrayStation() {
  const { array } = useFigures();
  const shown = useStationPage(ARRAY_PAGES);
  const Page = CONTENT[shown.id];
  if (!array) {
    return (
      <main aria-label="Array" className="p-8">
        <h2 className="text-[16px]">There is no array yet</h2>
        <p className="text-muted py-2">Put up a pair first; then choose its technique here.</p>
        <button className="btn btn-sm btn-primary" onClick={addMainPair}>
          Add a main pair
        </button>
      </main>
    );
  }
  return (
    <main aria-label="Array" className="flex h-full max-md:flex-col max-md:overflow-y-auto">
      <div className="flex min-w-0 flex-1 flex-col">
        <PageTabs label="Pages of the array" pages={ARRAY_PAGES} shown={shown} />
        <div
          className="bg-base-100 min-h-0 flex-1 overflow-y-auto px-4 py-3 max-md:flex-none max-md:overflow-visible"
          tabIndex={0}
        >
          <Suspense fallback={<p className="text-muted">Opening …</p>}>
            <Page key={array.id} array={array} />
          </Suspense>
        </div>
      </div>
      <Behind>
        <Numbers array={array} />
      </Behind>
    </main>
  );
}
