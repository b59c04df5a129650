import { patternAOf } from '../../acoustics/patterns';
import { standardNamed, standardTechnique } from '../../arrays/standards';
import { leadingModel, modelOf } from '../../localisation/leading';
import type { MicArray } from '../../session/schema';
import { formatNumber } from '../../units/format';
import { speedOfSound } from '../../units/sound';
import { alterationOf } from '../alteration';
import { EVERY_ROLE, type ArrayView, type Found, type Rule } from './finding';

/** What the numbers of a pair say by themselves. */

/** A pair whose two capsules are one. */
export const isOneSignal = ({ technique }: MicArray): boolean =>
  technique.kind === 'pair' &&
  technique.spacingM === 0 &&
  (technique.includedAngleDeg % 360 === 0 || patternAOf(technique.pattern) === 1);

function sameSignal({ array }: ArrayView): Found[] {
  const { technique } = array;
  if (technique.kind !== 'pair' || !isOneSignal(array)) return [];
  const { spacingM, includedAngleDeg } = technique;
  const omni = patternAOf(technique.pattern) === 1;
  const set = omni ? { ...technique, spacingM: 0.5 } : { ...technique, includedAngleDeg: 90 };
  return [
    {
      severity: 'fault',
      message: `${array.name}: both capsules at one point and ${omni ? 'omnis' : 'in one direction'}, so both channels are the same.`,
      figures: { spacingM, includedAngleDeg },
      levers: () => [
        [
          {
            label: omni ? 'Set the spacing to 50 cm' : 'Set the included angle to 90°',
            changes: [{ kind: 'array', id: array.id, set: { technique: set } }],
          },
        ],
      ],
    },
  ];
}

function standardMismatch({ session, array, figures }: ArrayView): Found[] {
  const standard = standardNamed(array.name);
  if (!standard) return [];
  const model = modelOf({
    ...session.settings,
    model: leadingModel(figures.farField, session.settings.model),
  });
  const speed = speedOfSound(session.venue.temperatureC);
  const altered = alterationOf(array, standard, model, speed);
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
      size: off.length,
      levers: () => [
        [
          {
            label: `Set the numbers of ${altered.standard.name}`,
            changes: [
              {
                kind: 'array',
                id: array.id,
                set: { technique: standardTechnique(altered.standard) },
              },
            ],
          },
        ],
        [
          {
            label: 'Name it for what it is',
            changes: [
              {
                kind: 'array',
                id: array.id,
                set: { name: array.role === 'main' ? 'Main pair' : 'Pair', standard: '' },
              },
            ],
          },
        ],
      ],
    },
  ];
}

export const PAIR_RULES: readonly Rule[] = [
  {
    code: 'same-signal',
    evidence: 'pair',
    basis: 'physics',
    severities: ['fault'],
    reason: 'Equal microphones at one point and in one direction give equal channels.',
    of: 'array',
    roles: EVERY_ROLE,
    check: sameSignal,
  },
  {
    code: 'standard-mismatch',
    evidence: 'pair',
    basis: 'rule',
    severities: ['caution'],
    reason: 'A named standard is its published numbers; others have another recording angle.',
    of: 'array',
    roles: EVERY_ROLE,
    check: standardMismatch,
  },
];
