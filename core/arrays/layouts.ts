import { patternAOf, sensitivity, type Pattern } from '../acoustics/patterns';
import { checkSpeed, cosDeg, inRange, powerDb, sinDeg } from '../units/guard';
import type { ChannelStrip } from './routing';
import type { CustomCapsule } from './technique';

/** A larger array: capsules in the array's frame, each for one loudspeaker. */
export interface MultichannelLayout {
  capsules: CustomCapsule[];
  /** loudspeaker of each capsule, in order */
  loudspeakers: string[];
  /** level of each capsule against the others, dB; missing where all are alike */
  gainsDb?: number[];
}

/** What a height layer has of its own. */
export interface HeightLayer {
  pattern: Pattern;
  /** level against the ring, dB, −60 … 24 */
  gainDb: number;
}

interface Place {
  label: string;
  dx: number;
  dy: number;
  dz?: number;
  azimuthDeg?: number;
  elevationDeg?: number;
}

function layoutOf(places: readonly Place[], pattern: Pattern): MultichannelLayout {
  return {
    capsules: places.map(({ label, dx, dy, dz = 0, azimuthDeg = 0, elevationDeg = 0 }) => ({
      label,
      dx,
      dy,
      dz,
      azimuthDeg,
      elevationDeg,
      pattern,
    })),
    loudspeakers: places.map(({ label }) => label),
  };
}

/**
 * Three-microphone tree: left and right on a base, the centre one ahead of it.
 * @param baseM left to right, 0.1 … 10 m
 * @param depthM centre ahead of the base, 0 … 5 m
 * @throws RangeError where baseM is outside 0.1 … 10 m, depthM is outside 0 … 5 m
 */
export function threeMicTree(baseM: number, depthM: number, pattern: Pattern): MultichannelLayout {
  inRange('baseM', baseM, 0.1, 10, 'm');
  inRange('depthM', depthM, 0, 5, 'm');
  return layoutOf(
    [
      { label: 'L', dx: -baseM / 2, dy: 0 },
      { label: 'C', dx: 0, dy: depthM },
      { label: 'R', dx: baseM / 2, dy: 0 },
    ],
    pattern,
  );
}

/**
 * Five channels: a front triple and a rear pair turned away from it.
 * @param frontM left to right in front, 0.1 … 10 m
 * @param depthM centre ahead of left and right, 0 … 5 m
 * @param rearM rear left to right, 0.1 … 10 m
 * @param backM rear pair behind the front pair, 0 … 20 m
 * @throws RangeError where frontM is outside 0.1 … 10 m, depthM is outside 0 … 5 m, rearM is
 *   outside 0.1 … 10 m, backM is outside 0 … 20 m
 */
export function fiveChannel(
  frontM: number,
  depthM: number,
  rearM: number,
  backM: number,
  pattern: Pattern,
): MultichannelLayout {
  inRange('frontM', frontM, 0.1, 10, 'm');
  inRange('depthM', depthM, 0, 5, 'm');
  inRange('rearM', rearM, 0.1, 10, 'm');
  inRange('backM', backM, 0, 20, 'm');
  return layoutOf(
    [
      { label: 'L', dx: -frontM / 2, dy: 0, azimuthDeg: -30 },
      { label: 'C', dx: 0, dy: depthM },
      { label: 'R', dx: frontM / 2, dy: 0, azimuthDeg: 30 },
      { label: 'Ls', dx: -rearM / 2, dy: -backM, azimuthDeg: -110 },
      { label: 'Rs', dx: rearM / 2, dy: -backM, azimuthDeg: 110 },
    ],
    pattern,
  );
}

