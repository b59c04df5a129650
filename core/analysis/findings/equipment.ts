import { microphoneName } from '../../arrays/capsules';
import { channelMap } from '../../channels/map';
import { readyArray } from '../../prepare/arrays';
import { enabledArrays } from '../../session/lists';
import type { MicArray, Session } from '../../session/schema';
import { planDistance } from '../../units/vector';
import { gainPlan, type GainRow } from '../gain';
import { standPlans } from '../../rig/mechanics/stands';
import { arrayName, type Found, type Rule } from './finding';
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
      arrays: [array],
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
          arrays: [{ id: row.arrayId }],
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
      message: `${microphoneName(row.arrayName, row.label)}: peaks reach ${formatNumber(row.peakDb, 0)} dB SPL, ${
        over > 0
          ? `${formatNumber(over, 0)} dB more than`
          : `within ${formatNumber(-over, 0)} dB of what`
      } ${row.microphone?.name} takes. Use its pad, stand back, or take another microphone.`,
      arrays: [{ id: row.arrayId }],
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
          message: `${microphoneName(row.arrayName, row.label)}: ${formatNumber(row.outputMv, 0)} mV at the peak are more than the input wants without gain. Set a pad of ${row.padDb} dB.`,
          arrays: [{ id: row.arrayId }],
          figures: { outputMv: row.outputMv, padDb: row.padDb },
        }
      : [],
  );
}

function standsShort(session: Session): Found[] {
  return standPlans(session)
    .filter(({ lacks }) => lacks !== '')
    .map(({ arrayId, arrayName, lacks, heightM, reachM }) => ({
      severity: 'fault' as const,
      message: `${arrayName}: the kit has no stand for it: ${lacks}.`,
      arrays: [{ id: arrayId }],
      figures: { heightM, reachM },
      cause: {
        key: 'all',
        weight: heightM,
        words: (all) =>
          `The kit lacks ${all.length} stands: for ${namesOfArrays(session, all)}. Bring more, leave one out, or hang it from the venue’s points.`,
      },
    }));
}

const namesOfArrays = (session: Session, all: readonly Found[]): string => {
  const ids = [...all].reverse().flatMap(({ arrays }) => (arrays ?? []).map(({ id }) => id));
  return [...new Set(ids)].map((id) => arrayName(session, id)).join(', ');
};

/** More inputs than preamplifiers, more tracks than the recorder has. */
function inputsShort(session: Session): Found[] {
  const { preampChannels, recorderTracks } = session.kit;
  const { inputs, tracks } = channelMap(session);
  const short = (needed: number, has: number | null, what: string, todo: string): Found[] =>
    has === null || needed <= has
      ? []
      : [
          {
            severity: 'fault',
            message: `${needed} ${what} are needed, the kit has ${has}: ${needed - has} short. ${todo}`,
            figures: { needed, has },
          },
        ];
  return [
    ...short(
      inputs.length,
      preampChannels,
      'microphone preamplifiers',
      'Bring more, or leave an array out.',
    ),
    ...short(
      tracks.reduce((sum, track) => sum + track.inputs.length, 0),
      recorderTracks,
      'tracks',
      'Bring another recorder, or leave an array out.',
    ),
  ];
}

/** Kinds of the two microphones of each pair, as the kit is shared out. */
function pairKinds(session: Session): { array: MicArray; kinds: string[] }[] {
  const rows = gainPlan(session);
  return enabledArrays(session)
    .filter(({ technique }) => technique.kind === 'pair')
    .map((array) => ({
      array,
      kinds: rows.flatMap(({ arrayId, microphone }) =>
        arrayId === array.id && microphone ? [microphone.kind] : [],
      ),
    }));
}

const isRibbon = (kind: string): boolean => kind === 'ribbon';

function mixedPairs(session: Session): Found[] {
  return pairKinds(session).flatMap(({ array, kinds }) =>
    kinds.some(isRibbon) && kinds.some((kind) => !isRibbon(kind))
      ? {
          severity: 'fault' as const,
          message: `${array.name}: a ribbon in one channel and a ${kinds.find((kind) => !isRibbon(kind)) ?? ''} in the other. Tone, level and rear differ, so the image wanders: take two of one kind.`,
          arrays: [array],
          figures: {},
        }
      : [],
  );
}

function phantomOnTolerant(session: Session): Found[] {
  const rows = gainPlan(session).filter(
    ({ microphone, phantom }) =>
      microphone?.kind === 'ribbon' && microphone.phantom === 'tolerates' && phantom === 'on',
  );
  return byArray(rows).flatMap(([row]) =>
    row
      ? {
          severity: 'caution' as const,
          message: `${row.arrayName}: phantom power is on at ${row.microphone?.name}, a ribbon that tolerates it only while the cable is sound and is not plugged under power. Switch it off.`,
          arrays: [{ id: row.arrayId }],
          figures: {},
        }
      : [],
  );
}

/** How far a closed lid reaches beyond the middle of what sounds, m, and how high it lies, m. */
const LID_REACH_M = 1;
const LID_HEIGHT_M = 1.1;

function lidOver(session: Session): Found[] {
  return session.sources.flatMap((source) => {
    if (source.lid !== 'closed') return [];
    const under = enabledArrays(session).filter((array) =>
      readyArray(array).capsules.some(
        ({ position }) =>
          planDistance(position, source) < source.widthM / 2 + LID_REACH_M / 2 &&
          position.z < LID_HEIGHT_M &&
          position.z > LID_HEIGHT_M / 2,
      ),
    );
    return under.length === 0
      ? []
      : {
          severity: 'fault' as const,
          message: `${source.name}: the lid is closed over ${under.map(({ name }) => name).join(', ')}. Open it, or take the microphones out before it moves.`,
          sources: [source],
          arrays: under,
          figures: { heightM: LID_HEIGHT_M },
        };
  });
}

export const EQUIPMENT_RULES: readonly Rule[] = [
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
    code: 'overload',
    evidence: 'channels',
    basis: 'physics',
    severities: ['fault', 'caution'],
    reason: 'Level at the capsule = level at 1 m − 20·lg r + pattern, all players together.',
    of: 'session',
    check: overload,
  },
  {
    code: 'pad',
    evidence: 'channels',
    basis: 'physics',
    severities: ['caution'],
    reason: 'Output = sensitivity · pressure; 94 dB SPL is 1 Pa.',
    of: 'session',
    check: pads,
  },
  {
    code: 'stand-short',
    evidence: 'stands',
    basis: 'rule',
    severities: ['fault'],
    reason: 'Height range and boom of the stand against where the array is, clear of the players.',
    of: 'session',
    check: standsShort,
  },
  {
    code: 'inputs-short',
    evidence: 'kit',
    basis: 'rule',
    severities: ['fault'],
    reason: 'Every microphone needs a preamplifier and a track.',
    of: 'session',
    check: inputsShort,
  },
  {
    code: 'mixed-pair',
    evidence: 'kit',
    basis: 'rule',
    severities: ['fault'],
    reason: 'A pair is two microphones that differ only in their place.',
    of: 'session',
    check: mixedPairs,
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
  {
    code: 'lid-closed',
    evidence: 'floor',
    basis: 'safety',
    severities: ['fault'],
    reason: 'A lid that comes down meets whatever stands under it.',
    of: 'session',
    check: lidOver,
  },
];
