import { AxeBuilder } from '@axe-core/playwright';
import { bestEngine, planTake, takeFile } from '../core/audio/render';
import { demoSession } from '../core/demo';
import { newArray, newSource, type Session } from '../core/session';
import { opened, ownBench, type MadeFile } from './recordings';
import { expect, settled, test } from './workbench';

const SEATS = [
  ['Viol', -2.1, 3],
  ['Tenor viol', -0.8, 3.6],
  ['Cornett', 0.7, 3.8],
  ['Bass viol', 2.2, 3],
] as const;

/** Two more, so that a mean has an interval. */
const SIX = [...SEATS, ['Lute', -1.5, 4.4], ['Harp', 1.5, 4.4]] as const;

function own(
  aimDeg: number,
  seats: readonly (readonly [string, number, number])[] = SEATS,
): Session {
  const demo = demoSession('2026-01-01T00:00:00Z');
  return {
    ...demo,
    id: 'own-consort',
    title: 'Own consort',
    sections: [],
    sources: seats.map(([name, x, y], i) =>
      newSource({ ...{ id: `p${i}`, name, kind: 'viola', x, y, z: 1.2, levelDb: 80 } }),
    ),
    arrays: [
      newArray({
        ...{ id: 'main', name: 'Main pair', x: 0, y: 0, z: 2.6, tiltDeg: -15, aimDeg },
        technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
      }),
    ],
  };
}

/** What microphones that stand so would record of a clap at every place. */
async function claps(session: Session, name: string): Promise<MadeFile> {
  const engine = await bestEngine();
  const places = session.sources.map(({ x, y, z }) => ({ x, y, z }));
  const plan = planTake(session, { take: 'claps', claps: places }, undefined, engine);
  if (!plan.ok) throw new Error(plan.message);
  const parts: Uint8Array[] = [];
  for await (const part of takeFile(session, plan.value, { engine })) parts.push(part);
  return { name, mimeType: 'audio/wav', buffer: Buffer.concat(parts) };
}

test('a pair that was turned is found, noted as built, and is then as it stands', async ({
  bench,
  page,
}) => {
  await ownBench(bench, own(0));
  await opened(bench, [await claps(own(7), 'Claps.wav')]);
  await bench.turnTo('Against the plan');
  const region = page.getByRole('region', { name: 'Against the plan' });
  await expect(page.getByRole('status', { name: 'Passages found' })).toHaveText(
    '4 passages stand apart by a second of silence, in the order of the 4 players.',
  );
  await page.getByLabel('What sounds').selectOption('claps');
  const hold = region.getByRole('button', { name: 'Hold it against the plan' });
  await hold.click();
  const verdict = page.getByRole('status', { name: 'Verdict' });
  await expect(verdict).toHaveText(
    /^Not as planned: either Main pair is turned by (6\.\d|7|7\.\d)° to the right, or .* further left/,
  );
  await expect(region).toContainText(
    'This take does not tell which; a clap 3 m behind would tell.',
  );
  const table = page.getByRole('table', { name: 'Planned and measured' });
  await expect(table.getByRole('row').nth(1)).toContainText('departs');
  await expect(
    page.getByRole('img', { name: /^Viol: planned \d+ % left, measured \d+ % left/ }),
  ).toBeVisible();
  const csv = await bench.download(() =>
    region.getByRole('button', { name: 'CSV', exact: true }).click(),
  );
  expect(csv.text).toMatch(/^Who,Of,What,Planned,Measured,Within,Unit,Verdict/);
  const pdf = await bench.download(() =>
    region.getByRole('button', { name: 'PDF', exact: true }).click(),
  );
  expect(pdf.name).toBe('claps-wav-against-the-plan.pdf');
  expect(pdf.text).toMatch(/^%PDF-/);
  for (const theme of ['rotunda-light', 'rotunda-dark']) {
    await page.evaluate((name) => (document.documentElement.dataset['theme'] = name), theme);
    await settled(page);
    const { violations } = await new AxeBuilder({ page }).include('main').analyze();
    expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  }
  await region.getByRole('button', { name: 'Keep the verdict' }).click();
  await expect(page.getByRole('list', { name: 'Kept verdicts' })).toContainText('Not as planned');

  await page.getByRole('list', { name: 'What explains it' }).getByRole('button').first().click();
  await expect(page.getByText(/^As built: Main pair is turned by/)).toBeVisible();
  await hold.click();
  await expect(verdict).toHaveText(/^Main pair stands as planned/);
  await bench.go('rig');
  await bench.turnTo('As built');
  await expect(page.getByRole('textbox', { name: 'Main pair, aim as built' })).toHaveValue(
    /^(6\.\d|7|7\.\d)/,
  );
  await expect(page.getByRole('status', { name: 'Main pair as built' })).toContainText(
    'moves most',
  );
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone: /)).toBeVisible();
});

