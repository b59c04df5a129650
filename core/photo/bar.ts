import { quantile } from 'd3-array';
import { wrapDeg } from '../units/guard';
import { seededRandom } from '../units/random';
import { done, refused, type Outcome } from '../units/outcome';
import type { Vec3 } from '../units/vector';
import {
  onPlane,
  onPicture,
  overPlane,
  overSheet,
  straight,
  type Camera,
  type Lens,
  type Pixel,
} from './camera';

/** What gives a picture its scale. */
export type PhotoScale =
  | { kind: 'sheet'; corners: readonly Pixel[]; widthM: number; heightM: number }
  | { kind: 'length'; ends: readonly [Pixel, Pixel]; lengthM: number };

/** A microphone on a picture. */
export interface PhotoMicrophone {
  capsule: Pixel;
  /** the other end of its body; null from in front */
  rear: Pixel | null;
  /** above the plane of the scale, m; below it negative */
  heightM: number;
}

/** A picture of a bar with two microphones, and what is marked on it. */
export interface BarPhoto {
  view: 'above' | 'front';
  widthPx: number;
  heightPx: number;
  scale: PhotoScale;
  left: PhotoMicrophone;
  right: PhotoMicrophone;
  /** how far off plumb, or level, the camera was held, degrees; direction not known */
  tiltDeg: number;
  /** what each height above the plane of the scale is good to, m */
  heightWithinM: number;
}

/** A figure with half of its 90 % interval. */
export interface PhotoFigure {
  value: number;
  within: number;
}

/** A bar as a picture has it. */
export interface PhotoBar {
  /** from capsule to capsule, from above on the floor plan, m */
  spacingM: PhotoFigure;
  /** between the bodies, degrees; null from in front */
  includedAngleDeg: PhotoFigure | null;
  /** both turned to the right against the square to their line, degrees; null from in front and of capsules in one place */
  skewDeg: PhotoFigure | null;
  /** the right capsule higher, m; null from above */
  levelM: PhotoFigure | null;
  /** the camera that it was worked out with */
  camera: Camera;
}

/** A usual lens: focal length of so much of the longer side; what it can be, a deviation of it. */
const [FOCAL, FOCAL_SPREAD] = [0.75, 0.15];
/** Marks are good to a pixel either way, a lens bends its corners by 2 % either way. */
const [PIXEL, BARREL] = [1, 0.02];
const SAMPLES = 300;
/** Nearer capsules are in one place: nothing is square to their line, m. */
const ONE_PLACE_M = 0.04;
/** A scale smaller than this on the picture is none, px. */
const LEAST_PX = 40;
/** A rectangle whose corners fit none by so much. */
const STRANGE = 0.6;

/** The lens that is assumed of a picture. @param widthPx, heightPx 1 … 20000 px */
export const assumedLens = (widthPx: number, heightPx: number): Lens => ({
  focal: FOCAL * Math.max(widthPx, heightPx),
  middle: { u: widthPx / 2, v: heightPx / 2 },
  barrel: 0,
  cornerPx: Math.hypot(widthPx, heightPx) / 2,
});

const apart = (a: Pixel, b: Pixel): number => Math.hypot(a.u - b.u, a.v - b.v);

/** Twice the area round some corners: above zero clockwise as they are seen. */
const round = (corners: readonly Pixel[]): number =>
  corners.reduce((sum, { u, v }, i) => {
    const next = corners[(i + 1) % corners.length] as Pixel;
    return sum + u * next.v - next.u * v;
  }, 0);

/** Whether each corner turns the same way: four corners round a rectangle. */
function isRound(corners: readonly Pixel[]): boolean {
  const turns = corners.map((corner, i) => {
    const [next, after] = [1, 2].map((k) => corners[(i + k) % corners.length] as Pixel) as [
      Pixel,
      Pixel,
    ];
    const turn =
      (next.u - corner.u) * (after.v - next.v) - (next.v - corner.v) * (after.u - next.u);
    return turn / (apart(corner, next) * apart(next, after));
  });
  return turns.every((turn) => turn > 0.05) || turns.every((turn) => turn < -0.05);
}

/** What is wrong with the scale; null where nothing is. */
function scaleProblem(scale: PhotoScale): string | null {
  if (scale.kind === 'length') {
    return apart(...scale.ends) < LEAST_PX
      ? `the ends of the known length are ${Math.round(apart(...scale.ends))} pixels apart; allowed: ${LEAST_PX} and more`
      : null;
  }
  const { corners } = scale;
  if (corners.length !== 4) return `${corners.length} corners of the sheet; allowed: four`;
  const sides = corners.map((corner, i) => apart(corner, corners[(i + 1) % 4] as Pixel));
  if (Math.min(...sides) < LEAST_PX) {
    return `a side of the sheet is ${Math.round(Math.min(...sides))} pixels long; allowed: ${LEAST_PX} and more`;
  }
  return isRound(corners)
    ? null
    : 'the four corners cross or lie on a line: mark them one after another round the sheet';
}

