import { describe, expect, it } from 'vitest';
import { demoSession } from '../../demo';
import { modelById } from '../../localisation';
import { contextOf } from '../../prepare/context';
import { newSource, sessionFrom, type Session } from '../../session';
import { ensembleFrame } from '../ensemble-frame';
import { allTechniques, familyOf, placesFor, tiltTowards } from './candidates';
import { measure, readyPlayers, readyTechnique } from './score';

type Plain = Record<string, unknown>;
const PLAYERS = [
  { id: 'a', x: -2, y: 3, z: 1.2 },
  { id: 'b', x: 2, y: 3, z: 1.2 },
  { id: 'c', x: 0, y: 5, z: 1.2 },
];
const room = (venue: Plain = {}, rest: Plain = {}): Session =>
  sessionFrom({
    venue: { widthM: 12, depthM: 20, heightM: 4, origin: { x: 6, y: 8 }, ...venue },
    sources: PLAYERS,
    ...rest,
  });
const placesIn = (session: Session) => placesFor(session, session.sources);

describe('what is tried', () => {
  it('is each technique once, in customary ranges, six families', () => {
    const all = allTechniques();
    expect(new Set(all.map((technique) => JSON.stringify(technique))).size).toBe(all.length);
    expect(new Set(all.map(familyOf))).toEqual(
      new Set(['coincident', 'near-coincident', 'spaced', 'figure-eights', 'mid-side', 'tree']),
    );
    for (const technique of all) {
      if (technique.kind !== 'pair') continue;
      const { pattern, spacingM, includedAngleDeg } = technique;
      const family = familyOf(technique);
      if (family === 'near-coincident') {
        expect(spacingM).toBeGreaterThanOrEqual(0.1);
        expect(spacingM).toBeLessThanOrEqual(0.45);
        expect(pattern).not.toBe('hypercardioid');
      }
      if (family === 'spaced') {
        expect(spacingM).toBeGreaterThanOrEqual(0.3);
        expect(spacingM).toBeLessThanOrEqual(2);
        expect(includedAngleDeg).toBe(0);
      }
      if (family === 'coincident') {
        expect(includedAngleDeg).toBeGreaterThanOrEqual(70);
        expect(includedAngleDeg).toBeLessThanOrEqual(135);
      }
    }
  });

  it('stands on the middle before the front row, inside the room, clear of players', () => {
    const places = placesIn(room());
    expect(places.length).toBeGreaterThan(20);
    for (const { x, y, z, beforeM, distanceM, aimDeg } of places) {
      expect(x).toBeCloseTo(0, 9);
      expect(y).toBeCloseTo(3 - beforeM, 2);
      expect(distanceM).toBeCloseTo(4 - y, 2);
      expect(aimDeg).toBe(0);
      expect(z).toBeLessThan(4 - 0.3);
      // Nobody puts a main pair farther than 1.6 m, half the width and a third of the depth away.
      expect(beforeM).toBeLessThanOrEqual(1.6 + 2 + 0.6 + 1e-9);
    }
    expect(placesIn(room({}, { sources: [] }))).toEqual([]);
  });

  it('keeps to walls, ceiling, seats, obstacles and the stands at hand', () => {
    const under = placesIn(room({ heightM: 2.5 })).map(({ z }) => z);
    expect(Math.max(...under)).toBeLessThan(2.2);
    expect(placesIn(room({ origin: null, heightM: null })).length).toBeGreaterThan(under.length);
    const shallow = placesIn(room({ origin: { x: 6, y: -1.2 } }));
    expect(shallow.length).toBeGreaterThan(0);
    expect(shallow.every(({ y }) => y > 1.5)).toBe(true);
    const seats = [{ x: 0, y: 1, columns: 10, rows: 20, pitchM: 0.6, rowPitchM: 0.9 }];
    expect(placesIn(room({ seats })).every(({ y }) => y > 1.5)).toBe(true);
    const low = { stands: [{ id: 's', name: 'S', maxHeightM: 2.1, reachM: 2, count: 2 }] };
    const heights = placesIn(room({}, { kit: low })).map(({ z }) => z);
    expect(Math.max(...heights)).toBeLessThanOrEqual(2.1);
    const fan = {
      obstacles: [{ id: 'o', name: 'Pit', x: 0, y: 1, widthM: 9, depthM: 3, heightM: 1 }],
    };
    const short = { stands: [{ id: 's', name: 'S', maxHeightM: 4, reachM: 0.3, count: 2 }] };
    expect(placesIn(room(fan, { kit: short })).length).toBeLessThan(placesIn(room(fan)).length);
  });

  it('says where it would stand over people', () => {
    const over = placesIn(room({}, { sources: [...PLAYERS, { id: 'd', x: 0, y: 3, z: 1.2 }] }));
    for (const { beforeM, z, overPeople } of over) {
      expect(overPeople).toBe(beforeM < 1 && z >= 1.8);
    }
    expect(over.some(({ overPeople }) => overPeople)).toBe(true);
  });

  it('turns with an ensemble that plays another way', () => {
    const turned = PLAYERS.map(({ x, y, ...rest }) => ({ ...rest, x: y, y: -x, facingDeg: 270 }));
    const session = room({ origin: null }, { sources: turned });
    expect(ensembleFrame(session.sources)).toMatchObject({ aimDeg: 90, frontM: 3, backM: 5 });
    const [place] = placesIn(session);
    expect(place?.aimDeg).toBe(90);
    expect(place?.y).toBeCloseTo(0, 9);
    expect(place?.x).toBeLessThan(3);
    const round = PLAYERS.map((one, i) => ({ ...one, facingDeg: i * 120 }));
    expect(placesIn(room({}, { sources: round }))[0]?.aimDeg).toBe(0);
  });
});

