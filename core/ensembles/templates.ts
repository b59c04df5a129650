import { newArray, newSource, sectionFrom } from '../session/create';
import { nameWith } from '../session/names';
import type { MicArray, Section, Source } from '../session/schema';
import { instrumentFields, instrumentOf } from './instruments';
import { sectionPlaces } from './section-layout';

/** Players, sections and suggested microphones, ready to be put into a session. */
export interface Ensemble {
  sources: Source[];
  sections: Section[];
  /** what is customarily hung or stood up for it, main pair first */
  arrays: MicArray[];
}

interface PlayerSpec {
  kind: string;
  name: string;
  group?: string;
  x: number;
  y: number;
  facingDeg?: number;
}

type SectionSpec = Partial<Section> & { name: string; kind: string };
type ArraySpec = Partial<MicArray> & {
  name: string;
  /** names of the sections or players that it is for, where its role does not say it */
  forNames?: readonly string[];
};

/** Outriggers widen, and leave the lead to the main pair. */
const OUTRIGGERS = {
  name: 'Outriggers',
  role: 'outrigger',
  mix: { faderDb: -12, mute: false, capsules: [] },
} as const satisfies Partial<MicArray>;

export interface Template {
  id: string;
  name: string;
  /** what it is and how large, in a line */
  about: string;
  players?: readonly PlayerSpec[];
  sections?: readonly SectionSpec[];
  arrays: readonly ArraySpec[];
}

const pair = (spacingM: number, includedAngleDeg: number, pattern: 'cardioid' | 'omni') =>
  ({ kind: 'pair', pattern, spacingM, includedAngleDeg }) as const;
const spot = (
  name: string,
  x: number,
  y: number,
  z: number,
  forNames: readonly string[] = [],
): ArraySpec => ({
  name,
  role: 'spot',
  x,
  y,
  z,
  forNames,
  technique: { kind: 'single', pattern: 'cardioid' },
});
const mainPair = (y: number, z: number, tiltDeg = -15): ArraySpec => ({
  name: 'Main pair',
  role: 'main',
  y,
  z,
  tiltDeg,
  technique: pair(0.17, 110, 'cardioid'),
});

/** Players on a half circle, left to right, each facing its middle. */
function halfCircle(
  radiusM: number,
  fromDeg: number,
  members: readonly (readonly [kind: string, name: string, group?: string])[],
): PlayerSpec[] {
  return members.map(([kind, name, group], i) => {
    const fraction = members.length > 1 ? i / (members.length - 1) : 0.5;
    const deg = (-fromDeg + 2 * fromDeg * fraction) * (Math.PI / 180);
    return {
      kind,
      name,
      ...(group === undefined ? {} : { group }),
      x: Math.round(radiusM * Math.sin(deg) * 100) / 100,
      y: Math.round(radiusM * Math.cos(deg) * 100) / 100,
      facingDeg: Math.round((deg * 180) / Math.PI + 180),
    };
  });
}

const choirSection = (name: string, kind: string, count: number, x: number): SectionSpec => ({
  name,
  kind,
  shape: 'rows',
  count,
  rows: 2,
  pitchM: 0.7,
  rowDepthM: 0.9,
  riserM: 0.2,
  x,
  y: 3.2,
});

const strings = (
  name: string,
  kind: string,
  count: number,
  x: number,
  y: number,
  facingDeg: number,
): SectionSpec => ({
  name,
  kind,
  shape: 'rows',
  count,
  rows: Math.max(1, Math.ceil(count / 2)),
  pitchM: 1.1,
  rowDepthM: 1.3,
  x,
  y,
  facingDeg,
});

