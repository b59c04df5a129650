import { criticalDistance } from '../../acoustics/reverberant-field';
import {
  distanceFactor,
  patternAOf,
  sensitivity,
  type PatternName,
} from '../../acoustics/patterns';
import { storage } from '../../planning/counts';
import { formatNumber, formatSigned } from '../../units/format';
import { amplitudeDb, cosDeg, dbToAmplitude, dbToPower, powerDb, sinDeg } from '../../units/guard';
import { seededRandom } from '../../units/random';
import { speedOfSound } from '../../units/sound';
import type { Quantity } from './answers';

/** Arithmetic of the trade, with fresh numbers each time. */

export interface Sum {
  text: string;
  quantity: Quantity;
  /** in the unit of its quantity: ms, m, dB, °, GB, samples or none */
  answer: number;
  /** how far off an answer may be and still be right, in that unit */
  within: number;
  /** which way it goes is clear from the question: its size is enough */
  sizeOnly?: true;
  /** the way to it, a step a line */
  worked: string[];
  formula: string;
}

type Random = () => number;
type Maker = (random: Random) => Sum;

const pick = <T>(random: Random, of: readonly [T, ...T[]]): T =>
  of[Math.floor(random() * of.length)] ?? of[0];
/** Between two numbers in steps. */
const some = (random: Random, from: number, to: number, step: number): number =>
  from + step * Math.floor(random() * (Math.round((to - from) / step) + 1));

const n = (value: number, decimals: number): string => formatNumber(value, decimals);
const db = (value: number): string => `${formatSigned(value, 1)} dB`;

/** Three parts of a hundred, or at least so much. */
const nearly = (answer: number, least = 0): number => Math.max(least, 0.03 * Math.abs(answer));

const spotDelay: Maker = (random) => {
  const [farM, celsius] = [some(random, 2.5, 9, 0.1), some(random, 14, 26, 2)];
  const nearM = some(random, 0.3, 1, 0.1);
  const c = speedOfSound(celsius);
  const answer = (1000 * (farM - nearM)) / c;
  return {
    text: `A player is ${n(farM, 1)} m from the main pair and ${n(nearM, 1)} m from his spot, at ${celsius} °C. How much must the spot be delayed to arrive with the main pair?`,
    quantity: 'time',
    answer,
    within: nearly(answer, 0.1),
    worked: [
      `c = 331.3·√(1 + ${celsius}/273.15) = ${n(c, 1)} m/s`,
      `(${n(farM, 1)} − ${n(nearM, 1)}) m ÷ ${n(c, 1)} m/s = ${n(answer, 2)} ms`,
    ],
    formula: 'speed-of-sound',
  };
};

const pathOf: Maker = (random) => {
  const ms = some(random, 2, 30, 0.5);
  const c = speedOfSound(20);
  const answer = (ms / 1000) * c;
  return {
    text: `One microphone hears a clap ${n(ms, 1)} ms after another one, at 20 °C. How much farther away is it?`,
    quantity: 'length',
    answer,
    within: nearly(answer, 0.03),
    worked: [`${n(ms, 1)} ms × ${n(c, 1)} m/s = ${n(answer, 2)} m; a third of a metre for each ms`],
    formula: 'speed-of-sound',
  };
};

const samplesOf: Maker = (random) => {
  const metres = some(random, 0.2, 6, 0.1);
  const rate = pick(random, [44_100, 48_000, 96_000]);
  const c = speedOfSound(20);
  const answer = (metres / c) * rate;
  return {
    text: `How many samples at ${n(rate / 1000, 1)} kHz is a path of ${n(metres, 1)} m, at 20 °C?`,
    quantity: 'count',
    answer,
    within: nearly(answer, 1),
    worked: [
      `${n(metres, 1)} m ÷ ${n(c, 1)} m/s = ${n((1000 * metres) / c, 3)} ms`,
      `× ${n(rate / 1000, 1)} samples a ms = ${n(answer, 0)} samples`,
    ],
    formula: 'speed-of-sound',
  };
};

const spillOf: Maker = (random) => {
  const [ownCm, farCm] = [some(random, 20, 60, 5), some(random, 80, 300, 10)];
  const answer = -amplitudeDb(farCm / ownCm);
  return {
    text: `A spot is ${ownCm} cm from its player and ${farCm} cm from a neighbour who is as loud. How much softer than its own player does it hear the neighbour, in the free field?`,
    quantity: 'level',
    answer,
    within: 0.5,
    sizeOnly: true,
    worked: [
      `20·lg(${ownCm}/${farCm}) = ${db(answer)}`,
      `three times the distance would be ${db(-amplitudeDb(3))}: that is all that 3 to 1 says, and it aligns nothing`,
    ],
    formula: 'spill-and-3-to-1',
  };
};

