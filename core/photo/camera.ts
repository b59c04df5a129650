import { solved } from '../units/linear';
import { add, scale, type Vec3 } from '../units/vector';

/** A mark on a picture, px from its left upper corner. */
export interface Pixel {
  u: number;
  v: number;
}

/** How a picture was taken: a point of the world is R · X + t before the camera, which looks along z. */
export interface Camera {
  /** px */
  focal: number;
  /** where it looks, px */
  middle: Pixel;
  /** rows of the rotation */
  rotation: readonly [Vec3, Vec3, Vec3];
  shift: Vec3;
}

/** What a lens and a sensor are taken to be. */
export interface Lens {
  focal: number;
  middle: Pixel;
  /** part by which the corner is farther out than it should be, −0.1 … 0.1 */
  barrel: number;
  /** from the middle to the corner, px */
  cornerPx: number;
}

const dot = (a: Vec3, b: Vec3): number => a.x * b.x + a.y * b.y + a.z * b.z;
const cross = (a: Vec3, b: Vec3): Vec3 => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
const length = (a: Vec3): number => Math.sqrt(dot(a, a));
const unit = (a: Vec3): Vec3 => scale(a, 1 / length(a));

/** Where a mark would be without the lens's own bend. */
export function straight({ u, v }: Pixel, { middle, barrel, cornerPx }: Lens): Pixel {
  const [x, y] = [u - middle.u, v - middle.v];
  const factor = 1 / (1 + barrel * ((x * x + y * y) / (cornerPx * cornerPx)));
  return { u: middle.u + x * factor, v: middle.v + y * factor };
}

/** Where the lens's bend puts a mark. */
export function bent({ u, v }: Pixel, { middle, barrel, cornerPx }: Lens): Pixel {
  const [x, y] = [u - middle.u, v - middle.v];
  const factor = 1 + barrel * ((x * x + y * y) / (cornerPx * cornerPx));
  return { u: middle.u + x * factor, v: middle.v + y * factor };
}

/** A rotation from two directions of the plane as the camera has them, made square to each other. */
function squared(first: Vec3, second: Vec3): Camera['rotation'] {
  const a = unit(first);
  const b = unit(add(second, scale(a, -dot(a, second))));
  const c = cross(a, b);
  return [
    { x: a.x, y: b.x, z: c.x },
    { x: a.y, y: b.y, z: c.y },
    { x: a.z, y: b.z, z: c.z },
  ];
}

/** The nine figures that take a point of a plane to its mark, the last of them 1. */
function homography(
  plane: readonly (readonly [number, number])[],
  marks: readonly Pixel[],
): number[] | null {
  const rows: number[][] = [];
  const right: number[] = [];
  plane.forEach(([x, y], i) => {
    const { u, v } = marks[i] as Pixel;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push(u, v);
  });
  const found = solved(rows, right);
  return found ? [...found, 1] : null;
}

/** A camera over a rectangle, and how far its sides are from what a rectangle would give. */
export interface OverSheet {
  camera: Camera;
  /** 0: just so */
  strange: number;
}

/**
 * The camera of a picture with a rectangle of known size on it, whose plane is z = 0 with z towards the
 * camera. Source: plane homography with square pixels and the middle of the picture as the optical axis.
 * @param corners in their order round the rectangle, the first side as long as widthM
 * @param widthM, heightM 0.01 … 10 m
 * @returns null where the corners are no four corners of anything
 */
export function overSheet(
  corners: readonly Pixel[],
  widthM: number,
  heightM: number,
  { focal, middle }: Pick<Lens, 'focal' | 'middle'>,
): OverSheet | null {
  const plane = [
    [0, 0],
    [widthM, 0],
    [widthM, heightM],
    [0, heightM],
  ] as const;
  const h = homography(plane, corners);
  if (!h) return null;
  const column = (i: number): Vec3 => {
    const [a = 0, b = 0, c = 0] = [h[i], h[i + 3], h[i + 6]];
    return { x: (a - middle.u * c) / focal, y: (b - middle.v * c) / focal, z: c };
  };
  const [first, second, third] = [column(0), column(1), column(2)];
  const size = (length(first) + length(second)) / 2;
  if (!(size > 0)) return null;
  const sign = third.z < 0 ? -1 : 1;
  const [a, b, t] = [first, second, third].map((one) => scale(one, sign / size)) as [
    Vec3,
    Vec3,
    Vec3,
  ];
  const strange = Math.abs(length(a) - length(b)) + Math.abs(dot(a, b)) / (length(a) * length(b));
  return { camera: { focal, middle, rotation: squared(a, b), shift: t }, strange };
}

/**
 * A camera that looks at a plane from straight above, but for a small tilt.
 * @param tiltDeg about the picture's own horizontal and vertical, −60 … 60
 * @param distanceM from the plane along where it looks, above 0
 */
export function overPlane(
  [aboutX, aboutY]: readonly [number, number],
  distanceM: number,
  { focal, middle }: Pick<Lens, 'focal' | 'middle'>,
): Camera {
  const [p, q] = [aboutX, aboutY].map((deg) => (deg * Math.PI) / 180) as [number, number];
  // To the right of the picture, and up on it, as a camera without tilt has them; then tilted.
  const turned = ({ x, y, z }: Vec3): Vec3 => {
    const [y1, z1] = [y * Math.cos(p) - z * Math.sin(p), y * Math.sin(p) + z * Math.cos(p)];
    return { x: x * Math.cos(q) + z1 * Math.sin(q), y: y1, z: -x * Math.sin(q) + z1 * Math.cos(q) };
  };
  return {
    ...{ focal, middle },
    rotation: squared(turned({ x: 1, y: 0, z: 0 }), turned({ x: 0, y: -1, z: 0 })),
    shift: { x: 0, y: 0, z: distanceM },
  };
}

/** Where a point of the world is on the picture, without the lens's bend. */
export function onPicture({ focal, middle, rotation, shift }: Camera, point: Vec3): Pixel {
  const [x, y, z] = rotation.map((row) => dot(row, point)) as [number, number, number];
  const depth = z + shift.z;
  return {
    u: middle.u + (focal * (x + shift.x)) / depth,
    v: middle.v + (focal * (y + shift.y)) / depth,
  };
}

/** Where a mark is in the world, on a plane so high above that of the scale, m. */
export function onPlane(
  { focal, middle, rotation, shift }: Camera,
  { u, v }: Pixel,
  heightM: number,
): Vec3 {
  const back = (a: Vec3): Vec3 => ({
    x: rotation[0].x * a.x + rotation[1].x * a.y + rotation[2].x * a.z,
    y: rotation[0].y * a.x + rotation[1].y * a.y + rotation[2].y * a.z,
    z: rotation[0].z * a.x + rotation[1].z * a.y + rotation[2].z * a.z,
  });
  const from = scale(back(shift), -1);
  const along = back({ x: (u - middle.u) / focal, y: (v - middle.v) / focal, z: 1 });
  return add(from, scale(along, (heightM - from.z) / along.z));
}
