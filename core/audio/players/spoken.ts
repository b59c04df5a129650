import { seededRandom } from '../../units/random';
import { playSung } from './sung';

const SYLLABLES = 5;

/**
 * Something like speech, of no language: syllables that rise and fall, with hissed beginnings.
 * @param out the phrase, to be filled
 * @param sampleRateHz 8000 … 192000 Hz
 */
export function playSpoken(out: Float32Array, sampleRateHz: number, seed: number): void {
  const random = seededRandom(seed);
  const seconds = out.length / sampleRateHz;
  const voice = {
    scale: 1,
    vibrato: { hz: 4, cents: 10 },
    attackS: 0.02,
    releaseS: 0.05,
    singers: 1,
  };
  let atS = 0.05;
  let word = 0;
  while (atS < seconds - 0.6) {
    const lengthS = (0.6 + 0.5 * random()) / SYLLABLES;
    const key = 45 - 3 * (atS % 3) + 3 * random();
    const seedOf = Math.floor(random() * 2 ** 31);
    playSung(
      voice,
      {
        atS,
        lengthS,
        key,
        force: 0.5 + 0.3 * random(),
        seed: seedOf,
        syllable: Math.floor(5 * random()),
        swellDb: 0,
      },
      out,
      sampleRateHz,
    );
    if (random() < 0.6) hiss(out, atS - 0.06, 0.07, sampleRateHz, random);
    atS += lengthS + 0.05 + 0.05 * random();
    word += 1;
    if (word % 7 === 0) atS += 0.35;
  }
}

function hiss(
  out: Float32Array,
  fromS: number,
  lengthS: number,
  sampleRateHz: number,
  random: () => number,
): void {
  const from = Math.max(0, Math.round(fromS * sampleRateHz));
  const frames = Math.round(lengthS * sampleRateHz);
  let before = 0;
  for (let i = 0; i < frames && from + i < out.length; i++) {
    const white = 2 * random() - 1;
    const open = Math.sin((Math.PI * i) / frames);
    out[from + i] = (out[from + i] as number) + 0.5 * open * (white - before);
    before = white;
  }
}
