import { cosDeg, sinDeg, toDeg, wrapDeg, type UnitSystem, planDistance } from '../../../core/units';

/** What a moving mark can settle on. */
export interface SnapScene {
  /** the array that the floor is ruled from; null when the array itself moves, or there is none */
  centre: { x: number; y: number; aimDeg: number } | null;
  /** everything that stands still */
  others: readonly { name: string; x: number; y: number; player: boolean }[];
  units: UnitSystem;
}

export interface Snapped {
  x: number;
  y: number;
  /** why it is there and not under the pointer, in words; empty when nothing took hold */
  reasons: string[];
}

const SPOKE_DEG = 5;
const FOOT = 0.3048;

interface Hold {
  value: number;
  reason: string;
}

/** The nearest of some values within reach. */
function nearest(value: number, holds: readonly Hold[], reach: number): Hold | null {
  let best: Hold | null = null;
  for (const hold of holds) {
    const off = Math.abs(hold.value - value);
    if (off <= reach && (!best || off < Math.abs(best.value - value))) best = hold;
  }
  return best;
}

function mirrored(scene: SnapScene, x: number, y: number, reach: number): Snapped | null {
  const twin = scene.others.find((other) => Math.hypot(-other.x - x, other.y - y) <= reach);
  if (!twin || Math.abs(twin.x) < 1e-6) return null;
  return { x: -twin.x, y: twin.y, reasons: [`mirror of ${twin.name}`] };
}

/** Angle and distance from the array, each on its own. */
function polar(scene: SnapScene, x: number, y: number, reach: number): Snapped | null {
  const { centre } = scene;
  if (!centre) return null;
  const [dx, dy] = [x - centre.x, y - centre.y];
  const distance = Math.hypot(dx, dy);
  if (distance < 0.3) return null;
  const deg = wrapDeg(toDeg(Math.atan2(dx, dy)) - centre.aimDeg);
  const away = scene.others
    .filter(({ player }) => player)
    .map((other) => ({
      value: planDistance(other, centre),
      reason: `as far as ${other.name}`,
    }));
  const same = nearest(distance, away, reach);
  const spoke = Math.round(deg / SPOKE_DEG) * SPOKE_DEG;
  const reachDeg = toDeg(reach / distance);
  const angle = nearest(deg, [{ value: spoke, reason: `${Math.abs(spoke)}°` }], reachDeg);
  if (!same && !angle) return null;
  const r = same?.value ?? distance;
  const turn = centre.aimDeg + (angle?.value ?? deg);
  return {
    x: centre.x + r * sinDeg(turn),
    y: centre.y + r * cosDeg(turn),
    reasons: [same?.reason, angle?.reason].filter((reason) => reason !== undefined),
  };
}

/** In line with others, on the centre line, or on the grid: each axis on its own. */
function square(scene: SnapScene, x: number, y: number, reach: number): Snapped | null {
  const step = scene.units === 'metric' ? 0.5 : 2 * FOOT;
  const grid = (value: number): Hold => ({
    value: Math.round(value / step) * step,
    reason: 'grid',
  });
  const column = [
    { value: 0, reason: 'centre line' },
    ...scene.others.map((other) => ({ value: other.x, reason: `in line with ${other.name}` })),
  ];
  const row = scene.others.map((other) => ({ value: other.y, reason: `level with ${other.name}` }));
  const onX = nearest(x, column, reach) ?? nearest(x, [grid(x)], reach);
  const onY = nearest(y, row, reach) ?? nearest(y, [grid(y)], reach);
  if (!onX && !onY) return null;
  const reasons = [onX?.reason, onY?.reason].filter((reason) => reason !== undefined);
  return { x: onX?.value ?? x, y: onY?.value ?? y, reasons: [...new Set(reasons)] };
}

/**
 * Where a mark settles near a point: the mirror of another first, then angle and distance from the
 * array, then lines and grid.
 * @param reach how near it must come, m
 */
export function snap(scene: SnapScene, x: number, y: number, reach: number): Snapped {
  return (
    mirrored(scene, x, y, reach) ??
    polar(scene, x, y, reach) ??
    square(scene, x, y, reach) ?? { x, y, reasons: [] }
  );
}
