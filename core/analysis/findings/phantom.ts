import type { MicArray, Session } from '../../session/schema';
import { gainPlan } from '../gain';
import { arrayOf, byArray } from './by-array';
import type { Fix, Found, Rule } from './finding';

/** Phantom power, by what each microphone needs. */

/** Phantom power by the microphone, not by the array. */
const asNeeded = (array: MicArray): Fix[] => [
  {
    label: 'Phantom as each microphone needs it',
    changes: [
      {
        kind: 'array',
        id: array.id,
        set: { equipment: { ...array.equipment, phantom: 'as needed' } },
      },
    ],
  },
];

function phantomOnRibbon(session: Session): Found[] {
  const rows = gainPlan(session).filter(
    ({ microphone, phantom }) => microphone?.phantom === 'must not' && phantom === 'on',
  );
  return byArray(rows).flatMap(([row]) => {
    const array = session.arrays.find(({ id }) => id === row?.arrayId);
    if (!row || !array) return [];
    return {
      severity: 'fault' as const,
      blocking: true,
      message: `${row.arrayName}: phantom power is on, and ${row.microphone?.name} must not have it.`,
      todo: 'Off before anything is plugged in.',
      arrays: [array],
      figures: {},
      levers: () => [asNeeded(array)],
    };
  });
}

function phantomMissing(session: Session): Found[] {
  const rows = gainPlan(session).filter(
    ({ microphone, phantom }) => microphone?.phantom === 'needs' && phantom === 'off',
  );
  return byArray(rows).flatMap(([row]) => {
    const array = arrayOf(session, row?.arrayId);
    return row && array
      ? {
          severity: 'fault' as const,
          message: `${row.arrayName}: ${row.microphone?.name} needs phantom power, and it is off.`,
          arrays: [array],
          figures: {},
          levers: () => [asNeeded(array)],
        }
      : [];
  });
}

function phantomOnTolerant(session: Session): Found[] {
  const rows = gainPlan(session).filter(
    ({ microphone, phantom }) =>
      microphone?.kind === 'ribbon' && microphone.phantom === 'tolerates' && phantom === 'on',
  );
  return byArray(rows).flatMap(([row]) => {
    const array = arrayOf(session, row?.arrayId);
    return row && array
      ? {
          severity: 'caution' as const,
          message: `${row.arrayName}: phantom power is on at ${row.microphone?.name}, a ribbon that tolerates it only while the cable is sound and is not plugged under power.`,
          arrays: [array],
          figures: {},
          levers: () => [asNeeded(array)],
        }
      : [];
  });
}

export const PHANTOM_RULES: readonly Rule[] = [
  {
    code: 'phantom-on-ribbon',
    evidence: 'channels',
    basis: 'safety',
    severities: ['fault'],
    reason: 'Phantom power can destroy a ribbon that does not tolerate it.',
    of: 'session',
    check: phantomOnRibbon,
  },
  {
    code: 'phantom-missing',
    evidence: 'channels',
    basis: 'rule',
    severities: ['fault'],
    reason: 'A condenser microphone is silent without its power.',
    of: 'session',
    check: phantomMissing,
  },
  {
    code: 'phantom-on-tolerant',
    evidence: 'channels',
    basis: 'rule',
    severities: ['caution'],
    reason: 'Phantom power on one leg alone drives a current through the ribbon.',
    of: 'session',
    check: phantomOnTolerant,
  },
];
