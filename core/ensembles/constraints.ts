import type { Session, Source } from '../session/schema';
import { lengthText } from '../units/format';
import { crosses, nearestOnStretch } from '../units/geometry';
import { planDistance, vec, type Vec3 } from '../units/vector';
import { sectionPlaces } from './section-layout';

/** A wish of a player that the plan does not keep. */
export interface Violation {
  sourceId: string;
  /** which of the player's wishes: its kind, and whom it is about */
  wish: string;
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

/** Sight is judged on the plan. */
const flat = ({ x, y }: Point): Vec3 => vec(x, y, 0);

const EYES_ABOVE_SOUND_M = 0.2;

function sightBlockedBy(session: Session, from: Source, to: Source): string | null {
  const head = session.sources.find((other) => {
    if (other === from || other === to) return false;
    const { distanceM, fraction } = nearestOnStretch(flat(other), flat(from), flat(to));
    return distanceM < HEAD_M && fraction > 0.02 && fraction < 0.98;
  });
  if (head) return head.name;
  const eyes = Math.min(from.z, to.z) + EYES_ABOVE_SOUND_M;
  const object = session.venue.obstacles.find(
    (obstacle) =>
      obstacle.baseM + obstacle.heightM > eyes &&
      obstacle.baseM <= eyes &&
      crosses(from, to, obstacle),
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
    const off = Math.min(...sectionPlaces(section).map((p) => planDistance(p, source)));
    return off > IN_ROW_M
      ? `${source.name} must stay in the rows of ${section.name}, and stands ${lengthText(off, session.settings.units)} off.`
      : null;
  }
  const other = session.sources.find(({ id }) => id === constraint.sourceId);
  if (!other) return null;
  if (constraint.kind === 'near') {
    const apart = planDistance(other, source);
    return apart > constraint.mostM
      ? `${source.name} wants to be within ${lengthText(constraint.mostM, session.settings.units)} of ${other.name}; it is ${lengthText(apart, session.settings.units)}.`
      : null;
  }
  const blocker = sightBlockedBy(session, source, other);
  return blocker === null
    ? null
    : `${source.name} must see ${other.name}; ${blocker} stands in the way.`;
}

const mostOf = (wish: Source['constraints'][number]): number =>
  wish.kind === 'near' ? wish.mostM : 0;

/** Every wish that the plan does not keep; wishes about players who are gone do not count. */
export function violations(session: Session): Violation[] {
  return session.sources.flatMap((source) => {
    // Wished twice, the narrower counts.
    const found = new Map<string, Violation>();
    for (const constraint of [...source.constraints].sort((a, b) => mostOf(a) - mostOf(b))) {
      const wish = constraint.kind === 'row' ? 'row' : `${constraint.kind} ${constraint.sourceId}`;
      if (found.has(wish)) continue;
      const message = violationOf(session, source, constraint);
      if (message !== null) found.set(wish, { sourceId: source.id, wish, message });
    }
    return [...found.values()];
  });
}
