import { AxeBuilder } from '@axe-core/playwright';
import { bestEngine, planTake, takeFile } from '../core/audio/render';
import { clapLayout } from '../core/claps';
import { demoSession } from '../core/demo';
import { newArray, newSource, type MicArray, type Session } from '../core/session';
import { opened, ownBench, type MadeFile } from './recordings';
import { expect, settled, test } from './workbench';

function own(): Session {
  const demo = demoSession('2026-01-01T00:00:00Z');
  return {
    ...demo,
    id: 'own-claps',
    title: 'Own claps',
    venue: {
      ...demo.venue,
      ...{ widthM: 14, depthM: 20, heightM: 7, rt60S: 1.2, origin: { x: 7, y: 8 } },
    },
    sections: [],
    sources: [
      newSource({ ...{ id: 'a', name: 'Viol', kind: 'viola', x: -2, y: 3, z: 1.2 } }),
      newSource({ ...{ id: 'b', name: 'Bass viol', kind: 'viola', x: 2, y: 3, z: 1.2 } }),
    ],
    arrays: [
      newArray({
        ...{ id: 'main', name: 'Main pair', x: 0, y: 0, z: 2.5, tiltDeg: 0 },
        technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
      }),
    ],
  };
}

/** Claps about a pair that was put up a little aside, turned and wider than planned. */
async function claps(plan: Session): Promise<MadeFile> {
  const engine = await bestEngine();
  const [main] = plan.arrays as [MicArray];
  const places = clapLayout(plan, main, 6).map(({ at }) => at);
  const rig: Session = {
    ...plan,
    arrays: [
      {
        ...main,
        ...{ x: 0.08, aimDeg: 5 },
        technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.2, includedAngleDeg: 110 },
      },
    ],
  };
  const take = planTake(rig, { take: 'claps', claps: places }, undefined, engine);
  if (!take.ok) throw new Error(take.message);
  const parts: Uint8Array[] = [];
  for await (const part of takeFile(rig, take.value, { engine })) parts.push(part);
  return { name: 'Round the pair.wav', mimeType: 'audio/wav', buffer: Buffer.concat(parts) };
}

test('claps are laid out, taped, and say how the pair really stands', async ({ bench, page }) => {
  await ownBench(bench, own());
  await opened(bench, [await claps(own())]);
  await bench.turnTo('Claps');
  const region = page.getByRole('region', { name: 'Claps', exact: true });
  await expect(region).toContainText('No places for claps are laid out yet');
  await region.getByRole('link', { name: 'Rig, As built' }).click();

  await page.getByRole('button', { name: 'Lay out six' }).click();
  const list = page.getByRole('list', { name: 'Places for claps' });
  await expect(list.getByRole('listitem')).toHaveCount(6);
  await expect(
    page.getByRole('img', { name: /^6 places for claps about Main pair/ }),
  ).toBeVisible();
  // A tape that reads otherwise moves the place; two that do not meet are refused.
  const tape = page.getByRole('textbox', { name: /^Clap 2, tape from/ }).first();
  const before = await tape.inputValue();
  await tape.fill('0.01');
  await tape.press('Enter');
  await expect(page.getByText('The two tapes do not meet there.')).toBeVisible();
  await tape.press('Escape');
  await expect(tape).toHaveValue(before);
  await page.getByRole('button', { name: 'Remove clap 6' }).click();
  await expect(list.getByRole('listitem')).toHaveCount(5);
  await page.keyboard.press('Control+z');
  await expect(list.getByRole('listitem')).toHaveCount(6);

  await bench.go('bench');
  await bench.turnTo('Claps');
  await expect(page.getByRole('status', { name: 'Passages found' })).toHaveText(
    '6 passages stand apart by a second of silence, in the order of the 6 places.',
  );
  await region.getByRole('button', { name: 'Say how it stands' }).click();
  const rig = page.getByRole('status', { name: 'The rig' });
  await expect(rig).toHaveText(
    /^Main pair: right of centre 0\.(0[6-9]|10) m ± .*aim (4\.\d|5|5\.\d)° ± .*spacing (19\.[5-9]|20\.[0-5]) cm ±/,
  );
  await expect(page.getByRole('list', { name: 'What is left open' })).toContainText(
    'Main pair, tilt: not measurable with these claps.',
  );
  const stage = page.getByRole('table', { name: 'What it does to the stage' });
  await expect(stage.getByRole('row')).toHaveCount(3);
  for (const theme of ['rotunda-light', 'rotunda-dark']) {
    await page.evaluate((name) => (document.documentElement.dataset['theme'] = name), theme);
    await settled(page);
    const { violations } = await new AxeBuilder({ page }).include('main').analyze();
    expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  }
  await page.getByRole('button', { name: 'Main pair, spacing: to As built' }).click();
  await page.getByRole('button', { name: 'All that is told to As built' }).click();
  await bench.go('rig');
  await bench.turnTo('As built');
  await expect(page.getByRole('textbox', { name: 'Main pair, aim as built' })).toHaveValue(
    /^(4|5)/,
  );
  await expect(page.getByRole('textbox', { name: 'Main pair, spacing as built' })).toHaveValue(
    /^(19\.[5-9]|20)/,
  );
  const { violations } = await new AxeBuilder({ page }).include('main').analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
});

test('claps in another order are refused in words, and are mended by hand', async ({
  bench,
  page,
}) => {
  const [main] = own().arrays as [MicArray];
  const laid = clapLayout(own(), main, 6).map(({ name, at }) => ({ name, ...at }));
  const [first, second, ...others] = laid as [(typeof laid)[0], (typeof laid)[0], ...typeof laid];
  const session = own();
  await ownBench(bench, {
    ...session,
    rig: { ...session.rig, claps: [second, first, ...others] },
  });
  await opened(bench, [await claps(own())]);
  await bench.turnTo('Claps');
  const say = page.getByRole('button', { name: 'Say how it stands' });
  await say.click();
  const rig = page.getByRole('status', { name: 'The rig' });
  await expect(rig).toHaveText(/^Cannot be told: no rig near the plan was heard/);
  const whose = page.getByRole('combobox', { name: /^Who is alone in/ });
  await whose.nth(0).selectOption({ index: 2 });
  await whose.nth(1).selectOption({ index: 1 });
  await say.click();
  await expect(rig).toHaveText(/^Main pair: right of centre/);
});
