import { describe, expect, it } from 'vitest';
import { sessionFrom, type Session } from '../../session';
import { findingsIn } from './engine';
import { SAFETY_RULES } from './safety';

const pair = (id: string, rest: object = {}) => ({
  id,
  name: `Pair ${id}`,
  role: 'main',
  x: 0,
  y: -2,
  z: 1.7,
  technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
  ...rest,
});
const stand = (rest: object) => ({
  id: 'stand',
  name: 'Stand',
  count: 4,
  minM: 0.5,
  maxM: 4,
  reachM: 1,
  baseM: 0.6,
  massKg: 6,
  ...rest,
});
const player = (rest: object = {}) => ({ id: 'p', name: 'Player', x: 0, y: 2, ...rest });
const quiet = sessionFrom({ sources: [player()], arrays: [pair('a', { enabled: false })] });

const said = (session: Session, code: string) =>
  findingsIn(session).find((finding) => finding.code === code);

const PLANTED: readonly (readonly [string, object, RegExp])[] = [
  [
    'over-people',
    { arrays: [pair('a', { y: 1.8, z: 1.8 })], sources: [player()] },
    /^Over people: Pair a\./,
  ],
  ['high', { arrays: [pair('a', { z: 3.01 })] }, /^Higher than 3\.00 m: Pair a, at 3\.01 m/],
  ['lid', { sources: [player({ kind: 'grand piano', lid: 'short-stick' })] }, /^Open lid: Player/],
  [
    'moving-parts',
    {
      sources: [player({ kind: 'timpani', z: 1 })],
      arrays: [pair('a', { y: 1.6, z: 1.3 })],
    },
    /moving parts: Player/,
  ],
  ['cables', { arrays: [pair('a')] }, /across the floor/],
  ['lifting', { kit: { stands: [stand({ massKg: 15 })] } }, /15 kg/],
];

describe('cautions', () => {
  it.each(PLANTED)('%s is raised where it was planted', (code, parts, words) => {
    const finding = said(sessionFrom(parts as Partial<Session>), code);
    expect(finding?.message).toMatch(words);
    expect(finding).toMatchObject({ basis: 'safety', arrayId: null });
    expect(finding?.todo).not.toBe('');
  });

  it('are not raised by a plan that holds nothing of the kind', () => {
    for (const { code } of SAFETY_RULES) expect(said(quiet, code), code).toBeUndefined();
  });

  it.each([
    ['over-people', { arrays: [pair('a', { y: 1.8, z: 1.79 })], sources: [player()] }],
    ['over-people', { arrays: [pair('a', { y: 1, z: 2.5 })], sources: [player()] }],
    ['high', { arrays: [pair('a', { z: 3 })] }],
    ['lid', { sources: [player({ lid: 'closed' })] }],
    [
      'moving-parts',
      { sources: [player({ kind: 'timpani', z: 1 })], arrays: [pair('a', { y: 1.2, z: 1 })] },
    ],
    ['lifting', { kit: { stands: [stand({ massKg: 14.9 })] } }],
  ])('%s stays unsaid just below its limit', (code, parts) => {
    expect(said(sessionFrom(parts as unknown as Partial<Session>), code)).toBeUndefined();
  });

  it('name each array, and each player below, once for the session', () => {
    const session = sessionFrom({
      sources: [player({ id: 'q', name: 'Other', x: 6 }), player()],
      arrays: [pair('a', { y: 1.9, z: 2.4 }), pair('b', { y: 2.3, z: 3.4 })],
    });
    const over = findingsIn(session).filter(({ code }) => code === 'over-people');
    expect(over).toHaveLength(1);
    expect(over[0]?.message).toBe('Over people: Pair a, Pair b.');
    expect(over[0]?.sourceIds).toEqual(['p']);
    expect(over[0]?.figures).toEqual({ heightM: 3.4 });
  });

  it('says nothing of sandbags where no stand goes: twelve metres up', () => {
    const at = (z: number) => said(sessionFrom({ arrays: [pair('a', { z })] }), 'high')?.todo ?? '';
    expect(at(4)).toMatch(/sandbags; two people/);
    expect(at(12)).toMatch(/licensed/);
    expect(at(12)).not.toMatch(/sandbag|two people/);
  });

  it('of what is hung speak as of what hangs, and of no stand', () => {
    const session = sessionFrom({ arrays: [pair('a', { z: 5, hung: true })] });
    expect(said(session, 'flown')?.message).toBe('Hung from above: Pair a.');
    expect(said(session, 'high')).toBeUndefined();
  });

  it('cannot be switched off as a preference', () => {
    const session = sessionFrom({
      arrays: [pair('a', { z: 3.5 })],
      settings: { preferencesOff: [{ code: 'high', reason: 'tall' }] },
    });
    expect(said(session, 'high')).toBeDefined();
  });
});
