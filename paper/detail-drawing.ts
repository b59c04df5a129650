import { capsulesInFrame } from '../core/arrays';
import { patternText } from '../core/rig';
import { patternAOf } from '../core/acoustics';
import { mountsOf } from '../core/mechanics';
import { looksSteeply } from '../core/localisation';
import type { MicArray } from '../core/session';
import { angleText, cosDeg, sinDeg } from '../core/units';
import { line, text, Wording, type Drawing, type Point, type Shape } from './sheet-drawing';

/** Size of the drawing of one array. */
export const DETAIL_HEIGHT = 170;
const AXIS_PX = 26;
const MARGIN_PX = 54;
/** Nothing is drawn larger than so many units a metre: a coincident pair would be all bar. */
const LARGEST_SCALE = 500;

interface Placed {
  label: string;
  at: Point;
  /** towards where it looks, on the drawing */
  axis: Point;
  flat: number;
  words: string;
}

/** Lengths of a scale bar, m. */
const BARS_M = [0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10] as const;

function dimension(from: Point, to: Point, words: string, wording: Wording): Shape[] {
  const tick = 4;
  const across = Math.abs(to[0] - from[0]) >= Math.abs(to[1] - from[1]);
  const ends = [from, to].map(([x, y]) =>
    across
      ? line([x, y - tick], [x, y + tick], 'ink', 0.8)
      : line([x - tick, y], [x + tick, y], 'ink', 0.8),
  );
  const [mx, my] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  const aside = words.length * 3.2 + 6;
  const places: Point[] = across
    ? [
        [mx, my - 4],
        [mx, my + 13],
      ]
    : [
        [mx + aside, my + 3],
        [mx - aside, my + 3],
      ];
  return [line(from, to, 'ink', 0.8), ...ends, ...wording.put(words, places, 10.5, true)];
}

/**
 * One array at its own scale, in its own frame: its aim is up on the drawing. Bars, capsules with
 * their axes, labels and patterns, and how far apart they are.
 * @param lengthText a length as it is set at a bar
 */
export function detailDrawing(
  array: MicArray,
  width: number,
  height: number,
  lengthText: (metres: number) => string,
): Drawing {
  const capsules = capsulesInFrame(array.technique);
  const [xs, ys] = [capsules.map(({ dx }) => dx), capsules.map(({ dy }) => dy)];
  const [left, right] = [Math.min(0, ...xs), Math.max(0, ...xs)];
  const [back, front] = [Math.min(0, ...ys), Math.max(0, ...ys)];
  const scale = Math.min(
    LARGEST_SCALE,
    (width - 2 * MARGIN_PX - 120) / Math.max(right - left, 0.01),
    (height - 2 * MARGIN_PX) / Math.max(front - back, 0.01),
  );
  const [midX, midY] = [width / 2, height / 2 + 8];
  const at = (dx: number, dy: number): Point => [
    midX + (dx - (left + right) / 2) * scale,
    midY - (dy - (back + front) / 2) * scale,
  ];
  const wording = new Wording();
  const placed: Placed[] = capsules.map((capsule, i) => {
    const { dx, dy, dz, azimuthDeg, elevationDeg, pattern } = capsule;
    const flat = cosDeg(elevationDeg);
    const up =
      Math.abs(dz) < 0.0005 ? '' : `, ${lengthText(Math.abs(dz))} ${dz > 0 ? 'higher' : 'lower'}`;
    return {
      label: capsule.label || `${i + 1}`,
      at: at(dx, dy),
      axis: [sinDeg(azimuthDeg) * flat, -cosDeg(azimuthDeg) * flat],
      flat,
      words: `${patternText(patternAOf(pattern))}${up}`,
    };
  });
  for (const {
    at: [x, y],
  } of placed) {
    wording.keep({ left: x - 4, right: x + 4, top: y - 4, bottom: y + 4 });
  }
  const bars = mountsOf(array).flatMap(({ capsules: own }): Shape[] => {
    const points = own.flatMap((i): Point[] => (placed[i] ? [placed[i].at] : []));
    const [first] = points;
    if (!first) return [];
    if (points.length === 1) {
      return [{ kind: 'circle', at: first, radius: 9, ink: 'grey', filled: false }];
    }
    const centre: Point = [
      points.reduce((total, [x]) => total + x, 0) / points.length,
      points.reduce((total, [, y]) => total + y, 0) / points.length,
    ];
    return points.map((point) => line(centre, point, 'grey', 3));
  });
  const [aimX, aimY] = [28, 40];
  const bar = [...BARS_M].reverse().find((metres) => metres * scale <= width / 5) ?? BARS_M[0];
  return {
    width,
    height,
    title: `${array.name} at its own scale, its aim upwards; the tables hold the same figures`,
    shapes: [
      ...bars,
      ...placed.map(({ at: [x, y], axis: [ax, ay] }) =>
        line([x, y], [x + ax * AXIS_PX, y + ay * AXIS_PX], 'accent', 3),
      ),
      ...placed.map(({ at: point }): Shape => ({
        kind: 'circle',
        at: point,
        radius: 3.5,
        ink: 'ink',
        filled: true,
      })),
      ...dimensions(array, placed, at, wording, lengthText),
      ...labels(placed, wording),
      line([aimX, aimY], [aimX, aimY - 24], 'ink', 1.4),
      line([aimX, aimY - 24], [aimX - 4, aimY - 16], 'ink', 1.4),
      line([aimX, aimY - 24], [aimX + 4, aimY - 16], 'ink', 1.4),
      text(
        looksSteeply(array) ? `aim, ${array.tiltDeg < 0 ? 'down' : 'up'}` : 'aim',
        [aimX - 12, aimY + 13],
        10,
        'ink',
        false,
      ),
      line([12, height - 10], [12 + bar * scale, height - 10], 'ink', 2),
      text(lengthText(bar), [12, height - 15], 10, 'ink', false),
      ...legend(mountsOf(array).length, width, height),
    ],
  };
}

