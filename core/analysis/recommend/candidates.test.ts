import { describe, expect, it } from 'vitest';
import { demoSession } from '../../demo';
import { newArray, newSource, sessionFrom } from '../../session';
import { allTechniques, positionsFor } from './candidates';
import { measure, tiltTowards } from './score';
import { contextOf } from '../../prepare/context';
import { modelById } from '../../localisation';

const main = newArray({ id: 'm', role: 'main', x: 0, y: -1, z: 2.5, aimDeg: 0 });
const room = sessionFrom({
  venue: { widthM: 12, depthM: 20, heightM: 4, origin: { x: 6, y: 8 } },
  sources: [
    { id: 'a', x: -2, y: 3, z: 1.2 },
    { id: 'b', x: 2, y: 3, z: 1.2 },
  ],
});

describe('what is tried', () => {
  it('is 372 techniques, each once, coincident to two metres apart', () => {
    const all = allTechniques();
    expect(all).toHaveLength(372);
    expect(new Set(all.map((technique) => JSON.stringify(technique))).size).toBe(372);
    const count = (test: (t: (typeof all)[number]) => boolean) => all.filter(test).length;
    expect(count((t) => t.kind === 'mid-side')).toBe(40);
    expect(count((t) => t.kind === 'pair' && t.spacingM === 0)).toBe(44);
    expect(count((t) => t.kind === 'pair' && t.pattern === 'omni')).toBe(16);
    expect(count((t) => t.kind === 'pair' && t.spacingM > 0 && t.includedAngleDeg > 0)).toBe(256);
    const spacings = all.flatMap((t) => (t.kind === 'pair' ? [t.spacingM] : []));
    expect([Math.min(...spacings), Math.max(...spacings)]).toEqual([0, 2]);
  });

  it('stands on the aim before the ensemble, inside the room, clear of players', () => {
    const positions = positionsFor(room, main);
    expect(positions.length).toBeGreaterThan(20);
    for (const { x, y, z, distanceM } of positions) {
      expect(x).toBeCloseTo(0, 9);
      expect(y).toBeCloseTo(3 - distanceM, 2);
      expect(z).toBeLessThan(4 - 0.3);
      expect(y).toBeGreaterThan(-8 + 0.3);
      for (const player of room.sources) {
        expect(Math.hypot(player.x - x, player.y - y, player.z - z)).toBeGreaterThanOrEqual(0.8);
        expect(Math.abs((Math.atan2(player.x - x, player.y - y) * 180) / Math.PI)).toBeLessThan(85);
      }
    }
    // Factors of the present 4 m, heights below the ceiling.
    expect([...new Set(positions.map(({ distanceM }) => distanceM))]).toEqual([
      2.4, 2.8, 3.2, 3.6, 4, 4.4, 5, 5.6, 6.4, 7.6,
    ]);
    expect([...new Set(positions.map(({ z }) => z))]).toEqual([1.8, 2.2, 2.6, 3, 3.4]);
    expect(positionsFor({ ...room, sources: [] }, main)).toEqual([]);
  });

  it('knows no walls where nobody has said where they are', () => {
    const open = { ...room, venue: { ...room.venue, origin: null, heightM: null } };
    expect(positionsFor(open, main)).toHaveLength(60);
    const tight = { ...room, venue: { ...room.venue, depthM: 7.5 } };
    expect(positionsFor(tight, main).every(({ y }) => y < -8 + 7.5 - 0.3)).toBe(true);
  });
});

describe('measuring one', () => {
  it('looks half way down to the ensemble’s middle', () => {
    const heads = { ...room, sources: room.sources.map((source) => ({ ...source, z: 1 })) };
    expect(tiltTowards(heads, 3, 2)).toBe(-Math.round(45 / 2));
    expect(tiltTowards(heads, 1, 5)).toBe(-0);
    expect(tiltTowards({ ...room, sources: [] }, 2, 2)).toBe(-Math.round(45 / 2));
  });

  it('gives width, gap and evenness of the images in the model, and counts the broken', () => {
    const demo = demoSession('2026-11-23T12:00:00.000Z');
    const at = { x: 0, y: -1, z: 2.5, distanceM: 4 };
    const model = modelById('traded');
    const crossed = (includedAngleDeg: number) =>
      measure(
        demo,
        main,
        {
          ...at,
          technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0, includedAngleDeg },
        },
        model,
        contextOf(demo),
      );
    const [narrow, wide] = [crossed(60), crossed(130)];
    expect(wide.imageWidthPct).toBeGreaterThan(narrow.imageWidthPct);
    expect(narrow.monoComb).toBe(0);
    expect(narrow.broken).toBe(0);
    expect(narrow.bandsHeld).toBeNull();
    const on = { ...demo, sources: [newSource({ id: 'x', x: 0, y: -1, z: 2.5 })] };
    const technique = {
      kind: 'pair',
      pattern: 'cardioid',
      spacingM: 0,
      includedAngleDeg: 90,
    } as const;
    const none = measure(on, main, { ...at, technique }, model, contextOf(on));
    expect(none).toMatchObject({ broken: 1, imageWidthPct: 0, unevennessDb: 0 });
  });

  it('measures mid-side as the crossed pair that it decodes to', () => {
    const demo = demoSession('2026-11-23T12:00:00.000Z');
    const at = { x: 0, y: -1, z: 2.5, distanceM: 4 };
    const of = (technique: Parameters<typeof measure>[2]['technique']) =>
      measure(demo, main, { ...at, technique }, modelById('traded'), contextOf(demo));
    const decoded = of({
      kind: 'mid-side',
      midPattern: 'figure-eight',
      sideGainDb: 0,
      sidePositive: 'left',
    });
    const crossed = of({
      kind: 'pair',
      pattern: 'figure-eight',
      spacingM: 0,
      includedAngleDeg: 90,
    });
    expect(decoded.imageWidthPct).toBeCloseTo(crossed.imageWidthPct, 6);
    expect(decoded.lowCorrelation).toBeCloseTo(crossed.lowCorrelation, 9);
    expect(decoded.lowCorrelation).toBeCloseTo(0, 9);
  });
});
