import { describe, expect, it } from 'vitest';
import * as acoustics from './acoustics';
import { outputVolts } from './analysis';
import * as arrays from './arrays';
import { endFallOff } from './ensembles';
import * as localisation from './localisation';
import { storage } from './planning';
import { speedOfSound } from './units';

/** Both ends of every range belong to it, and what lies a hair beyond does not. */

type Ends = readonly [name: string, call: (value: number) => unknown, min: number, max: number];

const c = 343.2;
const pair: arrays.Technique = {
  kind: 'pair',
  pattern: 'cardioid',
  spacingM: 0.17,
  includedAngleDeg: 110,
};
const at = { x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0 };
const ready = localisation.prepareArray({ ...at, technique: pair });
const omnis = (spacingM: number): arrays.Technique => ({ ...pair, pattern: 'omni', spacingM });
const floor = [{ areaM2: 100, absorption: 0.3 }];
const { levelForAngle, timeForAngle } = localisation;
const consensus = localisation.modelById('consensus');
const SECTION = {
  shape: 'rows',
  x: 0,
  y: 3,
  z: 1,
  facingDeg: 180,
  count: 6,
  rows: 2,
  openingDeg: 0,
  pitchM: 0.6,
  rowDepthM: 0.8,
  riserM: 0.2,
} as unknown as Parameters<typeof endFallOff>[0];

