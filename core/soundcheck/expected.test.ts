import { describe, expect, it } from 'vitest';
import { HALL, MAIN, pair, PLAYERS, single, strip } from '../fixtures/calm';
import { sessionFrom, type Session } from '../session';
import { expectedOf, expectedText, playerChanges, readExpected, wholeChanges } from './expected';

const plan = (main: Record<string, unknown> = {}, more: readonly unknown[] = []): Session =>
  sessionFrom({ sources: PLAYERS, arrays: [{ ...MAIN, ...main }, ...more], venue: HALL });

describe('what is expected', () => {
  it('is nothing new of the same plan', () => {
    const same = expectedOf(plan());
    expect(expectedText(same, expectedOf(plan()))).toBe('Nothing that would be heard.');
    expect(playerChanges(same, same).every(({ words }) => words === '')).toBe(true);
  });

  it('is mirrored where the pair goes to the other side', () => {
    const [left, right] = [expectedOf(plan({ x: -0.8 })), expectedOf(plan({ x: 0.8 }))];
    expect(left.rightDb).toBeCloseTo(-(right.rightDb ?? 0), 9);
    left.players.forEach((player, i) => {
      const other = right.players[right.players.length - 1 - i];
      expect(player.shift).toBeCloseTo(-(other?.shift ?? 0), 9);
      expect(player.directDb).toBeCloseTo(other?.directDb ?? NaN, 9);
    });
  });

  it('has 6 dB less direct sound at twice the distance on a line', () => {
    const one = { id: 'c', name: 'Flute', x: 0, y: 0, z: 1 };
    const at = (y: number): Session =>
      sessionFrom({
        sources: [one],
        venue: HALL,
        arrays: [{ id: 'm', role: 'main', x: 0, y, z: 1, technique: single('omni') }],
      });
    const changes = playerChanges(expectedOf(at(-2)), expectedOf(at(-4)));
    expect(changes[0]?.directDb).toBeCloseTo(-20 * Math.log10(2), 9);
    expect(changes[0]?.words).toBe('Flute: 6.0 dB more room');
  });

  it('says what becomes of players and of the whole', () => {
    const [narrow, wide] = [
      expectedOf(plan({ technique: pair('cardioid', 0.1, 70) })),
      expectedOf(plan({ technique: pair('cardioid', 0.3, 110) })),
    ];
    expect(expectedText(narrow, wide)).toMatch(/% further (left|right).*; .* more change less\.$/);
    expect(wholeChanges(narrow, wide)[0]).toMatch(/^picture \d+ → \d+ % of the base$/);
    const turned = expectedOf(
      plan({
        mix: { faderDb: 0, capsules: [strip({ pan: -1 }), strip({ pan: 1, polarity: -1 })] },
      }),
    );
    expect(expectedText(wide, turned)).toContain('without a stable place');
  });

  it('is read again as it was kept, and nothing else is', () => {
    const kept = expectedOf(plan());
    expect(readExpected(JSON.parse(JSON.stringify(kept)) as Record<string, unknown>)).toEqual(kept);
    expect(readExpected({})).toBeNull();
    expect(readExpected({ players: [7, { id: 3 }, { id: 'a', shift: 'x' }] })?.players).toEqual([
      expect.objectContaining({ id: 'a', shift: null }),
    ]);
  });
});
