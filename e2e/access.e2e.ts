import AxeBuilder from '@axe-core/playwright';
import { STATIONS } from '../app/stations';
import { aloneTest, expect, settled, test } from './workbench';

// Colours are read where they are, not on their way there.
test.use({ contextOptions: { reducedMotion: 'reduce' } });

for (const theme of ['light', 'dark'] as const) {
  test(`the stations and the list in the ${theme} theme have no accessibility violations`, async ({
    bench,
  }) => {
    const { page } = bench;
    await page.addInitScript((name) => localStorage.setItem('rotunda-theme', name), theme);
    await bench.openDemo();
    await bench.player('Clarinet 1').click();
    const found: unknown[] = [];
    const look = async (where: string) => {
      await settled(page);
      const { violations } = await new AxeBuilder({ page }).analyze();
      found.push(...violations.map(({ id, nodes }) => [where, id, nodes.map(({ html }) => html)]));
    };
    for (const { path } of STATIONS) {
      await bench.go(path);
      await look(path);
    }
    await page.getByRole('link', { name: 'All sessions' }).click();
    await expect(page.getByRole('link', { name: /Sedge/ })).toBeVisible();
    await look('list');
    expect(found).toEqual([]);
  });

  // Each page once: the themes share the pages between them.
  const stations = STATIONS.filter(({ pages }) => pages.length > 0)
    .filter(({ path }, i) => path === 'bench' || i % 2 === (theme === 'light' ? 0 : 1))
    .map(({ path }) => path);
  test(`every page of ${stations.join(' and ')}, and the section, in the ${theme} theme have none either`, async ({
    bench,
  }) => {
    const { page } = bench;
    await page.addInitScript((name) => localStorage.setItem('rotunda-theme', name), theme);
    await bench.openDemo();
    await page.getByRole('button', { name: 'Both', exact: true }).click();
    const found: unknown[] = [];
    const look = async (where: string) => {
      await settled(page);
      const { violations } = await new AxeBuilder({ page }).include('main').analyze();
      found.push(...violations.map(({ id, nodes }) => [where, id, nodes.map(({ html }) => html)]));
    };
    await look('floor, both');
    for (const station of stations) {
      await bench.go(station);
      const pages = page.getByRole('navigation', { name: /^Pages of/ }).getByRole('button');
      await expect(pages.nth(1)).toBeVisible();
      for (let i = 1; i < (await pages.count()); i++) {
        await pages.nth(i).click();
        await expect(page.getByText('Opening …')).toHaveCount(0);
        await look(`${station}, ${await pages.nth(i).innerText()}`);
      }
    }
    expect(found).toEqual([]);
  });
}

aloneTest.describe('with the service worker', () => {
  aloneTest.use({ serviceWorkers: 'allow' });

  aloneTest(
    'works without a network after the first visit, and can be installed',
    async ({ bench, context }) => {
      await bench.openDemo();
      await bench.page
        .evaluate(async () => {
          await navigator.serviceWorker.ready;
          for (let i = 0; i < 100 && !navigator.serviceWorker.controller; i++) {
            await new Promise((resolve) => setTimeout(resolve, 100));
            if (i === 20) location.reload();
          }
        })
        .catch(() => undefined);
      await bench.page.waitForFunction(async () => {
        const keys = await caches.keys();
        const sizes = await Promise.all(
          keys.map(async (key) => (await (await caches.open(key)).keys()).length),
        );
        return sizes.some((size) => size > 15);
      });
      await bench.page.reload();
      await expect(bench.player('Horn 1')).toBeVisible();
      const images = await bench.allImages();
      await context.setOffline(true);
      await bench.page.reload();
      await expect(bench.player('Horn 1')).toBeVisible();
      expect(await bench.allImages()).toBe(images);
      await bench.go('rig');
      const file = await bench.download(() =>
        bench.page.getByRole('button', { name: 'PDF' }).click(),
      );
      expect(file.text.startsWith('%PDF-')).toBe(true);
      await context.setOffline(false);

      const manifest = (await (await bench.page.request.get('/manifest.webmanifest')).json()) as {
        display: string;
        icons: { sizes: string }[];
      };
      expect(manifest.display).toBe('standalone');
      expect(manifest.icons.map(({ sizes }) => sizes)).toEqual(
        expect.arrayContaining(['192x192', '512x512']),
      );
    },
  );
});