const threeToOne: Maker = (random) => {
  const ownCm = some(random, 15, 80, 5);
  const dbWanted = pick(random, [9.54, 12, 15]);
  const factor = dbWanted === 9.54 ? 3 : dbToAmplitude(dbWanted);
  const answer = (ownCm * factor) / 100;
  return {
    text:
      dbWanted === 9.54
        ? `A spot is ${ownCm} cm from its player. How far away must the next microphone be by 3 to 1?`
        : `A spot is ${ownCm} cm from its player. From which distance on is an equally loud neighbour ${dbWanted} dB softer in it?`,
    quantity: 'length',
    answer,
    within: nearly(answer, 0.02),
    worked: [
      dbWanted === 9.54
        ? `3 × ${ownCm} cm = ${n(100 * answer, 0)} cm: 9.5 dB for equally loud players`
        : `10^(${dbWanted}/20) = ${n(factor, 2)}; × ${ownCm} cm = ${n(100 * answer, 0)} cm`,
    ],
    formula: 'spill-and-3-to-1',
  };
};

const spacedTime: Maker = (random) => {
  const [cm, deg] = [some(random, 15, 80, 5), some(random, 15, 75, 5)];
  const c = speedOfSound(20);
  const answer = ((cm / 100) * sinDeg(deg) * 1000) / c;
  return {
    text: `Two omnis ${cm} cm apart; a distant source ${deg}° off the middle, at 20 °C. How large is the time difference?`,
    quantity: 'time',
    answer,
    within: nearly(answer, 0.02),
    worked: [
      `${cm} cm × sin ${deg}° = ${n(cm * sinDeg(deg), 1)} cm`,
      `÷ ${n(c, 1)} m/s = ${n(answer, 3)} ms`,
    ],
    formula: 'cues',
  };
};

const crossedLevel: Maker = (random) => {
  const pattern: PatternName = pick(random, ['cardioid', 'supercardioid']);
  const [angle, deg] = [some(random, 80, 120, 10), some(random, 10, 40, 5)];
  const a = patternAOf(pattern);
  const [near, far] = [cosDeg(deg - angle / 2), cosDeg(deg + angle / 2)];
  const [one, other] = [sensitivity(a, near), sensitivity(a, far)];
  const answer = amplitudeDb(one / other);
  return {
    text: `Two ${pattern}s in one place, ${angle}° between them; a source ${deg}° off the middle. How large is the level difference?`,
    quantity: 'level',
    answer,
    within: 0.5,
    worked: [
      `nearer one: ${n(a, 2)} + ${n(1 - a, 2)}·cos ${Math.abs(deg - angle / 2)}° = ${n(one, 3)}`,
      `other one: ${n(a, 2)} + ${n(1 - a, 2)}·cos ${deg + angle / 2}° = ${n(other, 3)}`,
      `20·lg(${n(one, 3)}/${n(other, 3)}) = ${db(answer)}`,
    ],
    formula: 'cues',
  };
};

const spacingFor: Maker = (random) => {
  const [ms, deg] = [some(random, 0.3, 1.1, 0.1), some(random, 25, 60, 5)];
  const c = speedOfSound(20);
  const answer = ((ms / 1000) * c) / sinDeg(deg);
  return {
    text: `How far apart must two omnis be for ${n(ms, 1)} ms at ${deg}° off the middle (distant source, 20 °C)?`,
    quantity: 'length',
    answer,
    within: nearly(answer, 0.01),
    worked: [
      `${n(ms, 1)} ms × ${n(c, 1)} m/s = ${n((ms / 10) * c, 1)} cm of path`,
      `÷ sin ${deg}° = ${n(100 * answer, 1)} cm`,
    ],
    formula: 'recording-angle',
  };
};

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

/** Kinds of arithmetic, and what they are made of. */
export const SUMS = {
  delays: { name: 'Delays', makers: [spotDelay, pathOf, samplesOf] },
  '3 to 1': { name: '3 to 1 and spill', makers: [spillOf, threeToOne] },
  pairs: { name: 'Angle and spacing', makers: [spacedTime, crossedLevel, spacingFor] },
  decode: { name: 'Mid-side decode', makers: [decodeLevel, decodeLate] },
  distance: { name: 'Distance factors', makers: [farAs, critical] },
  decibels: { name: 'Sums of decibels', makers: [uncorrelated, several, coherent, farther] },
  correlation: { name: 'Correlation', makers: [midSideLikeness, diffuseLikeness] },
  storage: { name: 'Storage', makers: [roomFor, lasts] },
} as const satisfies Readonly<Record<string, { name: string; makers: readonly Maker[] }>>;

export type SumKind = keyof typeof SUMS;
export const SUM_KINDS = Object.keys(SUMS) as SumKind[];

/**
 * A question of a kind.
 * @param seed any whole number, 0 … 2^32: the same gives the same numbers
 */
export function sumOf(kind: SumKind, seed: number): Sum {
  const random = seededRandom(seed);
  const { makers } = SUMS[kind];
  const maker = makers[Math.floor(random() * makers.length)] ?? makers[0];
  return maker(random);
}

/** Whether an answer is right. @param answer in the unit of its quantity: ms, min, m, dB, °, GB, samples or none */
export function isRight(sum: Sum, answer: number): boolean {
  const size = (value: number): number => (sum.sizeOnly ? Math.abs(value) : value);
  return Math.abs(size(answer) - size(sum.answer)) <= sum.within + 1e-12;
}
