import { AT_LOUDSPEAKER, LARGE_GAP_PCT, NARROW_PCT, WIDTH_TOLERANCE_PCT } from '../criteria';
import { anglesIn, leadingModel, stageIn } from '../../localisation/leading';
import { standardNamed, standardTechnique } from '../../arrays/standards';
import { alterationOf } from '../alteration';
import type { MicArray } from '../../session/schema';
import { formatNumber } from '../../units/format';
import { facesAway } from './picture-side';
import { speedOfSound } from '../../units/sound';
import { waysInWords, waysOut } from './crowding';
import { EVERY_ROLE, leadingShift, namesOf, type Fix, type Rule } from './finding';

/** What makes a picture less wide at one stroke, by what the array has. */
function closerTogether({ technique }: MicArray): string {
  if (technique.kind !== 'pair') return 'Close the seating up there';
  const ways = [
    ...(technique.spacingM > 0 ? ['spacing'] : []),
    ...(technique.includedAngleDeg > 0 ? ['angle'] : []),
  ];
  return `Close the seating up there, or take a smaller ${ways.join(' or ')}`;
}

/** What makes it wider. */
function fartherApart({ technique }: MicArray): string {
  if (technique.kind === 'mid-side') return 'Move closer, or take more side';
  if (technique.kind !== 'pair') return 'Move closer, or bring its microphones farther apart';
  return technique.spacingM > 0
    ? 'Move closer, or take a larger spacing or angle'
    : 'Move closer, or take a larger angle';
}

/** A pair whose two capsules are one. */
const isOneSignal = ({ technique }: MicArray): boolean =>
  technique.kind === 'pair' && technique.spacingM === 0 && technique.includedAngleDeg % 360 === 0;

