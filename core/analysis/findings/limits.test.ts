import { describe, expect, it } from 'vitest';
import { beside, calmWith, main, mics, pair, player, PLAYERS, SPOT } from '../../fixtures/calm';
import { sessionFrom, type Session } from '../../session';
import { analyseSession, mendable } from '..';

/** Where each rule begins to speak: on either side of its limit. */

type Plain = Record<string, unknown>;

const of = (session: Session, code: string) =>
  analyseSession(session).findings.filter((finding) => finding.code === code);

describe('seats', () => {
  const BLOCK = { x: 0, y: -4, columns: 10, rows: 6, pitchM: 0.6, rowPitchM: 1, name: 'Stalls' };
  const standing = (x: number, y: number) =>
    calmWith({
      venue: { widthM: 30, depthM: 40, heightM: 12, origin: { x: 15, y: 30 }, seats: [BLOCK] },
      arrays: [
        { id: 'm', name: 'Main', role: 'main', x, y, z: 3, technique: pair('omni', 0.5, 0) },
      ],
    });
  const among = (x: number, y: number) => of(standing(x, y), 'among-seats').length > 0;

  it('have an aisle of 1 m on either side and half of that in front', () => {
    // Ten chairs of 0.6 m: 3 m either side, and the aisle.
    expect([among(3.95, -6), among(4.05, -6), among(-4.05, -6)]).toEqual([true, false, false]);
    expect([among(0, -3.55), among(0, -3.45)]).toEqual([true, false]);
    expect([among(0, -9.95), among(0, -10.05)]).toEqual([true, false]);
  });
});

describe('a closed lid', () => {
  const under = (x: number, z: number, lid = 'closed') =>
    of(
      calmWith({
        sources: [...PLAYERS, player('p', 4, 4, { kind: 'grand piano', widthM: 1.5, z: 1, lid })],
        ...beside({ ...SPOT, x, y: 4, z }),
      }),
      'lid-closed',
    ).length > 0;

  it('reaches half a metre beyond what sounds, and lies 1.1 m up', () => {
    expect([under(4 + 1.2, 0.9), under(4 + 1.3, 0.9)]).toEqual([true, false]);
    expect([under(4.5, 1.05), under(4.5, 1.15)]).toEqual([true, false]);
    expect([under(4.5, 0.6), under(4.5, 0.5)]).toEqual([true, false]);
    expect(under(4.5, 0.9, 'full-stick')).toBe(false);
  });
});

describe('loud players', () => {
  const at = (levelDb: number, maxSplDb: number) =>
    analyseSession(
      calmWith({
        sources: PLAYERS.map((one) => ({ ...one, levelDb })),
        kit: { microphones: [mics({ maxSplDb })] },
      }),
    ).findings.filter(({ message }) => /dB SPL|maximum|limit/.test(message));

  it('come near a microphone’s maximum within 3 dB of it', () => {
    const speaking = (maxSplDb: number) => at(82, maxSplDb).length;
    const limits = Array.from({ length: 60 }, (_, i) => 120 - i);
    const first = limits.findIndex((maxSplDb) => speaking(maxSplDb) > 0);
    expect(first).toBeGreaterThan(0);
    // 3 dB more of the players' level begin to matter 3 dB sooner.
    const louder = limits.findIndex((maxSplDb) => at(85, maxSplDb).length > 0);
    expect(first - louder).toBe(3);
  });
});

