import type { Source } from '../session/schema';
import { cosDeg, sinDeg } from '../units/guard';
import { nearestOnStretch } from '../units/geometry';
import type { Vec3 } from '../units/vector';
import { instrumentOf, PIECE_INSTRUMENTS } from './instruments';

/** A place of an instrument as its player sees it: to the right and ahead of its middle, m. */
export type PartPlace = readonly [right: number, ahead: number];

/** A level surface that heights are measured from, m above the player's floor. */
export interface Surface {
  name: string;
  heightM: number;
}

/** One instrument of a set: where it lies, how high it sounds, how wide it is, m. */
export interface Piece {
  kind: string;
  right: number;
  ahead: number;
  up: number;
  radiusM: number;
}

/** What an instrument looks like from above, and what of it is measured from. */
export interface Anatomy {
  outline: readonly PartPlace[];
  /** lines inside it, by name: string groups, hammers, keys */
  lines: readonly { name: string; line: readonly [PartPlace, PartPlace] }[];
  /** upright surfaces and edges that distances are measured from on the plan */
  faces: readonly { name: string; line: readonly [PartPlace, PartPlace] }[];
  surfaces: readonly Surface[];
  /** what it can be split into */
  pieces: readonly Piece[];
  /** side of the lid's hinge, seen by the player */
  hinge?: 'left';
}

const box = (halfWidth: number, behind: number, ahead: number): PartPlace[] => [
  [-halfWidth, -behind],
  [halfWidth, -behind],
  [halfWidth, ahead],
  [-halfWidth, ahead],
];

const frontEdge = (name: string, halfWidth: number, ahead: number) => ({
  name,
  line: [
    [-halfWidth, ahead],
    [halfWidth, ahead],
  ] as const,
});

const strings = (name: string, right: number, ahead: number, radiusM: number): Piece => ({
  kind: `${name} strings`,
  right,
  ahead,
  up: 0.9,
  radiusM,
});

const GRAND: Anatomy = {
  outline: [
    [-0.75, -0.95],
    [0.75, -0.95],
    [0.75, -0.25],
    [0.66, 0.1],
    [0.42, 0.42],
    [0.14, 0.72],
    [0, 1.02],
    [-0.2, 1.16],
    [-0.5, 1.18],
    [-0.75, 1.05],
  ],
  lines: [
    frontEdge('keys', 0.62, -0.8),
    frontEdge('hammers', 0.62, -0.42),
    {
      name: 'bass strings',
      line: [
        [-0.6, -0.42],
        [-0.15, 0.85],
      ],
    },
    {
      name: 'tenor strings',
      line: [
        [-0.12, -0.42],
        [-0.5, 0.95],
      ],
    },
    {
      name: 'treble strings',
      line: [
        [0.5, -0.42],
        [0.42, 0.1],
      ],
    },
  ],
  faces: [frontEdge('hammers', 0.62, -0.42)],
  surfaces: [
    { name: 'strings', heightM: 0.9 },
    { name: 'rim', heightM: 1.0 },
    { name: 'soundboard', heightM: 0.82 },
    { name: 'keys', heightM: 0.72 },
  ],
  pieces: [
    strings('bass', -0.35, 0.35, 0.3),
    strings('tenor', -0.15, 0.1, 0.3),
    strings('treble', 0.42, -0.15, 0.25),
  ],
  hinge: 'left',
};

const UPRIGHT: Anatomy = {
  outline: box(0.75, 0.3, 0.3),
  lines: [
    frontEdge('keys', 0.62, -0.2),
    frontEdge('hammers', 0.62, 0.05),
    frontEdge('soundboard', 0.66, 0.22),
  ],
  faces: [frontEdge('soundboard', 0.66, 0.22), frontEdge('hammers', 0.62, 0.05)],
  surfaces: [
    { name: 'top', heightM: 1.22 },
    { name: 'hammers', heightM: 0.98 },
    { name: 'keys', heightM: 0.72 },
  ],
  pieces: [],
};