const ENDS: readonly Ends[] = [
  ['temperature', speedOfSound, -20, 50],
  ['pattern', (a) => acoustics.patternAOf(a), 0, 1],
  ['REE', acoustics.randomEnergyEfficiency, 0, 1],
  ['frequency of proximity', (f) => acoustics.proximityBoostDb(0.5, f, 0.5, c), 10, 20000],
  ['distance of proximity', (r) => acoustics.proximityBoostDb(0.5, 100, r, c), 0.01, 200],
  ['speed of proximity', (speed) => acoustics.proximityBoostDb(0.5, 100, 1, speed), 250, 450],
  ['volume', (v) => acoustics.criticalDistance(1, v, 2), 0.1, 1e7],
  ['reverberation time', (t) => acoustics.criticalDistance(1, 1000, t), 0.1, 12],
  ['directivity', (q) => acoustics.criticalDistance(q, 1000, 2), 0.1, 100],
  ['frequency of air', (f) => acoustics.airAbsorption(f, 20, 50), 50, 10000],
  ['temperature of air', (t) => acoustics.airAbsorption(1000, t, 50), -20, 50],
  ['humidity', (h) => acoustics.airAbsorption(1000, 20, h), 10, 100],
  ['volume after Sabine', (v) => acoustics.sabineTime(v, floor, 0), 0.1, 1e7],
  ['air after Sabine', (m) => acoustics.sabineTime(100, floor, m), 0, 1],
  ['volume after Eyring', (v) => acoustics.eyringTime(v, floor, 0), 0.1, 1e7],
  ['surface', (s) => acoustics.sabineTime(100, [{ areaM2: s, absorption: 0.3 }], 0), 0.01, 1e6],
  ['absorption', (a) => acoustics.sabineTime(100, [{ areaM2: 10, absorption: a }], 0.1), 0, 1],
  ['spacing', (d) => localisation.prepareArray({ ...at, technique: omnis(d) }), 0, 50],
  [
    'included angle',
    (deg) => localisation.prepareArray({ ...at, technique: { ...pair, includedAngleDeg: deg } }),
    0,
    360,
  ],
  ['place', (x) => localisation.prepareArray({ ...at, x, technique: pair }), -400, 400],
  ['aim', (aimDeg) => arrays.arrayFrame(aimDeg, 0), -360, 360],
  ['tilt', (tiltDeg) => arrays.arrayFrame(0, tiltDeg), -90, 90],
  ['pan', arrays.panGains, -1, 1],
  ['mid', (a) => arrays.crossedEquivalent(a, 0), 0, 1],
  ['side', (db) => arrays.crossedEquivalent(0.5, db), -60, 24],
  ['crossed angle', (deg) => arrays.midSideEquivalent(0.5, deg), 0, 360],
  ['pan law', (db) => arrays.sideGainUnderPanLaw(0, db), -6, 0],
  ['offset', (m) => arrays.offsetNotchHz(m, 30, c), 0.001, 1],
  ['elevation', (deg) => arrays.offsetNotchHz(0.05, deg, c), -90, 90],
  ['base of a tree', (m) => arrays.threeMicTree(m, 1, 'omni'), 0.1, 10],
  ['depth of a tree', (m) => arrays.threeMicTree(1, m, 'omni'), 0, 5],
  ['front', (m) => arrays.fiveChannel(m, 0.2, 1, 1, 'omni'), 0.1, 10],
  ['front depth', (m) => arrays.fiveChannel(1, m, 1, 1, 'omni'), 0, 5],
  ['rear', (m) => arrays.fiveChannel(1, 0.2, m, 1, 'omni'), 0.1, 10],
  ['back', (m) => arrays.fiveChannel(1, 0.2, 1, m, 'omni'), 0, 20],
  ['radius', (m) => arrays.ringWithHeight(5, m, 4, 1, 30, 'omni'), 0, 5],
  ['layer', (m) => arrays.ringWithHeight(5, 1, 4, m, 30, 'omni'), 0, 5],
  ['up', (deg) => arrays.ringWithHeight(5, 1, 4, 1, deg, 'omni'), 0, 90],
  ['boundary', arrays.boundaryPair, 0.1, 20],
  [
    'elevation of spill',
    (deg) => arrays.heightSpillDb(arrays.ringWithHeight(4, 1, 4, 1, 30, 'cardioid'), deg),
    -90,
    90,
  ],
  ['azimuth', (deg) => localisation.farCues(ready, deg, c), -360, 360],
  ['speed', (speed) => localisation.farCues(ready, 10, speed), 250, 450],
  ['distance', (m) => localisation.pointAround(ready, 0, m, 0), 0, 1000],
  ['height', (m) => localisation.pointAround(ready, 0, 1, m), -400, 400],
  ['arc', (m) => localisation.inPlace(ready, m, 0, c), 0, 1000],
  ['arc height', (m) => localisation.inPlace(ready, 1, m, c), -400, 400],
  ['level', (l) => localisation.halfAngle(localisation.farField(ready, c), consensus, l), 0.01, 1],
  ['limit', (deg) => localisation.localisationCurve(ready, () => null, deg, 1), 1, 180],
  ['step', (deg) => localisation.localisationCurve(ready, () => null, 30, deg), 0.1, 30],
  ['level for angle', levelForAngle, 0, 30],
  ['time for angle', timeForAngle, 0, 30],
  ['level difference', (db) => consensus.shift(db, 0), -240, 240],
  ['time difference', (ms) => consensus.shift(0, ms), -5000, 5000],
  ['volts', (db) => outputVolts(db, 10), -240, 240],
  ['sensitivity', (mv) => outputVolts(90, mv), 0.1, 200],
  ['tracks', (n) => storage(n, 48000, 24, 1), 1, 256],
  ['rate', (hz) => storage(2, hz, 24, 1), 8000, 768000],
  ['depth in bits', (bits) => storage(2, 48000, bits, 1), 8, 64],
  ['hours', (h) => storage(2, 48000, 24, h), 0, 24],
  ['speed of a section', (s) => endFallOff(SECTION, { x: 0, y: 0, z: 2 }, 1.2, s), 250, 450],
];

describe.each(ENDS)('%s', (_name, call, min, max) => {
  it(`is taken from ${min} to ${max}`, () => {
    const hair = (Math.abs(max - min) || 1) * 1e-4;
    expect(() => call(min)).not.toThrow();
    expect(() => call(max)).not.toThrow();
    expect(() => call(min - hair)).toThrow(RangeError);
    expect(() => call(max + hair)).toThrow(RangeError);
    expect(() => call(NaN)).toThrow(RangeError);
  });
});
