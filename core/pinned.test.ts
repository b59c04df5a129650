import { describe, expect, it } from 'vitest';
import {
  airAbsorption,
  diffuseFieldCorrelation,
  monoResponse,
  proximityBoostDb,
  ROOM_SURFACES,
  earlyReflections,
} from './acoustics';
import {
  analyseSession,
  arraySummary,
  arrivalsOf,
  capsuleFigures,
  contextOf,
  mixCues,
  prepareMix,
  bandResults,
  centreFillSweep,
  distanceSweep,
  gainPlan,
  heightSweep,
  interchannelCorrelation,
  judgeArray,
  movementSensitivity,
  patternWhatIf,
  recommend,
  reflectionsAtArray,
  reverberationFromSurfaces,
  setUpTolerance,
  shoeboxOf,
  spillMatrix,
  threeToOne,
} from './analysis';
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
  landings,
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
import { channelMap } from './channels';
import {
  endFallOff,
  offRadiatingSide,
  playerGroups,
  sectionFigures,
  sectionPlaces,
  sourceEdges,
  violations,
} from './ensembles';
import { assignKit, missingForKit, unknownFronts } from './kit';
import {
  farField,
  imageZones,
  MODELS,
  localisationCurve,
  solveRecordingAngle,
  tradeMap,
} from './localisation';
import { coverageAdvice, planDay, shortages, storage, usualDay, withBreaks } from './planning';
import {
  builtEffects,
  builtFigures,
  cableUses,
  buildOrder,
  completeness,
  packList,
  positionSheet,
  rigTables,
  safetyCautions,
} from './rig';
import { clashes, clearingRise, standPlans } from './rig/mechanics';
import { readyArray } from './prepare/arrays';
import { byJudgement, type Judgement } from './analysis/judge';
import { allTechniques } from './analysis/recommend/candidates';
import { departures, STANDARDS, standardTechnique } from './arrays/standards';
import { allowedByKit } from './kit/needs';
import { starterKit } from './kit/starter';
import { recordingAngleRange } from './localisation/missing-number';
import { readSession, type Session } from './session';
import { crosses } from './units/geometry';
import { parseLength } from './units/parse';
import { arched, crowded, turned } from './fixtures/set-ups';

/**
 * Two set-ups in which almost everything is a little wrong, and all that is said of them, word by
 * word and figure by figure. What changes here changes for a user: it is looked at, and frozen anew
 * with `vitest -u` when it is meant.
 */

const LEFT_END = { x: -3, y: 2.5, z: 1 };
const RIGHT_END = { x: 3.4, y: 3.5, z: 1.6 };

/** Figures to nine places, so that no machine's last digit matters. */
const steady = (_key: string, value: unknown): unknown => {
  if (value instanceof Float32Array || value instanceof Map) return [...value];
  return typeof value === 'number' && Number.isFinite(value) ? Number(value.toPrecision(9)) : value;
};

/** One line for each entry of a list or field of an object. */
function told(parts: Record<string, unknown>): string {
  return Object.entries(parts)
    .map(([name, value]) => {
      const rows = Array.isArray(value) ? value : [value];
      return `# ${name}\n${rows.map((row) => JSON.stringify(row, steady)).join('\n')}\n`;
    })
    .join('\n');
}

function everything(session: Session): string {
  const { arrays, findings } = analyseSession(session);
  const [main] = session.arrays;
  const mix = prepareMix(session);
  if (!main) throw new Error('an array is expected');
  const at = (array: (typeof session.arrays)[number]) =>
    session.sources.map((source) => reflectionsAtArray(session, array, source).slice(0, 3));
  return told({
    findings,
    figures: arrays.map(({ sources: _sources, capsules: _capsules, ...rest }) => rest),
    sources: arrays.flatMap(({ sources }) => sources),
    summary: arraySummary(session, main),
    patterns: patternWhatIf(session, main, ['omni', 'figure-eight']),
    bands: bandResults(
      session,
      new Map(arrays[0]?.sources.map((of) => [of.id, of])),
      session.settings.model,
    ),
    judged: session.arrays.map((array) => judgeArray(session, array)),
    arrivals: session.sources.map((source) => arrivalsOf(session, source)),
    spill: spillMatrix(session),
    'three to one': threeToOne(session),
    gain: gainPlan(session).map(({ microphone, ...row }) => ({ ...row, by: microphone?.id })),
    reflections: at(main).flat(),
    correlation: session.arrays.flatMap((array) =>
      [63, 500].map((hz) => interchannelCorrelation(readyArray(array), hz, 343)),
    ),
    mix: session.sources.map((source) => mix && mixCues(mix, source, 343)),
    'mix correlation': mix && [63, 500].map((hz) => interchannelCorrelation(mix, hz, 343)),
    capsules: session.arrays.map(
      (array) =>
        session.sources[1] &&
        capsuleFigures(readyArray(array), session.sources[1], contextOf(session)),
    ),
    rises: session.arrays.map((array) => clearingRise(session, array)),
    lands: session.arrays.map((array) => landings(array, LEFT_END, RIGHT_END)),
    built: builtFigures(session),
    effects: builtEffects(session),
    cables: cableUses(session),
    edges: session.sources.map(sourceEdges),
    'radiating side': session.sources.map((source) => offRadiatingSide(source, main)),
    groups: playerGroups(session.sources),
    room: reverberationFromSurfaces(session),
    distance: distanceSweep(session, main, [1, 2.5, 6]),
    height: heightSweep(session, main, [1.5, 3.5]),
    sway: movementSensitivity(session, main, 0.3),
    centre: centreFillSweep(session, main, 'C', [-12, -3, 0]),
    tolerance: setUpTolerance(session, main, undefined, 200),
    stands: standPlans(session).map(({ stand, ...row }) => ({ ...row, stand: stand?.id })),
    clashes: clashes(session),
    cautions: safetyCautions(session),
    channels: channelMap(session),
    kit: assignKit(session),
    lacks: session.arrays.map(({ technique }) => missingForKit(session.kit, technique)),
    fronts: unknownFronts(session),
    shortages: shortages(session),
    coverage: coverageAdvice(session),
    wishes: violations(session),
    positions: positionSheet(session),
    order: buildOrder(session),
    pack: packList(session),
    missing: completeness(session),
    tables: rigTables(session),
  });
}

describe('all that is said of a set-up', () => {
  it.each([crowded, turned, arched].map((session) => [session.id, session] as const))(
    '%s, word by word',
    async (id, session) => {
      await expect(everything(session)).toMatchFileSnapshot(`fixtures/pinned-${id}.txt`);
    },
  );

  it('is recommended, with its reasons', async () => {
    const without = { ...crowded, sources: crowded.sources.filter(({ id }) => id !== 'b2') };
    const text = [without, turned, arched].map((session) => {
      const { recommendations, ...rest } = recommend(session);
      return told({ rest, recommendations: recommendations.slice(0, 6) });
    });
    await expect(text.join('\n')).toMatchFileSnapshot('fixtures/pinned-recommended.txt');
  });
});

describe('what stands by itself', () => {
  it('is as it was: formulas, layouts, days', async () => {
    const spacings = [0, 0.01, 0.03, 0.05, 0.17, 0.5];
    const room = shoeboxOf(crowded);
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
