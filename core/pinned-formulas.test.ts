import { describe, expect, it } from 'vitest';
import {
  airAbsorption,
  diffuseFieldCorrelation,
  proximityBoostDb,
  ROOM_SURFACES,
  earlyReflections,
} from './acoustics';
import { bestCentreFill, centreFillSweep, roomOf } from './analysis';
import {
  boundaryPair,
  delaysFromCentre,
  crossedEquivalent,
  fiveChannel,
  heightSpillDb,
  aimToLand,
  angleToLandOn,
  equalDistancePoints,
  inequality,
  mirroredThroughAnchors,
  overheadPositions,
  midSideEquivalent,
  mixedPair,
  offsetNotchHz,
  ringWithHeight,
  rotationToMidSide,
  sideGainUnderPanLaw,
  stereoFoldDown,
  threeMicTree,
} from './arrays';
import { endFallOff, sectionFigures, sectionPlaces } from './ensembles';
import {
  farField,
  imageZones,
  isoLines,
  MODELS,
  localisationCurve,
  solveRecordingAngle,
  tradeMap,
} from './localisation';
import { planDay, storage, usualDay, withBreaks } from './planning';
import { twoTapes } from './rig';
import { readyArray } from './prepare/arrays';
import { byJudgement, type Judgement } from './analysis/judge';
import { allTechniques } from './analysis/recommend/candidates';
import { departures, STANDARDS, standardTechnique } from './arrays/standards';
import { allowedByKit } from './kit/needs';
import { starterKit } from './kit/starter';
import { recordingAngleRange } from './localisation/missing-number';
import { readSession, type MicArray, type Session } from './session';
import { crosses } from './units/geometry';
import { parseLength } from './units/parse';
import { arched, crowded, turned } from './fixtures/set-ups';
import { told } from './fixtures/told';
import { monoResponse } from './fixtures/closed';

const LEFT_END = { x: -3, y: 2.5, z: 1 };
const RIGHT_END = { x: 3.4, y: 3.5, z: 1.6 };

const mainOf = ({ arrays: [main] }: Session): MicArray => {
  if (!main) throw new Error('an array is expected');
  return main;
};

