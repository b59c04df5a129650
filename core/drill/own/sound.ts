import { phraseOf } from '../../audio/players/phrase';
import { delayed, pinkNoise } from '../../audio/signal/generate';
import { dbToAmplitude } from '../../units/guard';
import { matched, RATE_HZ, scaled, type Stereo } from '../ear/sound';
import { inRange } from '../../units/guard';
import type { SetUpCheck } from './checks';
import type { AskedImage, ImageSound } from './images';

/** What a listener's own model is asked with: short and dry, so that nothing but the differences places it. */

const LENGTH_S = 1.3;
const FRAMES = Math.round(LENGTH_S * RATE_HZ);
const BURST_S = 0.16;
const CLICK_S = 0.22;
/** The announcer begins to speak. */
const SPEAKS_S = 0.1;

const inBursts = (noise: Float32Array): Float32Array => {
  const length = BURST_S * RATE_HZ;
  return noise.map((value, i) => {
    const within = (i % (1.6 * length)) / length;
    return within >= 1 ? 0 : value * Math.sin(Math.PI * within) ** 0.5;
  });
};

function clicks(): Float32Array {
  const out = new Float32Array(FRAMES);
  const noise = pinkNoise(480, 11);
  for (let at = 0; at + noise.length < FRAMES; at += Math.round(CLICK_S * RATE_HZ)) {
    noise.forEach((value, i) => (out[at + i] = value * Math.exp(-i / 60)));
  }
  return out;
}

const known = new Map<ImageSound, Float32Array>();

/** One channel of a kind of sound. */
function plain(sound: ImageSound): Float32Array {
  const before = known.get(sound);
  if (before) return before;
  const from = Math.round(SPEAKS_S * RATE_HZ);
  const made =
    sound === 'voice'
      ? phraseOf('announcer', 'chorale', 3, RATE_HZ).slice(from, from + FRAMES)
      : sound === 'clicks'
        ? clicks()
        : inBursts(pinkNoise(FRAMES, 7));
  known.set(sound, made);
  return made;
}

const MS = RATE_HZ / 1000;

/**
 * One image to be placed: at the loudness of all others.
 * @throws RangeError where icldDb is outside −24 … 24 dB, ictdMs is outside −2 … 2 ms
 */
export function imageSound({ icldDb, ictdMs, sound }: AskedImage): Stereo {
  inRange('icldDb', icldDb, -24, 24, 'dB');
  inRange('ictdMs', ictdMs, -2, 2, 'ms');
  const dry = plain(sound);
  const side = (sign: 1 | -1): Float32Array =>
    // Earlier on the right is later on the left; both are late by 1 ms, so that nothing is cut off.
    delayed(scaled(dry, dbToAmplitude((sign * icldDb) / 2)), (1 - (sign * ictdMs) / 2) * MS);
  return first(matched([[side(-1), side(1)]]));
}

function first(sounds: readonly Stereo[]): Stereo {
  const [sound] = sounds;
  if (!sound) throw new TypeError('one sound was made');
  return sound;
}

/** The sound of a check. */
export function checkSound(id: SetUpCheck): Stereo {
  const noise = inBursts(pinkNoise(FRAMES, 21));
  const silent = new Float32Array(FRAMES);
  if (id === 'left') return first(matched([[noise, silent]]));
  if (id === 'right') return first(matched([[silent, noise]]));
  if (id === 'balance') return first(matched([[noise, noise]]));
  const twice = new Float32Array(2 * FRAMES);
  twice.set(noise);
  twice.set(noise, FRAMES);
  const turned = twice.map((value, i) => (i < FRAMES ? -value : value));
  return first(matched([[twice, turned]]));
}
