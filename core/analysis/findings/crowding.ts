import { isInside } from '../../acoustics/reflections';
import { nearCues } from '../../localisation/cues';
import { looksSteeply, prepareArray } from '../../localisation/prepared-array';
import { leadingModel } from '../../localisation/leading';
import { modelById } from '../../localisation/models/index';
import { halfAngle, inPlace } from '../../localisation/recording-angle';
import { contextOf } from '../../prepare/context';
import { playersOf } from '../../prepare/for-whom';
import type { MicArray, SessionTechnique, Source } from '../../session/schema';
import { cosDeg, sinDeg } from '../../units/guard';
import { formatNumber, lengthText } from '../../units/format';
import { ensembleArc, isApart } from '../array-figures';
import { interchannelCorrelation } from '../correlation';
import { LOW_HZ } from '../criteria';
import { shoeboxOf } from '../room';
import { azimuthFrom } from '../source-figures';
import type { ArrayView, Fix } from './finding';

/** A way to bring everybody inside the recording angle, in words, with what it costs. */
export interface WayOut {
  words: string;
  costs: string;
  fix: Fix;
}

const FARTHEST_BACK_M = 8;
const STEP_M = 0.1;
/** Spacing goes down in steps of a rule, m, and an angle by whole degrees. */
const SPACING_STEP_M = 0.005;
const LEAST_SPACING_M = 0.03;
const LEAST_ANGLE_DEG = 40;
/** A difference of correlation that nobody hears. */
const HARDLY = 0.05;
/** Kept between the outermost player and the recording angle, degrees. */
const MARGIN_DEG = 0.3;

interface Judged {
  holds: boolean;
  distanceM: number;
}

/** Whether an array holds all the players it is for, in place, where it would stand. */
function judged(
  { session, figures }: ArrayView,
  array: MicArray,
  players: readonly Source[],
): Judged {
  const ready = prepareArray(array, array.mix.capsules);
  const ensemble = ensembleArc(ready, players);
  if (!ensemble || !isApart(ready, ensemble)) return { holds: false, distanceM: 0 };
  const { distanceM, heightM } = ensemble;
  const model = modelById(leadingModel(figures.farField, session.settings.model));
  const { speed } = contextOf(session);
  const half = halfAngle(inPlace(ready, distanceM, heightM, speed), model, 1) ?? 180;
  const outermost = Math.max(...players.map((source) => Math.abs(azimuthFrom(ready, source))));
  return {
    holds: outermost + MARGIN_DEG <= half,
    distanceM: ready.steep ? Math.abs(array.z - heightM) : distanceM,
  };
}

function moveBack(view: ArrayView, players: readonly Source[], distanceM: number): WayOut | null {
  const { session, array } = view;
  // What looks down is raised instead.
  const up = looksSteeply(array) ? -Math.sign(array.tiltDeg) : 0;
  const room = shoeboxOf(session);
  const { units } = session.settings;
  for (let steps = 1; steps * STEP_M <= FARTHEST_BACK_M; steps++) {
    const backM = Math.round(steps * STEP_M * 100) / 100;
    const thousandths = (metres: number): number => Math.round(metres * 1000) / 1000;
    const moved = up
      ? { ...array, z: thousandths(array.z + up * backM) }
      : {
          ...array,
          x: thousandths(array.x - backM * sinDeg(array.aimDeg)),
          y: thousandths(array.y - backM * cosDeg(array.aimDeg)),
        };
    if (room && !isInside(room, moved)) return null;
    const there = judged(view, moved, players);
    if (!there.holds) continue;
    const costDb = 20 * Math.log10(there.distanceM / distanceM);
    const [by, to] = [lengthText(backM, units), lengthText(there.distanceM, units)];
    const act = up > 0 ? 'raise' : 'lower';
    return {
      words: up
        ? `${act} ${array.name} by ${by}, to ${to} ${up > 0 ? 'above' : 'below'} the players`
        : `move ${array.name} back by ${by}, to ${to} from the players`,
      costs: `${formatNumber(Math.max(0, costDb), 1)} dB less direct sound against the room`,
      fix: {
        label: up ? `${up > 0 ? 'Raise' : 'Lower'} it by ${by}` : `Move it back by ${by}`,
        changes: [
          { kind: 'array', id: array.id, set: up ? { z: moved.z } : { x: moved.x, y: moved.y } },
        ],
      },
    };
  }
  return null;
}

