import type { PlanPoint } from './polygon';

/** Customary floors of halls, each as wide and deep as is asked. */
export const OUTLINES = [
  'rectangle',
  'octagon',
  'L',
  'apse',
  'cross',
  'alcove',
  'fan',
  'horseshoe',
] as const;
export type OutlineName = (typeof OUTLINES)[number];

/** How many corners a half circle is drawn with. */
const ROUND = 8;

const thousandths = (m: number): number => Math.round(m * 1000) / 1000;

/** Corners of a half circle or half ellipse at the far end, from right to left, without its two ends. */
const roundEnd = (middleX: number, y: number, halfX: number, deepY: number): PlanPoint[] =>
  Array.from({ length: ROUND - 1 }, (_, i) => {
    const angle = (Math.PI * (i + 1)) / ROUND;
    return { x: middleX + halfX * Math.cos(angle), y: y + deepY * Math.sin(angle) };
  });

const SHAPES: Readonly<Record<OutlineName, (w: number, d: number) => PlanPoint[]>> = {
  rectangle: (w, d) => [
    { x: 0, y: 0 },
    { x: w, y: 0 },
    { x: w, y: d },
    { x: 0, y: d },
  ],
  octagon: (w, d) => {
    // Of a regular one every wall is as long as the next.
    const [cx, cy] = [w / (2 + Math.SQRT2), d / (2 + Math.SQRT2)];
    return [
      { x: cx, y: 0 },
      { x: w - cx, y: 0 },
      { x: w, y: cy },
      { x: w, y: d - cy },
      { x: w - cx, y: d },
      { x: cx, y: d },
      { x: 0, y: d - cy },
      { x: 0, y: cy },
    ];
  },
  L: (w, d) => [
    { x: 0, y: 0 },
    { x: 0.6 * w, y: 0 },
    { x: 0.6 * w, y: 0.5 * d },
    { x: w, y: 0.5 * d },
    { x: w, y: d },
    { x: 0, y: d },
  ],
  apse: (w, d) => {
    const deep = Math.min(w / 2, d / 2);
    const at = d - deep;
    return [
      { x: 0, y: 0 },
      { x: w, y: 0 },
      { x: w, y: at },
      ...roundEnd(w / 2, at, w / 2, deep),
      { x: 0, y: at },
    ];
  },
  cross: (w, d) => {
    const [a, b] = [0.3 * w, 0.7 * w];
    const [near, far] = [0.5 * d, 0.8 * d];
    return [
      { x: a, y: 0 },
      { x: b, y: 0 },
      { x: b, y: near },
      { x: w, y: near },
      { x: w, y: far },
      { x: b, y: far },
      { x: b, y: d },
      { x: a, y: d },
      { x: a, y: far },
      { x: 0, y: far },
      { x: 0, y: near },
      { x: a, y: near },
    ];
  },
  alcove: (w, d) => {
    const [a, b] = [0.3 * w, 0.7 * w];
    const at = 0.8 * d;
    return [
      { x: 0, y: 0 },
      { x: w, y: 0 },
      { x: w, y: at },
      { x: b, y: at },
      { x: b, y: d },
      { x: a, y: d },
      { x: a, y: at },
      { x: 0, y: at },
    ];
  },
  fan: (w, d) => [
    { x: 0, y: 0 },
    { x: w, y: 0 },
    { x: 0.7 * w, y: d },
    { x: 0.3 * w, y: d },
  ],
  horseshoe: (w, d) => {
    const deep = Math.min(w / 2, 0.6 * d);
    // Round behind the audience, open towards the stage.
    const round = roundEnd(w / 2, 0, w / 2, deep).map(({ x, y }) => ({ x: w - x, y: deep - y }));
    return [{ x: 0, y: deep }, ...round, { x: w, y: deep }, { x: w, y: d }, { x: 0, y: d }];
  },
};

/**
 * The corners of a customary floor, from the left front corner of the box around it, anticlockwise
 * from the audience's end; rounded to millimetres.
 * @param widthM 0.5 … 200 m
 * @param depthM 0.5 … 200 m
 */
export function outlineOf(name: OutlineName, widthM: number, depthM: number): PlanPoint[] {
  return SHAPES[name](widthM, depthM).map(({ x, y }) => ({ x: thousandths(x), y: thousandths(y) }));
}
