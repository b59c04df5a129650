import { inRange } from '../../units/guard';
import { pinkNoise } from '../signal/generate';
import { bandShares } from './band-shares';
import { keyParts } from './key-parts';
import { EXACTNESS, PLAYERS, type Player, type PlayerName } from './kinds';
import { notesOf, PHRASE_S, strokesOf, type Note, type PhraseName } from './score';
import { VOICES } from './written';
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
      return notesOf(phrase, player.line, player.range, seed, EXACTNESS[player.model]);
    case 'choir':
      return VOICES.flatMap((voice, v) =>
        notesOf(phrase, voice, player.voices[voice].range, seed + v, EXACTNESS.choir).map(
          (note) => ({ ...note, voice }),
        ),
      );
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
 * @throws RangeError where sampleRateHz is outside 8000 … 192000 Hz
 */
export function phraseOf(
  name: PlayerName,
  phrase: PhraseName,
  seed: number,
  sampleRateHz: number,
): Float32Array {
  inRange('sampleRateHz', sampleRateHz, 8000, 192_000, 'Hz');
  const player: Player = PLAYERS[name];
  const frames = Math.round(PHRASE_S * sampleRateHz);
  let out = notesPlayed(player, scoreOf(name, phrase, seed), sampleRateHz);
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

function notesPlayed(player: Player, notes: readonly Note[], sampleRateHz: number): Float32Array {
  const out = new Float32Array(Math.round(PHRASE_S * sampleRateHz));
  for (const note of notes) {
    if (player.model === 'sustained') playSustained(player.sound, note, out, sampleRateHz);
    else if (player.model === 'sung') playSung(player.sound, note, out, sampleRateHz);
    else if (player.model === 'choir') {
      playSung(player.voices[note.voice ?? 'soprano'].sound, note, out, sampleRateHz);
    } else if (player.model === 'struck' || player.model === 'strokes') {
      playStruck(player.sound, note, out, sampleRateHz);
    }
  }
  return out;
}

const energyOf = (samples: Float32Array): number =>
  samples.reduce((sum, value) => sum + value * value, 0);

/**
 * The same of an instrument whose keys lie side by side, parted among places from the low end to the
 * high one: each is as loud as the whole, so that all of them, each by 1/√count, have its level.
 * @param count of places, 2 … 8
 * @throws RangeError where sampleRateHz is outside 8000 … 192000 Hz
 */
export function phraseByKeys(
  name: PlayerName,
  phrase: PhraseName,
  seed: number,
  sampleRateHz: number,
  count: number,
): Float32Array[] {
  inRange('sampleRateHz', sampleRateHz, 8000, 192_000, 'Hz');
  const notes = scoreOf(name, phrase, seed);
  const parts = keyParts(notes, count);
  // Fewer keys than places: nothing says which end sounds.
  if (!parts) return bandShares(phraseOf(name, phrase, seed, sampleRateHz), sampleRateHz, count);
  const played = Array.from({ length: count }, (_, part) => {
    const own = notes.filter((_note, i) => parts[i] === part);
    return notesPlayed(PLAYERS[name], own, sampleRateHz);
  });
  const whole = new Float32Array(played[0]?.length ?? 0);
  for (const one of played) one.forEach((value, i) => (whole[i] = (whole[i] as number) + value));
  const level = soundingRms(whole, sampleRateHz);
  const wanted = energyOf(whole) / (level * level);
  return played.map((one) => {
    const gain = Math.sqrt(wanted / Math.max(energyOf(one), 1e-30));
    return one.map((value) => value * gain);
  });
}
