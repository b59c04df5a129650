import { describe, expect, it } from 'vitest';
import * as acoustics from './acoustics';
import * as arrays from './arrays';
import * as localisation from './localisation';
import {
  centreFillSweep,
  distanceSweep,
  heightSweep,
  movementSensitivity,
  panForShift,
  rippleDb,
  setUpTolerance,
} from './analysis';
import { demoSession } from './demo';
import { speedOfSound } from './units';

/** Numbers that a call takes, with a good value each and the nearest values that are refused. */
type Argument = readonly [name: string, good: number, ...bad: number[]];

interface Guarded {
  name: string;
  takes: readonly Argument[];
  call: (...values: number[]) => unknown;
}

const c = 343.2;
const SPEED: Argument = ['speed', c, 249, 451];
const session = demoSession('2026-11-23T12:00:00.000Z');
const [main] = session.arrays;
if (!main) throw new Error('the demo session has an array');
const ready = localisation.prepareArray({ ...main, technique: { kind: 'single', pattern: 1 } });
const at = (x: number) => ({ x, y: 3, z: 1 });
const receiver = { position: at(0), axis: { x: 0, y: 1, z: 0 }, patternA: 0.5 };
const room = {
  min: { x: -5, y: -5, z: 0 },
  max: { x: 5, y: 15, z: 6 },
  absorption: { left: 0.1, right: 0.1, front: 0.1, back: 0.1, floor: 0.1, ceiling: null },
};
const placed = (change: object) =>
  localisation.prepareArray({ ...main, technique: pairOf(0.2, 90), ...change });
const pairOf = (spacingM: number, includedAngleDeg: number) =>
  ({ kind: 'pair', pattern: 'cardioid', spacingM, includedAngleDeg }) as const;

