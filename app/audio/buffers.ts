import type { MixerState } from '../../core/audio/listen/sounding';

/** The buffers of all that a mixer has: they go over instead of being copied. */
export const buffersOf = ({ loops }: MixerState): ArrayBuffer[] => [
  ...new Set(
    loops.flatMap(({ layers, live }) => [
      ...layers.flatMap(({ loop }) => loop.map(({ buffer }) => buffer as ArrayBuffer)),
      ...(live?.loops.map(({ buffer }) => buffer as ArrayBuffer) ?? []),
    ]),
  ),
];
