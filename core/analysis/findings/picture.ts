import {
  AT_LOUDSPEAKER,
  CUSTOMARY_WIDTH_PCT,
  LARGE_GAP_PCT,
  WIDTH_TOLERANCE_PCT,
} from '../criteria';
import { imageIn, stageIn } from '../../localisation/leading';
import type { ArrayFigures } from '../array-figures';
import type { MicArray, Session } from '../../session/schema';
import { angleText, formatNumber } from '../../units/format';
import {
  EVERY_ROLE,
  leadingShift,
  namesOf,
  type ArrayView,
  type Found,
  type Lever,
  type Rule,
} from './finding';
import { arrayGauge, widthGauge } from './gauges';
import { isOneSignal } from './pair-numbers';
import {
  aimed,
  angles,
  back,
  closer,
  raised,
  scaled,
  sideLevels,
  sideways,
  spacings,
  widerPatterns,
} from './levers';
import { seatsFartherIn } from './seat-levers';

/** What makes a picture less wide, the gentlest first. */
const narrower = (session: Session, array: MicArray): Lever[] => [
  back(session, array),
  angles(array, -1),
  spacings(session, array, -1),
  sideLevels(array, -1),
  scaled(array, -1),
];

/** What makes it wider. */
const wider = (session: Session, array: MicArray): Lever[] => [
  closer(session, array),
  angles(array, 1),
  spacings(session, array, 1),
  sideLevels(array, 1),
  scaled(array, 1),
];

function atCapsule({ session, array, figures }: ArrayView): Found[] {
  const at = figures.sources.filter((source) => source.atCapsule);
  if (at.length === 0) return [];
  return [
    {
      severity: 'fault',
      message: `${namesOf(session, at)}: within 1 cm of a capsule of ${array.name}, where no level and no time means anything.`,
      sources: at,
      figures: { nearestAllowedM: 0.01 },
      levers: () => [back(session, array), raised(session, array)],
    },
  ];
}

function antiphase({ session, array, figures }: ArrayView): Found[] {
  const out = figures.own.filter((source) => source.antiphase);
  if (out.length === 0) return [];
  const has = out.length === 1 ? 'has' : 'have';
  return [
    {
      severity: 'fault',
      message: `${namesOf(session, out)} ${has} no stable image at ${array.name}: its channels hear them in antiphase, and mono loses level.`,
      sources: out,
      figures: { players: out.length },
      gauge: arrayGauge(
        array.id,
        'players in antiphase',
        '',
        0,
        (of) => of.own.filter((source) => source.antiphase).length,
      ),
      levers: () => [
        aimed(session, array),
        back(session, array),
        angles(array, 1),
        angles(array, -1),
        sideLevels(array, -1),
        widerPatterns(session, array),
        seatsFartherIn(session, array, out),
      ],
      instead:
        'They stand round the array: no angle, distance or pattern at hand hears all of them in phase. Spaced omnis would, or another seating.',
    },
  ];
}

function reversed({ session, array, figures }: ArrayView): Found[] {
  const out = figures.own.filter((source) => source.reversed);
  const { technique } = array;
  if (out.length === 0 || technique.kind === 'single') return [];
  // A turned lobe swaps everybody: that is a cause of its own, or wanted by the perspective.
  if (technique.kind === 'mid-side' && technique.sidePositive === 'right') return [];
  return [
    {
      severity: 'fault',
      message: `${namesOf(session, out)}: behind ${array.name} the picture is stable but turned left for right.`,
      sources: out,
      figures: { players: out.length },
      gauge: arrayGauge(
        array.id,
        'players turned left for right',
        '',
        0,
        (of) => of.own.filter((source) => source.reversed).length,
      ),
      levers: () => [
        aimed(session, array),
        back(session, array),
        widerPatterns(session, array),
        seatsFartherIn(session, array, out),
      ],
      instead:
        'Wherever it stands somebody is behind it: a pair that hears all round, or another seating.',
    },
  ];
}

/** How far a player is beyond the recording angle, degrees; below 0 inside. */
function beyondDeg(figures: ArrayFigures, { settings }: Session, id: string): number | null {
  const half = figures.halfDeg(settings.model);
  const player = figures.own.find((one) => one.id === id);
  return half === null || !player ? null : Math.abs(player.azimuthDeg) - half;
}