/** What the drawing's signs mean. */
function legend(stands: number, width: number, height: number): Shape[] {
  const words = [
    'dot: capsule',
    'green: where it looks',
    stands > 1 ? `grey: its stand (${stands})` : 'grey: bar',
  ].join(' · ');
  return [text(words, [width - words.length * 5.2 - 8, height - 10], 10, 'grey', false)];
}

function labels(placed: readonly Placed[], wording: Wording): Shape[] {
  // Two of one place, as mid and side, share their words.
  const places = new Map<string, Placed[]>();
  for (const one of placed) {
    const key = one.at.map((value) => Math.round(value / 6)).join();
    places.set(key, [...(places.get(key) ?? []), one]);
  }
  return [...places.values()].flatMap((here) => {
    const [first] = here;
    if (!first) return [];
    const [x, y] = first.at;
    const alike = new Set(here.map(({ words }) => words)).size === 1;
    const words = alike
      ? `${here.map(({ label }) => label).join(' and ')} ${first.words}`
      : here.map(({ label, words: own }) => `${label} ${own}`).join(', ');
    const half = words.length * 2.8 + 14;
    return wording.put(
      words,
      [
        [x, y + 17],
        [x, y + 29],
        [x - half, y + 4],
        [x + half, y + 4],
        [x, y - 34],
        [x, y + 41],
      ],
      10,
      true,
    );
  });
}

function dimensions(
  array: MicArray,
  placed: readonly Placed[],
  at: (dx: number, dy: number) => Point,
  wording: Wording,
  lengthText: (metres: number) => string,
): Shape[] {
  const { technique } = array;
  const [first, second] = placed;
  if (technique.kind === 'single' || !first || !second) return [];
  if (technique.kind === 'mid-side') return [];
  if (technique.kind === 'pair') {
    const { spacingM, includedAngleDeg } = technique;
    const below = Math.max(first.at[1], second.at[1]) + 34;
    const top = at(0, 0)[1] - AXIS_PX - 12;
    const middle = (first.at[0] + second.at[0]) / 2;
    return [
      ...(spacingM > 0.0005
        ? dimension([first.at[0], below], [second.at[0], below], lengthText(spacingM), wording)
        : wording.put('at one point', [[middle, below]], 10.5, true)),
      ...wording.put(
        includedAngleDeg === 0 ? 'parallel' : angleText(includedAngleDeg),
        [[middle, top]],
        10.5,
        true,
      ),
    ];
  }
  const capsules = technique.capsules;
  const xs = capsules.map(({ dx }) => dx);
  const ys = capsules.map(({ dy }) => dy);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [back, front] = [Math.min(...ys), Math.max(...ys)];
  const [lowX, lowY] = at(left, back);
  const [highX, highY] = at(right, front);
  return [
    ...(right - left > 0.005
      ? dimension([lowX, lowY + 40], [highX, lowY + 40], lengthText(right - left), wording)
      : []),
    ...(front - back > 0.005
      ? dimension([highX + 44, lowY], [highX + 44, highY], lengthText(front - back), wording)
      : []),
  ];
}
