import { patternAOf, sensitivity, type PatternName } from '../../acoustics/patterns';
import { amplitudeDb, cosDeg, dbToAmplitude, sinDeg } from '../../units/guard';
import { speedOfSound } from '../../units/sound';
import { db, n, nearly, pick, some, type Maker } from './sum';

/** Of delays, distances between microphones, and pairs. */

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

/** Makers of questions about place and path, by kind. */
export const PLACE_SUMS = {
  delays: [spotDelay, pathOf, samplesOf],
  '3 to 1': [spillOf, threeToOne],
  pairs: [spacedTime, crossedLevel, spacingFor],
} as const satisfies Readonly<Record<string, readonly Maker[]>>;