export const TEMPLATES: readonly Template[] = [
  {
    id: 'melody-keyboard',
    name: 'Melody and keyboard',
    about: 'Two players: a string instrument before the tail of a harpsichord',
    players: [
      { kind: 'viol', name: 'Viol', x: -0.9, y: 1.6, facingDeg: 170 },
      { kind: 'harpsichord', name: 'Harpsichord', x: 0.7, y: 2.6, facingDeg: 90 },
    ],
    arrays: [mainPair(-0.8, 1.9, -10)],
  },
  {
    id: 'string-quartet',
    name: 'String quartet',
    about: 'Four players on a half circle of 1.6 m',
    players: halfCircle(1.6, 62, [
      ['violin', 'Violin 1', 'Violins'],
      ['violin', 'Violin 2', 'Violins'],
      ['viola', 'Viola'],
      ['cello', 'Cello'],
    ]),
    arrays: [mainPair(-1.2, 2.4)],
  },
  {
    id: 'wind-quintet',
    name: 'Wind quintet',
    about: 'Five players on a half circle of 1.8 m',
    players: halfCircle(1.8, 70, [
      ['flute', 'Flute'],
      ['oboe', 'Oboe'],
      ['horn', 'Horn'],
      ['bassoon', 'Bassoon'],
      ['clarinet', 'Clarinet'],
    ]),
    arrays: [mainPair(-0.9, 2.4)],
  },
  {
    id: 'brass-quintet',
    name: 'Brass quintet',
    about: 'Five players on a half circle of 2 m',
    players: halfCircle(2, 65, [
      ['trumpet', 'Trumpet 1', 'Trumpets'],
      ['horn', 'Horn'],
      ['tuba', 'Tuba'],
      ['trombone', 'Trombone'],
      ['trumpet', 'Trumpet 2', 'Trumpets'],
    ]),
    arrays: [mainPair(-1.8, 2.6)],
  },
  {
    id: 'choir-arc',
    name: 'Chamber choir in an arc',
    about: 'Sixteen voices on one arc of 140°, 75 cm apart',
    sections: [
      {
        name: 'Choir',
        kind: 'voice',
        shape: 'arc',
        count: 16,
        rows: 1,
        pitchM: 0.75,
        openingDeg: 140,
        y: 5,
      },
    ],
    arrays: [
      mainPair(0.4, 2.8),
      {
        ...OUTRIGGERS,
        y: 0.4,
        z: 2.8,
        technique: pair(4, 40, 'omni'),
      },
    ],
  },
  {
    id: 'choir-rows',
    name: 'Choir in rows',
    about: 'Forty voices in four blocks, two rows each on risers of 20 cm',
    sections: [
      choirSection('Sopranos', 'soprano', 12, -5.3),
      choirSection('Altos', 'alto', 10, -1.5),
      choirSection('Tenors', 'tenor', 8, 1.9),
      choirSection('Basses', 'bass', 10, 5.2),
    ],
    arrays: [
      mainPair(-1, 3),
      {
        ...OUTRIGGERS,
        y: -0.6,
        z: 3,
        technique: pair(8, 0, 'omni'),
      },
    ],
  },
  {
    id: 'choir-soloist',
    name: 'Choir with a soloist',
    about: 'Twenty-four voices in two blocks, and a solo singer who steps out and faces them',
    sections: [choirSection('Women', 'soprano', 12, -2.4), choirSection('Men', 'bass', 12, 2.4)],
    players: [{ kind: 'soprano', name: 'Soloist', group: 'Soloist', x: 0.9, y: 1.4, facingDeg: 0 }],
    arrays: [
      mainPair(-1, 2.8),
      {
        ...spot('Spot soloist', 0.9, 2.2, 1.7, ['Soloist']),
        aimDeg: 180,
        mix: {
          faderDb: -10,
          mute: false,
          capsules: [{ pan: 0.4, gainDb: 0, polarity: 1, delayMs: 8 }],
        },
      },
    ],
  },
  {
    id: 'chamber-orchestra',
    name: 'Chamber orchestra',
    about: 'Strings 6 5 4 3 2 in pairs at the stand, woodwind and horns in rows behind',
    sections: [
      strings('Violins 1', 'violin', 6, -2.6, 1.4, 125),
      strings('Violins 2', 'violin', 5, -1, 2.2, 155),
      strings('Violas', 'viola', 4, 1.1, 2.2, 205),
      strings('Cellos', 'cello', 3, 2.7, 1.4, 235),
      strings('Double basses', 'double bass', 2, 4.4, 3, 235),
      { name: 'Flutes', kind: 'flute', shape: 'rows', count: 2, pitchM: 0.9, x: -1, y: 6 },
      { name: 'Oboes', kind: 'oboe', shape: 'rows', count: 2, pitchM: 0.9, x: 1, y: 6 },
      { name: 'Clarinets', kind: 'clarinet', shape: 'rows', count: 2, pitchM: 0.9, x: -1, y: 7.2 },
      { name: 'Bassoons', kind: 'bassoon', shape: 'rows', count: 2, pitchM: 0.9, x: 1, y: 7.2 },
      { name: 'Horns', kind: 'horn', shape: 'rows', count: 2, pitchM: 1, x: -3.4, y: 6.6 },
    ],
    arrays: [
      mainPair(-1, 3, -20),
      { ...OUTRIGGERS, y: -0.5, z: 3, technique: pair(6, 0, 'omni') },
      spot('Woodwind spot', 0, 5, 2.2, ['Flutes', 'Oboes', 'Clarinets', 'Bassoons']),
    ],
  },
  {
    id: 'grand-piano',
    name: 'Grand piano',
    about: 'One instrument, lid on the full stick, opening to the audience',
    players: [{ kind: 'grand piano', name: 'Piano', x: 0, y: 2, facingDeg: 90 }],
    arrays: [{ ...mainPair(-0.2, 1.7, -15), technique: pair(0.5, 0, 'omni') }],
  },
  {
    id: 'harp',
    name: 'Harp',
    about: 'One instrument',
    players: [{ kind: 'harp', name: 'Harp', x: 0, y: 1.5, facingDeg: 200 }],
    arrays: [mainPair(-0.3, 1.5, -8)],
  },
  {
    id: 'lute',
    name: 'Lute or guitar',
    about: 'One quiet instrument, close',
    players: [{ kind: 'lute', name: 'Lute', x: 0, y: 1.2, facingDeg: 180 }],
    arrays: [mainPair(0, 1.2, -10)],
  },
  {
    id: 'percussion',
    name: 'Percussion set-up',
    about: 'One player among instruments, 2.6 m wide, overheads equal to the middle',
    players: [{ kind: 'percussion set-up', name: 'Percussion', x: 0, y: 2, facingDeg: 180 }],
    arrays: [
      {
        name: 'Overheads',
        role: 'overhead',
        y: 2,
        z: 2.4,
        tiltDeg: -90,
        technique: pair(1.2, 0, 'cardioid'),
      },
    ],
  },
  {
    id: 'drum-kit',
    name: 'Drum kit',
    about: 'One player, overheads and two spots',
    players: [{ kind: 'drum kit', name: 'Kit', x: 0, y: 2, facingDeg: 180 }],
    arrays: [
      {
        name: 'Overheads',
        role: 'overhead',
        y: 2,
        z: 2,
        tiltDeg: -90,
        technique: pair(0.9, 0, 'cardioid'),
      },
      spot('Bass drum', 0, 1.2, 0.4),
    ],
  },
];