test('who is alone is said by hand; a changed plan, too few passages and channels are said', async ({
  bench,
  page,
}) => {
  await ownBench(bench, own(0));
  const made = await claps(own(0), 'Claps.wav');
  await opened(bench, [made]);
  await bench.turnTo('Against the plan');
  const first = page.getByRole('combobox', { name: /^Who is alone in 0:00/ });
  await expect(first).toHaveValue('p0');
  // The first two change places in the list: then nothing fits any more.
  await first.selectOption('p3');
  await page
    .getByRole('combobox', { name: /^Who is alone in 0:0[6-9]|^Who is alone in 0:1/ })
    .last()
    .selectOption('p0');
  await page.getByLabel('What sounds').selectOption('claps');
  const hold = page.getByRole('button', { name: 'Hold it against the plan' });
  await hold.click();
  const verdict = page.getByRole('status', { name: 'Verdict' });
  await expect(verdict).toHaveText(/^No single thing explains this take|^Not as planned/);
  await first.selectOption('p0');
  await page
    .getByRole('combobox', { name: /^Who is alone in/ })
    .last()
    .selectOption('p3');
  await hold.click();
  await expect(verdict).toHaveText(/^Main pair stands as planned/);

  // The plan goes on; the take is held against the plan of then.
  await bench.go('floor');
  await page.getByRole('button', { name: /^Viol, / }).click();
  await page.keyboard.press('ArrowLeft');
  await bench.go('bench');
  await bench.turnTo('Against the plan');
  await expect(page.getByRole('note')).toContainText('The plan has been changed since');
  await page.getByLabel('What sounds').selectOption('claps');
  await hold.click();
  await expect(verdict).toHaveText(/^Main pair stands as planned/);

  // Where everybody plays, nobody is taken to be alone.
  await page.getByRole('button', { name: 'Simulate this plan' }).click();
  await page.getByRole('button', { name: /^Simulated, everybody/ }).click();
  await expect(page.getByRole('status', { name: 'Passages found' })).toHaveText(
    /^1 passage stands apart by a second of silence, for 4 players: say who is alone/,
  );
  await expect(hold).toBeDisabled();
  await page.getByRole('button', { name: 'Look for who leads' }).click();
  await expect(page.getByRole('status', { name: 'Who leads' })).toContainText(
    /stretch(es)? keeps? to one delay: .*Listen whether they are alone there|^Nobody leads/,
  );
  await page.getByRole('button', { name: 'Claps.wav', exact: true }).click();

  await bench.turnTo('Channels');
  await page.getByLabel('Input of channel 2').selectOption({ index: 0 });
  await bench.turnTo('Against the plan');
  await expect(page.getByRole('region', { name: 'Against the plan' })).toContainText(
    'One channel alone tells nothing of where anybody stands',
  );
});

test('listeners say where they hear each, blind; the answers say which model hears as they do', async ({
  bench,
  page,
}) => {
  await ownBench(bench, own(0, SIX));
  const made = await claps(own(0, SIX), 'Claps.wav');
  await opened(bench, [made]);
  await bench.turnTo('Against the plan');
  const round = page.getByRole('form', { name: 'Where is it heard' });
  const line = page.getByRole('slider', { name: 'Where it is heard' });
  const take = page.getByRole('button', { name: 'That is where it is' });
  await page.getByLabel('Who listens').fill('Anna');
  await page.getByRole('button', { name: 'Say where you hear them' }).click();
  const asked = page.getByRole('status', { name: 'Passage asked' });
  await expect(asked).toHaveText('Passage 1 of 6: where do you hear it?');
  // Nothing on the page tells who it is or where the plan has them.
  await expect(page.getByText('Viol', { exact: true })).toHaveCount(0);
  await expect(page.getByText('Not shown while somebody listens blind')).toBeVisible();
  await expect(take).toBeDisabled();

  const image = page.getByRole('region', { name: 'Stereo image' });
  await image.getByRole('button', { name: 'mono', exact: true }).click();
  await line.click({ position: { x: 100, y: 20 } });
  await expect(round.getByRole('alert')).toHaveText(/^Mono is on: nobody is anywhere then/);
  await expect(take).toBeDisabled();
  await image.getByRole('button', { name: 'mono', exact: true }).click();
  await expect(round.getByRole('alert')).toHaveCount(0);
  await take.click();
  await expect(asked).toHaveText(/^Passage 2 of 6/);
  // By keys alone.
  await line.focus();
  await page.keyboard.press('End');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(line).toHaveAttribute('aria-valuetext', '90 % right');
  // Its cues are read by then.
  await expect(take).toBeEnabled();
  await page.keyboard.press('Enter');
  await expect(asked).toHaveText(/^Passage 3 of 6/);
  await page.getByRole('button', { name: 'I cannot tell' }).click();
  for (const x of [300, 500, 700]) {
    await line.click({ position: { x, y: 20 } });
    await take.click();
  }

  const answers = page.getByRole('table', { name: 'Where they were heard' });
  await expect(answers.getByRole('row')).toHaveCount(6);
  await expect(answers).toContainText('Anna, by loudspeakers');
  await expect(answers).toContainText('90 % right');
  const models = page.getByRole('table', { name: 'Models against what was heard' });
  await expect(models.getByRole('row').nth(1)).toContainText('Anna, by loudspeakers');
  await expect(page.getByRole('note', { name: 'How far off the model was' })).toContainText(
    'Anna’s 5 places by loudspeakers',
  );

  // They are the listener's, in whatever session; an answer that is struck counts no more.
  await page.reload();
  await expect(page.getByRole('note', { name: 'How far off the model was' })).toContainText(
    /^[+−±]?\d+ ± \d+ %Anna’s 5 places/,
  );
  await opened(bench, [made]);
  await bench.turnTo('Against the plan');
  await answers.getByRole('button', { name: 'Strike it' }).first().click();
  await expect(models.getByRole('row').nth(1)).toContainText(/Anna, by loudspeakers\s*4/);
  await expect(page.getByRole('note', { name: 'How far off the model was' })).toHaveCount(0);
  await page.getByLabel('Who listens').fill('');
  const { violations } = await new AxeBuilder({ page }).include('main').analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
});
