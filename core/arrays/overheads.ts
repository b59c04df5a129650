import { toDeg } from '../units/guard';
import { distance, planDistance, type Vec3 } from '../units/vector';
import { done, refused, type Outcome } from '../units/outcome';
import { equalDistancePoints, mirroredThroughAnchors } from './equal-distance';

/** Two microphones at equal distances from what stands or sits below them. */
export type OverheadForm = 'mirrored' | 'over-side';

export interface Overheads {
  first: Vec3;
  second: Vec3;
}

export interface OverheadsWanted {
  form: OverheadForm;
  anchor: Vec3;
  /** a second anchor, through which the mirror goes; null: straight upstage */
  other: Vec3 | null;
  /** the first microphone against the anchor, m */
  right: number;
  back: number;
  up: number;
  /** the second of the over-plus-side form: height, and how far upstage of the anchor, m */
  sideUp: number;
  sideBack: number;
}

/**
 * Both positions, in the plan frame, m; refused with the reason where there are none.
 * Mirrored: the second is the first mirrored on the plan through the line of the anchors, so both
 * are equally far from each. Over plus side: the second lies on a line across the anchor, on the
 * other side than the first, as far from the anchor as the first; with two anchors it is the point
 * at that height which is as far from both as the first, on the other side of their line.
 */
export function overheadPositions(wanted: OverheadsWanted): Outcome<Overheads> {
  const { form, anchor, other, right, back, up, sideUp, sideBack } = wanted;
  const first = { x: anchor.x + right, y: anchor.y + back, z: anchor.z + up };
  if (form === 'mirrored') {
    const axis = other ?? { ...anchor, y: anchor.y + 1 };
    if (planDistance(axis, anchor) < 1e-6) {
      return refused('Both anchors stand at one place on the plan: choose two places.');
    }
    return done({ first, second: mirroredThroughAnchors(first, anchor, axis) });
  }
  if (other) return sideOfBoth(first, anchor, other, anchor.z + sideUp);
  const from = { x: anchor.x, y: anchor.y + sideBack, z: anchor.z + sideUp };
  const points = equalDistancePoints(anchor, first, from, { x: right < 0 ? 1 : -1, y: 0, z: 0 });
  const second = points[points.length - 1];
  return second
    ? done({ first, second })
    : refused(
        'No point of that line is as far from the anchor as the first microphone: bring the second nearer in height or depth, or lift the first.',
      );
}

/** The crossing of two circles on the plan that lies on the other side of the anchors' line. */
function sideOfBoth(first: Vec3, anchor: Vec3, other: Vec3, z: number): Outcome<Overheads> {
  const [dx, dy] = [other.x - anchor.x, other.y - anchor.y];
  const apart = Math.hypot(dx, dy);
  if (apart < 1e-6) {
    return refused('Both anchors stand at one place on the plan: choose two places.');
  }
  const squareOnPlan = (of: Vec3): number => distance(first, of) ** 2 - (z - of.z) ** 2;
  const [near, far] = [squareOnPlan(anchor), squareOnPlan(other)];
  const along = (near - far + apart * apart) / (2 * apart);
  const across = near - along * along;
  if (!(near >= 0 && far >= 0 && across >= 0)) {
    return refused(
      'No point at that height is as far from both anchors as the first microphone: change the height of the second, or lift the first.',
    );
  }
  const unit = { x: dx / apart, y: dy / apart };
  const side = unit.x * (first.y - anchor.y) - unit.y * (first.x - anchor.x) > 0 ? -1 : 1;
  const off = side * Math.sqrt(across);
  return done({
    first,
    second: {
      x: anchor.x + unit.x * along - unit.y * off,
      y: anchor.y + unit.y * along + unit.x * off,
      z,
    },
  });
}

/** Where a pair on one bar stands, and where it looks. */
export interface PairPlace {
  x: number;
  y: number;
  z: number;
  aimDeg: number;
  tiltDeg: number;
}

/**
 * A coincident or near-coincident pair above the line of two anchors, looking down, its bar across
 * the line: whatever its spacing and angle, both anchors are in the middle of its picture.
 * @param fraction along the line from the first anchor to the second, 0 … 1
 * @param upM above the line there, m
 */
export function pairOverLine(
  anchor: Vec3,
  other: Vec3,
  fraction: number,
  upM: number,
): Outcome<PairPlace> {
  if (planDistance(anchor, other) < 1e-6) {
    return refused('Both anchors stand at one place on the plan: choose two places.');
  }
  const at = (key: 'x' | 'y' | 'z'): number =>
    Math.round((anchor[key] + fraction * (other[key] - anchor[key])) * 1e6) / 1e6;
  return done({
    x: at('x'),
    y: at('y'),
    z: Math.round((at('z') + upM) * 1e6) / 1e6,
    aimDeg: toDeg(Math.atan2(other.x - anchor.x, other.y - anchor.y)),
    tiltDeg: -90,
  });
}
