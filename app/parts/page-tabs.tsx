import { useSearchParams } from 'react-router';

interface Page {
  id: string;
  name: string;
}

/** Pages under the names that they had before: old links go on working. */
const FORMER: Readonly<Record<string, string>> = {
  bar: 'pair-geometry',
  behaviour: 'response',
  trade: 'spacing-angle',
  larger: 'multichannel',
  ladder: 'arrivals',
  leaks: 'spill',
};

/** The page of a station that the address names, else its first. */
export function useStationPage<T extends readonly [Page, ...Page[]]>(pages: T): T[number] {
  const [params] = useSearchParams();
  const asked = params.get('page') ?? '';
  return pages.find(({ id }) => id === (FORMER[asked] ?? asked)) ?? pages[0];
}

interface Props {
  label: string;
  pages: readonly Page[];
  shown: Page;
}

/** The row of pages at the head of a station; each has an address of its own. */
export function PageTabs({ label, pages, shown }: Props) {
  const [, setParams] = useSearchParams();
  return (
    <nav
      aria-label={label}
      className="no-print border-hairline bg-base-200 flex h-11 shrink-0 items-center gap-0.5 overflow-x-auto border-b px-3"
    >
      {pages.map(({ id, name }) => (
        <button
          key={id}
          aria-current={id === shown.id ? 'page' : undefined}
          className={`btn btn-sm px-2 ${id === shown.id ? 'btn-neutral' : 'font-normal'}`}
          onClick={() => setParams({ page: id }, { replace: true })}
        >
          {name}
        </button>
      ))}
    </nav>
  );
}
