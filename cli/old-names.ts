/**
 * Names of the output as they were before: given beside the present ones for one version, so that
 * scripts go on working. docs/headless.md lists them.
 */
const OLD_NAMES: Readonly<Record<string, string>> = {
  model: 'school',
  reversed: 'mirrored',
  directToReverberantDb: 'directToReverbDb',
  imageWidthPct: 'fillPct',
  largestGapPct: 'largestHolePct',
  spillDb: 'leakDb',
  spill: 'leak',
  patternA: 'share',
};

/** `ladder` and `leak`, the topics of `detail`, by their present names. */
export const OLD_TOPICS: Readonly<Record<string, string>> = { ladder: 'arrivals', leak: 'spill' };

/** The topic as a whole was the ladder, and its entries were rungs. */
const oldArrivals = (depth: number): string => (depth === 0 ? 'ladder' : 'rungs');

/** A result with every old name beside the new one. */
export function withOldNames(value: unknown, depth = 0): unknown {
  if (Array.isArray(value)) return value.map((entry) => withOldNames(entry, depth));
  if (typeof value !== 'object' || value === null) return value;
  const named: Record<string, unknown> = {};
  for (const [key, inner] of Object.entries(value)) {
    named[key] = withOldNames(inner, depth + 1);
    const old = key === 'arrivals' ? oldArrivals(depth) : OLD_NAMES[key];
    if (old !== undefined && !(old in value)) named[old] = named[key];
  }
  return named;
}
