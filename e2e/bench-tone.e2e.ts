import { pinkNoise } from '../core/audio';
import { file, fourInputs, opened, ownBench, RATE } from './recordings';
import { expect, test, type Workbench } from './workbench';

const noise = (seed: number, seconds: number) => pinkNoise(seconds * RATE, seed).map((v) => v / 10);

async function stretch({ page }: Workbench, from: string, to: string): Promise<void> {
  for (const [label, value] of [
    ['From', from],
    ['to', to],
  ] as const) {
    const field = page.getByRole('textbox', { name: label, exact: true });
    await field.fill(value);
    await field.press('Enter');
  }
}

test('peaks with their notes, a processed file against its dry one, and what is noted of a layer', async ({
  bench,
  page,
}) => {
  await ownBench(bench);
  const dry = noise(1, 12);
  // A tone under everything: D2, 12 cents flat.
  const hum = Float32Array.from(
    dry,
    (v, i) => v + 0.02 * Math.sin((2 * Math.PI * 72.9 * i) / RATE),
  );
  const ridden = hum.map((v, i) => (i > 6 * RATE && i < 8 * RATE ? 2 * v : v));
  await opened(bench, [file({ name: 'Dry.wav', planes: [hum], channelNames: ['Mid'] })]);
  await opened(bench, [file({ name: 'Ridden.wav', planes: [ridden], channelNames: ['Mid'] })]);
  await page.getByRole('button', { name: /^Ridden/ }).click();
  await bench.turnTo('Tone');
  const region = page.getByRole('region', { name: 'Tone' });
  await expect(page.getByRole('status', { name: 'What stands out' })).toHaveText(
    /^Mid: 72\.9 Hz \(D2 −1[0-9] cents\) stands \d+ dB out under every note: the room/,
  );
  await expect(page.getByRole('table', { name: 'Peaks by note' })).toContainText(
    'room or instrument',
  );

  await page.getByLabel('Dry', { exact: true }).selectOption({ label: 'Dry.wav' });
  const against = page.getByRole('list', { name: 'Against the dry one' });
  await expect(against).toContainText(
    /More than 3\.0 dB apart: \+6\.0 dB at 0:0[56]\.\d\. *Processed is 0\.0 dB against dry in the middle/,
  );
  await page.getByRole('textbox', { name: 'Warn beyond' }).fill('6.5');
  await page.getByRole('textbox', { name: 'Warn beyond' }).press('Enter');
  await expect(against).toContainText('Never more than 6.5 dB apart.');
  const table = await bench.download(() =>
    region.getByRole('button', { name: 'Processed against dry: JSON' }).click(),
  );
  const rows = JSON.parse(table.text) as Record<string, number>[];
  expect(Math.max(...rows.map((row) => row['difference dB'] ?? 0))).toBeCloseTo(6.02, 1);

  // A layer: only what is filled in is noted.
  const note = page.getByRole('form', { name: 'Note of a layer' });
  await expect(note.getByRole('button', { name: 'Note it' })).toBeDisabled();
  await note.getByLabel('Layer').fill('Main pair');
  const field = (name: string) => note.getByRole('textbox', { name, exact: true });
  await field('High-pass').fill('4');
  await field('High-pass').press('Enter');
  await expect(note).toContainText('Allowed: 5 to 100000 Hz.');
  await field('High-pass').fill('80');
  await field('High-pass').press('Enter');
  await expect(page.getByRole('status', { name: 'What the high-pass takes' })).toHaveText(
    'Takes fundamentals: of a piano those of 19 keys, A0 to D sharp 2.',
  );
  await field('Compressed by up to').fill('2.5');
  await field('Compressed by up to').press('Enter');
  await note.getByRole('button', { name: 'Add a filter' }).click();
  await field('Words').fill('dark is right here');
  await note.getByRole('button', { name: 'Note it' }).click();
  const noted = page.getByRole('list', { name: 'Noted of the layers' });
  await expect(noted).toContainText(
    'Main pairhigh-pass 80 Hz; peak −2.0 dB at 250 Hz, Q 1.4; compressed by up to 2.5 dB; dark is right here',
  );
  await noted.getByRole('button', { name: 'Change it' }).click();
  await field('Compressed by up to').fill('');
  await field('Compressed by up to').press('Enter');
  await note.getByRole('button', { name: 'Note the change' }).click();
  await expect(noted).not.toContainText('compressed');
  await expect(noted.getByRole('listitem')).toHaveCount(1);

  // It is there again with the session, and goes only by being struck.
  await bench.saved();
  await page.reload();
  await expect(noted).toContainText('dark is right here');
  await noted.getByRole('button', { name: 'Strike it' }).click();
  await expect(noted).toHaveCount(0);
});

