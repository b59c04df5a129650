import { AT_LOUDSPEAKER, LARGE_GAP_PCT, NARROW_PCT, WIDTH_TOLERANCE_PCT } from '../criteria';
import { anglesIn, leadingModel, stageIn } from '../../localisation/leading';
import { departures, standardNamed, standardTechnique } from '../../arrays/standards';
import { prepareArray } from '../../localisation/cues';
import { modelById } from '../../localisation/models/index';
import { farField, halfAngle, inPlace } from '../../localisation/recording-angle';
import type { SessionTechnique } from '../../session/schema';
import { formatNumber } from '../../units/format';
import { speedOfSound } from '../../units/sound';
import { leadingShift, namesOf, type ArrayView, type Fix, type Rule } from './finding';

/** A pair changed so that its in-place recording angle just holds the outermost player. */
function widerAngle({ session, array, figures }: ArrayView, halfDeg: number): Fix | null {
  const { technique } = array;
  if (technique.kind !== 'pair' || !figures.ensemble) return null;
  if (!(halfDeg >= 5 && halfDeg < 170)) return null;
  const { distanceM, heightM } = figures.ensemble;
  const model = modelById(leadingModel(figures.farField, session.settings.model));
  const speed = speedOfSound(session.venue.temperatureC);
  const bySpacing = technique.spacingM > 0;
  const at = (value: number): SessionTechnique =>
    bySpacing ? { ...technique, spacingM: value } : { ...technique, includedAngleDeg: value };
  const holds = (value: number): boolean => {
    const ready = prepareArray({ ...array, technique: at(value) });
    return (halfAngle(inPlace(ready, distanceM, heightM, speed), model, 1) ?? 180) >= halfDeg;
  };
  // Down from what it is now in steps of a rule; the smaller the value, the wider the angle.
  const [least, now, step] = bySpacing
    ? [0.03, technique.spacingM, 0.005]
    : [40, technique.includedAngleDeg, 1];
  if (!(least < now)) return null;
  const value = (steps: number): number =>
    Math.round((Math.floor(now / step) - steps) * step * 1000) / 1000;
  let [few, many] = [0, Math.floor((now - least) / step) + 1];
  while (few < many) {
    const middle = (few + many) >> 1;
    if (holds(value(middle))) many = middle;
    else few = middle + 1;
  }
  const rounded = value(few);
  if (!(rounded >= least && rounded < now) || !holds(rounded)) return null;
  const label = bySpacing
    ? `Set the spacing to ${formatNumber(rounded * 100, 1)} cm`
    : `Set the included angle to ${rounded}°`;
  return { label, changes: [{ kind: 'array', id: array.id, set: { technique: at(rounded) } }] };
}