const HARPSICHORD: Anatomy = {
  outline: [
    [-0.46, -1.05],
    [0.46, -1.05],
    [0.46, -0.5],
    [0.3, 0.1],
    [-0.05, 0.7],
    [-0.2, 1.15],
    [-0.46, 1.15],
  ],
  lines: [
    frontEdge('keys', 0.4, -0.9),
    frontEdge('jacks', 0.42, -0.6),
    {
      name: 'bass strings',
      line: [
        [-0.38, -0.6],
        [-0.36, 1],
      ],
    },
    {
      name: 'treble strings',
      line: [
        [0.38, -0.6],
        [0.34, -0.25],
      ],
    },
  ],
  faces: [frontEdge('jacks', 0.42, -0.6)],
  surfaces: [
    { name: 'strings', heightM: 0.88 },
    { name: 'rim', heightM: 0.95 },
    { name: 'soundboard', heightM: 0.82 },
  ],
  pieces: [],
  hinge: 'left',
};

/** A set of pieces: its outline is drawn by them, and the head of each can be measured from. */
const setOf = (pieces: readonly Piece[]): Anatomy => ({
  outline: [],
  lines: [],
  faces: [],
  surfaces: pieces.map(({ kind, up }) => ({
    name: /cymbal|hi-hat|triangle|tam-tam|bars|glock/.test(kind) ? kind : `${kind} head`,
    heightM: up,
  })),
  pieces,
});

const piece = (kind: string, right: number, ahead: number, up: number, radiusM: number): Piece => ({
  kind,
  right,
  ahead,
  up,
  radiusM,
});

const KIT = setOf([
  piece('bass drum', 0, 0.5, 0.35, 0.28),
  piece('snare drum', -0.25, 0.1, 0.65, 0.18),
  piece('hi-hat', -0.6, 0.2, 0.9, 0.18),
  piece('high tom', -0.2, 0.5, 0.9, 0.15),
  piece('middle tom', 0.2, 0.5, 0.9, 0.17),
  piece('floor tom', 0.5, 0.05, 0.6, 0.2),
  piece('crash cymbal', -0.62, 0.72, 1.3, 0.21),
  piece('ride cymbal', 0.62, 0.55, 1.15, 0.26),
]);

const SET_UP = setOf([
  piece('concert bass drum', -1.0, 0.3, 0.9, 0.4),
  piece('tam-tam', -0.45, 0.6, 1.1, 0.3),
  piece('suspended cymbal', -0.25, 0.15, 1.1, 0.22),
  piece('snare drum', 0.25, 0.15, 0.8, 0.18),
  piece('glockenspiel', 0.75, 0.25, 0.85, 0.3),
  piece('triangle', 1.15, 0.3, 1.4, 0.1),
]);

const TIMPANI = setOf([
  piece('timpano 1', -0.85, 0.05, 0.85, 0.38),
  piece('timpano 2', -0.3, 0.4, 0.85, 0.34),
  piece('timpano 3', 0.32, 0.4, 0.85, 0.31),
  piece('timpano 4', 0.82, 0.05, 0.85, 0.28),
]);

const MARIMBA: Anatomy = {
  outline: [
    [-1.2, -0.45],
    [1.2, -0.2],
    [1.2, 0.2],
    [-1.2, 0.45],
  ],
  lines: [frontEdge('bars', 1.15, 0)],
  faces: [],
  surfaces: [{ name: 'bars', heightM: 0.92 }],
  pieces: [],
};

const HARP: Anatomy = {
  outline: box(0.45, 0.2, 0.2),
  lines: [frontEdge('strings', 0.42, 0)],
  faces: [frontEdge('strings', 0.42, 0)],
  surfaces: [{ name: 'soundboard, low end', heightM: 0.3 }],
  pieces: [],
};

const plainBox = (halfWidth: number, half: number, topM: number): Anatomy => ({
  outline: box(halfWidth, half, half),
  lines: [],
  faces: [frontEdge('front', halfWidth, half)],
  surfaces: [{ name: 'top', heightM: topM }],
  pieces: [],
});

const BY_KIND: Readonly<Record<string, Anatomy>> = {
  'grand piano': GRAND,
  'upright piano': UPRIGHT,
  harpsichord: HARPSICHORD,
  'chest organ': plainBox(0.55, 0.3, 1.05),
  'organ case': plainBox(2.5, 0.6, 7),
  'drum kit': KIT,
  'percussion set-up': SET_UP,
  timpani: TIMPANI,
  marimba: MARIMBA,
  harp: HARP,
};