/** Loudspeaker azimuths of the rings, ITU-R BS.2051 names in the plan. */
const RINGS: Readonly<Record<number, readonly [string, number][]>> = {
  4: [
    ['L', -45],
    ['R', 45],
    ['Ls', -135],
    ['Rs', 135],
  ],
  5: [
    ['L', -30],
    ['C', 0],
    ['R', 30],
    ['Ls', -110],
    ['Rs', 110],
  ],
  7: [
    ['L', -30],
    ['C', 0],
    ['R', 30],
    ['Lss', -90],
    ['Rss', 90],
    ['Lrs', -135],
    ['Rrs', 135],
  ],
};

const HEIGHTS: readonly [string, number][] = [
  ['Ltf', -45],
  ['Rtf', 45],
  ['Ltr', -135],
  ['Rtr', 135],
];

/**
 * A ring, each capsule facing outward towards its loudspeaker, with a height layer above it.
 * @param count capsules in the ring: 4, 5 or 7
 * @param radiusM 0 … 5 m
 * @param heightCount 0 or 4 capsules in the height layer
 * @param layerM height layer above the ring, 0 … 5 m
 * @param upDeg elevation to which the height capsules face, 0 … 90°
 * @param height pattern and level of the height layer; those of the ring where it is not given
 * @param ringUpDeg elevation to which the ring's capsules face, −90 … 90°
 * @throws RangeError where radiusM is outside 0 … 5 m, layerM is outside 0 … 5 m, upDeg is
 *   outside 0 … 90°, ringUpDeg is outside −90 … 90°, gainDb is outside −60 … 24 dB
 */
export function ringWithHeight(
  count: number,
  radiusM: number,
  heightCount: number,
  layerM: number,
  upDeg: number,
  pattern: Pattern,
  height: HeightLayer = { pattern, gainDb: 0 },
  ringUpDeg = 0,
): MultichannelLayout {
  const ring = RINGS[count];
  if (!ring) throw new RangeError(`count is ${count}; allowed: ${Object.keys(RINGS).join(', ')}`);
  if (heightCount !== 0 && heightCount !== HEIGHTS.length) {
    throw new RangeError(`heightCount is ${heightCount}; allowed: 0, ${HEIGHTS.length}`);
  }
  inRange('radiusM', radiusM, 0, 5, 'm');
  inRange('layerM', layerM, 0, 5, 'm');
  inRange('upDeg', upDeg, 0, 90, '°');
  inRange('ringUpDeg', ringUpDeg, -90, 90, '°');
  inRange('gainDb', height.gainDb, -60, 24, 'dB');
  const place = (label: string, azimuthDeg: number, dz: number, elevationDeg: number): Place => ({
    label,
    dx: radiusM * sinDeg(azimuthDeg),
    dy: radiusM * cosDeg(azimuthDeg),
    dz,
    azimuthDeg,
    elevationDeg,
  });
  const low = layoutOf(
    ring.map(([label, azimuth]) => place(label, azimuth, 0, ringUpDeg)),
    pattern,
  );
  const high = layoutOf(
    HEIGHTS.slice(0, heightCount).map(([label, azimuth]) => place(label, azimuth, layerM, upDeg)),
    height.pattern,
  );
  return {
    capsules: [...low.capsules, ...high.capsules],
    loudspeakers: [...low.loudspeakers, ...high.loudspeakers],
    ...(height.gainDb === 0
      ? {}
      : {
          gainsDb: [...low.capsules.map(() => 0), ...high.capsules.map(() => height.gainDb)],
        }),
  };
}

/**
 * Height above a ring at which the front of the layer is as far from its nearest in the ring as left
 * and right are from each other, m; over four in a ring the layer makes a cube.
 * @param count capsules in the ring: 4, 5 or 7
 * @param radiusM 0 … 5 m
 * @throws RangeError where count or radiusM is outside its range
 */
export function equalLayerM(count: number, radiusM: number): number {
  const { capsules } = ringWithHeight(count, radiusM, HEIGHTS.length, 0, 0, 'omni');
  const apart = (a: string, b: string): number => {
    const [from, to] = [a, b].map((name) => capsules.find(({ label }) => label === name));
    return from && to ? Math.hypot(from.dx - to.dx, from.dy - to.dy) : 0;
  };
  return Math.sqrt(apart('L', 'R') ** 2 - apart('L', 'Ltf') ** 2);
}

