import type { Source } from '../../../core/session';
import type { Vec3 } from '../../../core/units';

/** What the axes are aimed at: an instrument's width, or the line between two players. */
export interface Row {
  name: string;
  /** left and right end as seen from the array */
  from: Vec3;
  to: Vec3;
  /** the wide source itself; null for a line between two players */
  source: Source | null;
}
