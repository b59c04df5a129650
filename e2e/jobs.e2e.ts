import { emptyShelf, HALL, Hand } from './hand';
import { aloneTest, expect, test, type Workbench } from './workbench';

/** Whole jobs, from an empty shelf to the list of channels and the sheet. */

async function begun(bench: Workbench, hand: Hand, name: string, template: string): Promise<void> {
  await emptyShelf(bench);
  await hand.click('New session');
  await hand.fill('Name', name);
  await hand.choose('Begin with', template);
  await hand.choose('Hall', HALL);
  await hand.click('Begin');
  await expect(bench.page.getByRole('main', { name: 'Floor' })).toBeVisible();
}

async function channels(bench: Workbench, hand: Hand, count: number): Promise<void> {
  await hand.click(/Rig$/, 'link');
  await hand.click('Channels');
  const list = bench.page.getByRole('table', { name: 'Channel list' });
  await expect(list.getByRole('row')).toHaveCount(count + 1);
  await hand.click('Positions');
  await expect(bench.page.getByRole('article', { name: 'Position sheet' })).toBeVisible();
}

async function duo(bench: Workbench, hand: Hand): Promise<void> {
  const { page } = bench;
  await begun(bench, hand, 'Two and four pairs', 'Melody and keyboard');
  const pairFor = async (player: string) => {
    await hand.on(bench.player(player));
    const list = page.getByLabel('Microphones for it', { exact: true });
    await expect(list).toBeVisible();
    const names = await list.locator('option').allTextContents();
    await hand.choose('Microphones for it', names.find((name) => /pair/i.test(name)) ?? '');
    await hand.click(`Put them up for ${player}`);
    await expect(page.getByRole('heading', { name: new RegExp(`^${player} `) })).toBeVisible();
  };
  await pairFor('Viol');
  await pairFor('Harpsichord');
  await hand.on(page.getByText('Add', { exact: true }));
  await hand.click('Ambience pair');
  await channels(bench, hand, 8);
}

async function kit(bench: Workbench, hand: Hand): Promise<void> {
  const { page } = bench;
  await begun(bench, hand, 'One kit', 'Drum kit');
  await hand.on(bench.player('Kit'));
  await hand.click('Set for it: overheads, drums');
  const notice = page.getByRole('status').filter({ hasText: 'as well, heard beside the new ones' });
  const before = await notice.count();
  if (before > 0) await hand.click(/^Keep (it|them) as/);
  await hand.on(page.getByRole('button', { name: /^Kit snare drum/ }).first());
  await hand.click('One underneath, inverted');
  await expect(bench.field('Name')).toHaveValue('Kit snare drum, underneath');
}

test('a duo with four pairs, by mouse', async ({ bench }) => {
  const hand = new Hand(bench);
  await duo(bench, hand);
  expect(hand.actions).toBeLessThanOrEqual(20);
});

test('a kit, by mouse', async ({ bench }) => {
  const hand = new Hand(bench);
  await kit(bench, hand);
  await hand.click(/Rig$/, 'link');
  await hand.click('Channels');
  await expect(
    bench.page.getByRole('button', { name: /^Polarity of Kit snare drum, underneath: inverted/ }),
  ).toBeVisible();
  expect(hand.actions).toBeLessThanOrEqual(20);
});

test('a set for a kit says what stands for it already, and keeps that as candidates', async ({
  bench,
}) => {
  const { page } = bench;
  const hand = new Hand(bench);
  // The template brings overheads and a spot of its own.
  await begun(bench, hand, 'Twice', 'Drum kit');
  const own = page.getByRole('button', { name: /^Overheads .* up/ });
  await expect(own).toHaveCount(1);
  await hand.on(bench.player('Kit'));
  await hand.click('Set for it: overheads, drums');
  await expect(page.getByText('Overheads, Bass drum stand for Kit as well')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Kit overheads .* up/ })).toHaveCount(1);
  await hand.click('Keep them as candidates only');
  await expect(own).toHaveCount(0);
  await hand.click(/Array$/, 'link');
  await hand.click('Compare');
  await expect(
    page.getByRole('table', { name: 'Differences' }).getByText('Overheads', { exact: true }),
  ).toHaveCount(1);
});

test('a kit by keys alone', async ({ bench }) => {
  const { page } = bench;
  await emptyShelf(bench);
  const hand = new Hand(bench);
  await page.getByRole('button', { name: 'New session' }).focus();
  await hand.key('Enter');
  await page.keyboard.type('Kit');
  await hand.key('Enter');
  await page.keyboard.type('Drum k');
  await hand.key('Enter');
  await hand.key('Enter');
  await expect(bench.player('Kit')).toBeVisible();
  await hand.key('Control+a');
  await hand.ask('Set for Kit');
  await hand.key('5');
  await expect(page.getByRole('main', { name: 'Rig' })).toBeFocused();
  await expect(page.getByRole('article', { name: 'Position sheet' })).toContainText(
    'Kit snare drum',
  );
  expect(hand.actions).toBeLessThanOrEqual(15);
});

test('a duo with four pairs by keys alone', async ({ bench }) => {
  const { page } = bench;
  await emptyShelf(bench);
  const hand = new Hand(bench);
  await page.getByRole('button', { name: 'New session' }).focus();
  await hand.key('Enter');
  await page.keyboard.type('Two');
  await hand.key('Enter');
  await page.keyboard.type('Melody');
  await hand.key('Enter');
  await hand.key('Enter');
  await expect(bench.player('Viol')).toBeVisible();
  for (const what of ['Add: Ambience pair', 'Add: Outriggers', 'Add: Overhead']) {
    await hand.ask(what);
  }
  await hand.ask('Channels, in Rig');
  const list = page.getByRole('table', { name: 'Channel list' });
  await expect(list.getByRole('row')).toHaveCount(9);
  expect(hand.actions).toBeLessThanOrEqual(25);
});

const touch = aloneTest;

touch.describe('by touch', () => {
  touch.use({ hasTouch: true });

  touch('a duo with four pairs', async ({ bench }) => {
    const hand = new Hand(bench, true);
    await duo(bench, hand);
    expect(hand.actions).toBeLessThanOrEqual(20);
  });

  touch('a kit', async ({ bench }) => {
    const hand = new Hand(bench, true);
    await kit(bench, hand);
    expect(hand.actions).toBeLessThanOrEqual(20);
  });

  touch('a quartet to its sheet', async ({ bench }) => {
    const hand = new Hand(bench, true);
    await begun(bench, hand, 'Four', 'String quartet');
    await hand.click(/Rig$/, 'link');
    await expect(bench.page.getByRole('article', { name: 'Position sheet' })).toContainText(
      'Main pair',
    );
    expect(hand.actions).toBeLessThanOrEqual(15);
  });
});
