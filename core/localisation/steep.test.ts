import { describe, expect, it } from 'vitest';
import { analyseSession } from '../analysis';
import { newArray, newSession, newSource } from '../session';
import { speedOfSound } from '../units';
import { farCues, pointAround } from './cues';
import { prepareArray } from './prepared-array';
import { inPlace } from './recording-angle';

const C = speedOfSound(20);
const over = (aimDeg: number, spacingM = 0.9) =>
  prepareArray({
    x: 1,
    y: 2,
    z: 3,
    aimDeg,
    tiltDeg: -90,
    technique: { kind: 'pair', pattern: 'cardioid', spacingM, includedAngleDeg: 0 },
  });

describe('an array that looks down', () => {
  it('is asked in its own plane: straight below is ahead, aside is to its right', () => {
    const below = pointAround(over(0), 0, 4, 1);
    expect(below?.x).toBeCloseTo(1, 9);
    expect(below?.y).toBeCloseTo(2, 9);
    expect(below?.z).toBeCloseTo(1, 9);
    const aside = pointAround(over(90), 45, 4, 1);
    // Aimed to the right, its right hand points downstage.
    expect(aside?.x).toBeCloseTo(1, 9);
    expect(aside?.y).toBeCloseTo(0, 9);
  });

  it('meets nothing level with it, above it, or along the floor', () => {
    expect(pointAround(over(0), 0, 4, 3)).toBeNull();
    expect(pointAround(over(0), 0, 4, 5)).toBeNull();
    expect(pointAround(over(0), 120, 4, 1)).toBeNull();
  });

  it('hears far below as a level array hears far ahead', () => {
    const array = prepareArray({
      x: 0,
      y: 0,
      z: 150,
      aimDeg: 0,
      tiltDeg: -90,
      technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.2, includedAngleDeg: 110 },
    });
    for (const deg of [0, 20, 55]) {
      const near = inPlace(array, 1, 0, C)(deg);
      expect(near?.icldDb).toBeCloseTo(farCues(array, deg, C).icldDb, 1);
      expect(near?.ictdMs).toBeCloseTo(farCues(array, deg, C).ictdMs, 2);
    }
  });

  it('sees a kit below it under the angle of its width, wherever it is turned', () => {
    const session = newSession('s', 'Kit', '');
    session.sources = [newSource({ id: 'k', x: 0, y: 2, z: 1, widthM: 2, facingDeg: 180 })];
    const arcs = [-90, -60, -59].map((tiltDeg) => {
      session.arrays = [newArray({ id: 'o', role: 'overhead', x: 0, y: 2, z: 2, tiltDeg })];
      return analyseSession({ ...session }).arrays[0];
    });
    expect(arcs[0]?.ensemble?.angleDeg).toBeCloseTo(90, 6);
    expect(arcs[0]?.inPlace).not.toBeNull();
    // 60° is steep; 59° is judged on the plan, where its player stands under it.
    expect(arcs[1]?.ensemble?.angleDeg).toBeLessThan(180);
    expect(arcs[2]?.ensemble?.angleDeg).toBeCloseTo(180, 6);
  });
});
