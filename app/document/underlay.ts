import { planDistance } from '../../core/units';
import type { Underlay } from '../../core/session';
import { edit, sessionStore } from './session-store';
import { traceTo } from './hall-shape';
import { select } from '../view/choice';
import { chooseTool, measureFrom, toolStore } from '../view/floor-tools';

export const changeUnderlay = (change: Partial<Underlay>): boolean =>
  edit((draft) => {
    if (draft.venue.underlay) Object.assign(draft.venue.underlay, change);
  });

/** Takes the picture away, and what the session says of it. */
export const removeUnderlay = (): boolean =>
  edit((draft) => {
    const { underlay } = draft.venue;
    draft.venue.underlay = null;
    draft.blobs = draft.blobs.filter(({ id }) => id !== underlay?.picture);
  });

interface Point {
  x: number;
  y: number;
}

/** The picture scaled about its first point so that two points are so far apart. */
export function scaledUnderlay(
  underlay: Underlay,
  a: Point,
  b: Point,
  distanceM: number,
): Pick<Underlay, 'metresPerPixel' | 'x' | 'y'> {
  const now = planDistance(a, b);
  const factor = distanceM / now;
  return {
    metresPerPixel: underlay.metresPerPixel * factor,
    x: a.x + (underlay.x - a.x) * factor,
    y: a.y + (underlay.y - a.y) * factor,
  };
}

/** What a click on the bare floor does, by the tool in hand. */
export function clickGround(x: number, y: number): void {
  const { tool } = toolStore.getState();
  if (tool === 'measure' || tool === 'scale') measureFrom({ x, y });
  else if (tool === 'trace') traceTo({ x, y });
  else if (tool === 'origin') {
    const underlay = sessionStore.getState().session?.venue.underlay;
    if (underlay) changeUnderlay({ x: underlay.x - x, y: underlay.y - y });
    chooseTool('select');
  } else select(null);
}