/** How a loudspeaker's channel is folded into two: pan and level (ITU-R BS.775 for the ground). */
const FOLD: Readonly<Record<string, readonly [number, number]>> = {
  L: [-1, 0],
  R: [1, 0],
  C: [0, 0],
  Ls: [-1, -3],
  Rs: [1, -3],
  Lss: [-1, -3],
  Rss: [1, -3],
  Lrs: [-1, -3],
  Rrs: [1, -3],
  Ltf: [-1, -3],
  Rtf: [1, -3],
  Ltr: [-1, -3],
  Rtr: [1, -3],
};

/** Strips that fold a layout to stereo; the centre is −3 dB on both sides by the pan law. */
export function stereoFoldDown({ loudspeakers, gainsDb }: MultichannelLayout): ChannelStrip[] {
  return loudspeakers.map((name, i) => {
    const [pan, gainDb] = FOLD[name] ?? [0, -3];
    return { pan, gainDb: gainDb + (gainsDb?.[i] ?? 0), polarity: 1, delayMs: 0 };
  });
}

/** Loudspeakers of a height layer. */
const HEIGHT_NAMES = /^(Lh|Rh|Ch|Lsh|Rsh|[LR]t[fr])$/;

/** Whether a loudspeaker hangs above the others. */
export const isHeight = (loudspeaker: string): boolean => HEIGHT_NAMES.test(loudspeaker);

/**
 * How much of a distant source in front the height layer picks up against the ring, dB (energy of
 * all height capsules over energy of all ring capsules). A low figure keeps the layers apart.
 * @param elevationDeg of the source, −90 … 90°
 * @returns null without a height layer
 * @throws RangeError where elevationDeg is outside −90 … 90°
 */
export function heightSpillDb(
  { capsules, gainsDb }: MultichannelLayout,
  elevationDeg: number,
): number | null {
  inRange('elevationDeg', elevationDeg, -90, 90, '°');
  let height = 0;
  let ring = 0;
  for (const [i, { azimuthDeg, elevationDeg: up, dz, pattern }] of capsules.entries()) {
    const cosine =
      cosDeg(azimuthDeg) * cosDeg(up) * cosDeg(elevationDeg) + sinDeg(up) * sinDeg(elevationDeg);
    const level = 10 ** ((gainsDb?.[i] ?? 0) / 10);
    const energy = level * sensitivity(patternAOf(pattern), cosine) ** 2;
    if (dz > 0 || up > 0) height += energy;
    else ring += energy;
  }
  return height > 0 && ring > 0 ? powerDb(height / ring) : null;
}

/**
 * Distance of each capsule from the array's centre, and the delay that it makes, m and ms.
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function delaysFromCentre(
  layout: MultichannelLayout,
  speed: number,
): { m: number; ms: number }[] {
  checkSpeed(speed);
  return layout.capsules.map(({ dx, dy, dz }) => {
    const m = Math.hypot(dx, dy, dz);
    return { m, ms: (m / speed) * 1000 };
  });
}

/**
 * Boundary microphones: omnis in the surface itself, to be placed at the surface's height (the
 * array's z at 0 for the floor). The surface's reflection arrives with the direct sound, so it
 * makes no comb and lifts the level by 6 dB.
 * @param spacingM left to right, 0.1 … 20 m
 * @throws RangeError where spacingM is outside 0.1 … 20 m
 */
export function boundaryPair(spacingM: number): MultichannelLayout {
  inRange('spacingM', spacingM, 0.1, 20, 'm');
  return layoutOf(
    [
      { label: 'L', dx: -spacingM / 2, dy: 0 },
      { label: 'R', dx: spacingM / 2, dy: 0 },
    ],
    'omni',
  );
}