/** What a piece of a set is measured from: the head of a drum, else itself. */
const PIECE_SURFACES: Readonly<Record<string, readonly Surface[]>> = Object.fromEntries(
  PIECE_INSTRUMENTS.map(({ kind, heightM }) => [
    kind,
    [{ name: /drum$|tom$|timpano/.test(kind) ? 'head' : 'instrument', heightM }],
  ]),
);

/** What an instrument is made of; null for one that is a point or a plain width. */
export const anatomyOf = ({ kind }: Pick<Source, 'kind'>): Anatomy | null =>
  BY_KIND[kind.trim().toLowerCase()] ?? null;

/** Height of the floor under a player, m: a riser lifts what sounds on it. */
export const floorUnder = (source: Pick<Source, 'kind' | 'z'>): number =>
  source.z - (instrumentOf(source.kind)?.heightM ?? source.z);

/** How much wider and deeper than the usual one an instrument is that was given another width. */
export function sizeOf(source: Pick<Source, 'kind' | 'widthM'>): number {
  const usual = instrumentOf(source.kind)?.widthM ?? 0;
  return usual > 0 && source.widthM > 0 ? source.widthM / usual : 1;
}

/** A place of an instrument on the plan, m. */
export function onPlan(
  source: Pick<Source, 'x' | 'y' | 'facingDeg' | 'kind' | 'widthM'>,
  [right, ahead]: PartPlace,
): { x: number; y: number } {
  const size = sizeOf(source);
  const [sin, cos] = [sinDeg(source.facingDeg), cosDeg(source.facingDeg)];
  return {
    x: source.x + size * (ahead * sin + right * cos),
    y: source.y + size * (ahead * cos - right * sin),
  };
}

/**
 * The level surfaces of an instrument that a microphone's height can be set out from.
 * @returns names and heights above the datum, m; empty where the catalogue knows none
 */
export function surfacesOf(source: Pick<Source, 'kind' | 'z'>): Surface[] {
  const floorM = floorUnder(source);
  const { surfaces = PIECE_SURFACES[source.kind] ?? [] } = anatomyOf(source) ?? {};
  return surfaces.map(({ name, heightM }) => ({
    name,
    heightM: Math.round((floorM + heightM) * 1000) / 1000,
  }));
}

/** How far a point is from something of an instrument, m. */
export interface FromPart {
  /** "strings", "soundboard" */
  name: string;
  metres: number;
}

/** Distances on the plan from a point to the upright faces of an instrument, m. */
export function fromFaces(source: Source, at: Vec3): FromPart[] {
  return (anatomyOf(source)?.faces ?? []).map(({ name, line: [a, b] }) => ({
    name,
    metres: nearestOnStretch(
      { ...at, z: 0 },
      { ...onPlan(source, a), z: 0 },
      { ...onPlan(source, b), z: 0 },
    ).distanceM,
  }));
}

/**
 * The place on the plan so far from an upright face of an instrument, straight away from where the
 * point is now; from on the face, to the side that its player does not sit on.
 * @param face its name, as `fromFaces` tells it
 * @param metres 0 … 200 m
 * @returns null where the instrument has no such face
 */
export function placeFromFace(
  source: Source,
  face: string,
  at: { x: number; y: number },
  metres: number,
): { x: number; y: number } | null {
  const found = (anatomyOf(source)?.faces ?? []).find(({ name }) => name === face);
  if (!found) return null;
  const [a, b] = found.line.map((place) => ({ ...onPlan(source, place), z: 0 }));
  if (!a || !b) return null;
  const { fraction, distanceM } = nearestOnStretch({ ...at, z: 0 }, a, b);
  const on = { x: a.x + fraction * (b.x - a.x), y: a.y + fraction * (b.y - a.y) };
  const away =
    distanceM > 1e-6
      ? { x: (at.x - on.x) / distanceM, y: (at.y - on.y) / distanceM }
      : { x: sinDeg(source.facingDeg), y: cosDeg(source.facingDeg) };
  return { x: on.x + away.x * metres, y: on.y + away.y * metres };
}
