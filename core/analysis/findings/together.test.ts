import { describe, expect, it } from 'vitest';
import { crowded } from '../../fixtures/set-ups';
import { sessionFrom, type Session } from '../../session';
import { analyseSession } from '../analyse';
import { applyFix } from './finding';
import { mendable } from './trials';

const found = (session: Session, code: string) =>
  analyseSession(session).findings.filter((finding) => finding.code === code);

const spotAt = (id: string, x: number) => ({
  id,
  name: `Spot ${id}`,
  role: 'spot',
  x,
  y: 3.4,
  z: 1.4,
  technique: { kind: 'single', pattern: 'cardioid' },
});
const row = sessionFrom({
  venue: { widthM: 12, depthM: 20, heightM: 8, origin: { x: 6, y: 9 } },
  sources: [-4.8, -1.6, 1.6, 4.8].map((x, i) => ({
    id: `p${i}`,
    name: `Player ${i + 1}`,
    x,
    y: 4,
    z: 1.2,
    levelDb: 80 + (i === 0 ? 14 : i === 3 ? -14 : 0),
  })),
  arrays: [
    { id: 'main', name: 'Main', role: 'main', x: 0, y: -2, z: 2.4 },
    ...['a', 'b', 'c'].map((id, i) => spotAt(id, -1.6 + i * 3.2)),
  ],
});

describe('one cause is one finding', () => {
  it('spots that lead are one line, and one action mends them all', () => {
    const list = found(row, 'spot-leads');
    expect(list).toHaveLength(1);
    const [one] = list;
    expect(one?.members).toHaveLength(3);
    expect(one?.message).toMatch(/^3 spots lead Main, by up to [\d.]+ ms/);
    expect(one?.sourceIds).toHaveLength(3);
    const fix = one && mendable(row, one).fix;
    if (!fix) throw new Error('one action for all is expected');
    expect(fix.label).toBe('Delay them all');
    expect(found(applyFix(row, fix), 'spot-leads')).toEqual([]);
  });

  it('each place keeps its own way out', () => {
    const [one] = found(row, 'spot-leads');
    const own = one && mendable(row, one).ways.filter(({ member }) => member !== null);
    expect(own?.map(({ member }) => member).sort()).toEqual([0, 1, 2]);
    const [first] = own ?? [];
    if (!first) throw new Error('each has its own');
    const left = found(applyFix(row, first), 'spot-leads');
    expect(left[0]?.members).toHaveLength(2);
  });

  it('the worst speaks for all, and stands last among them', () => {
    const [levels] = found(row, 'level-balance');
    // Whom a spot of his own levels is not found too soft.
    const far = { ...row, arrays: row.arrays.slice(0, 1) };
    const [bare] = found(far, 'level-balance');
    expect(levels?.members).toEqual([]);
    expect(bare?.members).toHaveLength(2);
    const worst = bare?.members[1];
    expect(bare?.figures).toEqual(worst?.figures);
    expect(Math.abs(worst?.figures['offDb'] ?? 0)).toBeGreaterThan(
      Math.abs(bare?.members[0]?.figures['offDb'] ?? 0),
    );
    expect(bare?.message).toContain('Player 1');
    expect(bare?.message).toContain('Player 4');
  });

  it('walls are one line each, and the ceiling is not to be moved away from', () => {
    const walls = found(crowded, 'strong-reflection');
    const whole = walls.flatMap(({ members, message }) =>
      members.length > 0 ? members.map((member) => member.message) : message,
    );
    expect(walls.length).toBeLessThan(whole.length);
    const where = walls.map(
      ({ message }) =>
        / (ceiling|(?:left|right) wall|wall behind the \w+) answers/.exec(message)?.[1],
    );
    expect(new Set(where).size).toBe(walls.length);
    for (const message of whole) {
      if (message.includes('ceiling')) expect(message).not.toContain('away from');
    }
  });

  it('what is found once is told as it is', () => {
    const two = { ...row, arrays: row.arrays.slice(0, 2) };
    const [one] = found(two, 'spot-leads');
    expect(one?.members).toEqual([]);
    expect(one && mendable(two, one).fix?.label).toMatch(/^Delay Spot a by/);
  });
});
