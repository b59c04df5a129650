/** A point or direction in the plan frame: x to the audience's right, y upstage, z up; metres. */
export interface Vec3 {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/** A vector by its components, m. */
export const vec = (x: number, y: number, z: number): Vec3 => ({ x, y, z });
/** Componentwise sum, m. */
export const add = (a: Vec3, b: Vec3): Vec3 => vec(a.x + b.x, a.y + b.y, a.z + b.z);
/** From b to a, m. */
export const subtract = (a: Vec3, b: Vec3): Vec3 => vec(a.x - b.x, a.y - b.y, a.z - b.z);
/** A vector k times as long; k has no unit: 0 … 1 shortens, a negative one turns it round. */
export const scale = (a: Vec3, k: number): Vec3 => vec(a.x * k, a.y * k, a.z * k);
/** Inner product: of two unit vectors the cosine between them. */
export const dot = (a: Vec3, b: Vec3): number => a.x * b.x + a.y * b.y + a.z * b.z;
/** Length, m. */
export const length = (a: Vec3): number => Math.sqrt(dot(a, a));

/** Vector product, right-handed. */
export function cross(a: Vec3, b: Vec3): Vec3 {
  return vec(a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x);
}

/** How far apart two points are on the plan, whatever their heights, m. */
export const planDistance = (
  a: { readonly x: number; readonly y: number },
  b: { readonly x: number; readonly y: number },
): number => Math.hypot(a.x - b.x, a.y - b.y);

/** How far apart two points are in the room, m. */
export const distance = (a: Vec3, b: Vec3): number => Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z);