function outside({ session, array, figures }: ArrayView): Found[] {
  // Nobody at a loudspeaker is the usual case, and quickly seen.
  const { model } = session.settings;
  const crowded = figures.own.some(
    (source) => Math.abs(leadingShift(session, source) ?? 0) >= AT_LOUDSPEAKER,
  );
  const half = crowded ? figures.halfDeg(model) : null;
  if (half === null) return [];
  const out = figures.own.filter((source) => {
    const shift = leadingShift(session, source);
    return (
      shift !== null && Math.abs(shift) >= AT_LOUDSPEAKER && Math.abs(source.azimuthDeg) > half
    );
  });
  if (out.length === 0) return [];
  const furthest = out.reduce((a, b) => (Math.abs(b.azimuthDeg) > Math.abs(a.azimuthDeg) ? b : a));
  const furthestDeg = Math.abs(furthest.azimuthDeg);
  const overDeg = furthestDeg - half;
  return [
    {
      severity: 'caution',
      message: `${namesOf(session, out)}: outside the recording angle of ${array.name} by ${formatNumber(overDeg, 1)}°, so heard at the loudspeaker itself.`,
      sources: out,
      figures: { halfDeg: half, furthestDeg, overDeg },
      // Who is crowded counts first, by how much second.
      size: out.length + overDeg / 180,
      gauge: arrayGauge(
        array.id,
        'outermost player',
        '°',
        1,
        (of, there) => beyondDeg(of, there, furthest.id),
        (deg) => `${angleText(Math.abs(deg))} ${deg > 0 ? 'beyond' : 'inside'}`,
      ),
      levers: () => [
        ...narrower(session, array),
        widerPatterns(session, array),
        aimed(session, array),
      ],
      instead:
        'The players are spread too wide for it: seat them closer, or take another technique.',
    },
  ];
}

function narrowPicture({ session, array, figures }: ArrayView): Found[] {
  const fill = stageIn(figures, session.settings.model)?.imageWidthPct;
  const wanted = session.brief.intent.imageWidthPct;
  if (fill === undefined || figures.own.length < 2 || isOneSignal(array)) return [];
  // Without a stable image of some, how wide the others are is not the question.
  if (figures.own.some((source) => source.antiphase)) return [];
  // Where places are wanted they say how wide it is to be.
  if (wanted === null && session.brief.intent.bands.length > 0) return [];
  const { min, max } = CUSTOMARY_WIDTH_PCT;
  const least = wanted === null ? min : wanted - WIDTH_TOLERANCE_PCT;
  if (fill >= least) return [];
  return [
    {
      severity: 'note',
      message: `The picture of ${array.name} is ${formatNumber(fill, 0)} % wide; ${wanted === null ? `customary are ${min} to ${max} %` : `${wanted} % is wanted`}.`,
      figures: { imageWidthPct: fill, wantedPct: wanted },
      size: least - fill,
      gauge: widthGauge(array.id),
      levers: () => wider(session, array),
      instead: 'The players sit too close together for it: spread them, or take another technique.',
    },
  ];
}

/** The two players on either side of the largest gap, by their images; null without two. */
function besideGap(session: Session, figures: ArrayFigures): [string, string] | null {
  const places = figures.own
    .flatMap((of) => {
      const place = imageIn(of, session.settings.model);
      return place ? [{ id: of.id, ...place }] : [];
    })
    .sort((a, b) => a.left - b.left);
  let [reach, at, widest] = [places[0]?.right ?? 0, places[0]?.id ?? '', 0];
  let found: [string, string] | null = null;
  for (const { id, left, right } of places) {
    if (left - reach > widest) [widest, found] = [left - reach, [at, id]];
    if (right >= reach) [reach, at] = [right, id];
  }
  return found;
}

/** Both sides of a gap have a place of their own that somebody wanted: then so is the gap. */
function isWanted({ brief }: Session, beside: readonly string[]): boolean {
  const wanted = new Set(brief.intent.bands.map(({ sourceId }) => sourceId));
  return beside.length > 0 && beside.every((id) => wanted.has(id));
}

