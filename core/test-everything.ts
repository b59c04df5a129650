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
  reflectionsAtArray,
  reverberationFromSurfaces,
  setUpTolerance,
  spillMatrix,
  threeToOne,
} from './analysis';
import { landings } from './arrays';
import { channelMap } from './channels';
import { offRadiatingSide, playerGroups, sourceEdges, violations } from './ensembles';
import { assignKit, missingForKit, unknownFronts } from './kit';
import { coverageAdvice, shortages } from './planning';
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
import { clashes, standPlans } from './mechanics';
import { readyArray } from './prepare/arrays';
import { type Session } from './session';

const LEFT_END = { x: -3, y: 2.5, z: 1 };
const RIGHT_END = { x: 3.4, y: 3.5, z: 1.6 };

/** All that the core says of a set-up with a main array, part by part. */
export function everythingOf(session: Session): Record<string, unknown> {
  const { arrays, findings } = analyseSession(session);
  const [main] = session.arrays;
  const mix = prepareMix(session);
  if (!main) throw new Error('an array is expected');
  const at = (array: (typeof session.arrays)[number]) =>
    session.sources.map((source) => reflectionsAtArray(session, array, source).slice(0, 3));
  return {
    findings,
    figures: arrays.map(({ sources: _sources, capsules: _capsules, own, ...rest }) => ({
      ...rest,
      own: own.map(({ id }) => id),
    })),
    sources: arrays.flatMap(({ sources }) => sources),
    summary: arraySummary(session, main),
    patterns: patternWhatIf(session, main, ['omni', 'figure-eight']),
    bands: bandResults(
      session,
      new Map(arrays[0]?.sources.map((of) => [of.id, of])),
      session.settings.model,
    ),
    judged: session.arrays.map((array) => judgeArray(session, array)),
    arrivals: session.sources.flatMap((source) =>
      arrivalsOf(session, source).arrivals.map((row) => ({ of: source.id, ...row })),
    ),
    proposals: session.sources.map((source) => arrivalsOf(session, source).proposals),
    spill: spillMatrix(session),
    'three to one': threeToOne(session),
    gain: gainPlan(session).map(({ microphone, ...row }) => ({ ...row, by: microphone?.id })),
    reflections: at(main)
      .flat()
      .map(({ image: { x, y, z }, ...row }) => ({ image: [x, y, z], ...row })),
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
    lands: session.arrays.map((array) => landings(array, LEFT_END, RIGHT_END)),
    built: builtFigures(session),
    effects: builtEffects(session),
    cables: cableUses(session),
    edges: session.sources.map((source) => sourceEdges(source)),
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
    tables: rigTables(session, true),
  };
}
