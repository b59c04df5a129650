import { useEffect, useRef } from 'react';
import { useLocation, useSearchParams } from 'react-router';
import { useStore } from 'zustand';
import { pageStore, rememberPage } from '../view/pages';

interface Page {
  id: string;
  name: string;
  /** what it belongs with, where a station has many */
  group?: string;
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

/** The page of a station that the address names, else the one it was left on, else its first. */
export function useStationPage<T extends readonly [Page, ...Page[]]>(pages: T): T[number] {
  const [params] = useSearchParams();
  const { pathname } = useLocation();
  const left = useStore(pageStore, ({ last }) => last[pathname]);
  const asked = params.get('page') ?? '';
  const named = asked === '' ? left : (FORMER[asked] ?? asked);
  const shown = pages.find(({ id }) => id === named) ?? pages[0];
  useEffect(() => rememberPage(pathname, shown.id), [pathname, shown.id]);
  return shown;
}

interface Props {
  label: string;
  pages: readonly Page[];
  shown: Page;
}

/** Pages of one group after another, each group once. */
function grouped(pages: readonly Page[]): { group: string; list: Page[] }[] {
  const groups: { group: string; list: Page[] }[] = [];
  for (const page of pages) {
    const last = groups[groups.length - 1];
    if (last && last.group === (page.group ?? '')) last.list.push(page);
    else groups.push({ group: page.group ?? '', list: [page] });
  }
  return groups;
}

/** The pages at the head of a station, in their groups; each has an address of its own. */
export function PageTabs({ label, pages, shown }: Props) {
  const [, setParams] = useSearchParams();
  const nav = useRef<HTMLElement>(null);
  // A page begins at its head, however far the one before was read.
  useEffect(() => {
    for (const scrolled of [nav.current?.nextElementSibling, nav.current?.closest('main')]) {
      if (scrolled) scrolled.scrollTop = 0;
    }
  }, [shown.id]);
  return (
    <nav
      ref={nav}
      aria-label={label}
      className="no-print border-hairline bg-base-200 flex min-h-11 shrink-0 flex-wrap items-center gap-x-4 gap-y-0.5 border-b px-3 py-1"
    >
      {grouped(pages).map(({ group, list }) => (
        <div
          key={group}
          role={group === '' ? undefined : 'group'}
          aria-label={group === '' ? undefined : group}
          className="flex flex-wrap items-center gap-0.5"
        >
          {group !== '' && (
            <span aria-hidden="true" className="text-muted pr-1 text-[12px]">
              {group}
            </span>
          )}
          {list.map(({ id, name }) => (
            <button
              key={id}
              aria-current={id === shown.id ? 'page' : undefined}
              className={`btn btn-sm px-2 ${id === shown.id ? 'btn-neutral' : 'btn-ghost font-normal'}`}
              onClick={() => setParams({ page: id }, { replace: true })}
            >
              {name}
            </button>
          ))}
        </div>
      ))}
    </nav>
  );
}
