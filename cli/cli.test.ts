import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { analyseCommand } from './analyse';
import { adviseCommand } from './advise';
import { runCommand } from './commands';
import { machineFiles } from './machine';
import { pairCommand } from './pair';
import { solveCommand } from './solve';
import { Usage } from './result';
import type { Machine } from './session-file';
import { validateCommand } from './validate';

const folder = mkdtempSync(join(tmpdir(), 'rotunda-'));
const machine: Machine = { ...machineFiles, progress: () => undefined };

function fileWith(content: unknown): string {
  const file = join(folder, `${Math.abs(JSON.stringify(content).length)}.rotunda.json`);
  writeFileSync(file, typeof content === 'string' ? content : JSON.stringify(content));
  return file;
}

interface PairOut {
  recordingAngle: Record<string, { halfDeg: number | null; widest: { shift: number } }>;
  inPlace?: Record<string, { halfDeg: number | null }>;
}

const pair = (line: string) => pairCommand(line.split(' '));
const pairOut = (line: string) => JSON.parse(pair(line).out) as PairOut;

describe('pair', () => {
  it('gives the recording angle per model, tangent only without a spacing', () => {
    const spaced = pairOut('--pattern cardioid --spacing 0.17 --angle 110').recordingAngle;
    expect(Object.keys(spaced)).toEqual(['consensus', 'traded', 'added', 'two-slope']);
    expect(spaced.traded?.halfDeg).toBeCloseTo(47.83, 2);
    const crossed = pairOut('--pattern 0 --spacing 0 --angle 90').recordingAngle;
    expect(crossed.tangent?.halfDeg).toBeCloseTo(45, 2);
  });

  it('gives null where it is never reached, and in-place angles with a distance', () => {
    const omnis = pairOut('--pattern omni --spacing 0.2 --angle 0 --distance 3');
    expect(omnis.recordingAngle.traded?.halfDeg).toBeNull();
    expect(omnis.recordingAngle.traded?.widest.shift).toBeGreaterThan(0.5);
    expect(omnis.inPlace?.traded?.halfDeg).toBeNull();
  });

  it('follows the temperature: warmer air, shorter delays, wider angle', () => {
    const at = (c: number) =>
      pairOut(`--pattern omni --spacing 0.5 --angle 0 --temperature ${c}`).recordingAngle.traded
        ?.halfDeg ?? NaN;
    expect(at(35)).toBeGreaterThan(at(5) + 1);
  });

  it('lists every bad value with what is allowed', () => {
    const { status, errors, out } = pair('--pattern square --spacing x --angle -5');
    expect(status).toBe(1);
    expect(out).toBe('');
    expect(errors).toEqual([
      expect.stringMatching(/^--pattern: "square"; allowed: omni, /),
      '--spacing: "x"; allowed: a number from 0 to 50 m',
      '--angle: "-5"; allowed: a number from 0 to 360°',
    ]);
  });

  it('calls a missing or unknown option wrong usage', () => {
    expect(() => pair('--pattern omni')).toThrow(Usage);
    expect(() => pair('--spacing 0.2 --angle 0')).toThrow(Usage);
    expect(() => pair('--pattern omni --spacing 0.2 --angle 0 --wide 1')).toThrow(Usage);
  });
});

describe('a missing number', () => {
  it('gives a range and a question, never a guess', () => {
    const out = JSON.parse(pair('--pattern cardioid --angle 110').out) as {
      question: string;
      recordingAngleRange: Record<string, { minHalfDeg: number; maxHalfDeg: number }>;
    };
    expect(out.question).toMatch(/^Which spacing\?/);
    expect(out.recordingAngleRange.traded?.minHalfDeg).toBeLessThan(35);
    expect(out.recordingAngleRange.traded?.maxHalfDeg).toBeGreaterThan(52);
  });
});

