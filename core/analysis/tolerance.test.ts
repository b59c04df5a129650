import { describe, expect, it } from 'vitest';
import { newArray, newSource, sessionFrom, type MicArray } from '../session';
import { fiveChannel, threeMicTree } from '../arrays';
import { setUpTolerance, tapeTolerances } from './tolerance';

const SIDE: MicArray['technique'] = {
  kind: 'mid-side',
  midPattern: 'cardioid',
  sideGainDb: 0,
  sidePositive: 'left',
};
const arrayOf = (technique: MicArray['technique']): MicArray =>
  newArray({ id: 'm', name: 'Main', x: 0, y: 0, z: 1.2, technique });
const session = sessionFrom({
  sources: [newSource({ id: 'centre', x: 0, y: 3 }), newSource({ id: 'right', x: 1, y: 3 })],
});
const NONE = { spacingM: 0, angleDeg: 0, sensitivityDb: 0, temperatureC: 0 };

describe('what a set-up is off by', () => {
  it('mid-side: the side’s sensitivity acts on the width, not on the centre', () => {
    const { images, halfDeg, effectPct } = setUpTolerance(
      session,
      arrayOf(SIDE),
      { ...NONE, sensitivityDb: 1 },
      2000,
    );
    expect(images['centre']?.high).toBeCloseTo(0, 9);
    expect(images['centre']?.low).toBeCloseTo(0, 9);
    const right = images['right'];
    expect((right?.high ?? 0) - (right?.low ?? 0)).toBeGreaterThan(0.04);
    expect((halfDeg?.high ?? 0) - (halfDeg?.low ?? 0)).toBeGreaterThan(2);
    expect(effectPct.spacingM).toBe(0);
  });

  it('mid-side: a turned side moves the centre, and there is no spacing to get wrong', () => {
    const turned = setUpTolerance(session, arrayOf(SIDE), { ...NONE, angleDeg: 2 }, 2000);
    expect(turned.images['centre']?.high).toBeGreaterThan(0.02);
    const spaced = setUpTolerance(session, arrayOf(SIDE), { ...NONE, spacingM: 0.02 }, 2000);
    expect(spaced.images['right']?.high).toBeCloseTo(spaced.images['right']?.low ?? NaN, 9);
  });

  it('a tree: a mismatch of its sides moves the picture, which never gets to a loudspeaker', () => {
    const tree = arrayOf({
      kind: 'custom',
      capsules: threeMicTree(1.6, 0.9, 'omni').capsules.map((capsule) => ({ ...capsule })),
    });
    const { images, halfDeg } = setUpTolerance(session, tree, { ...NONE, sensitivityDb: 3 }, 500);
    const centre = images['centre'];
    expect((centre?.high ?? 0) - (centre?.low ?? 0)).toBeGreaterThan(0.001);
    // However far to the side a source is, the centre microphone pulls a little to the middle.
    expect(halfDeg).toBeNull();
  });

  it('two stands are set to 3 cm, one bar to 1 cm', () => {
    const pair = (spacingM: number): MicArray =>
      arrayOf({ kind: 'pair', pattern: 'omni', spacingM, includedAngleDeg: 0 });
    expect(tapeTolerances(pair(1.2)).spacingM).toBe(0.01);
    expect(tapeTolerances(pair(1.21)).spacingM).toBe(0.03);
    expect(tapeTolerances(arrayOf(SIDE)).spacingM).toBe(0.01);
    const five = fiveChannel(1.3, 0.4, 1.6, 1.1, 'cardioid').capsules;
    expect(
      tapeTolerances(arrayOf({ kind: 'custom', capsules: five.map((capsule) => ({ ...capsule })) }))
        .spacingM,
    ).toBe(0.03);
  });
});