export const PICTURE_RULES: readonly Rule[] = [
  {
    code: 'same-signal',
    evidence: 'pair',
    basis: 'physics',
    reason: 'Equal microphones at one point and in one direction give equal channels.',
    of: 'array',
    check: ({ array }) => {
      if (array.technique.kind !== 'pair') return [];
      const { spacingM, includedAngleDeg } = array.technique;
      if (spacingM > 0 || includedAngleDeg % 360 !== 0) return [];
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
    reason: 'Levels and times have no meaning at the capsule itself.',
    of: 'array',
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
    reason: 'Channels of opposite polarity make no stable phantom image and cancel in mono.',
    of: 'array',
    check: ({ session, array, figures }) => {
      const out = figures.sources.filter((source) => source.antiphase);
      if (out.length === 0) return [];
      const message = `${namesOf(session, out)}: the channels of ${array.name} are in antiphase, so there is no stable image and mono loses level. Move in, or take another angle.`;
      return [{ severity: 'fault', message, sources: out, figures: { players: out.length } }];
    },
  },
  {
    code: 'reversed',
    evidence: 'images',
    basis: 'physics',
    reason: 'Behind crossed figure-eights, or with the side turned round, left and right swap.',
    of: 'array',
    check: ({ session, array, figures }) => {
      const out = figures.sources.filter((source) => source.reversed);
      if (out.length === 0) return [];
      const { technique } = array;
      const lobe = technique.kind === 'mid-side' && technique.sidePositive === 'right';
      // From the performers' side that is how it is wanted.
      if (lobe && session.settings.perspective === 'performer') return [];
      const cause = lobe
        ? 'the side’s positive lobe faces right, so left and right are swapped. Turn it to the left, or swap the channels.'
        : 'behind the array the picture is stable but turned left for right. Move them to the front.';
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
    reason: 'Beyond the recording angle every player is heard at the loudspeaker.',
    of: 'array',
    check: (view) => {
      const { session, array, figures } = view;
      const half = anglesIn(figures, session.settings.model)?.halfDeg ?? null;
      if (half === null) return [];
      const out = figures.sources.filter((source) => {
        const shift = leadingShift(session, source);
        return (
          shift !== null && Math.abs(shift) >= AT_LOUDSPEAKER && Math.abs(source.azimuthDeg) > half
        );
      });
      if (out.length === 0) return [];
      const furthestDeg = Math.max(...out.map(({ azimuthDeg }) => Math.abs(azimuthDeg)));
      const message = `${namesOf(session, out)}: outside the recording angle of ${array.name} by ${formatNumber(furthestDeg - half, 1)}°, so crowded at the loudspeaker. Move in, or take a smaller angle or spacing.`;
      return [
        {
          severity: 'caution',
          message,
          sources: out,
          figures: { halfDeg: half, furthestDeg, overDeg: furthestDeg - half },
          fix: widerAngle(view, furthestDeg + 0.5),
        },
      ];
    },
  },
  {
    code: 'narrow-picture',
    evidence: 'images',
    basis: 'preference',
    reason: 'An ensemble much narrower than the recording angle leaves the outer stage empty.',
    of: 'array',
    check: ({ session, array, figures }) => {
      const fill = stageIn(figures, session.settings.model)?.imageWidthPct;
      const wanted = session.brief.intent.imageWidthPct;
      if (array.role !== 'main' || fill === undefined || figures.sources.length < 2) return [];
      const least = wanted === null ? NARROW_PCT : wanted - WIDTH_TOLERANCE_PCT;
      if (fill >= least) return [];
      const message = `The picture of ${array.name} is ${formatNumber(fill, 0)} % wide${wanted === null ? '' : `, ${wanted} % is wanted`}. Move closer, or take a larger angle or spacing.`;
      return [{ severity: 'note', message, figures: { imageWidthPct: fill, wantedPct: wanted } }];
    },
  },
  {
    code: 'gap',
    evidence: 'images',
    basis: 'preference',
    reason: 'A wide empty stretch between neighbours is heard as a hole in the middle.',
    of: 'array',
    check: ({ session, array, figures }) => {
      const stage = stageIn(figures, session.settings.model);
      if (array.role !== 'main' || !stage || figures.sources.length < 3) return [];
      if (stage.largestGapPct <= LARGE_GAP_PCT) return [];
      const message = `The picture of ${array.name} has a gap of ${formatNumber(stage.largestGapPct, 0)} % of the base between neighbours. Take a smaller spacing, or a centre microphone.`;
      return [{ severity: 'caution', message, figures: { largestGapPct: stage.largestGapPct } }];
    },
  },
  {
    code: 'lopsided',
    evidence: 'images',
    basis: 'physics',
    reason: 'Direct energy of all players, right channel against left.',
    of: 'array',
    check: ({ array, figures }) => {
      const { balanceDb } = figures;
      if (array.role !== 'main' || balanceDb === null || Math.abs(balanceDb) <= 3) return [];
      const side = balanceDb > 0 ? 'right' : 'left';
      const message = `${array.name}: the ${side} channel carries ${formatNumber(Math.abs(balanceDb), 1)} dB more direct sound. Move the array towards the other side, or turn it.`;
      return [{ severity: 'caution', message, figures: { balanceDb } }];
    },
  },
  {
    code: 'standard-mismatch',
    evidence: 'pair',
    basis: 'rule',
    reason: 'A named standard is its published numbers; others have another recording angle.',
    of: 'array',
    check: ({ session, array, figures }) => {
      const standard = standardNamed(array.name);
      const off = standard ? departures(standard, array.technique) : [];
      if (!standard || off.length === 0) return [];
      const speed = speedOfSound(session.venue.temperatureC);
      const technique = standardTechnique(standard);
      const ready = prepareArray({ ...array, technique });
      const model = modelById(leadingModel(figures.farField, session.settings.model));
      const named = halfAngle(farField(ready, speed), model, 1);
      const here = figures.farField[model.id]?.halfDeg ?? null;
      const effect =
        named === null || here === null
          ? ''
          : ` The recording angle is ±${formatNumber(here, 1)}° instead of ±${formatNumber(named, 1)}°.`;
      return [
        {
          severity: 'caution',
          message: `${array.name} is named after ${standard.name} but has another ${off.join(' and ')}.${effect}`,
          figures: { standardHalfDeg: named, halfDeg: here },
          fix: {
            label: `Set the numbers of ${standard.name}`,
            changes: [{ kind: 'array', id: array.id, set: { technique } }],
          },
        },
      ];
    },
  },
];
