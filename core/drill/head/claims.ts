import type { Claim } from './claim';
import { HALL_AND_MAKING, MID_SIDE_AND_MONO } from './claims-mono-hall';
import { PAIRS } from './claims-pairs';
import { LEVEL, TIME_AND_PATH } from './claims-time-level';

export type { Claim, Verdict } from './claim';

/** All claims, in the order of what they are about. */
export const CLAIMS: readonly Claim[] = [
  ...TIME_AND_PATH,
  ...LEVEL,
  ...PAIRS,
  ...MID_SIDE_AND_MONO,
  ...HALL_AND_MAKING,
];
