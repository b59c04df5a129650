import { criticalDistance } from '../../acoustics/reverberant-field';
import {
  distanceFactor,
  patternAOf,
  sensitivity,
  type PatternName,
} from '../../acoustics/patterns';
import { storage } from '../../planning/counts';
import { amplitudeDb, cosDeg, dbToAmplitude, dbToPower, powerDb, sinDeg } from '../../units/guard';
import { speedOfSound } from '../../units/sound';
import { db, n, nearly, pick, some, type Maker } from './sum';

/** Of decoding, distance, levels, likeness, and storage. */

const decodeLevel: Maker = (random) => {
  const [deg, gain] = [some(random, 10, 45, 5), some(random, -6, 0, 1)];
  const mid = sensitivity(0.5, cosDeg(deg));
  const side = dbToAmplitude(gain) * sinDeg(deg);
  const answer = amplitudeDb((mid + side) / (mid - side));
  return {
    text: `Mid-side: a cardioid as mid, the side at ${gain === 0 ? '0' : n(gain, 0)} dB; a source ${deg}° to the side of the positive lobe. How much louder is its own channel than the other?`,
    quantity: 'level',
    answer,
    within: 0.5,
    worked: [
      `M = 0.5 + 0.5·cos ${deg}° = ${n(mid, 3)}; S = ${n(dbToAmplitude(gain), 2)}·sin ${deg}° = ${n(side, 3)}`,
      `M + S = ${n(mid + side, 3)}, M − S = ${n(mid - side, 3)}`,
      `20·lg(${n(mid + side, 3)}/${n(mid - side, 3)}) = ${db(answer)}`,
    ],
    formula: 'mid-side',
  };
};

const decodeLate: Maker = (random) => {
  const [samples, hz] = [some(random, 1, 4, 1), some(random, 1000, 6000, 500)];
  const answer = amplitudeDb(2 * Math.abs(Math.sin((Math.PI * hz * samples) / 48_000)));
  const turn = (180 * hz * samples) / 48_000;
  return {
    text: `The turned copy of the side is ${samples === 1 ? 'one sample' : `${samples} samples`} late at 48 kHz. How much of S is left in mono at ${n(hz / 1000, 1)} kHz, against one S?`,
    quantity: 'level',
    answer,
    within: 0.7,
    worked: [
      `S − S late = 2·sin(π·f·t) of S; π·${hz}·${samples}/48000 = ${n(turn, 2)}°`,
      `2·sin ${n(turn, 2)}° = ${n(dbToAmplitude(answer), 3)} = ${db(answer)}`,
    ],
    formula: 'mid-side',
  };
};

const farAs: Maker = (random) => {
  const pattern: PatternName = pick(random, [
    'cardioid',
    'supercardioid',
    'hypercardioid',
    'subcardioid',
  ]);
  const metres = some(random, 1, 3.5, 0.1);
  const factor = distanceFactor(patternAOf(pattern));
  const answer = factor * metres;
  return {
    text: `An omni at ${n(metres, 1)} m sounds right in its share of room. How far away may a ${pattern} that looks at the players be for the same share?`,
    quantity: 'length',
    answer,
    within: nearly(answer, 0.05),
    worked: [
      `A = ${n(patternAOf(pattern), 2)}; distance factor 1/√(A² + (1 − A)²/3) = ${n(factor, 2)}`,
      `${n(factor, 2)} × ${n(metres, 1)} m = ${n(answer, 2)} m`,
    ],
    formula: 'microphone-patterns',
  };
};

const critical: Maker = (random) => {
  const [volume, rt] = [some(random, 800, 9000, 200), some(random, 0.8, 2.8, 0.1)];
  const answer = criticalDistance(1, volume, rt);
  return {
    text: `A hall of ${n(volume, 0)} m³ with a reverberation time of ${n(rt, 1)} s. At which distance are direct and reverberant sound of a player who sounds to all sides equally loud?`,
    quantity: 'length',
    answer,
    within: 0.06 * answer,
    worked: [`0.057·√(V/T) = 0.057·√(${n(volume, 0)}/${n(rt, 1)}) = ${n(answer, 2)} m`],
    formula: 'reverberant-field',
  };
};

const uncorrelated: Maker = (random) => {
  const [one, other] = [some(random, 60, 84, 1), some(random, 60, 84, 1)];
  const answer = powerDb(dbToPower(one) + dbToPower(other));
  return {
    text: `Two players who are not correlated: ${one} dB and ${other} dB. How loud are both together?`,
    quantity: 'level',
    answer,
    within: 0.4,
    worked: [
      `10·lg(10^(${one}/10) + 10^(${other}/10)) = ${n(answer, 1)} dB`,
      'equal ones: + 3 dB; 10 dB apart: + 0.4 dB',
    ],
    formula: 'mix',
  };
};

const several: Maker = (random) => {
  const [count, each] = [some(random, 3, 40, 1), some(random, 62, 80, 1)];
  const answer = each + powerDb(count);
  return {
    text: `${count} singers of ${each} dB each. How loud are all together?`,
    quantity: 'level',
    answer,
    within: 0.5,
    worked: [`${each} + 10·lg ${count} = ${each} + ${n(powerDb(count), 1)} = ${n(answer, 1)} dB`],
    formula: 'mix',
  };
};

