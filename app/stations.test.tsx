// @vitest-environment jsdom
import { Suspense, type ReactNode } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { createRoot } from 'react-dom/client';
import { act } from 'react';
import { MemoryRouter } from 'react-router';
import { expect, it, vi } from 'vitest';
import { demoSession } from '../core/demo';
import { STATIONS, type Station } from './stations';
import { openSession } from './fixtures';

/** A station of ten lines, as somebody would add one: one entry of the table. */
const tea: Station = {
  mark: 'T',
  path: 'tea',
  name: 'Tea',
  pages: [{ id: 'kettle', name: 'Kettle', words: 'boil water' }],
  load: () =>
    Promise.resolve(function Tea() {
      return <p>The tea is ready.</p>;
    }),
};

it('is one entry: the rail, its key, the palette and its address come of it', async () => {
  // In the place of the last one: there are nine keys.
  (STATIONS as unknown as Station[]).splice(-1, 1, tea);
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', true);
  const session = demoSession('2026-11-30T12:00:00.000Z');
  openSession(session);

  const { RailMarks } = await import('./shell/rail');
  const rail = renderToStaticMarkup(
    <MemoryRouter initialEntries={['/session/one/tea']}>
      <RailMarks id="one" findings={0} />
    </MemoryRouter>,
  );
  expect(rail).toContain('>Tea<');

  const { waysIn } = await import('./shell/command-palette');
  const opened: string[] = [];
  const ways = waysIn({ id: 'one' }, (path) => opened.push(path));
  const own = ways.filter(({ name }) => name === 'T Tea' || name === 'Kettle, in Tea');
  own.forEach(({ run }) => run());
  expect(opened).toEqual(['/session/one/tea', '/session/one/tea?page=kettle']);
  expect(own[0]?.keys).toBe(String(STATIONS.length));

  const { useShortcuts } = await import('./shell/shortcuts');
  const went: unknown[] = [];
  const Keys = (): ReactNode => {
    useShortcuts((path: unknown) => void went.push(path));
    return null;
  };
  const root = createRoot(document.body.appendChild(document.createElement('div')));
  act(() => root.render(<Keys />));
  dispatchEvent(new KeyboardEvent('keydown', { key: String(STATIONS.length) }));
  expect(went).toEqual([`/session/${session.id}/tea`]);

  const { PAGES } = await import('./router');
  const page = PAGES.find(({ path }) => path === (tea.path as never));
  if (!page) throw new Error('no address');
  await act(async () => {
    root.render(
      <Suspense>
        <page.Page />
      </Suspense>,
    );
    await tea.load();
  });
  expect(document.body.textContent).toContain('The tea is ready.');
  act(() => root.unmount());
});
