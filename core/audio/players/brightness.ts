/** No instrument has partials above, Hz. */
export const HIGHEST_HZ = 20_000;
/** From here up partials fall away, Hz, by so much an octave, dB: bells and bodies let less through. */
const FALLS_FROM_HZ = 8000;
const FALL_DB = 16;

/** What a partial loses by lying high, dB: 0 up to 8 kHz, −21 dB at 20 kHz. */
export const fallDb = (hz: number): number =>
  hz > FALLS_FROM_HZ ? -FALL_DB * Math.log2(hz / FALLS_FROM_HZ) : 0;
