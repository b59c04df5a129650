import { describe, expect, it } from 'vitest';
import { demoSession } from '../demo';
import type { LogEntry, Session } from '../session';
import {
  askedOf,
  builtByAnswer,
  readFigure,
  settingAsPlanned,
  settingBy,
  settingSentence,
  settingWords,
  type Setting,
} from './instructions';

const demo = demoSession('2026-01-01T00:00:00Z');
const [main] = demo.arrays;
if (!main) throw new Error('no array');
const session: Session = {
  ...demo,
  arrays: [{ ...main, name: 'Main pair', x: -0.1, z: 2.5, measuredFrom: null }],
};
const [array = main] = session.arrays;

const setting = (...args: [Parameters<typeof settingBy>[2], number, string?]): Setting => {
  const made = settingBy(session, array, ...args);
  if (!made.ok) throw new Error(made.message);
  return made.value;
};

describe('an instruction', () => {
  it('says how much, which way and what it is then, in both systems', () => {
    expect(settingSentence(session, setting('z', 0.02))).toBe(
      'Main pair: 2.0 cm up (13/16 in up), then 2.52 m · 8′ 3 1/4″ high.',
    );
    expect(settingWords(session, setting('x', -0.1))).toEqual({
      lead: 'Main pair',
      figure: '10.0 cm to the left',
      other: '3 15/16 in to the left',
      then: '0.20 m left · 0′ 7 3/4″ left',
    });
    expect(settingSentence(session, setting('tiltDeg', -5))).toMatch(/: 5° tilted down, then /);
    const imperial = { ...session, settings: { ...session.settings, units: 'imperial' as const } };
    expect(settingWords(imperial, setting('z', 0.0254))).toMatchObject({
      figure: '1 in up',
      other: '2.5 cm up',
    });
  });

  it('of one microphone says nothing of the whole', () => {
    const one = setting('z', 0.02, 'L');
    expect(one.value).toBeNull();
    expect(settingSentence(session, one)).toBe('Main pair L: 2.0 cm up (13/16 in up).');
    expect(builtByAnswer(session, { set: one }, { came: 'done', value: null })).toBeNull();
  });

  it('goes on from what was noted in the hall, and stays within what may be', () => {
    const noted = {
      rig: { ...session.rig, asBuilt: [{ arrayId: array.id, field: 'z' as const, value: 2.6 }] },
    };
    const from = settingBy(noted, array, 'z', 0.02);
    expect(from.ok && from.value.value).toBe(2.62);
    expect(settingBy(session, array, 'z', 0).ok).toBe(false);
    expect(settingBy(session, array, 'z', Number.NaN).ok).toBe(false);
    const far = settingBy(session, array, 'tiltDeg', 200);
    expect(far.ok ? '' : far.message).toContain('allowed: -90 to 90');
    expect(settingBy(session, array, 'z', 500, 'L').ok).toBe(false);
  });

  it('to go back to the plan says where to', () => {
    const back = settingAsPlanned(array.id, 'z', 2.5, 2.6);
    expect(settingSentence(session, back)).toBe(
      'Main pair: 10.0 cm down (3 15/16 in down), then 2.50 m · 8′ 2 1/2″ high.',
    );
  });

  it.each([
    ['z', '2.52', 'metric', false, 2.52],
    ['z', "8' 3", 'imperial', false, 2.5146],
    ['z', '2', 'metric', true, 0.02],
    ['z', '1', 'imperial', true, 0.0254],
    ['spacingM', '17', 'metric', false, 0.17],
    ['tiltDeg', '-12°', 'metric', false, -12],
    ['tiltDeg', '91', 'metric', false, null],
    ['z', '201 m', 'metric', false, null],
    ['z', '', 'metric', false, null],
    ['z', 'high', 'metric', false, null],
  ] as const)('figure %s typed as “%s” in %s units', (field, text, units, move, value) => {
    const read = readFigure(field, text, units, move);
    expect(read.ok).toBe(value !== null);
    if (read.ok) expect(read.value).toBeCloseTo(value ?? Number.NaN, 9);
    else expect(read.message).toMatch(/allowed|Type|Empty/);
  });
});

describe('what came of it', () => {
  const entry = (kind: string, id: string, rest: object): LogEntry => ({
    id,
    at: '',
    strikes: '',
    amends: '',
    by: 'Ina',
    kind,
    ...rest,
  });
  const ask = entry('instruction', 'i1', { text: 'x', set: setting('z', 0.02), tap: null, to: '' });

  it('is done, cannot, or still open where only words came', () => {
    const words = entry('answer', 'a1', { to: 'i1', came: 'words', text: 'which?' });
    const done = entry('answer', 'a2', { to: 'i1', came: 'done', text: '', value: 2.53 });
    expect(askedOf([ask, words])[0]).toMatchObject({ state: 'open', answers: [{ id: 'a1' }] });
    expect(askedOf([ask, words, done])[0]?.state).toBe('done');
    const struck = { ...ask, id: 'i2', strikes: 'i1' };
    expect(askedOf([ask, done, struck])).toEqual([]);
  });

  it('is As built where it has a figure: the one that is said, else the one that was asked', () => {
    const { set } = ask as unknown as { set: Setting };
    const built = (value: number | null) =>
      builtByAnswer(session, { set }, { came: 'done', value });
    expect(built(null)).toEqual({ arrayId: array.id, field: 'z', value: 2.52 });
    expect(built(2.53)?.value).toBe(2.53);
    expect(builtByAnswer(session, { set }, { came: 'cannot', value: null })).toBeNull();
    expect(builtByAnswer({ arrays: [] }, { set }, { came: 'done', value: null })).toBeNull();
  });

  it('of a tap is heard or not', () => {
    const tap = entry('instruction', 't', { text: 'Main pair L', set: null, tap: 1, to: '' });
    const answer = (id: string, came: string) => entry('answer', id, { to: 't', came, text: '' });
    expect(askedOf([tap, answer('1', 'done')])[0]).toMatchObject({ state: 'done', heard: null });
    expect(askedOf([tap, answer('1', 'done'), answer('2', 'not heard')])[0]?.heard).toBe(false);
  });
});
