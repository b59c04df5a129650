import { LONGEST_FILTER_S, minimumPhase } from '../signal/minimum-phase';

/** What each surface absorbs at the centre of each octave, 0 … 1; null where nobody knows. */
export type OctaveSurfaces = readonly {
  hz: number;
  absorption: Readonly<Record<string, number | null>>;
}[];

/** Octave whose absorption the gains of paths have in them. */
const MIDDLE_HZ = 1000;
/** What reflects less than this reflects nothing that is heard. */
const LEAST = 1e-4;

/** Samples of the longest of these filters. @param sampleRateHz 8000 … 192000 Hz */
export const longestFilter = (sampleRateHz: number): number =>
  Math.round(LONGEST_FILTER_S * sampleRateHz);

/** What a reflection does to the sound beyond its gain at 1 kHz, by the surfaces that it meets. */
export class ImageFilters {
  private readonly made = new Map<string, Float32Array | null>();

  /** @param sampleRateHz 8000 … 192000 Hz */
  constructor(
    private readonly octaves: OctaveSurfaces,
    private readonly sampleRateHz: number,
  ) {}

  /** @returns a short response of minimum phase; null where it would change nothing */
  of(surfaces: readonly string[]): Float32Array | null {
    const key = [...surfaces].sort().join(' ');
    const known = this.made.get(key);
    if (known !== undefined) return known;
    const energies = this.octaves.map(({ hz, absorption }) => ({
      hz,
      energy: surfaces.reduce(
        (left, surface) => left * Math.max(LEAST, 1 - (absorption[surface] ?? 0)),
        1,
      ),
    }));
    const middle = energies.find(({ hz }) => hz === MIDDLE_HZ)?.energy ?? 1;
    const gains = energies.map(({ hz, energy }) => ({ hz, gain: Math.sqrt(energy / middle) }));
    const flat = gains.every(({ gain }) => Math.abs(gain - 1) < 1e-6);
    // Where nothing comes back at 1 kHz the path has no gain to begin with.
    const filter = flat ? null : minimumPhase(gains, this.sampleRateHz);
    this.made.set(key, filter);
    return filter;
  }
}
