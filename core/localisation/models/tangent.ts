import { dbToAmplitude, sinDeg, cosDeg, toDeg } from '../../units/guard';
import type { LocalisationModel } from './model';

const BASE_DEG = 30;
/** From this difference on the weaker channel counts as silent, so that full is reached. */
const SILENT_DB = 100;

/** tan φ = tan 30°·(g_R − g_L)/(g_R + g_L) for channels in phase; time differences are ignored. */
function shift(icldDb: number): number {
  if (Math.abs(icldDb) >= SILENT_DB) return Math.sign(icldDb);
  const ratio = dbToAmplitude(-Math.abs(icldDb));
  const tangent = ((sinDeg(BASE_DEG) / cosDeg(BASE_DEG)) * (1 - ratio)) / (1 + ratio);
  const size = toDeg(Math.atan(tangent)) / BASE_DEG;
  return icldDb < 0 ? -size : size;
}

function margin(icldDb: number, _ictdMs: number, level: number): number {
  return Math.abs(shift(icldDb)) - level;
}

function timeNeeded(icldDb: number, level: number): number | null {
  return shift(icldDb) >= level ? 0 : null;
}

export const tangent: LocalisationModel = {
  id: 'tangent',
  name: 'tangent law',
  holds: 'At low frequency the phases at the two ears follow from the levels alone.',
  authors: 'Bernfeld, Bauer',
  source: 'B. Bernfeld, AES convention (1973); phasor argument in B. B. Bauer, JASA 33 (1961).',
  range:
    'Coincident arrays only, below about 700 Hz, head free to turn. With a time difference ' +
    'between the channels its premise fails, so it is refused for spaced arrays.',
  levelOnly: true,
  surelyNarrower: { at75: 1, full: 6 },
  shift,
  margin,
  timeNeeded,
};