/**
 * The players of a section as sources: named by number, standing on its risers.
 * @param idOf gives a fresh id for each
 */
export function sectionSources(section: Section, idOf: () => string): Source[] {
  const height = instrumentOf(section.kind)?.heightM ?? 1.2;
  return sectionPlaces(section).map(({ x, y, floorM, facingDeg }, i) =>
    newSource({
      ...instrumentFields(section.kind),
      id: idOf(),
      name: section.count > 1 ? nameWith(section.name, ` ${i + 1}`) : section.name,
      group: section.name,
      sectionId: section.id,
      x: round(x),
      y: round(y),
      z: round(height + floorM),
      facingDeg: Math.round(facingDeg * 10) / 10,
    }),
  );
}

const round = (metres: number): number => Math.round(metres * 1000) / 1000 || 0;

/**
 * The players of a section after its figures changed: who is there keeps name and settings and
 * takes the new place; who is missing is made, who is too many goes.
 */
export function rearranged(
  section: Section,
  members: readonly Source[],
  idOf: () => string,
): Source[] {
  return sectionSources(section, idOf).map((fresh, i) => {
    const known = members[i];
    if (!known) return fresh;
    return { ...known, x: fresh.x, y: fresh.y, z: fresh.z, facingDeg: fresh.facingDeg };
  });
}

/** A template written out, every entry with an id of its own. */
export function fromTemplate(template: Template, idOf: () => string): Ensemble {
  const sections = (template.sections ?? []).map((spec) => sectionFrom({ ...spec, id: idOf() }));
  const single = (template.players ?? []).map(({ kind, name, group, x, y, facingDeg }) =>
    newSource({
      ...instrumentFields(kind),
      id: idOf(),
      name,
      group: group ?? name,
      x,
      y,
      facingDeg: facingDeg ?? 180,
    }),
  );
  return {
    sections,
    sources: [...single, ...sections.flatMap((section) => sectionSources(section, idOf))],
    arrays: template.arrays.map(({ forNames = [], ...spec }) => {
      const sources = single.flatMap(({ id, name }) => (forNames.includes(name) ? [id] : []));
      const groups = sections.flatMap(({ name }) => (forNames.includes(name) ? [name] : []));
      const whom = forNames.length > 0 ? { for: { kind: 'some' as const, groups, sources } } : {};
      return newArray({ ...structuredClone(spec), ...whom, id: idOf() });
    }),
  };
}