const GUARDED: readonly Guarded[] = [
  { name: 'speedOfSound', takes: [['temperatureC', 20, -274]], call: speedOfSound },
  { name: 'patternAOf', takes: [['pattern', 0.5, -0.01, 1.01]], call: acoustics.patternAOf },
  {
    name: 'randomEnergyEfficiency',
    takes: [['patternA', 0.5, -0.01, 1.01]],
    call: acoustics.randomEnergyEfficiency,
  },
  { name: 'distanceFactor', takes: [['patternA', 0.5, -1, 2]], call: acoustics.distanceFactor },
  { name: 'nullAngleDeg', takes: [['patternA', 0.5, -1, 2]], call: acoustics.nullAngleDeg },
  {
    name: 'proximityBoostDb',
    takes: [
      ['patternA', 0.5, -0.1, 1.1],
      ['frequencyHz', 100, 9, 20001],
      ['distanceM', 0.5, 0.009, 201],
      SPEED,
    ],
    call: acoustics.proximityBoostDb,
  },
  {
    name: 'criticalDistance',
    takes: [
      ['q', 1, 0.09, 101],
      ['volumeM3', 1000, 0.05, 2e7],
      ['rt60S', 2, 0.09, 12.1],
    ],
    call: acoustics.criticalDistance,
  },
  {
    name: 'directToReverberantDb',
    takes: [
      ['q', 1, 0.09, 101],
      ['criticalDistanceM', 1, 0],
    ],
    call: (q = 1, rc = 1) => acoustics.directToReverberantDb([{ gain: 1 }], [1], [1], q, rc),
  },
  {
    name: 'monoSum',
    takes: [
      ['left', 1, -2e6, 2e6],
      ['right', 1, -2e6, 2e6],
      ['tauMs', 1, -5001, 5001],
    ],
    call: acoustics.monoSum,
  },
  {
    name: 'diffuseFieldCorrelation',
    takes: [['frequencyHz', 250, 0.9, 40001], SPEED],
    call: (f = 1, speed = c) => acoustics.diffuseFieldCorrelation(receiver, receiver, f, speed),
  },
  {
    name: 'earlyReflections',
    takes: [SPEED],
    call: (speed = c) => acoustics.earlyReflections(room, at(1), receiver, speed),
  },
  {
    name: 'sabineTime',
    takes: [
      ['volumeM3', 1000, 0.05, 2e7],
      ['airPerM', 0.001, -0.1, 1.1],
      ['areaM2', 100, 0, 2e6],
      ['absorption', 0.1, -0.1, 1.1],
    ],
    call: (volume = 1, air = 0, areaM2 = 1, absorption = 0) =>
      acoustics.sabineTime(volume, [{ areaM2, absorption }], air),
  },
  {
    name: 'eyringTime',
    takes: [
      ['volumeM3', 1000, 0.05, 2e7],
      ['airPerM', 0.001, -0.1, 1.1],
    ],
    call: (volume = 1, air = 0) =>
      acoustics.eyringTime(volume, [{ areaM2: 9, absorption: 0.1 }], air),
  },
  {
    name: 'prepareArray',
    takes: [
      ['x', 0, -401, 401],
      ['aimDeg', 0, -361, 361],
      ['tiltDeg', 0, -91, 91],
    ],
    call: (x = 0, aimDeg = 0, tiltDeg = 0) => placed({ x, aimDeg, tiltDeg }),
  },
  {
    name: 'prepareArray, a pair',
    takes: [
      ['spacingM', 0.2, -0.01, 50.1],
      ['includedAngleDeg', 90, -1, 361],
    ],
    call: (spacingM = 0, angle = 0) => placed({ technique: pairOf(spacingM, angle) }),
  },
  {
    name: 'overStrings',
    takes: [
      ['heightM', 0.3, 0.009, 5.1],
      ['spacingM', 1, 0.009, 20.1],
    ],
    call: arrays.overStrings,
  },
  {
    name: 'fretFromBridge',
    takes: [
      ['scaleM', 0.65, 0.09, 3.1],
      ['fret', 5, -1, 31],
    ],
    call: arrays.fretFromBridge,
  },
  {
    name: 'transitionFrequency',
    takes: [
      ['volumeM3', 1000, 0.05, 2e7],
      ['rt60S', 2, 0.09, 12.1],
    ],
    call: acoustics.transitionFrequency,
  },
  {
    name: 'ringWithHeight',
    takes: [
      ['radiusM', 0.5, -0.1, 5.1],
      ['layerM', 1, -0.1, 5.1],
      ['upDeg', 45, -1, 91],
      ['gainDb', 0, -61, 25],
      ['ringUpDeg', 0, -91, 91],
    ],
    call: (radius = 1, layer = 1, up = 0, gainDb = 0, ringUp = 0) =>
      arrays.ringWithHeight(
        5,
        radius,
        4,
        layer,
        up,
        'omni',
        { pattern: 'cardioid', gainDb },
        ringUp,
      ),
  },
  {
    name: 'threeMicTree',
    takes: [
      ['baseM', 2, 0.09, 11],
      ['depthM', 1, -0.1, 5.1],
    ],
    call: (base = 1, depth = 1) => arrays.threeMicTree(base, depth, 'omni'),
  },
  {
    name: 'boundaryPair',
    takes: [['spacingM', 1, 0.09, 21]],
    call: arrays.boundaryPair,
  },
  {
    name: 'mixedPair',
    takes: [
      ['spacingM', 0.2, -0.1, 51],
      ['includedAngleDeg', 90, -1, 361],
    ],
    call: (spacing = 0, angle = 0) => arrays.mixedPair('omni', 'cardioid', spacing, angle),
  },
  {
    name: 'crossedEquivalent',
    takes: [
      ['midA', 0.5, -0.1, 1.1],
      ['sideGainDb', 0, -61, 25],
    ],
    call: arrays.crossedEquivalent,
  },
  {
    name: 'midSideEquivalent',
    takes: [
      ['patternA', 0.3, -0.1, 1.1],
      ['includedAngleDeg', 90, -1, 361],
    ],
    call: arrays.midSideEquivalent,
  },
  {
    name: 'sideGainUnderPanLaw',
    takes: [
      ['sideGainDb', 0, -61, 25],
      ['centrePanDb', -3, -7, 1],
    ],
    call: arrays.sideGainUnderPanLaw,
  },
  {
    name: 'offsetNotchHz',
    takes: [['offsetM', 0.02, 0.0009, 1.1], ['elevationDeg', 30, -91, 91], SPEED],
    call: arrays.offsetNotchHz,
  },
  { name: 'panGains', takes: [['pan', 0, -1.1, 1.1]], call: arrays.panGains },
  {
    name: 'inequality',
    takes: [SPEED],
    call: (speed = c) => arrays.inequality(at(0), at(1), at(2), speed),
  },
  {
    name: 'angleToLandOn',
    takes: [['spacingM', 0.2, -0.1, 51]],
    call: (spacing = 0) => arrays.angleToLandOn(at(0), spacing, at(-1), at(1)),
  },
  {
    name: 'nearCues',
    takes: [['distanceM', 1, 3000], SPEED],
    call: (x = 0, speed = c) => localisation.nearCues(ready, at(x), speed),
  },
  {
    name: 'farCues',
    takes: [['azimuthDeg', 30, -361, 361], SPEED],
    call: (deg = 0, speed = c) => localisation.farCues(ready, deg, speed),
  },
  {
    name: 'inPlace',
    takes: [['distanceM', 3, -1, 1001], ['heightM', 1, -401, 401], SPEED],
    call: (distance = 1, height = 0, speed = c) =>
      localisation.inPlace(ready, distance, height, speed),
  },
  {
    name: 'tradeMap',
    takes: [
      ['spacingM', 0.2, -0.1, 51],
      ['includedAngleDeg', 90, -1, 361],
      SPEED,
      ['level', 1, 0, 1.1],
    ],
    call: (spacing = 0, angle = 0, speed = c, level = 1) =>
      localisation.tradeMap('cardioid', [spacing], [angle], speed, level),
  },
  {
    name: 'solveRecordingAngle',
    takes: [['halfDeg', 50, 4, 176], SPEED],
    call: (halfDeg = 50, speed = c) =>
      localisation.solveRecordingAngle({
        halfDeg,
        model: 'added',
        distanceM: null,
        heightM: 0,
        speed,
      }),
  },
  ...localisation.MODELS.map(({ id, shift }) => ({
    name: `shift, ${id}`,
    takes: [
      ['icldDb', 3, -241, 241],
      ['ictdMs', 0.1, -5001, 5001],
    ] as Argument[],
    call: shift,
  })),
  ...localisation.MODELS.map(({ id, margin }) => ({
    name: `margin, ${id}`,
    takes: [
      ['icldDb', 3, -241, 241],
      ['ictdMs', 0.1, -5001, 5001],
      ['level', 1, 0, 1.1],
    ] as Argument[],
    call: margin,
  })),
  { name: 'panForShift', takes: [['shift', 0.3, -1.1, 1.1]], call: panShift },
  { name: 'rippleDb', takes: [['spillDb', -9.5, -241, 241]], call: rippleDb },
  {
    name: 'distanceSweep',
    takes: [['distanceM', 3, -1, 201]],
    call: (d = 0) => distanceSweep(session, main, [d]),
  },
  {
    name: 'heightSweep',
    takes: [['heightM', 3, -201, 201]],
    call: (h = 0) => heightSweep(session, main, [h]),
  },
  {
    name: 'movementSensitivity',
    takes: [['swayM', 0.2, -0.1, 11]],
    call: (s = 0) => movementSensitivity(session, main, s),
  },
  {
    name: 'centreFillSweep',
    takes: [['gainDb', -6, -61, 25]],
    call: (gain = 0) =>
      centreFillSweep(
        session,
        {
          ...main,
          technique: { kind: 'custom', capsules: [...arrays.threeMicTree(2, 1, 'omni').capsules] },
        },
        'C',
        [gain],
      ),
  },
  {
    name: 'setUpTolerance',
    takes: [
      ['draws', 100, 99, 100001],
      ['spacingM', 0.01, -0.1, 1.1],
      ['angleDeg', 2, -1, 46],
      ['sensitivityDb', 1, -1, 13],
      ['temperatureC', 5, -1, 36],
    ],
    call: (draws = 100, spacingM = 0, angleDeg = 0, sensitivityDb = 0, temperatureC = 0) =>
      setUpTolerance(session, main, { spacingM, angleDeg, sensitivityDb, temperatureC }, draws),
  },
];

