const UNITS: Readonly<Record<string, string>> = {
  Deg: '°',
  Db: 'dB',
  Ms: 'ms',
  Hz: 'Hz',
  Pct: '%',
  M: 'm',
};

/**
 * A finding's figure by its name: `firstNotchHz` is "first notch" in Hz.
 * @returns words and unit; the unit is empty for a count or a ratio
 */
export function figureWords(name: string): { words: string; unit: string } {
  const [, stem = name, suffix = ''] = /^(.*?)(Deg|Db|Ms|Hz|Pct|M)?$/.exec(name) ?? [];
  return { words: stem.replace(/([A-Z])/g, ' $1').toLowerCase(), unit: UNITS[suffix] ?? '' };
}