/** The camera by a sheet: whichever side was marked first, and whichever way round. */
function bySheet(
  { corners, widthM, heightM }: Extract<PhotoScale, { kind: 'sheet' }>,
  lens: Lens,
): Outcome<Camera> {
  const wayRound = round(corners) > 0 ? [...corners].reverse() : corners;
  const both = [wayRound, [...wayRound.slice(1), ...wayRound.slice(0, 1)]].flatMap(
    (list) => overSheet(list, widthM, heightM, lens) ?? [],
  );
  const [best] = both.sort((a, b) => a.strange - b.strange);
  return best && best.strange < STRANGE
    ? done(best.camera)
    : refused('the corners are not those of a sheet of this size, as a camera sees it');
}

function byLength(
  { ends, lengthM }: Extract<PhotoScale, { kind: 'length' }>,
  tilt: readonly [number, number],
  lens: Lens,
): Camera {
  const near = overPlane(tilt, 1, lens);
  const [a, b] = ends.map((end) => onPlane(near, end, 0)) as [Vec3, Vec3];
  return overPlane(tilt, lengthM / Math.hypot(a.x - b.x, a.y - b.y), lens);
}

interface Shape {
  spacingM: number;
  includedDeg: number | null;
  skewDeg: number | null;
  levelM: number;
}

const toDeg = (radians: number): number => (radians * 180) / Math.PI;

/** Azimuth clockwise from up in the plane. */
const azimuth = ({ x, y }: { x: number; y: number }): number => toDeg(Math.atan2(x, y));

/** A bar in the plane of the picture. */
function shapeOf(camera: Camera, { left, right, view }: BarPhoto): Shape {
  const [one, other] = [left, right].map((mic) => {
    const capsule = onPlane(camera, mic.capsule, mic.heightM);
    const rear = mic.rear && onPlane(camera, mic.rear, mic.heightM);
    return { capsule, axis: rear && azimuth({ x: capsule.x - rear.x, y: capsule.y - rear.y }) };
  }) as [{ capsule: Vec3; axis: number | null }, { capsule: Vec3; axis: number | null }];
  const line = { x: other.capsule.x - one.capsule.x, y: other.capsule.y - one.capsule.y };
  const spacingM = Math.hypot(line.x, line.y);
  const told = view === 'above' && one.axis !== null && other.axis !== null;
  const includedDeg = told ? wrapDeg((other.axis ?? 0) - (one.axis ?? 0)) : null;
  // Square to the line from left to right, to the front.
  const front = azimuth({ x: -line.y, y: line.x });
  const skewDeg =
    told && spacingM >= ONE_PLACE_M
      ? (wrapDeg((one.axis ?? 0) - front) + wrapDeg((other.axis ?? 0) - front)) / 2
      : null;
  return view === 'front'
    ? { spacingM: Math.abs(line.x), includedDeg: null, skewDeg: null, levelM: line.y }
    : { spacingM, includedDeg, skewDeg, levelM: 0 };
}

/** The marks, each moved by something of its own. */
function moved(photo: BarPhoto, each: (mark: Pixel) => Pixel, height: () => number): BarPhoto {
  const { scale } = photo;
  const mic = ({ capsule, rear, heightM }: PhotoMicrophone): PhotoMicrophone => ({
    capsule: each(capsule),
    rear: rear && each(rear),
    heightM: heightM + height(),
  });
  return {
    ...photo,
    scale:
      scale.kind === 'sheet'
        ? { ...scale, corners: scale.corners.map(each) }
        : { ...scale, ends: [each(scale.ends[0]), each(scale.ends[1])] },
    left: mic(photo.left),
    right: mic(photo.right),
  };
}

function cameraOf(
  { scale }: BarPhoto,
  tilt: readonly [number, number],
  lens: Lens,
): Outcome<Camera> {
  return scale.kind === 'sheet' ? bySheet(scale, lens) : done(byLength(scale, tilt, lens));
}

/** What is drawn anew in each sample: marks, lens, heights, tilt. */
function sampled(photo: BarPhoto, random: () => number): Shape | null {
  const { widthPx, heightPx, tiltDeg, heightWithinM } = photo;
  const even = (half: number): number => half * (2 * random() - 1);
  const normal = (): number =>
    Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const usual = assumedLens(widthPx, heightPx);
  const focal = usual.focal * Math.max(0.5, 1 + FOCAL_SPREAD * normal());
  const lens = { ...usual, focal, barrel: even(BARREL) };
  const marked = moved(
    photo,
    ({ u, v }) => straight({ u: u + even(PIXEL), v: v + even(PIXEL) }, lens),
    () => heightWithinM * normal(),
  );
  const way = 2 * Math.PI * random();
  const size = tiltDeg * (1 + 0.2 * normal());
  const camera = cameraOf(marked, [size * Math.cos(way), size * Math.sin(way)], lens);
  if (!camera.ok) return null;
  const shape = shapeOf(camera.value, marked);
  if (photo.view === 'above') return shape;
  // A camera that is held askew makes a level bar slant.
  const roll = (even(tiltDeg) * Math.PI) / 180;
  return {
    ...shape,
    spacingM: shape.spacingM * Math.cos(roll) + shape.levelM * Math.sin(roll),
    levelM: shape.levelM * Math.cos(roll) - shape.spacingM * Math.sin(roll),
  };
}

