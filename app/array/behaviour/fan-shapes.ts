import type { CurvePoint, ModelId } from '../../../core/localisation';
import { AT_LOUDSPEAKER } from '../../../core/analysis';

/** Where the fan lies: the arc of directions above, the image line below; px. */
export interface FanFrame {
  width: number;
  height: number;
  /** directions from −limit to +limit are on the arc, degrees */
  limitDeg: number;
}

const SIDE = 64;
const TOP = 34;
const FOOT = 34;
/** Height of the arc over that of the whole fan. */
const ARC = 0.46;

/** A point on the fan, px. */
export interface At {
  x: number;
  y: number;
}

export const lineY = ({ height }: FanFrame): number => height - FOOT;
export const ends = ({ width }: FanFrame): [number, number] => [SIDE, width - SIDE];

/** A direction on the arc, or so many px outside of it. */
export function onArc(frame: FanFrame, deg: number, outPx = 0): At {
  const { width, height, limitDeg } = frame;
  const turn = ((deg / limitDeg) * Math.PI) / 2;
  const [rx, ry] = [(width - 2 * SIDE) / 2 - 8, (height - TOP - FOOT) * ARC];
  return {
    x: width / 2 + Math.sin(turn) * (rx + outPx),
    y: TOP + ry - Math.cos(turn) * (ry + outPx),
  };
}

/** A place on the image line, shift −1 … +1. */
export function onLine(frame: FanFrame, shift: number): At {
  const [x0, x1] = ends(frame);
  return { x: x0 + ((shift + 1) / 2) * (x1 - x0), y: lineY(frame) };
}

const text = ({ x, y }: At): string => `${x.toFixed(1)} ${y.toFixed(1)}`;

/** The bends of a thread: it leaves the arc inward and comes down on the line upright. */
function bends(frame: FanFrame, from: At, to: At): [At, At] {
  const centre = onArc(frame, 0).x;
  const fall = to.y - from.y;
  return [
    { x: from.x + (centre - from.x) * 0.08, y: from.y + fall * 0.42 },
    { x: to.x, y: to.y - fall * 0.42 },
  ];
}

/** From a direction to its place, as an SVG path. */
export function thread(frame: FanFrame, deg: number, shift: number): string {
  const [from, to] = [onArc(frame, deg), onLine(frame, shift)];
  const [a, b] = bends(frame, from, to);
  return `M${text(from)}C${text(a)} ${text(b)} ${text(to)}`;
}

/** Between two threads: what a wide player covers. */
export function ribbon(
  frame: FanFrame,
  [leftDeg, rightDeg]: readonly [number, number],
  [left, right]: readonly [number, number],
): string {
  const [from, to] = [onArc(frame, rightDeg), onLine(frame, right)];
  const [a, b] = bends(frame, from, to);
  return `${thread(frame, leftDeg, left)}L${text(to)}C${text(b)} ${text(a)} ${text(from)}Z`;
}

/** One thread of the ruler that hangs from the arc. */
export interface Thread {
  deg: number;
  /** null in antiphase, where there is no place */
  shift: number | null;
  /** it ends at a loudspeaker, as all directions farther out do */
  atLoudspeaker: boolean;
}

export const threadsOf = (curve: readonly CurvePoint[], model: ModelId): Thread[] =>
  curve.map(({ sourceDeg, shift }) => {
    const at = shift[model] ?? null;
    return {
      deg: sourceDeg,
      shift: at,
      atLoudspeaker: at !== null && Math.abs(at) >= AT_LOUDSPEAKER,
    };
  });
