/** What customary surfaces absorb by octave, as the textbooks print it. */
export interface Material {
  name: string;
  /** by octave from 125 Hz to 4 kHz, 0 … 1; 8 kHz is taken as 4 kHz */
  absorption: readonly [number, number, number, number, number, number];
  /** who says so */
  source: string;
  /** it can be there or not: a curtain, people */
  movable?: 'curtain' | 'people' | 'panel';
}

const KUTTRUFF = 'H. Kuttruff, Room Acoustics';
const KNUDSEN = 'V. O. Knudsen & C. M. Harris, Acoustical Designing in Architecture (1950)';
const BERANEK = 'L. L. Beranek, Acoustics (1954)';
const HIDAKA = 'L. L. Beranek & T. Hidaka, JASA 104 (1998)';

/**
 * Mean coefficients of textbooks for what halls are made of; a real surface is easily a third off, at
 * low octaves more.
 */
export const MATERIALS: readonly Material[] = [
  { name: 'stone, marble', absorption: [0.01, 0.01, 0.01, 0.01, 0.02, 0.02], source: KUTTRUFF },
  { name: 'brick, bare', absorption: [0.03, 0.03, 0.03, 0.04, 0.05, 0.07], source: KNUDSEN },
  { name: 'concrete, painted', absorption: [0.01, 0.01, 0.02, 0.02, 0.02, 0.03], source: KUTTRUFF },
  {
    name: 'plaster on masonry',
    absorption: [0.02, 0.02, 0.03, 0.04, 0.05, 0.05],
    source: KUTTRUFF,
  },
  {
    name: 'plasterboard on studs',
    absorption: [0.29, 0.1, 0.05, 0.04, 0.07, 0.09],
    source: KNUDSEN,
  },
  {
    name: 'timber floor on joists',
    absorption: [0.15, 0.11, 0.1, 0.07, 0.06, 0.07],
    source: KNUDSEN,
  },
  {
    name: 'parquet on concrete',
    absorption: [0.04, 0.04, 0.07, 0.06, 0.06, 0.07],
    source: KNUDSEN,
  },
  {
    name: 'wood panelling with a cavity',
    absorption: [0.3, 0.25, 0.2, 0.17, 0.15, 0.1],
    source: BERANEK,
  },
  { name: 'window glass', absorption: [0.35, 0.25, 0.18, 0.12, 0.07, 0.04], source: KNUDSEN },
  { name: 'carpet on concrete', absorption: [0.02, 0.06, 0.14, 0.37, 0.6, 0.65], source: KNUDSEN },
  {
    name: 'curtain, light, flat',
    absorption: [0.03, 0.04, 0.11, 0.17, 0.24, 0.35],
    source: KNUDSEN,
    movable: 'curtain',
  },
  {
    name: 'curtain, heavy, in folds',
    absorption: [0.14, 0.35, 0.55, 0.72, 0.7, 0.65],
    source: KNUDSEN,
    movable: 'curtain',
  },
  {
    name: 'mineral wool panel, 5 cm',
    absorption: [0.2, 0.65, 0.95, 0.95, 0.9, 0.85],
    source: KUTTRUFF,
    movable: 'panel',
  },
  {
    name: 'wooden seats, empty',
    absorption: [0.15, 0.19, 0.22, 0.39, 0.38, 0.3],
    source: KNUDSEN,
  },
  {
    name: 'upholstered seats, empty',
    absorption: [0.49, 0.66, 0.8, 0.88, 0.82, 0.7],
    source: BERANEK,
  },
  {
    name: 'people on upholstered seats',
    absorption: [0.6, 0.74, 0.88, 0.96, 0.93, 0.85],
    source: HIDAKA,
    movable: 'people',
  },
  {
    name: 'people on wooden pews',
    absorption: [0.57, 0.61, 0.75, 0.86, 0.91, 0.86],
    source: KNUDSEN,
    movable: 'people',
  },
];

/** Octaves that a material's figures are of, Hz. */
export const MATERIAL_HZ = [125, 250, 500, 1000, 2000, 4000] as const;

/** A material's absorption as a session holds it, 8 kHz as 4 kHz. */
export function bandsOf({ absorption }: Pick<Material, 'absorption'>): Record<string, number> {
  const bands: Record<string, number> = {};
  MATERIAL_HZ.forEach((hz, i) => {
    bands[`${hz}`] = absorption[i] ?? 0;
  });
  bands['8000'] = absorption[5];
  return bands;
}

/** The material whose figures a surface holds; undefined for figures of its own. */
export const materialOf = (absorption: number | Record<string, number>): Material | undefined =>
  typeof absorption === 'number'
    ? undefined
    : MATERIALS.find((material) => {
        const bands = bandsOf(material);
        return (
          Object.keys(bands).length === Object.keys(absorption).length &&
          Object.entries(bands).every(([hz, value]) => absorption[hz] === value)
        );
      });