describe('solve and advise', () => {
  it('solves for a wanted angle, and names what is not allowed', () => {
    const { out } = solveCommand('--half 48 --model traded'.split(' '));
    const { solutions } = JSON.parse(out) as {
      solutions: {
        name: string;
        technique: { spacingM?: number; includedAngleDeg?: number; pattern?: string };
      }[];
    };
    const near = solutions.find(
      ({ technique: t }) => t.pattern === 'cardioid' && t.includedAngleDeg === 110,
    );
    expect(near?.technique.spacingM).toBeCloseTo(0.169, 2);
    expect(solveCommand(['--half', '2', '--model', 'mine']).errors).toEqual([
      '--half: "2"; allowed: a number from 5 to 175°',
      '--model: "mine"; allowed: consensus, traded, added, two-slope, tangent',
    ]);
    expect(() => solveCommand([])).toThrow(Usage);
  });

  it('advises on the published example, and tells how far it is', async () => {
    const told: number[] = [];
    const telling = { ...machine, progress: (_: string, fraction: number) => told.push(fraction) };
    const file = new URL('../docs/example.rotunda.json', import.meta.url).pathname;
    const { recommendations } = JSON.parse((await adviseCommand([file], telling)).out) as {
      recommendations: { rank: number; score: number }[];
    };
    expect(recommendations[0]?.rank).toBe(1);
    expect(recommendations[0]?.score).toBeGreaterThan(80);
    expect(told.length).toBeGreaterThan(3);
    expect(told).toEqual([...told].sort((a, b) => a - b));
  });
});

describe('the documented examples', () => {
  it('all run', async () => {
    const text = readFileSync(new URL('../docs/headless.md', import.meta.url).pathname, 'utf8');
    const lines = [...text.matchAll(/^npm run --silent rotunda -- (.+)$/gm)].map(
      ([, line]) => line ?? '',
    );
    expect(lines.length).toBeGreaterThanOrEqual(6);
    const fromRoot = {
      ...machine,
      read: (file: string) => readFile(new URL(`../${file}`, import.meta.url)),
    };
    for (const line of lines) {
      const { status, errors } = await runCommand(line.trim().split(/\s+/), fromRoot);
      expect([line, status, errors]).toEqual([line, 0, []]);
    }
  });
});

describe('validate and analyse', () => {
  it('says nothing of a good file', async () => {
    const file = fileWith({ format: 'rotunda-session', version: 1 });
    expect(await validateCommand([file], machine)).toEqual({ status: 0, out: '', errors: [] });
  });

  it('names file, path, value and allowed range of a bad one', async () => {
    const file = fileWith({ format: 'rotunda-session', version: 1, sources: [{ x: 1e9 }] });
    expect((await validateCommand([file], machine)).errors).toEqual([
      `${file}: sources[0].x: 1000000000; allowed: a number from -200 to 200 m`,
    ]);
    expect((await analyseCommand([file], machine)).status).toBe(1);
    const none = await validateCommand([join(folder, 'none.json')], machine);
    expect(none.errors[0]).toMatch(/cannot be read/);
    const bytes = { ...machine, read: () => Promise.resolve(new Uint8Array([0x52, 0xff, 0xfe])) };
    expect((await validateCommand(['f'], bytes)).errors).toEqual([
      'f: cannot be read (not UTF-8 text; allowed: a session file)',
    ]);
  });

  it('wants exactly one file', async () => {
    await expect(validateCommand([], machine)).rejects.toThrow(Usage);
    await expect(analyseCommand(['a', 'b'], machine)).rejects.toThrow(Usage);
  });

  it('analyses the published example', async () => {
    const file = new URL('../docs/example.rotunda.json', import.meta.url).pathname;
    const { status, out } = await analyseCommand([file], machine);
    expect(status).toBe(0);
    const result = JSON.parse(out) as {
      arrays: {
        ensembleAngleDeg: number;
        capsules: { label: string; a: number }[];
        sources: {
          id: string;
          image: { traded: { shift: number } };
          directToReverberantDb: number;
        }[];
        stage: { traded: { imageWidthPct: number } };
      }[];
      findings: unknown[];
    };
    const [array] = result.arrays;
    expect(array?.capsules.map(({ label, a }) => [label, a])).toEqual([
      ['L', 0.5],
      ['R', 0.5],
    ]);
    expect(array?.sources).toHaveLength(9);
    expect(array?.ensembleAngleDeg).toBeGreaterThan(90);
    expect(array?.stage.traded.imageWidthPct).toBeGreaterThan(80);
    expect(out).not.toMatch(/NaN|Infinity/);
  });
});
