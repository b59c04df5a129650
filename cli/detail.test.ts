import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { runCommand } from './commands';
import { TOPICS } from './detail';
import { machineFiles } from './machine';
import { Usage } from './result';

const example = readFileSync(new URL('../docs/example.rotunda.json', import.meta.url), 'utf8');
const run = (line: string, file = example) =>
  runCommand(line.split(' '), {
    ...machineFiles,
    read: () => Promise.resolve(new TextEncoder().encode(file)),
    progress: () => undefined,
  });
const out = async <T>(line: string, file = example) => JSON.parse((await run(line, file)).out) as T;

const spot = (id: string, x: number, y: number) => ({
  id,
  name: `Spot ${id}`,
  role: 'spot',
  x,
  y,
  z: 1,
  technique: { kind: 'single', pattern: 'omni' },
});

/** Two players 3 m apart, each with an omni at 1 m, and a pair 4 m before them. */
const SPOTS = JSON.stringify({
  format: 'rotunda-session',
  version: 1,
  sources: [
    { id: 'a', name: 'Viol', x: -1.5, y: 3, z: 1 },
    { id: 'b', name: 'Flute', x: 1.5, y: 3, z: 1 },
  ],
  arrays: [
    { id: 'main', name: 'Main pair', role: 'main', x: 0, y: -1, z: 1 },
    spot('sa', -1.5, 2),
    spot('sb', 1.5, 2),
  ],
});

describe('detail', () => {
  it.each(TOPICS)('%s prints finite figures', async (topic) => {
    // Layers ask for a second array, which the example does not have.
    const file = topic === 'layers' ? SPOTS : example;
    const { status, out: text, errors } = await run(`detail file --of ${topic}`, file);
    expect([status, errors]).toEqual([0, []]);
    expect(text.length).toBeGreaterThan(40);
    expect(text).not.toMatch(/NaN|Infinity/);
  });

  it('gives the ratio of the 3:1 rule and the real spill of two omni spots', async () => {
    interface Spill {
      spill: { threeToOne: { ratio: number; spillDb: number; rippleDb: number }[] };
    }
    const [rule] = (await out<Spill>('detail file --of spill', SPOTS)).spill.threeToOne;
    expect(rule?.ratio).toBeCloseTo(3, 6);
    // The other player is √(3² + 1²) m away: 10 dB below the own one at 1 m.
    expect(rule?.spillDb).toBeCloseTo(-10, 6);
    expect(rule?.rippleDb).toBeCloseTo(5.6885, 3);
  });

  it('shows a spot that leads the main pair, and the delay that mends it', async () => {
    interface SourceArrivals {
      arrivals: {
        sourceId: string;
        arrivals: { arrayId: string; arrivalMs: number }[];
        proposals: { arrayId: string; leadsByMs: number; delayMs: number }[];
      }[];
    }
    const viol = (await out<SourceArrivals>('detail file --of arrivals', SPOTS)).arrivals.find(
      ({ sourceId }) => sourceId === 'a',
    );
    expect(viol?.arrivals[0]?.arrayId).toBe('sa');
    const [mend] = viol?.proposals ?? [];
    expect(mend?.arrayId).toBe('sa');
    expect(mend?.delayMs).toBeCloseTo(mend?.leadsByMs ?? NaN, 9);
    // Nearest capsule of the pair, 8.5 cm left of the centre, against 1 m.
    const expected = ((Math.hypot(1.5 - 0.085, 4) - 1) / 343.2) * 1000;
    expect(mend?.leadsByMs).toBeCloseTo(expected, 2);
  });

  it('takes one array by its id, and names the ids that there are', async () => {
    const one = await out<{ arrays: { id: string }[] }>('detail file --of sway --array sb', SPOTS);
    expect(one.arrays.map(({ id }) => id)).toEqual(['sb']);
    expect((await run('detail file --of sway --array x', SPOTS)).errors).toEqual([
      '--array: "x"; allowed: main, sa, sb',
    ]);
    expect((await run('detail file --of colour')).errors[0]).toMatch(
      /^--of: "colour"; allowed: sweeps, /,
    );
    await expect(run('detail --of sway')).rejects.toThrow(Usage);
  });
});