/** The largest value of a rule's steps below the present one with which everybody is held. */
function largestThatHolds(
  now: number,
  least: number,
  step: number,
  holds: (value: number) => boolean,
): number | null {
  if (!(least < now)) return null;
  const value = (steps: number): number =>
    Math.round((Math.floor(now / step) - steps) * step * 1000) / 1000;
  let [few, many] = [0, Math.floor((now - least) / step) + 1];
  while (few < many) {
    const middle = (few + many) >> 1;
    if (holds(value(middle))) many = middle;
    else few = middle + 1;
  }
  const found = value(few);
  return found >= least && found < now && holds(found) ? found : null;
}

const icldAt = (array: MicArray, source: Source, speed: number): number =>
  Math.abs(nearCues(prepareArray(array), source, speed)?.icldDb ?? 0);

function byTechnique(view: ArrayView, players: readonly Source[], outermost: Source): WayOut[] {
  const { session, array } = view;
  const { technique } = array;
  if (technique.kind !== 'pair') return [];
  const { speed } = contextOf(session);
  const { units } = session.settings;
  const ways: WayOut[] = [];
  const changedTo = (change: Partial<typeof technique>): MicArray => ({
    ...array,
    technique: { ...technique, ...change } satisfies SessionTechnique,
  });
  const fix = (label: string, { id, technique: set }: MicArray): Fix => ({
    label,
    changes: [{ kind: 'array', id, set: { technique: set } }],
  });
  const holds = (changed: MicArray): boolean => judged(view, changed, players).holds;
  const angle = largestThatHolds(technique.includedAngleDeg, LEAST_ANGLE_DEG, 1, (value) =>
    holds(changedTo({ includedAngleDeg: value })),
  );
  if (angle !== null) {
    const changed = changedTo({ includedAngleDeg: angle });
    const [before, after] = [array, changed].map((one) => icldAt(one, outermost, speed));
    ways.push({
      words: `set the included angle to ${angle}°`,
      costs: `${formatNumber(after, 1)} instead of ${formatNumber(before, 1)} dB between the channels at ${outermost.name}`,
      fix: fix(`Set the included angle to ${angle}°`, changed),
    });
  }
  const spacingM = largestThatHolds(technique.spacingM, LEAST_SPACING_M, SPACING_STEP_M, (value) =>
    holds(changedTo({ spacingM: value })),
  );
  if (spacingM !== null) {
    const changed = changedTo({ spacingM });
    const [before, after] = [array, changed].map(
      (one) => interchannelCorrelation(prepareArray(one), LOW_HZ, speed)?.real ?? null,
    );
    const label = `Set the spacing to ${lengthText(spacingM, units, 'bar')}`;
    ways.push({
      words: label.charAt(0).toLowerCase() + label.slice(1),
      costs: spaceCost(before ?? null, after ?? null),
      fix: fix(label, changed),
    });
  }
  return ways;
}

/** What a smaller spacing takes from the space in the bass. */
function spaceCost(before: number | null, after: number | null): string {
  if (before === null || after === null || after - before < HARDLY) return 'hardly less spacious';
  return `less spacious: correlation ${formatNumber(after, 2)} instead of ${formatNumber(before, 2)} at ${LOW_HZ} Hz`;
}

/**
 * Ways to hold everybody whom an array is for: first farther away, then by its angle, then by its
 * spacing. Empty where none of them does.
 */
export function waysOut(view: ArrayView): WayOut[] {
  const { session, array } = view;
  const { speed } = contextOf(session);
  const players = playersOf(array, session.sources, speed);
  const ready = prepareArray(array);
  const [outermost] = [...players].sort(
    (a, b) => Math.abs(azimuthFrom(ready, b)) - Math.abs(azimuthFrom(ready, a)),
  );
  if (!outermost) return [];
  const { distanceM } = judged(view, array, players);
  const back = distanceM > 0 ? moveBack(view, players, distanceM) : null;
  return [...(back ? [back] : []), ...byTechnique(view, players, outermost)];
}

/** "Move … back by 0.8 m (…), or set … (…)." */
export function waysInWords(ways: readonly WayOut[]): string {
  const text = ways.map(({ words, costs }) => `${words} (${costs})`).join(', or ');
  return text === '' ? 'Bring them in.' : `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