describe('what stands by itself', () => {
  it('is as it was: formulas, layouts, days', async () => {
    const spacings = [0, 0.01, 0.03, 0.05, 0.17, 0.5];
    const room = roomOf(crowded);
    const axis = { x: 0, y: 1, z: 0 };
    const receiver = { position: { x: 0, y: 0, z: 2 }, axis, patternA: 0.5 };
    let entries = 0;
    const day = {
      start: '09:30',
      breakAfterMin: 75,
      breakMin: 20,
      end: '17:00',
      entries: usualDay(3, () => `entry ${(entries += 1)}`),
    };
    const ready = crowded.arrays.map(readyArray);
    const five = fiveChannel(1.2, 0.4, 1.6, 1.1, 'cardioid');
    const ring = ringWithHeight(5, 0.8, 4, 1, 30, 'supercardioid');
    const text = told({
      map: Object.entries(tradeMap('cardioid', spacings, [0, 40, 110, 180], 343).halfDeg),
      'map of figure-eights': Object.entries(
        tradeMap('figure-eight', spacings, [0, 70, 90], 343, 0.75).halfDeg,
      ),
      solved: solveRecordingAngle({
        halfDeg: 45,
        model: 'traded',
        distanceM: null,
        heightM: 0,
        speed: 343,
      }),
      zones: ready.map((array) => imageZones(array, 343)),
      curve: ready
        .slice(0, 3)
        .map((array) => localisationCurve(array, farField(array, 343), 60, 15)),
      reflections: room && earlyReflections(room, { x: 1, y: 3, z: 1 }, receiver, 343),
      mono: monoResponse(0.4, -0.3, 1.7),
      air: ROOM_SURFACES.map((_, i) => airAbsorption(125 * 2 ** i, 19, 45)),
      proximity: [0.1, 1].map((m) => proximityBoostDb(0.25, 80, m, 343)),
      diffuse: [100, 1000].map((hz) =>
        diffuseFieldCorrelation(
          receiver,
          { ...receiver, position: { x: 0.3, y: 0.1, z: 2 } },
          hz,
          343,
        ),
      ),
      tree: threeMicTree(1.5, 1, 'omni'),
      five,
      ring,
      delays: delaysFromCentre(ring, 343),
      spill: [0, 20].map((deg) => heightSpillDb(ring, deg)),
      boundary: boundaryPair(1.2),
      fold: stereoFoldDown(five),
      'mid-side': [
        crossedEquivalent(0.5, -3),
        midSideEquivalent(0.5, 110),
        rotationToMidSide('left'),
        rotationToMidSide('right'),
        sideGainUnderPanLaw(1, -4.5),
        offsetNotchHz(0.05, 20, 343),
      ],
      models: MODELS.flatMap(({ id, shift, margin, timeNeeded }) =>
        [-25, -6, 0.4, 3, 9, 14].flatMap((db) =>
          [-0.9, 0, 0.15, 0.5, 1.05].map((ms) => [
            id,
            db,
            ms,
            shift(db, ms),
            margin(db, ms, 0.75),
            margin(db, ms, 1),
            timeNeeded(db, 0.6),
          ]),
        ),
      ),
      aims: [
        angleToLandOn({ x: 0.2, y: -1 }, 0.3, LEFT_END, RIGHT_END),
        aimToLand({ x: 0.2, y: -1, tiltDeg: -20 }, 0.3, LEFT_END, RIGHT_END, [0.25, 0.75]),
        aimToLand({ x: 0.2, y: -1, tiltDeg: -20 }, 0.3, RIGHT_END, LEFT_END, [0, 1]),
        aimToLand({ x: -3, y: 2.5, tiltDeg: 0 }, 0.3, LEFT_END, RIGHT_END, [0, 1]),
      ],
      equal: [
        equalDistancePoints(LEFT_END, RIGHT_END, { x: 0, y: 0, z: 2 }, { x: 1, y: 0.2, z: 0 }),
        mirroredThroughAnchors({ x: 1, y: 1, z: 2 }, LEFT_END, RIGHT_END),
        inequality({ x: 0, y: 0, z: 0.3 }, LEFT_END, RIGHT_END, 343),
      ],
      overheads: (['mirrored', 'over-side'] as const).map((form) =>
        overheadPositions({
          form,
          anchor: LEFT_END,
          other: RIGHT_END,
          right: 0.3,
          back: 0.2,
          up: 0.9,
          sideUp: 0.4,
          sideBack: -0.1,
        }),
      ),
      mixed: mixedPair('omni', 'cardioid', 0.3, 60),
      sections: [...turned.sections, ...arched.sections].map((section) => [
        sectionFigures(section),
        sectionPlaces(section),
        endFallOff(section, { x: 0, y: -1, z: 3 }, 1.4, 343),
      ]),
      'iso lines': isoLines([0, 10, 20, 30, 12, 24, 36, 48, 0, 30, 50, 70], 4, 25),
      'best centre': bestCentreFill(centreFillSweep(crowded, mainOf(turned), 'C', [-12, -6, 0, 3])),
      tapes: [
        twoTapes({ x: 2, y: 1 }, { x: 0, y: 0 }, { x: 0, y: 5 }),
        twoTapes({ x: -2, y: 1 }, { x: 0, y: 0 }, { x: 0.2, y: 5 }),
        twoTapes({ x: -2, y: 1 }, { x: 0.2, y: 5 }, { x: 0, y: 0 }),
        twoTapes({ x: 2, y: 3 }, { x: 5, y: 1 }, { x: -4, y: 0 }),
        twoTapes({ x: 0, y: 3 }, { x: 0, y: 0 }, { x: 0, y: 5 }),
      ],
      storage: [
        storage(12, 96_000, 24, 3.5),
        storage(1, 48_000, 16, 0.5),
        storage(2, 48_000, 24, 0),
      ],
      day: planDay(day),
      breaks: withBreaks(day, () => 'break'),
    });
    await expect(text).toMatchFileSnapshot('fixtures/pinned-formulas.txt');
  });

  it('and so are the tables of numbers, what is typed, and what is refused', async () => {
    const lengths = { bareUnit: 'cm', smallIsMetres: true } as const;
    const everyWhere = ringWithHeight(7, 1, 4, 1, 30, 'cardioid');
    const text = told({
      standards: STANDARDS,
      departures: STANDARDS.map((standard) =>
        departures(standard, { ...standardTechnique(standard), spacingM: 0.26 }),
      ),
      kit: starterKit().microphones,
      stands: starterKit().stands,
      'what the kit builds': allowedByKit(starterKit()),
      tried: allTechniques(),
      fold: everyWhere.loudspeakers.map((name, i) => [name, stereoFoldDown(everyWhere)[i]]),
      'one number missing': [
        recordingAngleRange('cardioid', 0.2, null, 343),
        recordingAngleRange('supercardioid', null, 90, 343),
      ],
      lengths: ['1 km', '1 m 20', '0.5', '20', "5' 3", '2 ft 6 in', '1/2 m', '3 parsecs', ''].map(
        (typed) => [typed, parseLength(typed, lengths)],
      ),
      refused: [
        { format: 'other' },
        { format: 'rotunda-session' },
        { format: 'rotunda-session', version: 0 },
        { format: 'rotunda-session', version: 1.5 },
        { format: 'rotunda-session', version: 99 },
        { ...crowded, sources: [{ x: 'far', y: Array.from({ length: 30 }, () => 1), z: {} }] },
      ].map((raw) => {
        const read = readSession(raw);
        return read.ok ? 'read' : read.problems;
      }),
      crossing: [
        [0, -2, 0, 2],
        [1.4, -2, 1.4, 2],
        [-2, 0.6, 2, 0.9],
        [-0.2, 0.1, 0.1, 0.2],
        [2, 2, 3, 3],
      ].map(([x1 = 0, y1 = 0, x2 = 0, y2 = 0]) =>
        crosses(
          { x: x1, y: y1 },
          { x: x2, y: y2 },
          { x: 0.1, y: 0.2, turnDeg: 20, widthM: 2, depthM: 1 },
        ),
      ),
      order: [
        { lacks: null, score: 40 },
        { lacks: 'two omnis', score: 90 },
        { lacks: null, score: 70 },
      ]
        .map((of) => of as Judgement)
        .sort(byJudgement),
    });
    await expect(text).toMatchFileSnapshot('fixtures/pinned-tables.txt');
  });
});