describe('map', () => {
  it('agrees with the pair command, and is null where nothing is reached', async () => {
    interface TradeMapOut {
      spacingsM: number[];
      includedAnglesDeg: number[];
      halfDeg: Record<string, (number | null)[][]>;
    }
    const map = await out<TradeMapOut>(
      'map --pattern cardioid --spacing 0.34 --angle 110 --cells 3',
    );
    expect(map.spacingsM).toEqual([0, 0.17, 0.34]);
    const pair = (
      await out<{ recordingAngle: Record<string, { halfDeg: number }> }>(
        'pair --pattern cardioid --spacing 0.17 --angle 110',
      )
    ).recordingAngle;
    for (const model of ['traded', 'added', 'two-slope']) {
      expect(map.halfDeg[model]?.[2]?.[1]).toBeCloseTo(pair[model]?.halfDeg ?? NaN, 1);
    }
    expect(map.halfDeg.traded?.[0]?.[0]).toBeNull();
    expect((await run('map --pattern square --cells 1')).errors).toHaveLength(2);
    await expect(run('map')).rejects.toThrow(Usage);
  });
});

describe('check and rig', () => {
  const ribbon = (phantom: string) =>
    JSON.stringify({
      format: 'rotunda-session',
      version: 1,
      sources: [{ y: 3 }],
      arrays: [
        {
          id: 'r',
          name: 'Ribbon',
          technique: { kind: 'single', pattern: 'figure-eight' },
          equipment: { phantom },
        },
      ],
      kit: {
        microphones: [{ name: 'Ribbon', patterns: ['figure-eight'], phantom: 'must not' }],
      },
    });

  it('ends with status 1 while phantom power is on a ribbon that must not have it', async () => {
    const bad = await run('check file', ribbon('on'));
    expect(bad.status).toBe(1);
    expect(bad.errors[0]).toMatch(/^blocking: phantom-on-ribbon: Ribbon: phantom power is on/);
    expect((await run('check file', ribbon('as needed'))).status).toBe(0);
  });

  it('prints one table as CSV, and all as JSON', async () => {
    const { status, out: csv } = await run('rig file --csv --table positions');
    expect(status).toBe(0);
    const [head, left] = csv.split('\r\n');
    expect(head).toMatch(/^array,capsule,pattern,right of centre m/);
    expect(left).toMatch(/^Main pair,L,cardioid,-0\.085,-0\.4,2\.7,/);
    const all = await out<{ tables: Record<string, unknown[]> }>('rig file');
    expect(Object.keys(all.tables)).toEqual([
      'positions',
      'channels',
      'pack',
      'build',
      'cables',
      'as-built',
    ]);
    const { bytes } = await run('rig file --pdf');
    expect(new TextDecoder('latin1').decode(bytes?.slice(0, 5))).toBe('%PDF-');
    expect(new TextDecoder('latin1').decode(bytes)).toContain('/FontFile2');
    expect((await run('rig file --table colours')).errors[0]).toMatch(
      /^--table: "colours"; allowed: pos/,
    );
    await expect(run('rig')).rejects.toThrow(Usage);
  });
});

describe('names as they were before', () => {
  it('stand beside the present ones, and old options and topics are taken', async () => {
    const figures = await out<{
      school: string;
      model: string;
      arrays: {
        ensembleAngleDeg: number;
        stage: { traded: Record<string, number> };
        sources: Record<string, unknown>[];
      }[];
    }>('analyse file');
    expect(figures.school).toBe(figures.model);
    const [array] = figures.arrays;
    const stage = array?.stage.traded ?? {};
    expect(stage.fillPct).toBe(stage.imageWidthPct);
    expect(stage.largestHolePct).toBe(stage.largestGapPct);
    expect(array).not.toHaveProperty('orchestraAngleDeg');
    expect(array?.sources[0]).toMatchObject({ mirrored: false, reversed: false });
    expect(array?.sources[0]?.directToReverbDb).toBe(array?.sources[0]?.directToReverberantDb);

    interface Old {
      ladder: { rungs: unknown[]; arrivals: unknown[] }[];
    }
    const [first] = (await out<Old>('detail file --of ladder')).ladder;
    expect(first?.rungs).toEqual(first?.arrivals);
    interface OldSpill {
      leak: { microphones: { leakDb: unknown; spillDb: unknown }[] };
    }
    const [row] = (await out<OldSpill>('detail file --of leak', SPOTS)).leak.microphones;
    expect(row?.leakDb).toEqual(row?.spillDb);
    expect(row?.leakDb).toBeDefined();
    expect((await run('solve --half 50 --school added')).out).toBe(
      (await run('solve --half 50 --model added')).out,
    );
  });
});
