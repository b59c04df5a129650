import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { SIGNAL_NAMES, type TakeFigures } from '../core/audio';
import { runCommand } from './commands';
import { machineFiles } from './machine';
import { Usage } from './result';

const folder = mkdtempSync(join(tmpdir(), 'rotunda-sound-'));
const machine = { ...machineFiles, progress: () => undefined };
const run = (line: string) => runCommand(line.split(' '), machine);
const file = (name: string) => join(folder, `${name}.wav`);

async function measured(name: string, what = 'levels,bands,delays'): Promise<TakeFigures> {
  const { out, status, errors } = await run(`measure ${file(name)} --json --what ${what}`);
  expect(errors).toEqual([]);
  expect(status).toBe(0);
  return JSON.parse(out) as TakeFigures;
}

const made = async (line: string): Promise<void> => {
  const [name = ''] = line.split(' ');
  const { status, errors } = await run(`signal ${line} --out ${file(name)}`);
  expect([status, errors]).toEqual([0, []]);
};

describe('signals written and measured by the command', () => {
  it('every one is made, the same for the same seed', async () => {
    for (const name of SIGNAL_NAMES) {
      await made(`${name} --seconds 0.5`);
      const first = readFileSync(file(name));
      await made(`${name} --seconds 0.5`);
      expect(readFileSync(file(name)).equals(first)).toBe(true);
      expect((await measured(name, 'levels')).frames).toBe(24_000);
    }
  });

  it('identical, inverted and late ones are told apart', async () => {
    await made('identical --seconds 4');
    const same = await measured('identical');
    expect(same.correlation?.mean).toBeCloseTo(1, 6);
    expect(same.delays?.[0]?.whole).toMatchObject({ polarity: 1 });
    expect(same.delays?.[0]?.whole?.delayMs).toBeCloseTo(0, 4);
    expect(same.delays?.[0]?.whole?.levelDb).toBeCloseTo(0, 4);

    await made('inverted --seconds 4');
    const turned = await measured('inverted');
    expect(turned.correlation?.least).toBeCloseTo(-1, 6);
    expect(turned.correlation?.belowZeroPct).toBe(100);
    expect(turned.delays?.[0]?.whole?.polarity).toBe(-1);

    await made('one-sample-late --seconds 4');
    const late = await measured('one-sample-late');
    expect(late.delays?.[0]?.whole?.delayMs).toBeCloseTo(1000 / 48_000, 4);
    await made('delayed --seconds 4 --delay 3.217');
    expect((await measured('delayed')).delays?.[0]?.whole?.delayMs).toBeCloseTo(3.217, 3);
  });

  it('a full-scale square of a tone clips, and says where', async () => {
    await made('tone --level 0 --hz 100 --seconds 1');
    const clean = await measured('tone', 'levels');
    expect(clean.clips).toEqual([]);
    expect(clean.channels?.[0]?.truePeakDb).toBeCloseTo(0, 1);
    const bytes = readFileSync(file('tone'));
    // Six samples of both channels at full scale, half a second in.
    const data = bytes.indexOf('data') + 8 + 24_000 * 6;
    for (let i = 0; i < 12; i++) bytes.set([0xff, 0xff, 0x7f], data + i * 3);
    writeFileSync(file('clipped'), bytes);
    const { clips, channels } = await measured('clipped', 'levels');
    expect(clips).toEqual([
      { channel: 1, atS: 0.5, samples: 6 },
      { channel: 2, atS: 0.5, samples: 6 },
    ]);
    expect(channels?.map(({ clips: count }) => count)).toEqual([1, 1]);
  });

  it('files of one take are measured as one, from a second on, against any of them', async () => {
    await made('delayed --seconds 4 --delay 3.217');
    const { out } = await run(
      `measure ${file('delayed')} --what delays,levels --against 2 --from 1 --to 3`,
    );
    const { delays, seconds, lookedAt } = JSON.parse(out) as TakeFigures;
    expect(seconds).toBe(2);
    expect(lookedAt).toEqual({ fromS: 1, toS: 3 });
    expect(delays?.[0]).toMatchObject({ channel: 1 });
    expect(delays?.[0]?.whole?.delayMs).toBeCloseTo(-3.217, 3);

    const mono = readFileSync(file('white'));
    writeFileSync(join(folder, 'Trio_L.wav'), mono);
    writeFileSync(join(folder, 'Trio_R.wav'), mono);
    const joined = await run(
      `measure ${join(folder, 'Trio_L.wav')} ${join(folder, 'Trio_R.wav')} --what identity --match 1,2 --mid-side 1,2 --columns 10`,
    );
    const { takes } = JSON.parse(joined.out) as { takes: Record<string, unknown>[] };
    expect(takes).toHaveLength(1);
    expect(takes[0]).toMatchObject({
      name: 'Trio',
      identity: { same: [{ first: 1, second: 2, gainDb: 0, polarity: 1 }], silent: [] },
      midSide: { sideDb: 0, like: 'left and right', copy: null },
      overview: { columns: 10, whole: true },
    });
  });

  it('taps, sides and symmetry are asked for by channel and second', async () => {
    await made('claps --seconds 6 --delay 0.5');
    const side = await run(`measure ${file('claps')} --what levels --left 0-6`);
    expect(JSON.parse(side.out)).toMatchObject({ left: { verdict: 'as announced' } });
    const taps = await run(`measure ${file('claps')} --what levels --taps 1,2`);
    expect(JSON.parse(taps.out)).toMatchObject({ taps: { verdict: 'uncertain' } });
    await made('white --seconds 8');
    const both = await run(
      `measure ${file('white')} --what levels --front 0-3 --rear 4-7 --side 3-4`,
    );
    const { symmetry } = JSON.parse(both.out) as { symmetry: { rearDb: number } };
    expect(Math.abs(symmetry.rearDb)).toBeLessThan(0.2);
  });

  it('a decay over noise is read where the noise lets it, and refused by its range elsewhere', async () => {
    await made('decay --seconds 4 --rt60 1.2 --level -12 --noise -72');
    const { decay } = await measured('decay', 'decay');
    const at = decay?.[0]?.find(({ hz }) => hz === 1000);
    expect((at?.t20?.seconds ?? 0) / 1.2).toBeCloseTo(1, 1);
    await made('decay --seconds 4 --rt60 1.2 --level -12 --noise -30');
    const loud = (await measured('decay', 'decay')).decay?.[0];
    expect(loud?.every(({ t30, refused }) => t30 === null && refused !== '')).toBe(true);
    const { out } = await run(`measure ${file('decay')} --what levels --high-pass 80`);
    expect(JSON.parse(out)).toMatchObject({ removed: { count: 19, highest: 'D sharp 2' } });
  });

  it.each([
    ['--from 9', /--from: "9"; allowed: a number from 0 to 8/],
    ['--against 2', /--against: "2"; allowed: a number from 1 to 1/],
    ['--taps 1,2', /--taps.*allowed: 2 to 1 channels|--taps/],
    ['--left 2', /--left: "2"; allowed: FROM-TO in seconds within 0 to 8.00/],
    ['--left 5-9', /--left/],
    ['--columns 0', /--columns: "0"; allowed: a number from 1 to 100,?000/],
    ['--front 0-2', /--front needs --rear/],
    ['--match 1', /--match: "1"; allowed: 2 channels from 1 to 1/],
  ])('%s is refused with what is allowed', async (option, expected) => {
    await made('white --seconds 8');
    const { errors, status } = await run(`measure ${file('white')} --what levels ${option}`);
    expect(status).toBe(1);
    expect(errors.join()).toMatch(expected);
  });

  it('refuses what is no recording, and reads what is cut off with a word about it', async () => {
    writeFileSync(file('text'), 'Dear engineer');
    const text = await run(`measure ${file('text')}`);
    expect([text.status, text.errors.join()]).toEqual([1, expect.stringContaining('no WAV file')]);
    const none = await run(`measure ${file('nowhere')}`);
    expect(none.errors.join()).toContain('cannot be read');
    await made('pink --seconds 2');
    writeFileSync(file('cut'), readFileSync(file('pink')).subarray(0, 100_000));
    const cut = await run(`measure ${file('cut')} --what levels`);
    expect(cut.status).toBe(0);
    expect(cut.errors.join()).toContain('the file ends');
    expect((JSON.parse(cut.out) as TakeFigures).seconds).toBeLessThan(0.8);
    const odd = await run(`measure ${file('pink')} --what loudness`);
    expect(odd.errors.join()).toContain(
      'allowed: levels, bands, hum, delays, decay, identity, resonances',
    );
  });

  it('a simulated take says what it is, and what is planned is measured in it', async () => {
    const session = 'docs/example.rotunda.json';
    const take = file('take');
    const line = `render ${session} --out ${take} --seconds 4 --rate 48000 --dry --sound clap`;
    const { out, status } = await run(`${line} --player Flute`);
    expect(status).toBe(0);
    expect(JSON.parse(out)).toMatchObject({ simulation: true, frames: 192_000, notes: [] });
    const measuredTake = await run(`measure ${take} --what delays`);
    expect(JSON.parse(measuredTake.out)).toMatchObject({
      file: {
        channelNames: ['Main pair L', 'Main pair R'],
        broadcast: { originator: 'Rotunda, simulated' },
      },
    });
    const { delays } = JSON.parse(measuredTake.out) as TakeFigures;
    expect(Math.abs(delays?.[0]?.whole?.delayMs ?? 0)).toBeGreaterThan(0.1);
    const bad = await run(
      `render ${session} --out ${take} --seconds 601 --phrase waltz --player Nobody --claps 1;2`,
    );
    expect(bad.status).toBe(1);
    expect(bad.errors.join('\n')).toMatch(
      /--seconds.*\n.*--phrase.*\n.*--claps.*\n.*--player.*Flute/,
    );
    await expect(run(`render ${session}`)).rejects.toThrow(Usage);
  });

  it('claps at places left of the middle leave a decay that is read, all together or one of them', async () => {
    const take = file('walk');
    const line = `render docs/example.rotunda.json --out ${take} --rate 24000`;
    const { out, status } = await run(`${line} --claps -2,4;2,4`);
    expect(status).toBe(0);
    const { turns, seconds } = JSON.parse(out) as { turns: { fromS: number }[]; seconds: number };
    expect(turns.map(({ fromS }) => fromS)).toEqual([0, seconds / 2]);
    const at1k = async (more: string) => {
      const measured = await run(`measure ${take} --what decay${more}`);
      const { decay } = JSON.parse(measured.out) as TakeFigures;
      return decay?.[0]?.find(({ hz }) => hz === 1000);
    };
    const [both, second] = [await at1k(''), await at1k(' --decay 2')];
    expect(both?.events).toBe(2);
    expect(second?.events).toBe(1);
    expect(both?.t30?.uncertaintyS).toBeLessThan(second?.t30?.uncertaintyS ?? 0);
    expect((await run(`measure ${take} --what decay --decay 101`)).errors.join()).toContain(
      '--decay',
    );
    const roll = await run(`${line} --take roll-call`);
    expect(roll.errors.join()).toMatch(/--take.*allowed: music, roll call, claps/);
  });

  it('names what is wrong with a signal', async () => {
    const bad = await run(`signal tone --out ${file('x')} --seconds 601 --level 3`);
    expect(bad.status).toBe(1);
    expect(bad.errors.join(' ')).toMatch(/--seconds.*600.*--level/);
    expect((await run(`signal hum --out ${file('x')}`)).errors.join()).toContain(
      'allowed: identical',
    );
    await expect(run('signal tone')).rejects.toThrow(Usage);
    await expect(run('measure')).rejects.toThrow(Usage);
    const nowhere = await run(`signal tone --out ${folder}/no/such/x.wav`);
    expect(nowhere.errors.join()).toContain('cannot be written');
  });
});
