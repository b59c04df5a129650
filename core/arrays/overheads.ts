import { planDistance } from '../units/vector';
import type { Vec3 } from '../units/vector';
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
 * other side than the first, as far from the anchor as the first.
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
  const from = { x: anchor.x, y: anchor.y + sideBack, z: anchor.z + sideUp };
  const points = equalDistancePoints(anchor, first, from, { x: right < 0 ? 1 : -1, y: 0, z: 0 });
  const second = points[points.length - 1];
  return second
    ? done({ first, second })
    : refused(
        'No point of that line is as far from the anchor as the first microphone: bring the second nearer in height or depth, or lift the first.',
      );
}