/** The middle of samples, and half of the interval that holds 90 % of them. */
function summed(samples: readonly number[]): PhotoFigure {
  const [low = 0, value = 0, high = 0] = [0.05, 0.5, 0.95].map((p) => quantile(samples, p) ?? 0);
  return { value, within: (high - low) / 2 };
}

/**
 * Spacing, angle and crookedness of a bar with two microphones from a picture, each with its 90 %
 * interval: from marks good to a pixel, a lens that bends its corners by up to 2 %, a focal length that is
 * not known, a tilt whose direction is not known, and heights above the plane of the scale.
 * @returns what is wrong with the marks, where something is
 */
export function barOfPhoto(photo: BarPhoto): Outcome<PhotoBar> {
  const { view, widthPx, heightPx, left, right, scale } = photo;
  const problem = scaleProblem(scale);
  if (problem !== null) return refused(problem);
  for (const [name, { capsule, rear }] of [
    ['left', left],
    ['right', right],
  ] as const) {
    if (view === 'above' && rear && apart(capsule, rear) < LEAST_PX / 2) {
      return refused(
        `both ends of the ${name} body are ${Math.round(apart(capsule, rear))} pixels apart; allowed: ${LEAST_PX / 2} and more`,
      );
    }
  }
  const camera = cameraOf(photo, [0, 0], assumedLens(widthPx, heightPx));
  if (!camera.ok) return camera;
  const shape = shapeOf(camera.value, photo);
  const random = seededRandom(1);
  const samples = Array.from({ length: SAMPLES }, () => sampled(photo, random)).filter(
    (one) => one !== null,
  );
  if (samples.length < SAMPLES / 2) {
    return refused('the marks are too near each other for the size of the picture: move closer');
  }
  const angle = (value: number | null, of: (shape: Shape) => number | null): PhotoFigure | null =>
    value === null
      ? null
      : summed(samples.map((one) => value + wrapDeg((of(one) ?? value) - value)));
  return done({
    spacingM: summed(samples.map(({ spacingM }) => spacingM)),
    includedAngleDeg: angle(shape.includedDeg, ({ includedDeg }) => includedDeg),
    skewDeg: angle(shape.skewDeg, ({ skewDeg }) => skewDeg),
    levelM: view === 'front' ? summed(samples.map(({ levelM }) => levelM)) : null,
    camera: camera.value,
  });
}

/** The bar of the plan on the picture: each capsule and where its body ends, in the picture's perspective. */
export function planOnPhoto(
  photo: BarPhoto,
  { camera }: Pick<PhotoBar, 'camera'>,
  { spacingM, includedAngleDeg }: { spacingM: number; includedAngleDeg: number },
  bodyM = 0.1,
): { capsule: Pixel; rear: Pixel }[] {
  const [one, other] = [photo.left, photo.right].map((mic) => ({
    ...onPlane(camera, mic.capsule, mic.heightM),
    rear: mic.rear && onPlane(camera, mic.rear, mic.heightM),
  })) as [Vec3 & { rear: Vec3 | null }, Vec3 & { rear: Vec3 | null }];
  const middle = { x: (one.x + other.x) / 2, y: (one.y + other.y) / 2 };
  const line = { x: other.x - one.x, y: other.y - one.y };
  const axes = [one, other].flatMap((mic) =>
    mic.rear ? [azimuth({ x: mic.x - mic.rear.x, y: mic.y - mic.rear.y })] : [],
  );
  const [a = 0, b = a] = axes;
  // Of capsules in one place the front is where both look.
  const front =
    Math.hypot(line.x, line.y) >= ONE_PLACE_M || axes.length < 2
      ? azimuth({ x: -line.y, y: line.x })
      : a + wrapDeg(b - a) / 2;
  return ([-1, 1] as const).map((side) => {
    const turn = (deg: number, m: number): { x: number; y: number } => ({
      x: m * Math.sin((deg * Math.PI) / 180),
      y: m * Math.cos((deg * Math.PI) / 180),
    });
    const away = turn(front + 90, (side * spacingM) / 2);
    const z = side === -1 ? photo.left.heightM : photo.right.heightM;
    const capsule = { x: middle.x + away.x, y: middle.y + away.y, z };
    const back = turn(front + (side * includedAngleDeg) / 2, bodyM);
    return {
      capsule: onPicture(camera, capsule),
      rear: onPicture(camera, { x: capsule.x - back.x, y: capsule.y - back.y, z }),
    };
  });
}
