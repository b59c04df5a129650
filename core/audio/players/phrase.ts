import { inRange } from '../../units/guard';
import { pinkNoise } from '../signal/generate';
import { PLAYERS, type Player, type PlayerName } from './kinds';
import { notesOf, PHRASE_S, strokesOf, type Note, type PhraseName } from './score';
import { playSpoken } from './spoken';
import { playStruck } from './struck';
import { playSung } from './sung';
import { playSustained } from './sustained';

/** Frames of which a phrase's level is made, s, and how far under the loudest one still sounds. */
const LEVEL_S = 0.05;
const SOUNDING_DB = -30;
const CLICKS_PER_S = 4;

/** Root mean square where something sounds. */
export function soundingRms(samples: Float32Array, sampleRateHz: number): number {
  const length = Math.max(1, Math.round(LEVEL_S * sampleRateHz));
  const powers: number[] = [];
  for (let at = 0; at + length <= samples.length; at += length) {
    let sum = 0;
    for (let i = at; i < at + length; i++) sum += (samples[i] as number) ** 2;
    powers.push(sum / length);
  }
  const loudest = Math.max(0, ...powers);
  const sounding = powers.filter((power) => power > loudest * 10 ** (SOUNDING_DB / 10));
  return Math.sqrt(sounding.reduce((sum, power) => sum + power, 0) / Math.max(1, sounding.length));
}

/**
 * The notes that a player plays; none of what is no music.
 * @param seed any whole number, 0 … 2^32
 */
export function scoreOf(name: PlayerName, phrase: PhraseName, seed: number): Note[] {
  const player: Player = PLAYERS[name];
  switch (player.model) {
    case 'sustained':
    case 'struck':
    case 'sung':
      return notesOf(phrase, player.line, player.range, seed);
    case 'strokes':
      return strokesOf(player.every, player.from, player.key, seed);
    default:
      return [];
  }
}

/**
 * A phrase of a player: the same for the same seed, at a level of one (root mean square where it
 * sounds), so that a source's dB SPL at 1 m is all that is left to say.
 * @param seed any whole number
 * @param sampleRateHz 8000 … 192000 Hz
 * @param keep which of its notes are played: an instrument as wide as a piano sounds from several places
 * @throws RangeError where sampleRateHz is outside 8000 … 192000 Hz
 */
export function phraseOf(
  name: PlayerName,
  phrase: PhraseName,
  seed: number,
  sampleRateHz: number,
  keep: (note: Note) => boolean = () => true,
): Float32Array {
  inRange('sampleRateHz', sampleRateHz, 8000, 192_000, 'Hz');
  const player: Player = PLAYERS[name];
  const frames = Math.round(PHRASE_S * sampleRateHz);
  let out: Float32Array = new Float32Array(frames);
  for (const note of scoreOf(name, phrase, seed).filter(keep)) {
    if (player.model === 'sustained') playSustained(player.sound, note, out, sampleRateHz);
    else if (player.model === 'sung') playSung(player.sound, note, out, sampleRateHz);
    else if (player.model === 'struck' || player.model === 'strokes') {
      playStruck(player.sound, note, out, sampleRateHz);
    }
  }
  if (player.model === 'spoken') playSpoken(out, sampleRateHz, seed);
  if (player.model === 'noise') out = pinkNoise(frames, seed);
  if (player.model === 'clicks') {
    for (let i = 0; i < PHRASE_S * CLICKS_PER_S; i++) {
      out[Math.round((i / CLICKS_PER_S) * sampleRateHz)] = 1;
    }
  }
  const level = soundingRms(out, sampleRateHz);
  if (!(level > 0)) return out;
  for (let i = 0; i < frames; i++) out[i] = (out[i] as number) / level;
  return out;
}
