import { asOutline, planCorners, stretched } from '../../core/hall';
import type { Session, Venue } from '../../core/session';
import type { OutlineName, PlanPoint } from '../../core/units';
import { outlineProblems } from '../../core/units';
import type { Draft } from 'immer';
import { chooseTool, toolStore } from '../view/floor-tools';
import { select } from '../view/choice';
import { notify } from '../view/notices';
import { editHall } from './edits';
import { putCorners, removeCorners, shiftWalls } from './put-corner';
import { edit, sessionStore } from './session-store';

/** Edits of the hall's outline: all of them leave everything else where it stands on the plan. */

const venueOf = (draft: Draft<Session>): Venue => draft.venue;

/** A new corner in the middle of a wall: after the corner of that index. */
export function addCornerAfter(index: number): void {
  const { session } = sessionStore.getState();
  const corners = session && planCorners(session.venue);
  const from = corners?.[index];
  if (!corners || !from) return;
  const to = corners[(index + 1) % corners.length] ?? from;
  const middle = { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 };
  const done = edit((draft) => {
    putCorners(draft, [...corners.slice(0, index + 1), middle, ...corners.slice(index + 1)]);
    shiftWalls(draft, index + 1, 1);
  });
  if (done) select({ kind: 'corner', id: `${index + 1}` });
}

/** Takes a corner away: its two walls become one. */
export function removeCorner(index: number): void {
  const done = edit((draft) => removeCorners(draft, new Set([index])));
  if (done) select(null);
}

/** A hall that has no size yet is made as large as this, m. */
const USUAL_M = { widthM: 12, depthM: 18, heightM: 6 };

/** The hall in a customary shape, as large as it is. */
export function takeOutline(name: OutlineName): void {
  editHall((draft) => {
    const venue = venueOf(draft);
    const { widthM, depthM } = { ...USUAL_M, ...sized(venue) };
    Object.assign(draft.venue, asOutline(venue, name, widthM, depthM));
    draft.venue.heightM ??= USUAL_M.heightM;
    dropNumberedWalls(draft);
  });
}

function sized({ widthM, depthM }: Venue): { widthM?: number; depthM?: number } {
  return widthM === null || depthM === null ? {} : { widthM, depthM };
}

/** Another outline has other walls: what was said of the old ones is said of none of them. */
function dropNumberedWalls(draft: Draft<Session>): void {
  const kept = ({ surface }: { surface: string }): boolean => !/^wall \d+$/.test(surface);
  draft.venue.surfaces = draft.venue.surfaces.filter(kept);
  draft.venue.areas = draft.venue.areas.filter(kept);
}

/** Another width or depth: a shape is stretched to it. */
export function sizeHall(name: 'widthM' | 'depthM', value: number | null): void {
  editHall((draft) => {
    const venue = venueOf(draft);
    const size = { widthM: venue.widthM, depthM: venue.depthM, [name]: value };
    Object.assign(draft.venue, stretched(venue, size.widthM, size.depthM));
  });
}

// Tracing

export const beginTrace = (): void => {
  select(null);
  chooseTool('trace');
  toolStore.setState({ trace: [] });
};

/** Nearer than this to the first corner a click closes the outline, m; and so near walls settle upright. */
const CLOSES_M = 0.35;
const SETTLES_M = 0.2;
const centimetres = (metres: number): number => Math.round(metres * 100) / 100;

/** The next corner of the outline that is traced; on the first one it is closed. */
export function traceTo(point: PlanPoint): void {
  const { trace, snap } = toolStore.getState();
  const [first] = trace;
  const last = trace[trace.length - 1];
  if (first && trace.length >= 3 && Math.hypot(first.x - point.x, first.y - point.y) < CLOSES_M) {
    closeTrace();
    return;
  }
  const settled = { x: centimetres(point.x), y: centimetres(point.y) };
  if (snap && last) {
    if (Math.abs(settled.x - last.x) < SETTLES_M) settled.x = last.x;
    else if (Math.abs(settled.y - last.y) < SETTLES_M) settled.y = last.y;
  }
  toolStore.setState({ trace: [...trace, settled] });
}

export const untrace = (): void =>
  toolStore.setState(({ trace }) => ({ trace: trace.slice(0, -1) }));

/** Why what is traced cannot be closed yet; null where it can. */
export function traceProblem(trace: readonly PlanPoint[]): string | null {
  const [problem] = outlineProblems(trace);
  return problem?.message ?? null;
}

/** Makes the hall of what was traced; where that is no outline it says why and keeps the corners. */
export function closeTrace(): void {
  const { trace } = toolStore.getState();
  const problem = traceProblem(trace);
  if (problem !== null) {
    notify(`Not closed: ${problem}.`);
    return;
  }
  editHall((draft) => {
    putCorners(draft, trace);
    draft.venue.heightM ??= USUAL_M.heightM;
    dropNumberedWalls(draft);
  });
  toolStore.setState({ trace: [] });
  chooseTool('corners');
}