describe('a quick measure', () => {
  const at = {
    x: 0,
    y: -1,
    z: 2.5,
    aimDeg: 0,
    tiltDeg: -10,
    beforeM: 2,
    distanceM: 4,
    overPeople: false,
  };
  const demo = demoSession('2026-11-23T12:00:00.000Z');
  const of = (session: Session, technique: Parameters<typeof readyTechnique>[0]) => {
    const context = contextOf(session);
    const players = readyPlayers(session, session.sources);
    const ready = readyTechnique(technique, context.speed);
    return measure(players, at, ready, modelById('traded'), context);
  };
  const crossed = (includedAngleDeg: number, pattern: 'cardioid' | 'figure-eight' = 'cardioid') =>
    ({ kind: 'pair', pattern, spacingM: 0, includedAngleDeg }) as const;

  it('looks half way down to the ensemble’s middle', () => {
    const heads = PLAYERS.map(({ id, x, y }) => newSource({ id, x, y, z: 1 }));
    expect(tiltTowards(heads, 3, 2)).toBe(-Math.round(45 / 2));
    expect(tiltTowards(heads, 1, 5)).toBe(0);
    expect(tiltTowards([], 2, 2)).toBe(-Math.round(45 / 2));
  });

  it('gives width, evenness and mono of the images, and counts the broken', () => {
    const [narrow, wide] = [of(demo, crossed(60)), of(demo, crossed(130))];
    expect(wide.imageWidthPct).toBeGreaterThan(narrow.imageWidthPct);
    expect(narrow.worstMonoDb).toBe(0);
    expect(narrow.timeShare).toBe(0);
    expect(narrow.broken).toBe(0);
    expect(narrow.bandsHeld).toBeNull();
    const on = { ...demo, sources: [newSource({ id: 'x', x: 0, y: -1, z: 2.5 })] };
    expect(of(on, crossed(90))).toMatchObject({ broken: 1, imageWidthPct: 0, unevennessDb: 0 });
  });

  it('measures mid-side as the crossed pair that it decodes to', () => {
    const decoded = of(demo, {
      kind: 'mid-side',
      midPattern: 'figure-eight',
      sideGainDb: 0,
      sidePositive: 'left',
    });
    const plain = of(demo, crossed(90, 'figure-eight'));
    expect(decoded.imageWidthPct).toBeCloseTo(plain.imageWidthPct, 6);
    expect(decoded.lowCorrelation).toBeCloseTo(0, 9);
  });
});
