import type { Session } from '../../session/schema';
import { gainPlan, type GainRow } from '../gain';
import { standPlans } from '../../rig/mechanics/stands';
import type { Found, Rule } from './finding';
import { formatNumber } from '../../units/format';

const NEAR_LIMIT_DB = 3;

/** Channels of one array and kind together: one sentence an array. */
function byArray(rows: readonly GainRow[]): GainRow[][] {
  const groups = new Map<string, GainRow[]>();
  for (const row of rows) groups.set(row.arrayId, [...(groups.get(row.arrayId) ?? []), row]);
  return [...groups.values()];
}

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
      message: `${row.arrayName}: phantom power is on, and ${row.microphone?.name} must not have it. Switch it off before anything is plugged in.`,
      figures: {},
      fix: {
        label: 'Phantom as each microphone needs it',
        changes: [
          {
            kind: 'array' as const,
            id: array.id,
            set: { equipment: { ...array.equipment, phantom: 'as needed' as const } },
          },
        ],
      },
    };
  });
}

function phantomMissing(session: Session): Found[] {
  const rows = gainPlan(session).filter(
    ({ microphone, phantom }) => microphone?.phantom === 'needs' && phantom === 'off',
  );
  return byArray(rows).flatMap(([row]) =>
    row
      ? {
          severity: 'fault' as const,
          message: `${row.arrayName}: ${row.microphone?.name} needs phantom power, and it is off.`,
          figures: {},
        }
      : [],
  );
}

function overload(session: Session): Found[] {
  const rows = gainPlan(session).filter(
    ({ overloadDb }) => overloadDb !== null && overloadDb > -NEAR_LIMIT_DB,
  );
  return byArray(rows).flatMap((list) => {
    const [row] = [...list].sort((a, b) => (b.overloadDb ?? 0) - (a.overloadDb ?? 0));
    if (!row || row.overloadDb === null) return [];
    const over = row.overloadDb;
    return {
      severity: over > 0 ? ('fault' as const) : ('caution' as const),
      message: `${row.arrayName} ${row.label}: peaks reach ${formatNumber(row.peakDb, 0)} dB SPL, ${
        over > 0
          ? `${formatNumber(over, 0)} dB more than`
          : `within ${formatNumber(-over, 0)} dB of what`
      } ${row.microphone?.name} takes. Use its pad, stand back, or take another microphone.`,
      figures: { peakDb: row.peakDb, overloadDb: over },
    };
  });
}

function pads(session: Session): Found[] {
  const rows = gainPlan(session).filter(({ padDb }) => padDb > 0);
  return byArray(rows).flatMap(([row]) =>
    row
      ? {
          severity: 'caution' as const,
          message: `${row.arrayName} ${row.label}: ${formatNumber(row.outputMv, 0)} mV at the peak are more than the input wants without gain. Set a pad of ${row.padDb} dB.`,
          figures: { outputMv: row.outputMv, padDb: row.padDb },
        }
      : [],
  );
}

function standsShort(session: Session): Found[] {
  return standPlans(session)
    .filter(({ lacks }) => lacks !== '')
    .map(({ arrayName, lacks, heightM, reachM }) => ({
      severity: 'fault' as const,
      message: `${arrayName}: the kit has no stand for it: ${lacks}.`,
      figures: { heightM, reachM },
    }));
}

export const EQUIPMENT_RULES: readonly Rule[] = [
  {
    code: 'phantom-on-ribbon',
    evidence: 'channels',
    basis: 'safety',
    reason: 'Phantom power can destroy a ribbon that does not tolerate it.',
    of: 'session',
    check: phantomOnRibbon,
  },
  {
    code: 'phantom-missing',
    evidence: 'channels',
    basis: 'rule',
    reason: 'A condenser microphone is silent without its power.',
    of: 'session',
    check: phantomMissing,
  },
  {
    code: 'overload',
    evidence: 'channels',
    basis: 'physics',
    reason: 'Level at the capsule = level at 1 m − 20·lg r + pattern, all players together.',
    of: 'session',
    check: overload,
  },
  {
    code: 'pad',
    evidence: 'channels',
    basis: 'physics',
    reason: 'Output = sensitivity · pressure; 94 dB SPL is 1 Pa.',
    of: 'session',
    check: pads,
  },
  {
    code: 'stand-short',
    evidence: 'stands',
    basis: 'rule',
    reason: 'Height range and boom of the stand against where the array is, clear of the players.',
    of: 'session',
    check: standsShort,
  },
];
