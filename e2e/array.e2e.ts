import { sessionFrom } from '../core/session';
import { imported } from './listening';
import { expect, test } from './workbench';

test('each technique has its recording angle, in every model that may speak', async ({ bench }) => {
  await bench.openDemo('array');
  await bench.allModels();
  const far = bench.page.getByRole('table', { name: 'Recording angle, distant sources' });
  const model = (name: string) => far.getByRole('row', { name: new RegExp(name) });
  await expect(model('traded')).toContainText('±47.8°');
  await expect(model('traded')).toContainText('95.6°');
  await expect(model('added')).toContainText('±43.8°');
  await expect(model('two slopes')).toContainText('±56.4°');
  await expect(model('tangent')).toContainText('refused');

  const technique = bench.page.getByLabel('Technique');
  await technique.selectOption('Crossed figure-eights (Blumlein)');
  // The demo’s hall is at 19 °C, which a coincident pair does not feel.
  await expect(model('traded')).toContainText('±34.9°');
  await expect(model('tangent')).toContainText('±45°');
  await technique.selectOption('Coincident, crossed (XY)');
  await expect(model('added')).toContainText('±98°');
  await technique.selectOption('Spaced pair (A-B)');
  await bench.type('Spacing', '20 cm');
  await expect(model('traded')).toContainText('not reached');
  await technique.selectOption('Mid-side');
  await expect(bench.readout('Pattern A')).toHaveText('0.309');
  await expect(bench.readout('Included angle')).toHaveText('126.9°');
  await bench.type('Side level against mid', '-6 dB');
  await expect(bench.readout('Pattern A')).toHaveText('0.414');
});

test('a side lobe that faces right swaps the picture and is a fault', async ({ bench }) => {
  await bench.openDemo('array');
  await bench.page.getByLabel('Technique').selectOption('Mid-side');
  const before = await bench.imagePercent('Clarinet 2');
  expect(before).toBeGreaterThan(50);
  await bench.page.getByLabel('Side’s positive lobe faces').selectOption('right: swaps the image');
  await expect.poll(() => bench.imageText('Clarinet 2')).toBe(`${before} % L, reversed`);
  await bench.go('checks');
  await expect(
    bench.findings(
      /^Fault\s*Main pair: the positive lobe of its side faces right, so the picture is turned left for right/,
    ),
  ).toHaveCount(1);
});

test('players beside crossed figure-eights are set apart as antiphase', async ({ bench }) => {
  await bench.openDemo('array');
  await bench.page.getByLabel('Technique').selectOption('Crossed figure-eights (Blumlein)');
  await bench.go('floor');
  await bench.player('Clarinet 1').click();
  await bench.type('Right of centre', '4 m');
  await bench.type('Upstage of edge', '-0.4 m');
  expect(await bench.imageText('Clarinet 1')).toBe('antiphase, no stable image');
});

test('the model changes what leads, not the spread', async ({ bench }) => {
  await bench.openDemo();
  const spread = () => bench.image('Horn 1').getByRole('cell').nth(3).innerText();
  const before = { place: await bench.imageText('Horn 1'), spread: await spread() };
  await bench.page.getByLabel('Model that leads').selectOption('traded cues');
  expect(await bench.imageText('Horn 1')).not.toBe(before.place);
  expect(await spread()).toBe(before.spread);
});

test('a pattern by number stands between the names', async ({ bench }) => {
  await bench.openDemo('array');
  await bench.page.getByLabel('Pattern, both').selectOption('by number A');
  await bench.type('A (1 omni … 0 figure-eight)', '0.42');
  await bench.go('rig');
  await expect(bench.page.getByRole('table', { name: 'Bar of Main pair' })).toContainText('A 0.42');
});

test('warmer air widens the recording angle of a spaced pair', async ({ bench }) => {
  await bench.openDemo('array');
  await bench.allModels();
  await bench.page.getByLabel('Technique').selectOption('Spaced pair (A-B)');
  const row = bench.page
    .getByRole('table', { name: 'Recording angle, distant sources' })
    .getByRole('row', { name: /traded/ });
  const half = async () => Number(/±([\d.]+)°/.exec(await row.innerText())?.[1]);
  const cool = await half();
  await bench.briefPage('The hall');
  await bench.type('Temperature', '95 °F');
  await expect(bench.field('Temperature')).toHaveValue(/^35/);
  await bench.go('array');
  expect(await half()).toBeGreaterThan(cool + 1);
});

test('eight players in a circle are all told apart on the line', async ({ bench }) => {
  const { page } = bench;
  const sources = Array.from({ length: 8 }, (_, i) => {
    const turn = ((i * 45 + 10) * Math.PI) / 180;
    const group = i % 2 === 0 ? 'Violas' : 'Violins';
    const [x, y] = [2.5 * Math.sin(turn), 2.5 * Math.cos(turn)];
    return { id: `p${i}`, name: `Player ${i + 1}`, group, x, y, z: 1.2 };
  });
  const technique = {
    kind: 'pair',
    pattern: 'figure-eight',
    spacingM: 0,
    includedAngleDeg: 90,
  } as const;
  await imported(
    bench,
    sessionFrom({
      id: 'own-circle',
      title: 'Circle',
      sources,
      arrays: [{ id: 'm', name: 'Blumlein', role: 'main', x: 0, y: 0, z: 1.6, technique }],
    }),
  );
  const line = page.getByRole('region', { name: 'Stereo image' });
  // Four with a place, four beside the line, each with its number and none over another.
  const heads = line.locator('[data-note]');
  await expect(heads).toHaveCount(4);
  await expect(line.locator('[data-aside]')).toHaveText([/^2/, /^4/, /^1/, /^3/]);
  const boxes = await Promise.all(
    (await heads.all()).map((head) => head.locator('ellipse').boundingBox()),
  );
  for (const [i, a] of boxes.entries()) {
    for (const b of boxes.slice(i + 1)) {
      const apart = Math.hypot((a?.x ?? 0) - (b?.x ?? 0), (a?.y ?? 0) - (b?.y ?? 0));
      expect(apart).toBeGreaterThan(12);
    }
  }
  await expect(heads.locator('text')).toHaveCount(4);
});