export const PICTURE_RULES: readonly Rule[] = [
  {
    code: 'same-signal',
    evidence: 'pair',
    basis: 'physics',
    severities: ['fault'],
    reason: 'Equal microphones at one point and in one direction give equal channels.',
    of: 'array',
    roles: EVERY_ROLE,
    check: ({ array }) => {
      if (array.technique.kind !== 'pair' || !isOneSignal(array)) return [];
      const { spacingM, includedAngleDeg } = array.technique;
      const technique = { ...array.technique, includedAngleDeg: 90 };
      return [
        {
          severity: 'fault',
          message: `${array.name}: both capsules at one point and one direction, so both channels are the same. Give a spacing or an included angle above 0.`,
          figures: { spacingM, includedAngleDeg },
          fix: {
            label: 'Set the included angle to 90°',
            changes: [{ kind: 'array', id: array.id, set: { technique } }],
          },
        },
      ];
    },
  },
  {
    code: 'at-capsule',
    evidence: 'floor',
    basis: 'physics',
    severities: ['fault'],
    reason: 'Levels and times have no meaning at the capsule itself.',
    of: 'array',
    roles: EVERY_ROLE,
    check: ({ session, array, figures }) => {
      const at = figures.sources.filter((source) => source.atCapsule);
      if (at.length === 0) return [];
      const message = `${namesOf(session, at)}: within 1 cm of a capsule of ${array.name}. Move the player or the array.`;
      return [{ severity: 'fault', message, sources: at, figures: { nearestAllowedM: 0.01 } }];
    },
  },
  {
    code: 'antiphase',
    evidence: 'images',
    basis: 'physics',
    severities: ['fault'],
    reason: 'Channels of opposite polarity make no stable phantom image and cancel in mono.',
    of: 'array',
    roles: ['main', 'outrigger', 'spot', 'overhead'],
    check: ({ session, array, figures }) => {
      const out = figures.own.filter((source) => source.antiphase);
      if (out.length === 0) return [];
      const message = `${namesOf(session, out)}: the channels of ${array.name} are in antiphase, so there is no stable image and mono loses level. Seat them farther in, or take another angle.`;
      return [{ severity: 'fault', message, sources: out, figures: { players: out.length } }];
    },
  },
  {
    code: 'reversed',
    evidence: 'images',
    basis: 'physics',
    severities: ['fault'],
    reason: 'Behind crossed figure-eights, or with the side turned round, left and right swap.',
    of: 'array',
    roles: ['main', 'outrigger', 'spot', 'overhead'],
    check: ({ session, array, figures }) => {
      const out = figures.own.filter((source) => source.reversed);
      if (out.length === 0 || array.technique.kind === 'single') return [];
      const { technique } = array;
      const lobe = technique.kind === 'mid-side' && technique.sidePositive === 'right';
      // From the performers' side, or facing away from the players, that is how it is wanted.
      if (lobe && (session.settings.perspective === 'performer' || facesAway(session, array))) {
        return [];
      }
      const cause = lobe
        ? `the positive lobe of ${array.name} faces right, so left and right are swapped. Turn it to the left, or swap the channels.`
        : `behind ${array.name} the picture is stable but turned left for right. Move them to the front.`;
      const fix: Fix | null = lobe
        ? {
            label: 'Turn the positive lobe to the left',
            changes: [
              {
                kind: 'array',
                id: array.id,
                set: { technique: { ...technique, sidePositive: 'left' } },
              },
            ],
          }
        : null;
      const message = `${namesOf(session, out)}: ${cause}`;
      return [{ severity: 'fault', message, sources: out, figures: { players: out.length }, fix }];
    },
  },
  {
    code: 'outside-recording-angle',
    evidence: 'images',
    basis: 'physics',
    severities: ['caution'],
    reason: 'Beyond the recording angle every player is heard at the loudspeaker.',
    of: 'array',
    roles: ['main'],
    check: (view) => {
      const { session, array, figures } = view;
      const half = anglesIn(figures, session.settings.model)?.halfDeg ?? null;
      if (half === null) return [];
      const out = figures.own.filter((source) => {
        const shift = leadingShift(session, source);
        return (
          shift !== null && Math.abs(shift) >= AT_LOUDSPEAKER && Math.abs(source.azimuthDeg) > half
        );
      });
      if (out.length === 0) return [];
      const ways = waysOut(view);
      const furthestDeg = Math.max(...out.map(({ azimuthDeg }) => Math.abs(azimuthDeg)));
      const message = `${namesOf(session, out)}: outside the recording angle of ${array.name} by ${formatNumber(furthestDeg - half, 1)}°, so crowded at the loudspeaker. ${waysInWords(ways)}`;
      return [
        {
          severity: 'caution',
          message,
          sources: out,
          figures: { halfDeg: half, furthestDeg, overDeg: furthestDeg - half },
          fix: ways[0]?.fix ?? null,
          others: ways.slice(1).map(({ fix }) => fix),
        },
      ];
    },
  },
  {
    code: 'narrow-picture',
    evidence: 'images',
    basis: 'preference',
    severities: ['note'],
    reason: 'An ensemble much narrower than the recording angle leaves the outer stage empty.',
    of: 'array',
    roles: ['main'],
    check: ({ session, array, figures }) => {
      const fill = stageIn(figures, session.settings.model)?.imageWidthPct;
      const wanted = session.brief.intent.imageWidthPct;
      if (fill === undefined || figures.own.length < 2 || isOneSignal(array)) return [];
      const least = wanted === null ? NARROW_PCT : wanted - WIDTH_TOLERANCE_PCT;
      if (fill >= least) return [];
      const message = `The picture of ${array.name} is ${formatNumber(fill, 0)} % wide${wanted === null ? '' : `, ${wanted} % is wanted`}. ${fartherApart(array)}.`;
      return [{ severity: 'note', message, figures: { imageWidthPct: fill, wantedPct: wanted } }];
    },
  },
  {
    code: 'gap',
    evidence: 'images',
    basis: 'preference',
    severities: ['caution'],
    reason: 'A wide empty stretch between neighbours is heard as a hole in the middle.',
    of: 'array',
    roles: ['main'],
    check: ({ session, array, figures }) => {
      const stage = stageIn(figures, session.settings.model);
      if (!stage || figures.own.length < 3) return [];
      if (stage.largestGapPct <= LARGE_GAP_PCT) return [];
      const message = `The picture of ${array.name} has a gap of ${formatNumber(stage.largestGapPct, 0)} % of the base between neighbours. ${closerTogether(array)}.`;
      return [{ severity: 'caution', message, figures: { largestGapPct: stage.largestGapPct } }];
    },
  },
  {
    code: 'lopsided',
    evidence: 'images',
    basis: 'physics',
    severities: ['caution'],
    reason: 'Direct energy of all players, right channel against left.',
    of: 'array',
    roles: ['main'],
    check: ({ array, figures }) => {
      const { balanceDb } = figures;
      if (balanceDb === null || figures.own.length < 2 || Math.abs(balanceDb) <= 3) return [];
      const side = balanceDb > 0 ? 'right' : 'left';
      const message = `${array.name}: the ${side} channel carries ${formatNumber(Math.abs(balanceDb), 1)} dB more direct sound. Move the array towards the other side, or turn it.`;
      return [{ severity: 'caution', message, figures: { balanceDb } }];
    },
  },
  {
    code: 'standard-mismatch',
    evidence: 'pair',
    basis: 'rule',
    severities: ['caution'],
    reason: 'A named standard is its published numbers; others have another recording angle.',
    of: 'array',
    roles: EVERY_ROLE,
    check: ({ session, array, figures }) => {
      const standard = standardNamed(array.name);
      const model = leadingModel(figures.farField, session.settings.model);
      const speed = speedOfSound(session.venue.temperatureC);
      const altered = standard && alterationOf(array, standard, model, speed);
      if (!altered) return [];
      const { halfDeg: here, standardHalfDeg: named, in: off } = altered;
      const effect =
        named === null || here === null
          ? ''
          : ` The recording angle is ±${formatNumber(here, 1)}° instead of ±${formatNumber(named, 1)}°.`;
      return [
        {
          severity: 'caution',
          message: `${array.name}: the standard ${altered.standard.name} has another ${off.join(' and ')}.${effect}`,
          figures: { standardHalfDeg: named, halfDeg: here },
          fix: {
            label: `Set the numbers of ${altered.standard.name}`,
            changes: [
              {
                kind: 'array',
                id: array.id,
                set: { technique: standardTechnique(altered.standard) },
              },
            ],
          },
        },
      ];
    },
  },
];