describe('level', () => {
  const soft = (levelDb: number, change: Plain = {}) =>
    of(
      calmWith({
        sources: PLAYERS.map((one) => (one.id === 'c' ? { ...one, levelDb, ...change } : one)),
      }),
      'level-balance',
    )[0]?.message ?? '';

  it('is said of who is more than 8 dB off the middle, with what helps', () => {
    const [plain] = [soft(82)];
    expect(plain).toBe('');
    expect(soft(66)).toMatch(/^Player c is 1[\d.]+ dB softer at Main than the middle/);
    expect(soft(110)).toMatch(/^Player c is 2[\d.]+ dB louder/);
    const quiet = calmWith({
      sources: PLAYERS.map((one) => (one.id === 'c' ? { ...one, levelDb: 40 } : one)),
    });
    const [finding] = of(quiet, 'level-balance');
    expect(finding && mendable(quiet, finding)).toMatchObject({
      nothingHelps: true,
      instead: 'Distance alone does not level that: a spot would.',
    });
  });

  it('is judged of two players against each other', () => {
    const two = (id: string) => ['a', 'b'].includes(id);
    const list = PLAYERS.filter(({ id }) => two(id as string));
    const session = calmWith({
      sources: list.map((one) => (one.id === 'a' ? { ...one, levelDb: 60 } : one)),
    });
    expect(of(session, 'level-balance')[0]?.message).toMatch(
      /^Player a is 2\d\.\d dB softer at Main than Player b/,
    );
  });
});

describe('pictures', () => {
  it('of one player are not called narrow, of two they are', () => {
    const narrow = (count: number) =>
      of(
        calmWith({
          sources: PLAYERS.slice(1, 1 + count),
          arrays: [
            {
              id: 'm',
              name: 'Main',
              role: 'main',
              x: 0,
              y: -2.5,
              z: 2.6,
              technique: pair('cardioid', 0, 30),
            },
          ],
        }),
        'narrow-picture',
      ).length;
    expect([narrow(1), narrow(2)]).toEqual([0, 1]);
  });

  it('in mono: a wide player is judged at both ends, a point at itself', () => {
    // Antiphase beyond 45°: only the ends of a wide one are out there.
    const wide = (widthM: number) =>
      of(
        calmWith({
          brief: { intent: { mono: 'must-survive' } },
          sources: [player('w', 0, 2.5, { widthM, facingDeg: 180 }), player('v', 0.2, 2.5)],
          arrays: [
            {
              id: 'm',
              name: 'Main',
              role: 'main',
              x: 0,
              y: 0.5,
              z: 1.2,
              technique: pair('figure-eight', 0, 90),
            },
          ],
        }),
        'mono-loss',
      );
    expect(wide(0)).toEqual([]);
    const [finding] = wide(12);
    expect(finding?.severity).toBe('fault');
    // At 71.6° off the aim: (cos 26.6° − cos 63.4°)².
    const [near, far] = [Math.cos(0.4636), -Math.cos(1.1071)];
    expect(finding?.figures.worstSumDb).toBeCloseTo(20 * Math.log10(near + far), 0);
  });
});

describe('ways out of the recording angle', () => {
  const crowded = (y: number, technique: Plain) =>
    of(main({ y, technique, z: 2 }), 'outside-recording-angle')[0];

  it('are named with what they cost', () => {
    const technique = pair('cardioid', 0.3, 110);
    const finding = crowded(0.4, technique);
    if (!finding) throw new Error('crowded');
    const ways = mendable(main({ y: 0.4, technique, z: 2 }), finding).ways.map(
      ({ label }) => label,
    );
    expect(ways.length).toBeGreaterThan(1);
    expect(new Set(ways).size).toBe(ways.length);
  });
});

describe('phantom power', () => {
  const withPhantom = (phantom: string, need: string) =>
    sessionFrom({
      sources: PLAYERS,
      kit: { microphones: [mics({ phantom: need })] },
      arrays: [
        {
          id: 'm',
          name: 'Main',
          role: 'main',
          x: 0,
          y: 0,
          z: 2.5,
          technique: pair('cardioid', 0.17, 110),
          equipment: { phantom, microphones: [{ microphoneId: 'm' }, { microphoneId: 'm' }] },
        },
      ],
    });

  it('is a fault where a microphone must not have it, and one sentence for both of its channels', () => {
    const found = (phantom: string, need: string, code: string) =>
      of(withPhantom(phantom, need), code).length;
    expect(found('on', 'must not', 'phantom-on-ribbon')).toBe(1);
    expect(found('off', 'must not', 'phantom-on-ribbon')).toBe(0);
    expect(found('off', 'needs', 'phantom-missing')).toBe(1);
    expect(found('on', 'needs', 'phantom-missing')).toBe(0);
  });
});
