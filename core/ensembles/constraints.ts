import { clamp } from '../units/numbers';
import type { Obstacle, Session, Source } from '../session/schema';
import { lengthText } from '../units/format';
import { cosDeg, sinDeg } from '../units/guard';
import { sectionPlaces } from './section-layout';

/** A wish of a player that the plan does not keep. */
export interface Violation {
  sourceId: string;
  message: string;
}

interface Point {
  x: number;
  y: number;
}

/** A head in the line of sight hides when it is nearer to the line than this, m. */
const HEAD_M = 0.2;
/** A player counts as in the row within this distance of one of its places, m. */
const IN_ROW_M = 0.35;

/** Distance of a point from the stretch between two others, and where along it lies nearest. */
function fromStretch(point: Point, a: Point, b: Point): { distanceM: number; fraction: number } {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const square = dx * dx + dy * dy;
  const raw = square > 0 ? ((point.x - a.x) * dx + (point.y - a.y) * dy) / square : 0;
  const fraction = clamp(raw, 0, 1);
  return {
    distanceM: Math.hypot(point.x - a.x - fraction * dx, point.y - a.y - fraction * dy),
    fraction,
  };
}

/** Does the stretch between two points cross a turned rectangle? (slab method) */
export function crossesObstacle(a: Point, b: Point, obstacle: Obstacle): boolean {
  const { x, y, widthM, depthM, turnDeg } = obstacle;
  const [sine, cosine] = [sinDeg(turnDeg), cosDeg(turnDeg)];
  const local = (p: Point): Point => ({
    x: (p.x - x) * cosine - (p.y - y) * sine,
    y: (p.x - x) * sine + (p.y - y) * cosine,
  });
  const [from, to] = [local(a), local(b)];
  let [enter, leave] = [0, 1];
  for (const [start, end, half] of [
    [from.x, to.x, widthM / 2],
    [from.y, to.y, depthM / 2],
  ] as const) {
    const step = end - start;
    if (Math.abs(step) < 1e-12) {
      if (Math.abs(start) > half) return false;
      continue;
    }
    const [near, far] = [(-half - start) / step, (half - start) / step];
    enter = Math.max(enter, Math.min(near, far));
    leave = Math.min(leave, Math.max(near, far));
  }
  return enter <= leave;
}

const EYES_ABOVE_SOUND_M = 0.2;

function sightBlockedBy(session: Session, from: Source, to: Source): string | null {
  const head = session.sources.find((other) => {
    if (other === from || other === to) return false;
    const { distanceM, fraction } = fromStretch(other, from, to);
    return distanceM < HEAD_M && fraction > 0.02 && fraction < 0.98;
  });
  if (head) return head.name;
  const eyes = Math.min(from.z, to.z) + EYES_ABOVE_SOUND_M;
  const object = session.venue.obstacles.find(
    (obstacle) => obstacle.heightM > eyes && crossesObstacle(from, to, obstacle),
  );
  return object?.name ?? null;
}

function violationOf(
  session: Session,
  source: Source,
  constraint: Source['constraints'][number],
): string | null {
  if (constraint.kind === 'row') {
    const section = session.sections.find(({ id }) => id === source.sectionId);
    if (!section) return null;
    const off = Math.min(
      ...sectionPlaces(section).map((p) => Math.hypot(p.x - source.x, p.y - source.y)),
    );
    return off > IN_ROW_M
      ? `${source.name} must stay in the rows of ${section.name}, and stands ${lengthText(off, session.settings.units)} off.`
      : null;
  }
  const other = session.sources.find(({ id }) => id === constraint.sourceId);
  if (!other) return null;
  if (constraint.kind === 'near') {
    const apart = Math.hypot(other.x - source.x, other.y - source.y);
    return apart > constraint.mostM
      ? `${source.name} wants to be within ${lengthText(constraint.mostM, session.settings.units)} of ${other.name}; it is ${lengthText(apart, session.settings.units)}.`
      : null;
  }
  const blocker = sightBlockedBy(session, source, other);
  return blocker === null
    ? null
    : `${source.name} must see ${other.name}; ${blocker} stands in the way.`;
}

/** Every wish that the plan does not keep; wishes about players who are gone do not count. */
export function violations(session: Session): Violation[] {
  return session.sources.flatMap((source) =>
    source.constraints.flatMap((constraint) => {
      const message = violationOf(session, source, constraint);
      return message === null ? [] : [{ sourceId: source.id, message }];
    }),
  );
}
