import { clamp } from '../../core/units';
import { planCorners } from '../../core/hall';
import type { Draft } from 'immer';
import { putCorner, removeCorners } from './put-corner';
import type { Session } from '../../core/session';
import type { Selection } from '../view/choice';

/** Anything that stands on the floor and can be moved there. */
export interface Thing extends Selection {
  name: string;
  x: number;
  y: number;
  /** null for what has no height of its own */
  z: number | null;
}

interface Placed {
  id: string;
  name: string;
  x: number;
  y: number;
  z?: number;
}

function listOf(session: Session, kind: Selection['kind']): readonly Placed[] {
  switch (kind) {
    case 'source':
      return session.sources;
    case 'array':
      return session.arrays;
    case 'obstacle':
      return session.venue.obstacles;
    case 'seats':
      return session.venue.seats;
    case 'datum':
      return session.venue.datumPoints;
    case 'corner':
      return (planCorners(session.venue) ?? []).map((corner, i) => ({
        ...corner,
        id: `${i}`,
        name: `Corner ${i + 1}`,
      }));
  }
}

/** The thing that a selection names; null when it is gone. */
export function thingOf(session: Session, { kind, id }: Selection): Thing | null {
  const found = listOf(session, kind).find((entry) => entry.id === id);
  return found ? { kind, id, name: found.name, x: found.x, y: found.y, z: found.z ?? null } : null;
}

export function thingsOf(session: Session, selected: readonly Selection[]): Thing[] {
  return selected.flatMap((one) => thingOf(session, one) ?? []);
}

export interface Placement {
  x?: number;
  y?: number;
  z?: number;
}

const LIMIT_M = 200;
const MILLIMETRES = 1000;

/** A position inside the session's limits, to the millimetre. */
export function settle(metres: number): number {
  const inside = clamp(metres, -LIMIT_M, LIMIT_M);
  const rounded = Math.round(inside * MILLIMETRES) / MILLIMETRES;
  return rounded === 0 ? 0 : rounded;
}

/** Puts a thing somewhere; what is not given stays. */
export function placeThing(draft: Draft<Session>, { kind, id }: Selection, spot: Placement): void {
  if (kind === 'corner') {
    const at = {
      ...(spot.x === undefined ? {} : { x: settle(spot.x) }),
      ...(spot.y === undefined ? {} : { y: settle(spot.y) }),
    };
    putCorner(draft, Number(id), at);
    return;
  }
  const found = listOf(draft as Session, kind).find((entry) => entry.id === id) as
    Draft<Placed> | undefined;
  if (!found) return;
  if (spot.x !== undefined) found.x = settle(spot.x);
  if (spot.y !== undefined) found.y = settle(spot.y);
  if (spot.z !== undefined && found.z !== undefined) found.z = settle(spot.z);
}

/** Takes photographs away, and the contents that nothing names any more. */
export function removePhotographs(
  draft: Draft<Session>,
  gone: (photograph: Session['rig']['photographs'][number]) => boolean,
): void {
  const removed = draft.rig.photographs.filter(gone);
  draft.rig.photographs = draft.rig.photographs.filter((one) => !gone(one));
  for (const { picture } of removed) letGoPicture(draft, picture);
}

/** A content that neither a photograph nor the underlay names any more is let go. */
export function letGoPicture(draft: Draft<Session>, picture: string): void {
  const named = draft.rig.photographs.some((one) => one.picture === picture);
  if (!named && draft.venue.underlay?.picture !== picture) {
    draft.blobs = draft.blobs.filter((one) => one.id !== picture);
  }
}

/** Takes things away; players' wishes and wanted places about them go too. */
export function removeThings(draft: Draft<Session>, selected: readonly Selection[]): void {
  const gone = (kind: Selection['kind']) =>
    new Set(selected.filter((one) => one.kind === kind).map(({ id }) => id));
  const [sources, arrays] = [gone('source'), gone('array')];
  const [obstacles, seats, points] = [gone('obstacle'), gone('seats'), gone('datum')];
  const corners = gone('corner');
  if (corners.size > 0) removeCorners(draft, new Set([...corners].map(Number)));
  draft.sources = draft.sources.filter(({ id }) => !sources.has(id));
  draft.arrays = draft.arrays.filter(({ id }) => !arrays.has(id));
  if (arrays.size > 0) removePhotographs(draft, ({ arrayId }) => arrays.has(arrayId));
  const { venue, brief } = draft;
  venue.obstacles = venue.obstacles.filter(({ id }) => !obstacles.has(id));
  venue.seats = venue.seats.filter(({ id }) => !seats.has(id));
  venue.datumPoints = venue.datumPoints.filter(({ id }) => !points.has(id));
  brief.intent.bands = brief.intent.bands.filter(({ sourceId }) => !sources.has(sourceId));
  for (const source of draft.sources) {
    source.constraints = source.constraints.filter(
      (wish) => wish.kind === 'row' || !sources.has(wish.sourceId),
    );
  }
  // A section without players is nothing any more; one that lost some has fewer.
  for (const section of draft.sections) {
    section.count = draft.sources.filter(({ sectionId }) => sectionId === section.id).length;
  }
  draft.sections = draft.sections.filter(({ count }) => count > 0);
}