function panShift(shift: number): number {
  return panForShift(localisation.modelById('traded'), shift);
}

/** Fails on any number that is not finite, however deep. */
function expectFinite(value: unknown, path = 'result'): void {
  if (typeof value === 'number') expect(Number.isFinite(value), `${path} is ${value}`).toBe(true);
  else if (ArrayBuffer.isView(value)) expectFinite([...(value as Float32Array)], path);
  else if (value !== null && typeof value === 'object') {
    for (const [key, inner] of Object.entries(value)) expectFinite(inner, `${path}.${key}`);
  }
}

/** What a call says of a value that is none, or that it took it. */
function saidOf(call: Guarded['call'], values: number[]): string {
  try {
    call(...values);
    return 'taken';
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

describe('every refusal', () => {
  it('names what is allowed as it did', async () => {
    const lines = GUARDED.flatMap(({ name, takes, call }) =>
      takes.flatMap(([argument, , ...bad], i) =>
        bad.map((value) => {
          const values = takes.map(([, good], k) => (k === i ? value : good));
          return `${name}, ${argument}: ${saidOf(call, values)}`;
        }),
      ),
    );
    await expect(`${lines.join('\n')}\n`).toMatchFileSnapshot('fixtures/pinned-refusals.txt');
  });
});

describe.each(GUARDED)('$name', ({ takes, call }) => {
  const good = takes.map(([, value]) => value);

  it('gives finite figures inside its range', () => {
    expectFinite(call(...good));
  });

  it('refuses what is outside with the argument, the value and the range', () => {
    takes.forEach(([name, , ...bad], index) => {
      for (const value of [...bad, NaN, Infinity, -Infinity]) {
        const given = good.map((known, i) => (i === index ? value : known));
        let message = 'nothing was thrown';
        try {
          call(...given);
        } catch (error) {
          expect(error).toBeInstanceOf(RangeError);
          message = (error as RangeError).message;
        }
        expect(message, `${name} = ${value}`).toMatch(/ is -?(\d|NaN|Infinity).*allowed: /);
        expect(message, `${name} = ${value}`).toContain(name);
      }
    });
  });
});
