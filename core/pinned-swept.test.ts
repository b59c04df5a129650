import { describe, expect, it } from 'vitest';
import { diffuseFieldCorrelation } from './acoustics';
import { partScores, roomMissDb, scoreOf, wantedOf, type Measures } from './analysis/criteria';
import { depthIn, ensembleFrame, fromFrame, inFrame } from './analysis/ensemble-frame';
import { nearestMidSide } from './analysis/nearest-mid-side';
import { cueWords, differences, reasons, whatWouldWin } from './analysis/recommend/words';
import { spacingOffPct, timeShareOf } from './analysis/spread';
import {
  aimOnRow,
  aimToLand,
  equalDistancePoints,
  inequality,
  mirroredThroughAnchors,
  overheadPositions,
  pairOverLine,
} from './arrays';
import { short } from './audio/fixtures/heard';
import { arched, crowded, turned } from './fixtures/set-ups';
import { modelById } from './localisation';
import { pair, strip } from './fixtures/parts';
import { told } from './fixtures/told';
import {
  farCues,
  focusOf,
  interauralOf,
  modelsFor,
  nearCues,
  placeOf,
  prepareArray,
  isoLines,
  MODELS,
  tradeMap,
  type LocalisationModel,
} from './localisation';
import { newArray, type MicArray } from './session';
import { plainWaves } from './fixtures/closed';

/** Formulas over the range of what they are asked, as they stand; frozen anew with `vitest -u`. */

const BASE: Measures = {
  imageWidthPct: 78,
  narrowestPct: 64,
  widestPct: 91,
  spacingOffPct: 9,
  largestGapPct: 27,
  atSpeakersPct: 12,
  bandsHeld: 0.6,
  directToReverberantDb: -3.4,
  worstMonoDb: -1.1,
  worstMonoBandDb: -7.5,
  unevennessDb: 5.2,
  frontToBackDb: 3.3,
  lowCorrelation: 0.42,
  timeShare: 0.45,
  tolerancePct: 4.2,
  heightM: 2.8,
  overPeople: false,
  microphones: 2,
  broken: 0,
};

const MOVES: Partial<Record<keyof Measures, readonly unknown[]>> = {
  imageWidthPct: [20, 60, 84.5, 85.6, 100],
  narrowestPct: [10, 48, 77, 90],
  widestPct: [64.4, 99, 100],
  spacingOffPct: [0, 0.5, 4, 16, 31],
  largestGapPct: [0, 8, 39, 41, 77],
  atSpeakersPct: [0, 0.7, 33, 60, 100],
  bandsHeld: [null, 0, 0.3, 1],
  directToReverberantDb: [null, -14, -9.2, -6, -0.6, 0.4, 5, 12],
  worstMonoDb: [-9, -3, -1.6, -0.4, 0],
  worstMonoBandDb: [-40, -18, -11, -6.6, -2, -0.5],
  unevennessDb: [0, 0.6, 3, 9, 16],
  frontToBackDb: [-4, -0.6, 0.5, 6, 11],
  lowCorrelation: [-0.3, 0.02, 0.4, 0.44, 0.8, 1],
  timeShare: [0, 0.12, 0.34, 0.62, 0.9, 1],
  tolerancePct: [null, 0, 1.5, 2.6, 9, 19],
  heightM: [0.8, 2, 2.95, 3.4, 6],
  overPeople: [true],
  microphones: [1, 3, 5, 8],
  broken: [1, 4],
};

const arrayOf = (fields: object): MicArray =>
  newArray({ id: 'a', x: 0.3, y: -1.2, z: 2.6, aimDeg: 7, tiltDeg: -12, ...fields });

const custom = (...places: [x: number, y: number, azimuthDeg: number, pattern: string][]) => ({
  kind: 'custom',
  capsules: places.map(([x, y, azimuthDeg, pattern]) => ({
    ...{ label: pattern, dx: x, dy: y, dz: 0, azimuthDeg, elevationDeg: 0, pattern },
  })),
});

