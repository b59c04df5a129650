import { AxeBuilder } from '@axe-core/playwright';
import { deflateSync, crc32 } from 'node:zlib';
import { demoSession } from '../core/demo';
import { assumedLens, type Pixel } from '../core/photo';
import { onPicture, overPlane } from '../core/photo/camera';
import { newArray, type Session } from '../core/session';
import { imported } from './listening';
import { expect, settled, test, type Workbench } from './workbench';

const [WIDE, HIGH] = [1600, 1200];

function own(): Session {
  const demo = demoSession('2026-01-01T00:00:00Z');
  return {
    ...demo,
    id: 'own-bar',
    title: 'Own bar',
    arrays: [
      newArray({
        ...{ id: 'main', name: 'Main pair', x: 0, y: 0, z: 2.5 },
        technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
      }),
    ],
  };
}

/** A PNG of one grey with black points. */
function png(width: number, height: number, points: readonly Pixel[] = []): Buffer {
  const row = width + 1;
  const raw = Buffer.alloc(row * height, 190);
  for (let y = 0; y < height; y++) raw[y * row] = 0;
  for (const { u, v } of points) {
    for (let dy = -3; dy <= 3; dy++) {
      for (let dx = -3; dx <= 3; dx++) {
        const [x, y] = [Math.round(u) + dx, Math.round(v) + dy];
        if (x >= 0 && x < width && y >= 0 && y < height) raw[y * row + 1 + x] = 0;
      }
    }
  }
  const chunk = (type: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const ends = Buffer.alloc(8);
    ends.writeUInt32BE(data.length, 0);
    ends.writeUInt32BE(crc32(body), 4);
    return Buffer.concat([ends.subarray(0, 4), body, ends.subarray(4)]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 0, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(raw)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

/** Where everything of a bar of 20 cm and 90° is on a picture that was taken a little askew. */
function marks(): { corners: Pixel[]; bodies: Pixel[] } {
  const camera = overPlane([6, -4], 0.9, assumedLens(WIDE, HIGH));
  const at = (x: number, y: number): Pixel => onPicture(camera, { x, y, z: 0 });
  const body = (side: -1 | 1): Pixel[] => {
    const [x, axis] = [side * 0.1, (side * Math.PI) / 4];
    return [at(x, 0.05), at(x - 0.12 * Math.sin(axis), 0.05 - 0.12 * Math.cos(axis))];
  };
  return {
    corners: [at(-0.15, -0.13), at(0.147, -0.13), at(0.147, -0.34), at(-0.15, -0.34)],
    bodies: [...body(-1), ...body(1)],
  };
}

const picture = (page: Workbench['page']) => page.getByRole('application');

/** Presses where a mark is to be. */
async function press({ page }: Workbench, { u, v }: Pixel): Promise<void> {
  await picture(page).scrollIntoViewIfNeeded();
  const at = await picture(page).evaluate(
    (svg: SVGSVGElement, [x, y]) => {
      const { x: left, y: top } = new DOMPoint(x, y).matrixTransform(
        svg.getScreenCTM() ?? undefined,
      );
      return [left, top] as const;
    },
    [u, v] as const,
  );
  await page.mouse.click(...at);
}

async function taken(bench: Workbench, name: string, buffer: Buffer): Promise<void> {
  await bench.page
    .getByLabel('Main pair, photograph from above')
    .setInputFiles({ name, mimeType: 'image/png', buffer });
}

test('a photograph from above says how the bar is set', async ({ bench, page }) => {
  await imported(bench, own());
  await bench.go('rig');
  await bench.turnTo('As built');
  const { corners, bodies } = marks();
  await taken(bench, 'bar.png', png(WIDE, HIGH, [...corners, ...bodies]));
  await expect(picture(page)).toHaveAccessibleName(/next: sheet, corner 1/);
  for (const mark of corners) await press(bench, mark);
  await expect(picture(page)).toHaveAccessibleName(/next: left microphone, capsule/);
  for (const mark of bodies) await press(bench, mark);
  const bar = page.getByRole('status', { name: 'The bar' });
  await expect(bar).toHaveText(
    /^The capsules are (19\.[6-9]|20(\.[0-4])?) cm ± 0\.[1-9] cm apart; (8[89]|9[0-2])(\.\d)?° ± \d\.\d° are between the bodies; they are square to their line/,
  );
  // Keys move the chosen mark by a pixel, ten with Shift; that is undone.
  await page.getByRole('button', { name: /left microphone, capsule/ }).click();
  await picture(page).focus();
  const before = await bar.textContent();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowLeft');
  await expect(bar).not.toHaveText(before ?? '');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(bar).toHaveText(before ?? '');

  for (const theme of ['rotunda-light', 'rotunda-dark']) {
    await page.evaluate((name) => (document.documentElement.dataset['theme'] = name), theme);
    await settled(page);
    const { violations } = await new AxeBuilder({ page }).include('main').analyze();
    expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  }
  await page.getByRole('button', { name: 'To As built' }).click();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Main pair, spacing as built' })).toHaveValue(
    /^(19\.[6-9]|20)/,
  );
  await expect(
    page.getByRole('textbox', { name: 'Main pair, included angle as built' }),
  ).toHaveValue(/^(8[89]|9[0-2])/);

  // Half as large its marks go with it.
  await page.getByRole('button', { name: '1, from above' }).click();
  await page.getByRole('button', { name: 'Shrink to half' }).click();
  await expect(picture(page)).toHaveAttribute('viewBox', '0 0 800 600');
  await expect(bar).toHaveText(/^The capsules are (19\.[6-9]|20(\.[0-4])?) cm/);
  await page.keyboard.press('Control+z');
  await expect(picture(page)).toHaveAttribute('viewBox', '0 0 1600 1200');
  await page.getByRole('button', { name: 'Close', exact: true }).click();

  // It is there after a reload, marks and all, and goes with an undo.
  await page.reload();
  await page.getByRole('button', { name: '1, from above' }).click();
  await expect(bar).toHaveText(before ?? '');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await page.getByRole('button', { name: 'Remove photograph 1 of Main pair' }).click();
  await expect(page.getByRole('button', { name: '1, from above' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: '1, from above' }).click();
  await expect(page.locator('image').first()).toHaveAttribute('href', /^blob:/);
});

test('marks that cannot be, and pictures that are none, are said', async ({ bench, page }) => {
  await imported(bench, own());
  await bench.go('rig');
  await bench.turnTo('As built');
  await taken(bench, 'notes.png', Buffer.from('not a picture'));
  await expect(
    page.getByText(/^notes\.png: the browser cannot read it as a picture/),
  ).toBeVisible();
  await expect(picture(page)).toHaveCount(0);

  await taken(bench, 'line.png', png(WIDE, HIGH));
  for (const u of [200, 400, 600, 800]) await press(bench, { u, v: 300 });
  const { corners, bodies } = marks();
  for (const mark of bodies) await press(bench, mark);
  const bar = page.getByRole('status', { name: 'The bar' });
  await expect(bar).toHaveText(/^Cannot be told: the four corners cross or lie on a line/);
  await page.getByLabel('Scale', { exact: true }).selectOption('length');
  await expect(bar).toHaveText('Mark what is still missing.');
  await press(bench, { u: 300, v: 600 });
  await press(bench, { u: 1300, v: 600 });
  await expect(bar).toHaveText(/^The capsules are /);
  await page.getByLabel('Scale', { exact: true }).selectOption('sheet');
  const [a, b, c, d] = corners as [Pixel, Pixel, Pixel, Pixel];
  for (const [name, mark] of [
    ['corner 1', a],
    ['corner 2', c],
    ['corner 3', b],
    ['corner 4', d],
  ] as const) {
    await page.getByRole('button', { name: `sheet, ${name}` }).click();
    await press(bench, mark);
  }
  await expect(bar).toHaveText(/mark them one after another round the sheet/);
  await page.getByRole('button', { name: 'Close', exact: true }).click();

  // Fifty megapixels are shrunk.
  await taken(bench, 'large.png', png(8660, 5774));
  await expect(picture(page)).toHaveAttribute('viewBox', '0 0 4000 2667');
});

test.describe('by touch', () => {
  test.use({ hasTouch: true, viewport: { width: 1024, height: 768 } });
  test('a finger sets marks, with a loupe over it', async ({ bench, page }) => {
    await imported(bench, own());
    await bench.go('rig');
    await bench.turnTo('As built');
    await taken(bench, 'bar.png', png(WIDE, HIGH));
    const box = await picture(page).boundingBox();
    if (!box) throw new Error('no picture');
    const touch = (type: string, x: number, y: number) =>
      picture(page).dispatchEvent(type, {
        ...{ pointerId: 1, pointerType: 'touch', isPrimary: true, bubbles: true },
        ...{ clientX: box.x + x, clientY: box.y + y },
      });
    await touch('pointerdown', 100, 90);
    await expect(page.locator('[data-loupe]')).toHaveCount(1);
    await touch('pointermove', 140, 100);
    await touch('pointerup', 140, 100);
    await expect(page.locator('[data-loupe]')).toHaveCount(0);
    await expect(picture(page)).toHaveAccessibleName(/next: sheet, corner 2/);
    await touch('pointerdown', 300, 100);
    await touch('pointerup', 300, 100);
    await expect(picture(page)).toHaveAccessibleName(/next: sheet, corner 3/);
  });
});
