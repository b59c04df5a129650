import type { MicArray, Section } from '../session/schema';

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

/** For a quiet instrument from nearby: crossed, so that nothing combs in mono. */
const CLOSE = pair(0, 90, 'cardioid');

/** One instrument and a pair close before it, at the height where it sounds. */
const alone = (
  id: string,
  name: string,
  about: string,
  kind: string,
  awayM: number,
  z: number,
  technique: MicArray['technique'] = pair(0.17, 110, 'cardioid'),
): Template => ({
  id,
  name,
  about,
  players: [{ kind, name, x: 0, y: 1.6 }],
  arrays: [{ ...mainPair(Math.round((1.6 - awayM) * 100) / 100, z, -10), technique }],
});

const windRow = (
  name: string,
  kind: string,
  count: number,
  x: number,
  y: number,
  rows = 1,
): SectionSpec => ({ name, kind, shape: 'rows', count, rows, pitchM: 0.9, rowDepthM: 1.2, x, y });

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
      ['violin', 'Violin I', 'Violin I'],
      ['violin', 'Violin II', 'Violin II'],
      ['viola', 'Viola'],
      ['cello', 'Cello'],
    ]),
    arrays: [mainPair(-1.2, 2.4)],
  },
  {
    id: 'piano-trio',
    name: 'Piano trio',
    about: 'Violin and cello before a grand piano, lid on the full stick',
    players: [
      { kind: 'violin', name: 'Violin', x: -1.1, y: 1.3, facingDeg: 150 },
      { kind: 'cello', name: 'Cello', x: 1, y: 1.2, facingDeg: 195 },
      { kind: 'grand piano', name: 'Piano', x: 0, y: 3, facingDeg: 90 },
    ],
    arrays: [mainPair(-1.4, 2.2)],
  },
  {
    id: 'voice-piano',
    name: 'Solo voice with piano',
    about: 'A singer in the bend of a grand piano',
    players: [
      { kind: 'voice', name: 'Singer', x: 0.2, y: 1.3, facingDeg: 180 },
      { kind: 'grand piano', name: 'Piano', x: 0, y: 2.8, facingDeg: 90 },
    ],
    arrays: [mainPair(-1.2, 2)],
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
      strings('Violin I', 'violin', 6, -2.6, 1.4, 125),
      strings('Violin II', 'violin', 5, -1, 2.2, 155),
      strings('Viola', 'viola', 4, 1.1, 2.2, 205),
      strings('Cello', 'cello', 3, 2.7, 1.4, 235),
      strings('Double bass', 'double bass', 2, 4.4, 3, 235),
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
    id: 'string-orchestra',
    name: 'String orchestra',
    about: 'Strings 8 7 5 4 2, in pairs at the stand',
    sections: [
      strings('Violin I', 'violin', 8, -3, 1.2, 120),
      strings('Violin II', 'violin', 7, -1.2, 2.4, 155),
      strings('Viola', 'viola', 5, 1.2, 2.4, 205),
      strings('Cello', 'cello', 4, 3, 1.2, 240),
      strings('Double bass', 'double bass', 2, 4.9, 3.6, 240),
    ],
    arrays: [mainPair(-1, 3, -20), { ...OUTRIGGERS, y: -0.5, z: 3, technique: pair(5, 0, 'omni') }],
  },
  {
    id: 'wind-orchestra',
    name: 'Wind orchestra',
    about: 'Thirty-nine players in rows: woodwind before brass, percussion at the back',
    sections: [
      windRow('Flute', 'flute', 4, -2.3, 1.4),
      windRow('Oboe', 'oboe', 2, 1, 1.4),
      windRow('Bassoon', 'bassoon', 2, 3.2, 1.4),
      windRow('Clarinet', 'clarinet', 10, -2.3, 2.8, 2),
      windRow('Saxophone', 'saxophone', 4, 2.4, 2.8),
      windRow('Horn', 'horn', 4, -2.6, 5.4),
      windRow('Trombone', 'trombone', 4, 2.6, 4.4),
      windRow('Trumpet', 'trumpet', 5, 2.4, 5.8),
      windRow('Tuba', 'tuba', 2, 5.4, 4),
    ],
    players: [
      { kind: 'percussion set-up', name: 'Percussion', x: -3.2, y: 7.4 },
      { kind: 'timpani', name: 'Timpani', x: 0.4, y: 7.4 },
    ],
    arrays: [
      mainPair(-1.6, 3.2, -18),
      { ...OUTRIGGERS, y: -1.2, z: 3.2, technique: pair(6, 0, 'omni') },
      spot('Woodwind spot', 0, 0.9, 2.2, ['Flute', 'Oboe', 'Bassoon', 'Clarinet']),
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
    id: 'organ',
    name: 'Organ in its case',
    about: 'A case 5 m wide above the floor, microphones well before it',
    players: [{ kind: 'organ case', name: 'Organ', x: 0, y: 4, facingDeg: 180 }],
    arrays: [{ ...mainPair(-3, 3.6, 5), technique: pair(0.5, 0, 'omni') }],
  },
  alone('lute', 'Lute', 'One quiet instrument, the pair 40 cm before it', 'lute', 0.4, 0.95, CLOSE),
  alone('guitar', 'Guitar', 'One instrument, the pair 40 cm before it', 'guitar', 0.4, 0.9, CLOSE),
  alone(
    'violin',
    'Violin alone',
    'One player, the pair 1.2 m before and above',
    'violin',
    1.2,
    1.9,
  ),
  alone('cello', 'Cello alone', 'One player, the pair 1.2 m before', 'cello', 1.2, 1.2),
  alone('flute', 'Flute alone', 'One player, the pair 1.3 m before and above', 'flute', 1.3, 1.9),
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
    about: 'One player, overheads and a spot at the bass drum',
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
