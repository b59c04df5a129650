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

/** A result with every old name beside the new one. */
export function withOldNames(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withOldNames);
  if (typeof value !== 'object' || value === null) return value;
  const named: Record<string, unknown> = {};
  for (const [key, inner] of Object.entries(value)) {
    named[key] = withOldNames(inner);
    const old = OLD_NAMES[key];
    if (old !== undefined && !(old in value)) named[old] = named[key];
  }
  return named;
}