const coherent: Maker = (random) => {
  const softer = some(random, 0, 16, 1);
  const isDip = random() < 0.5;
  const second = dbToAmplitude(-Math.max(softer, isDip ? 1 : 0));
  const down = Math.max(softer, isDip ? 1 : 0);
  const answer = amplitudeDb(isDip ? 1 - second : 1 + second);
  return {
    text: `In mono the same sound arrives twice, the second time ${down} dB softer and a little later. How ${isDip ? 'deep are the dips' : 'high are the peaks'} of the comb, against the first alone?`,
    quantity: 'level',
    answer,
    within: 0.5,
    sizeOnly: true,
    worked: [
      `10^(−${down}/20) = ${n(second, 3)}`,
      `20·lg(1 ${isDip ? '−' : '+'} ${n(second, 3)}) = ${db(answer)}`,
    ],
    formula: 'mono',
  };
};

const farther: Maker = (random) => {
  const [from, to] = [some(random, 0.5, 3, 0.5), some(random, 3.5, 12, 0.5)];
  const answer = -amplitudeDb(to / from);
  return {
    text: `From ${n(from, 1)} m to ${n(to, 1)} m in the free field: how does the direct sound change?`,
    quantity: 'level',
    answer,
    within: 0.4,
    sizeOnly: true,
    worked: [`20·lg(${n(from, 1)}/${n(to, 1)}) = ${db(answer)}; 6 dB for each doubling`],
    formula: 'reverberant-field',
  };
};

const midSideLikeness: Maker = (random) => {
  const side = some(random, -12, 6, 1);
  const power = dbToPower(side);
  const answer = (1 - power) / (1 + power);
  return {
    text: `Mid and side are not correlated, the side ${side === 0 ? 'as loud' : `${n(Math.abs(side), 0)} dB ${side < 0 ? 'softer' : 'louder'}`}. What is the correlation of left and right?`,
    quantity: 'ratio',
    answer,
    within: 0.04,
    worked: [`s = 10^(${n(side, 0)}/10) = ${n(power, 3)}`, `(1 − s)/(1 + s) = ${n(answer, 2)}`],
    formula: 'mid-side',
  };
};

const diffuseLikeness: Maker = (random) => {
  const [cm, hz] = [some(random, 20, 120, 10), pick(random, [50, 100, 200, 400])];
  const c = speedOfSound(20);
  const z = (2 * Math.PI * hz * cm) / 100 / c;
  const answer = Math.sin(z) / z;
  return {
    text: `Two omnis ${cm} cm apart in a diffuse field at 20 °C: their correlation at ${hz} Hz?`,
    quantity: 'ratio',
    answer,
    within: 0.05,
    worked: [
      `z = 2π·${hz} Hz·${n(cm / 100, 1)} m/${n(c, 1)} m/s = ${n(z, 2)} (radians)`,
      `sin z/z = ${n(answer, 2)}`,
    ],
    formula: 'diffuse-field-correlation',
  };
};

const roomFor: Maker = (random) => {
  const tracks = some(random, 4, 32, 2);
  const rate = pick(random, [48_000, 96_000, 192_000]);
  const hours = some(random, 1, 6, 0.5);
  const answer = storage(tracks, rate, 24, hours).bytes / 1e9;
  return {
    text: `${tracks} tracks at ${n(rate / 1000, 0)} kHz and 24 bits for ${n(hours, 1)} h: how much storage?`,
    quantity: 'data',
    answer,
    within: nearly(answer, 0.1),
    worked: [
      `${n(rate / 1000, 0)} kHz × 3 bytes × ${tracks} = ${n((rate * 3 * tracks) / 1e6, 2)} MB a second`,
      `× ${n(hours * 3600, 0)} s = ${n(answer, 1)} GB, once; twice with its copy`,
    ],
    formula: 'storage',
  };
};

const lasts: Maker = (random) => {
  const tracks = some(random, 4, 24, 2);
  const rate = pick(random, [48_000, 96_000]);
  const disk = pick(random, [32, 64, 128, 256]);
  const answer = (disk * 1e9) / (tracks * rate * 3) / 60;
  return {
    text: `How long do ${disk} GB last for ${tracks} tracks at ${n(rate / 1000, 0)} kHz and 24 bits?`,
    quantity: 'duration',
    answer,
    within: nearly(answer),
    worked: [
      `${n(rate / 1000, 0)} kHz × 3 bytes × ${tracks} = ${n((rate * 3 * tracks) / 1e6, 2)} MB a second`,
      `${disk} GB ÷ that = ${n(answer, 0)} min = ${n(answer / 60, 2)} h`,
    ],
    formula: 'storage',
  };
};

/** Makers of questions about level and likeness, by kind. */
export const LEVEL_SUMS = {
  decode: [decodeLevel, decodeLate],
  distance: [farAs, critical],
  decibels: [uncorrelated, several, coherent, farther],
  correlation: [midSideLikeness, diffuseLikeness],
  storage: [roomFor, lasts],
} as const satisfies Readonly<Record<string, readonly Maker[]>>;
