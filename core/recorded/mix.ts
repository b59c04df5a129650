import { readyArray } from '../prepare/arrays';
import { dbToAmplitude } from '../units/guard';
import type { Session } from '../session/schema';
import { inputOf, type Binding } from './bound';

/** How a channel goes into the plan's mix: factors, and later by ms. */
export interface MixedChannel {
  left: number;
  right: number;
  delayMs: number;
}

/** What is no microphone of the plan, or of an array that is off or muted, is not in its mix. */
const OUT: MixedChannel = { left: 0, right: 0, delayMs: 0 };

/** The plan's mix of a recording's channels: faders, gains, pans, polarities, delays and the decoder of mid-side. */
export function planMix(session: Session, binding: Binding): MixedChannel[] {
  return binding.map((_, channel) => {
    const input = inputOf(session, binding, channel);
    const array = input && session.arrays.find(({ id }) => id === input.arrayId);
    const route = array && readyArray(array).routes[input.capsule];
    if (!route || array.mix.mute) return OUT;
    const fader = dbToAmplitude(array.mix.faderDb);
    return { left: route.left * fader, right: route.right * fader, delayMs: route.delayMs };
  });
}
