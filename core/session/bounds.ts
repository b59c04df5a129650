/** The limits of a session, for its file, its fields and every computation; without the schema. */

export interface Bounds {
  min: number;
  max: number;
  unit: string;
}

/** The limits of every number that a user can type, shared by the file and the fields. */
export const BOUNDS = {
  positionM: { min: -200, max: 200, unit: 'm' },
  spacingM: { min: 0, max: 50, unit: 'm' },
  includedAngleDeg: { min: 0, max: 360, unit: '°' },
  azimuthDeg: { min: -360, max: 360, unit: '°' },
  elevationDeg: { min: -90, max: 90, unit: '°' },
  patternA: { min: 0, max: 1, unit: '' },
  gainDb: { min: -60, max: 24, unit: 'dB' },
  levelDb: { min: 0, max: 160, unit: 'dB' },
  q: { min: 0.1, max: 100, unit: '' },
  widthM: { min: 0, max: 100, unit: 'm' },
  /** a tape across a whole hall */
  farM: { min: 0, max: 600, unit: 'm' },
  baseM: { min: 0.05, max: 5, unit: 'm' },
  roomM: { min: 0.5, max: 200, unit: 'm' },
  /** of a stage above the hall's floor, of a row of seats above the one before it */
  riseM: { min: 0, max: 5, unit: 'm' },
  areaM2: { min: 0.1, max: 10_000, unit: 'm²' },
  temperatureC: { min: -20, max: 50, unit: '°C' },
  rt60S: { min: 0.1, max: 12, unit: 's' },
  absorption: { min: 0, max: 1, unit: '' },
  pan: { min: -1, max: 1, unit: '' },
  delayMs: { min: 0, max: 1000, unit: 'ms' },
  /** of the right channel against the left one */
  cueDb: { min: -240, max: 240, unit: 'dB' },
  cueMs: { min: -1000, max: 1000, unit: 'ms' },
  percent: { min: 0, max: 100, unit: '%' },
  signedPercent: { min: -100, max: 100, unit: '%' },
  channels: { min: 1, max: 256, unit: 'channels' },
  hours: { min: 0, max: 24, unit: 'h' },
  minutes: { min: 0, max: 1440, unit: 'min' },
  count: { min: 0, max: 999, unit: '' },
  sensitivityMvPa: { min: 0.1, max: 200, unit: 'mV/Pa' },
  kilograms: { min: 0, max: 200, unit: 'kg' },
  metresPerPixel: { min: 1e-5, max: 10, unit: 'm' },
  headroomDb: { min: 0, max: 40, unit: 'dB' },
  dbu: { min: -20, max: 30, unit: 'dBu' },
  tapeM: { min: 0.001, max: 0.5, unit: 'm' },
  pixelAt: { min: -1000, max: 21_000, unit: 'pixels' },
  sheetM: { min: 0.02, max: 10, unit: 'm' },
  offPlaneM: { min: -1, max: 1, unit: 'm' },
  offWithinM: { min: 0, max: 0.2, unit: 'm' },
  cameraTiltDeg: { min: 0, max: 45, unit: '°' },
  anyFigure: { min: -1000, max: 1000, unit: '' },
  bytes: { min: 0, max: 1e12, unit: 'bytes' },
  pixels: { min: 1, max: 20000, unit: 'pixels' },
  openingDeg: { min: 0, max: 340, unit: '°' },
  takeS: { min: 0, max: 360_000, unit: 's' },
  /** −2 far too little … 2 far too much */
  degree: { min: -2, max: 2, unit: '' },
  rating: { min: 0, max: 5, unit: '' },
  joining: { min: 0.3, max: 3, unit: '' },
  answers: { min: 0, max: 10_000, unit: '' },
  filterHz: { min: 5, max: 100_000, unit: 'Hz' },
  sampleRateHz: { min: 8000, max: 768000, unit: 'Hz' },
} as const satisfies Record<string, Bounds>;

export type BoundsName = keyof typeof BOUNDS;

/** The limits of what of an array is set by hand and noted as built. */
export const BUILT_BOUNDS = {
  x: 'positionM',
  y: 'positionM',
  z: 'positionM',
  aimDeg: 'azimuthDeg',
  tiltDeg: 'elevationDeg',
  spacingM: 'spacingM',
  includedAngleDeg: 'includedAngleDeg',
  rightDb: 'gainDb',
} as const satisfies Record<string, BoundsName>;

export const MOST_SOURCES = 500;
export const MOST_CAPSULES = 200;

/** Characters of a content that a file holds itself. */
export const MOST_BLOB_TEXT = 12_000_000;

/** How many entries the lists of a session may have, for the file and for every edit. */
export const MOST_ENTRIES = {
  sources: MOST_SOURCES,
  sections: 100,
  arrays: MOST_CAPSULES,
  candidates: 50,
  takes: 10_000,
  log: 10_000,
  marks: 10_000,
  acknowledgements: 10_000,
  blobs: 2_000,
} as const;

/** "−200 to 200 m" */
export function boundsText({ min, max, unit }: Bounds): string {
  const behind = unit === '' || unit === '°' ? unit : ` ${unit}`;
  return `${min} to ${max}${behind}`;
}
