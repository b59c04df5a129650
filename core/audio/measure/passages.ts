import type { Sound } from '../sound';
import { walked, type Work } from '../work';
import type { Stretch } from './asked';

const STEP_S = 0.02;
/** A passage ends where it has been so much softer than its loudest moment for so long, dB and s. */
const SOFTER_DB = 20;
const SILENCE_S = 1.1;
/** Softer than the loudest of all by so much is none, dB. */
const NONE_DB = 45;
/** Power of a step that is none. */
const NOTHING = 1e-12;

/**
 * Passages with silence between them: of a roll call or of claps in turn, one each.
 * @param channels which are listened to, from 0
 * @returns in their order, s; each begins a moment before its first sound
 * @throws Cancelled where it was given up
 */
export async function passagesOf(
  sound: Sound,
  channels: readonly number[],
  work: Partial<Work> = {},
): Promise<Stretch[]> {
  const { sampleRateHz } = sound.info.format;
  const hop = Math.round(STEP_S * sampleRateHz);
  const steps: number[] = [];
  let [sum, filled] = [0, 0];
  const range = { from: 0, to: sound.info.frames, only: channels };
  for await (const { planes, frames } of walked(sound, range, work)) {
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + hop - filled);
      for (const c of channels) {
        const plane = planes[c];
        if (plane) for (let i = from; i < to; i++) sum += (plane[i] as number) ** 2;
      }
      filled += to - from;
      from = to;
      if (filled < hop) continue;
      steps.push(sum / hop);
      sum = filled = 0;
    }
  }
  return apart(steps).map(({ from, to }) => ({
    fromS: Math.max(0, (from - 2) * STEP_S),
    toS: Math.min(sound.info.frames / sampleRateHz, to * STEP_S),
  }));
}

/** Where steps of power sound, and where the next begins. @returns first and last step of each */
function apart(steps: readonly number[]): { from: number; to: number }[] {
  const loudest = steps.reduce((most, power) => Math.max(most, power), 0);
  const least = Math.max(NOTHING, loudest * 10 ** (-NONE_DB / 10));
  const softer = 10 ** (-SOFTER_DB / 10);
  const quiet = Math.round(SILENCE_S / STEP_S);
  const found: { from: number; to: number }[] = [];
  let [from, peak, last] = [-1, 0, 0];
  steps.forEach((power, i) => {
    if (power < least || (from >= 0 && power < peak * softer)) {
      if (from >= 0 && i - last >= quiet) {
        found.push({ from, to: i });
        [from, peak] = [-1, 0];
      }
      return;
    }
    if (from < 0) from = i;
    peak = Math.max(peak, power);
    last = i;
  });
  if (from >= 0) found.push({ from, to: steps.length });
  return found;
}
