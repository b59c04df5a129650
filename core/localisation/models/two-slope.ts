import type { LocalisationModel } from './model';

const KNEE = 0.5;
const SHIFT_AT_KNEE = 2 / 3;

function shift(icldDb: number, ictdMs: number): number {
  const u = icldDb / 17 + ictdMs / 1.0;
  const size = Math.abs(u);
  const side = u < 0 ? -1 : 1;
  if (size <= KNEE) return side * SHIFT_AT_KNEE * (size / KNEE);
  return side * Math.min(1, SHIFT_AT_KNEE + (1 - SHIFT_AT_KNEE) * ((size - KNEE) / KNEE));
}

/** The measure that an image at a level needs. */
function measureFor(level: number): number {
  return level <= SHIFT_AT_KNEE
    ? (KNEE * level) / SHIFT_AT_KNEE
    : KNEE + (KNEE * (level - SHIFT_AT_KNEE)) / (1 - SHIFT_AT_KNEE);
}

function margin(icldDb: number, ictdMs: number, level: number): number {
  return Math.abs(icldDb / 17 + ictdMs / 1.0) - measureFor(level);
}

function timeNeeded(icldDb: number, level: number): number {
  return measureFor(level) - icldDb / 17;
}

export const twoSlope: LocalisationModel = {
  id: 'two-slope',
  name: 'two slopes',
  holds: 'The cues add in one measure: the inner two thirds come quickly, the outer third slowly.',
  authors: 'after Lee, Rumsey',
  source: 'After H. Lee & F. Rumsey, J. Audio Eng. Soc. 61 (2013).',
  range:
    'Level to 17 dB, time to 1.0 ms, musical sources, ±30° loudspeakers. ' +
    'Leaves out frequency and the kind of signal.',
  levelOnly: false,
  surelyNarrower: { at75: 0.55, full: 0.88 },
  shift,
  margin,
  timeNeeded,
};