function gap({ session, array, figures }: ArrayView): Found[] {
  const stage = stageIn(figures, session.settings.model);
  if (!stage || figures.own.length < 3 || stage.largestGapPct <= LARGE_GAP_PCT) return [];
  const beside = besideGap(session, figures) ?? [];
  if (isWanted(session, beside)) return [];
  const names = beside.map((id) => namesOf(session, [{ id }]));
  const between = names.length === 2 ? `${names.join(' and ')}` : 'neighbours';
  return [
    {
      severity: 'caution',
      message: `The picture of ${array.name} has a gap of ${formatNumber(stage.largestGapPct, 0)} % of the base between ${between}.`,
      sources: beside.map((id) => ({ id })),
      figures: { largestGapPct: stage.largestGapPct },
      size: stage.largestGapPct,
      gauge: arrayGauge(
        array.id,
        'gap',
        '%',
        0,
        (of, there) => stageIn(of, there.settings.model)?.largestGapPct,
      ),
      levers: () => narrower(session, array),
      instead:
        'The gap is in the seating: only that closes it. Where it is wanted, say so as wanted places in the Brief.',
    },
  ];
}

const LOPSIDED_DB = 3;

function lopsided({ session, array, figures }: ArrayView): Found[] {
  const { balanceDb } = figures;
  if (balanceDb === null || figures.own.length < 2 || Math.abs(balanceDb) <= LOPSIDED_DB) return [];
  const side = balanceDb > 0 ? 'right' : 'left';
  return [
    {
      severity: 'caution',
      message: `${array.name}: the ${side} channel carries ${formatNumber(Math.abs(balanceDb), 1)} dB more direct sound.`,
      figures: { balanceDb },
      size: Math.abs(balanceDb),
      gauge: arrayGauge(array.id, `${side} channel louder by`, 'dB', 1, (of) =>
        of.balanceDb === null ? null : of.balanceDb * Math.sign(balanceDb),
      ),
      levers: () => [
        aimed(session, array),
        // Towards the side that is too soft.
        sideways(session, array, balanceDb > 0 ? 1 : -1),
        sideways(session, array, balanceDb > 0 ? -1 : 1),
        back(session, array),
      ],
      instead:
        'The loud players all sit on one side: seating, or their own levels, would have to change.',
    },
  ];
}

const OF_PLAYERS = ['main', 'outrigger', 'spot', 'overhead'] as const;

export const PICTURE_RULES: readonly Rule[] = [
  {
    code: 'at-capsule',
    evidence: 'floor',
    basis: 'physics',
    severities: ['fault'],
    reason: 'Levels and times have no meaning at the capsule itself.',
    of: 'array',
    roles: EVERY_ROLE,
    check: atCapsule,
  },
  {
    code: 'antiphase',
    evidence: 'images',
    basis: 'physics',
    severities: ['fault'],
    reason:
      'Channels of opposite polarity and within 18 dB of each other leave less than half an image.',
    of: 'array',
    roles: OF_PLAYERS,
    check: antiphase,
  },
  {
    code: 'reversed',
    evidence: 'images',
    basis: 'physics',
    severities: ['fault'],
    reason: 'Behind crossed directional microphones left and right swap.',
    of: 'array',
    roles: OF_PLAYERS,
    check: reversed,
  },
  {
    code: 'outside-recording-angle',
    evidence: 'images',
    basis: 'physics',
    severities: ['caution'],
    reason: 'Beyond the recording angle every player is heard at the loudspeaker.',
    of: 'array',
    roles: ['main'],
    check: outside,
  },
  {
    code: 'narrow-picture',
    evidence: 'images',
    basis: 'preference',
    severities: ['note'],
    reason: 'An ensemble much narrower than the recording angle leaves the outer stage empty.',
    of: 'array',
    roles: ['main'],
    check: narrowPicture,
  },
  {
    code: 'gap',
    evidence: 'images',
    basis: 'preference',
    severities: ['caution'],
    reason: 'A wide empty stretch between neighbours is heard as a hole in the picture.',
    of: 'array',
    roles: ['main'],
    check: gap,
  },
  {
    code: 'lopsided',
    evidence: 'images',
    basis: 'physics',
    severities: ['caution'],
    reason: 'Direct energy of all players, right channel against left.',
    of: 'array',
    roles: ['main'],
    check: lopsided,
  },
];