test('a match is kept in the kit, narrows the tolerance, and As built says whether it is set', async ({
  bench,
  page,
}) => {
  const own = fourInputs();
  await ownBench(bench, {
    ...own,
    kit: {
      ...own.kit,
      microphones: [
        {
          ...{ id: 'omnis', name: 'Small omnis', kind: 'small condenser' as const, count: 2 },
          ...{ patterns: ['omni'], matched: false, sensitivityMvPa: null, maxSplDb: null },
          ...{ phantom: 'needs' as const, address: null, matches: [] },
        },
      ],
    },
  });
  const first = noise(3, 12);
  const second = first.map((v) => v * 10 ** (-0.6 / 20));
  await opened(bench, [
    file({
      name: 'Match.wav',
      planes: [first, second],
      channelNames: ['Main pair L', 'Main pair R'],
    }),
  ]);
  await bench.turnTo('Microphones');
  await page.getByRole('button', { name: 'Match them' }).click();
  await expect(page.getByRole('list', { name: 'How they match' })).toContainText(
    'Main pair R is 0.6 dB softer than Main pair L: trim it by +0.6 dB.',
  );
  await expect(page.getByLabel('Keep with')).toHaveValue('omnis');
  await expect(page.getByLabel('What the pair is called')).toHaveValue('pair 1');
  await page.getByRole('button', { name: 'Keep in the kit' }).click();
  await bench.go('brief');
  await bench.briefPage('The kit');
  const kept = page.getByRole('list', { name: 'Measured pairs' });
  await expect(kept).toContainText(/pair 1: right \+0\.6 dB, \d+ \w+ \d{4}, then within 0\.0 dB/);

  await bench.go('array');
  await expect(page.getByRole('status', { name: 'Tolerance' })).toContainText('±0.2 dB and ±5 °C');
  await bench.go('rig');
  await bench.turnTo('As built');
  await page.getByRole('button', { name: 'The trim is not set' }).click();
  await expect(
    page.getByRole('textbox', { name: 'Main pair, right microphone louder by as built' }),
  ).toHaveValue(/−0\.6/);
  await expect(page.getByRole('main', { name: 'Rig' })).toContainText(
    'Outside the tolerance of ±0.2 dB',
  );
  await expect(page.getByRole('status', { name: 'Main pair as built' })).toContainText(
    /moves most: by [1-9]\d* % of the half base/,
  );
  // Undone in turn: as built, then what was kept.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await bench.go('brief');
  await expect(kept).toHaveCount(0);
});

test('what of the room mono loses is read where only the room sounds, and blends are kept', async ({
  bench,
  page,
}) => {
  const own = fourInputs();
  const [main, ...spots] = own.arrays;
  if (!main) throw new Error('a main array is expected');
  await ownBench(bench, {
    ...own,
    arrays: [
      {
        ...main,
        technique: {
          kind: 'mid-side',
          midPattern: 'cardioid',
          sideGainDb: 0,
          sidePositive: 'left',
        },
      },
      ...spots,
    ],
  });
  // The stage in the first seconds, then a room as strong in both.
  const seconds = 8;
  const [room, other, stage] = [noise(5, seconds), noise(6, seconds), noise(7, seconds)];
  const mid = room.map((v, i) => (i < 4 * RATE ? 4 * (stage[i] ?? 0) : v));
  await opened(bench, [
    file({
      name: 'Mid and side.wav',
      planes: [mid, other],
      channelNames: ['Main pair mid', 'Main pair side'],
    }),
  ]);
  await bench.turnTo('Mid-side');
  const region = page.getByRole('region', { name: 'The room in mono' });
  await expect(region.getByRole('button')).toBeDisabled();
  await stretch(bench, '4.5', '7.5');
  await region.getByRole('button', { name: 'Read the room in the stretch' }).click();
  await expect(page.getByRole('status', { name: 'What of the room mono loses' })).toContainText(
    /mono loses (2\.9|3\.0|3\.1) dB/,
  );

  await bench.turnTo('Spots');
  const blends = page.getByRole('region', { name: 'Kept blends' });
  await blends.getByRole('textbox').fill('Warm');
  await blends.getByRole('textbox').press('Enter');
  await expect(blends.getByRole('listitem')).toContainText('Warm');
  await blends.getByRole('button', { name: 'Set it again' }).click();
  await expect(page.getByText('Warm: the mix of 3 arrays is set.')).toBeVisible();
  await blends.getByRole('button', { name: 'Strike it' }).click();
  await expect(blends.getByRole('listitem')).toHaveCount(0);
});
