import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { analyseCommand } from './analyse';
import { pairCommand } from './pair';
import { Usage } from './result';
import { validateCommand } from './validate';

const folder = mkdtempSync(join(tmpdir(), 'rotunda-'));
const read = (file: string) => readFileSync(file, 'utf8');

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
  it('gives the recording angle per school, tangent only without a spacing', () => {
    const spaced = pairOut('--pattern cardioid --spacing 0.17 --angle 110').recordingAngle;
    expect(Object.keys(spaced)).toEqual(['traded', 'added', 'two-slope']);
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
    expect(() => pair('--pattern omni --spacing 0.2')).toThrow(Usage);
    expect(() => pair('--pattern omni --spacing 0.2 --angle 0 --wide 1')).toThrow(Usage);
  });
});

describe('validate and analyse', () => {
  it('says nothing of a good file', () => {
    const file = fileWith({ format: 'rotunda-session', version: 1 });
    expect(validateCommand([file], read)).toEqual({ status: 0, out: '', errors: [] });
  });

  it('names file, path, value and allowed range of a bad one', () => {
    const file = fileWith({ format: 'rotunda-session', version: 1, sources: [{ x: 1e9 }] });
    expect(validateCommand([file], read).errors).toEqual([
      `${file}: sources[0].x: 1000000000; allowed: a number from -200 to 200 m`,
    ]);
    expect(analyseCommand([file], read).status).toBe(1);
    expect(validateCommand([join(folder, 'none.json')], read).errors[0]).toMatch(/cannot be read/);
  });

  it('wants exactly one file', () => {
    expect(() => validateCommand([], read)).toThrow(Usage);
    expect(() => analyseCommand(['a', 'b'], read)).toThrow(Usage);
  });

  it('analyses the published example', () => {
    const file = new URL('../docs/example.rotunda.json', import.meta.url).pathname;
    const { status, out } = analyseCommand([file], read);
    expect(status).toBe(0);
    const result = JSON.parse(out) as {
      arrays: {
        orchestraAngleDeg: number;
        capsules: { label: string; a: number }[];
        sources: { id: string; image: { traded: { shift: number } }; directToReverbDb: number }[];
        stage: { traded: { fillPct: number } };
      }[];
      findings: unknown[];
    };
    const [array] = result.arrays;
    expect(array?.capsules.map(({ label, a }) => [label, a])).toEqual([
      ['L', 0.5],
      ['R', 0.5],
    ]);
    expect(array?.sources).toHaveLength(9);
    expect(array?.orchestraAngleDeg).toBeGreaterThan(90);
    expect(array?.stage.traded.fillPct).toBeGreaterThan(80);
    expect(out).not.toMatch(/NaN|Infinity/);
  });
});
