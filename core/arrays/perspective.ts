import { stripsOf, type ChannelStrip } from './routing';
import type { Technique } from './technique';

/** Whose left and right the picture follows. */
export type Perspective = 'audience' | 'performer';

interface Mixed<T extends Technique> {
  technique: T;
  mix: { capsules: readonly ChannelStrip[] };
}

/**
 * A new array as a session with this perspective wants it: of the performers' side left and right
 * are the other way round, by its pans, and of mid-side by its lobe.
 */
export function onSideOf<T extends Technique, A extends Mixed<T>>(
  perspective: Perspective,
  array: A,
): A {
  const { technique, mix } = array;
  if (perspective === 'audience') return array;
  if (technique.kind === 'mid-side') {
    return { ...array, technique: { ...technique, sidePositive: 'right' } };
  }
  const strips = stripsOf(technique, mix.capsules);
  if (strips.length < 2) return array;
  const capsules = strips.map((strip) => ({ ...strip, pan: strip.pan === 0 ? 0 : -strip.pan }));
  return { ...array, mix: { ...mix, capsules } };
}
