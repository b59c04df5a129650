import type { Face } from '../acoustics/faced-room';
import type { PlanPoint } from '../units/polygon';

/** A straight line of a section: x is the plan's y (upstage), y the height, m. */
export interface SectionLine {
  /** the face that is cut */
  id: string;
  from: PlanPoint;
  to: PlanPoint;
}

/**
 * What an upright cut from front to back meets of a hall's faces.
 * @param x where it cuts, right of the datum, m
 */
export function sectionAt(
  faces: readonly Pick<Face, 'id' | 'corners'>[],
  x: number,
): SectionLine[] {
  return faces.flatMap(({ id, corners }): SectionLine[] => {
    const met: { at: PlanPoint; along: number }[] = [];
    corners.forEach((a, i) => {
      const b = corners[(i + 1) % corners.length] ?? a;
      // A corner on the cut belongs to one of its two edges.
      if (a.x > x === b.x > x) return;
      const share = (x - a.x) / (b.x - a.x);
      const at = { x: a.y + share * (b.y - a.y), y: a.z + share * (b.z - a.z) };
      met.push({ at, along: at.x + 1e-6 * at.y });
    });
    met.sort((p, q) => p.along - q.along || p.at.y - q.at.y);
    const lines: SectionLine[] = [];
    for (let i = 0; i + 1 < met.length; i += 2) {
      const [from, to] = [met[i]?.at, met[i + 1]?.at];
      if (from && to) lines.push({ id, from, to });
    }
    return lines;
  });
}