describe('over their range', () => {
  it('are the scores, and what is said of them', async () => {
    const sessions = [crowded, turned, arched];
    const rows = sessions.flatMap((session) => {
      const wanted = wantedOf(session, session.sources.length);
      const moved = Object.entries(MOVES).flatMap(([name, values]) =>
        values.map((value) => ({
          says: `${name} ${String(value)}`,
          of: { ...BASE, [name]: value },
        })),
      );
      const place = {
        ...{ x: 0, y: -2, z: 2.8, aimDeg: 0, tiltDeg: -10 },
        ...{ beforeM: 1.6, distanceM: 3.4, overPeople: false },
      };
      const base = partScores(BASE, wanted, 9);
      const { units } = session.settings;
      const saidOf = (measures: Measures, parts: ReturnType<typeof partScores>) =>
        Object.values(
          reasons({ ...place, overPeople: measures.overPeople }, measures, parts, wanted, 9, units),
        ).flat();
      const saidOfBase = saidOf(BASE, base);
      // Of what was moved, only what it moves: the parts, the words and what would win.
      return [{ says: session.id, of: BASE }, ...moved].map(({ says, of }) => {
        const parts = partScores(of, wanted, 9);
        const changed = Object.entries(parts).filter(
          ([part, score]) => of === BASE || score !== base[part as keyof typeof base],
        );
        const said = saidOf(of, parts);
        return [
          says,
          Object.fromEntries(changed.map(([part, score]) => [part, short(score, 9)])),
          short(scoreOf(parts, wanted, of.broken), 9),
          said.filter((words) => of === BASE || !saidOfBase.includes(words)),
          [differences(of, BASE), differences(BASE, of), whatWouldWin(parts, base, wanted)],
          short(roomMissDb(of.directToReverberantDb, wanted.roomDb), 9),
        ];
      });
    });
    const cues = [0, 0.1, 0.2, 0.35, 0.5, 0.65, 0.8, 1].map(cueWords);
    const shares = [-20, -3, -0.2, 0, 0.4, 6].flatMap((db) =>
      [-1.4, -0.01, 0, 0.3].map((ms) => short(timeShareOf(db, ms), 9)),
    );
    const spaced = [
      [-0.5, 0, 0.5],
      [-1, -0.9, 1],
      [0.2, 0.1, -0.4],
    ].map((shifts) =>
      short(spacingOffPct(shifts.map((shift, i) => ({ azimuthDeg: -30 + 25 * i, shift }))), 9),
    );
    await expect(told({ rows, cues, shares, spaced })).toMatchFileSnapshot(
      'fixtures/pinned-swept-scores.txt',
    );
  });

  it('are places by events, near and far, in every model', async () => {
    const arrays: [string, MicArray][] = [
      [
        'tree',
        arrayOf({
          technique: custom([-0.7, 0, -20, 'omni'], [0, 0.6, 0, 'omni'], [0.7, 0, 20, 'omni']),
        }),
      ],
      ['crossed', arrayOf({ technique: pair('figure-eight', 0.1, 90) })],
      [
        'inverted',
        arrayOf({
          technique: pair('cardioid', 0.2, 100),
          mix: { capsules: [strip(-0.8), strip(0.7, { polarity: -1 })] },
        }),
      ],
      [
        'late',
        arrayOf({
          technique: pair('subcardioid', 0.4, 60),
          mix: { capsules: [strip(-0.5, { delayMs: 0.7 }), strip(0.9, { gainDb: -5 })] },
        }),
      ],
      [
        'five',
        arrayOf({
          technique: custom(
            [-0.9, 0, -60, 'cardioid'],
            [-0.3, 0.2, -20, 'cardioid'],
            [0, 0.4, 0, 'supercardioid'],
            [0.3, 0.2, 20, 'cardioid'],
            [0.9, 0, 60, 'cardioid'],
          ),
          mix: {
            capsules: [
              strip(-1),
              strip(-0.4, { gainDb: -2 }),
              strip(0),
              strip(0.4, { polarity: -1 }),
              strip(1, { delayMs: 12 }),
            ],
          },
        }),
      ],
      [
        'decoded',
        arrayOf({
          technique: {
            kind: 'mid-side',
            midPattern: 'cardioid',
            sidePositive: 'right',
            sideGainDb: 3,
          },
        }),
      ],
      [
        'late side',
        arrayOf({
          technique: { kind: 'mid-side', midPattern: 'omni', sidePositive: 'left', sideGainDb: -2 },
          mix: { capsules: [strip(0), strip(0, { delayMs: 0.35 })] },
        }),
      ],
      ['down', arrayOf({ technique: pair('hypercardioid', 0.3, 80), tiltDeg: -80 })],
    ];
    const points = [
      [-2.5, 1.5],
      [-0.4, 3],
      [0.3, 2.2],
      [1.1, 1],
      [2.8, -3],
      [0.1, -4],
    ].map(([x = 0, y = 0]) => ({ x, y, z: 1.15 }));
    const rows = arrays.flatMap(([name, array]) => {
      const ready = prepareArray(array, array.mix.capsules);
      const seen = [
        ...points.map((point) => nearCues(ready, point, 343.2)),
        ...[-150, -60, -8, 0, 33, 95].map((deg) => farCues(ready, deg, 343.2)),
      ];
      return seen.map((cues) => {
        if (!cues) return [name, null];
        const places = modelsFor(ready.coincident).map((model) => placeOf(cues, model));
        return [name, short([cues, places, placeOf(cues, MODELS[1] as LocalisationModel, 1.5)], 9)];
      });
    });
    await expect(told({ rows })).toMatchFileSnapshot('fixtures/pinned-swept-places.txt');
  });

  it('are what a head hears, rows, rods, frames and fields', async () => {
    const ears = [0, 12, 30, 77].flatMap((deg) =>
      [60, 180, 700, 1500, 5000, 14_000].map((hz) => short(interauralOf(deg, hz), 9)),
    );
    const focus = [-9, -1, 0, 3, 14].flatMap((db) =>
      [-0.9, 0, 0.15, 0.6, 2.5].map((ms) => short(focusOf(plainWaves(db, ms)), 9)),
    );
    const fields = [0, 0.05, 0.2, 0.6, 2].flatMap((spacingM) =>
      [30, 125, 1000, 6000].map((hz) => {
        const capsule = (x: number, azimuth: number, patternA: number) => ({
          ...{ position: { x, y: 0, z: 0 }, patternA },
          axis: { x: Math.sin(azimuth), y: Math.cos(azimuth), z: 0 },
        });
        const [first, second] = [capsule(0, -0.8, 0.5), capsule(spacingM, 0.9, 0.3)];
        return short(diffuseFieldCorrelation(first, second, hz, 343), 9);
      }),
    );
    const at = { x: 0.4, y: -1, z: 2.4 };
    const [from, to] = [
      { x: -3, y: 2, z: 1 },
      { x: 4, y: 3, z: 1.2 },
    ];
    const rows = [
      [-0.5, 0.8],
      [0.1, 0.9],
      [0.7, -0.4],
    ].map(([x = 0, y = 0]) => short(aimOnRow(at, { x, y }, from, to), 9));
    const landed = [0, 0.17, 0.8].flatMap((spacingM) =>
      [
        [0, 1],
        [0.2, 0.7],
        [0.45, 0.55],
      ].map((fractions) =>
        short(
          aimToLand(
            { x: 0.4, y: -1, tiltDeg: -25 },
            spacingM,
            from,
            to,
            fractions as [number, number],
          ),
          9,
        ),
      ),
    );
    const over = [
      equalDistancePoints(from, at, { x: 0, y: 1, z: 2 }, { x: 2, y: 0.3, z: 0.1 }),
      equalDistancePoints(from, at, { x: 30, y: 1, z: 2 }, { x: 0, y: 1, z: 0 }),
      mirroredThroughAnchors(at, from, to),
      inequality({ x: 1, y: 2, z: 1 }, at, { x: -1, y: -1, z: 2.3 }, 343),
      ...(['mirrored', 'over-side'] as const).flatMap((form) =>
        [null, { x: 0.8, y: 2.6, z: 0.9 }, { x: -3, y: 2, z: 1.4 }].flatMap((other) =>
          [0.5, -0.7].map((right) =>
            overheadPositions({
              ...{ form, anchor: from, other, right, back: 0.3, up: 0.9 },
              ...{ sideUp: 0.2, sideBack: 0.1 },
            }),
          ),
        ),
      ),
      pairOverLine(from, to, 0.3, 1.1),
      pairOverLine(from, from, 0.3, 1.1),
    ].map((value) => short(value, 9));
    const frames = [crowded, turned, arched].map(({ sources }) => {
      const frame = ensembleFrame(sources);
      return short(
        frame && [
          frame,
          sources.map((source) => depthIn(frame, source)),
          [0, 30, -100].map((deg) => [inFrame(deg, at), fromFrame(deg, 1, -2)]),
        ],
        9,
      );
    });
    const map = tradeMap('supercardioid', [0, 0.01, 0.1, 0.3, 0.8], [0, 40, 90, 131], 341);
    const narrow = tradeMap(0.62, [0, 0.03, 0.2, 0.5], [20, 110, 178], 345, 0.75);
    const maps = [map, narrow].map(({ halfDeg }) =>
      Object.entries(halfDeg).map(([id, values]) => short([id, [...values]], 7)),
    );
    const lines = [30, 45, 60, 120].map((deg) =>
      short(isoLines(map.halfDeg.consensus ?? [], map.spacingsM.length, deg), 7),
    );
    const midSide = [
      pair('cardioid', 0.17, 110),
      pair('omni', 0.6, 0),
      pair('hypercardioid', 0, 105),
    ].map((technique) =>
      short(nearestMidSide(arrayOf({ technique }), modelById('consensus'), 343), 7),
    );
    await expect(
      told({ ears, focus, fields, rows, landed, over, frames, maps, lines, midSide }),
    ).toMatchFileSnapshot('fixtures/pinned-swept-forms.txt');
  });
});
