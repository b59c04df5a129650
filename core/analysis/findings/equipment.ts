import { capsulesInFrame, microphoneName } from '../../arrays/capsules';
import { withLid } from '../../ensembles/instruments';
import { piecesWith } from '../../ensembles/pieces';
import { canDo, patternWord } from '../../kit/needs';
import { channelMap } from '../../channels/map';
import { readyArray } from '../../prepare/arrays';
import { enabledArrays } from '../../session/lists';
import type { MicArray, Session } from '../../session/schema';
import { planDistance } from '../../units/vector';
import { gainPlan } from '../gain';
import { standPlans } from '../../mechanics/stands';
import { OVER_PEOPLE_FROM_M } from '../criteria';
import { withPattern } from '../summary';
import { arrayOf, byArray } from './by-array';
import { arrayName, type Fix, type Found, type Rule } from './finding';
import { back, leftOut, lowered, raised } from './levers';
import { formatNumber } from '../../units/format';

const NEAR_LIMIT_DB = 3;

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
      } ${row.microphone?.name} takes.`,
      arrays: [{ id: row.arrayId }],
      figures: { peakDb: row.peakDb, overloadDb: over },
      size: over + NEAR_LIMIT_DB,
      todo: 'Or use its pad, where it has one.',
      gauge: {
        words: 'peak against what it takes',
        unit: 'dB',
        digits: 1,
        of: (there) => {
          const found = gainPlan(there).filter(({ arrayId }) => arrayId === row.arrayId);
          const overs = found.flatMap(({ overloadDb }) => overloadDb ?? []);
          return overs.length > 0 ? Math.max(...overs) : null;
        },
      },
      levers: () => {
        const array = arrayOf(session, row.arrayId);
        return array ? [back(session, array), otherMicrophones(session, array)] : [];
      },
      instead: 'No place and no microphone at hand takes it: a pad, or one that takes more.',
    };
  });
}

/** Other microphones of the kit for all capsules of an array, those that take most first. */
function* otherMicrophones(session: Session, array: MicArray): Generator<Fix> {
  const capsules = capsulesInFrame(array.technique);
  const fit = session.kit.microphones
    .filter(
      (microphone) =>
        microphone.count >= capsules.length &&
        capsules.every(({ pattern }) => canDo(microphone, pattern)),
    )
    .sort((a, b) => (b.maxSplDb ?? 0) - (a.maxSplDb ?? 0));
  for (const { id, name } of fit) {
    yield {
      label: `Take ${capsules.length === 1 ? '' : `${capsules.length} × `}${name} for ${array.name}`,
      changes: [
        {
          kind: 'array',
          id: array.id,
          set: {
            equipment: { ...array.equipment, microphoneIds: capsules.map(() => id) },
          },
        },
      ],
    };
  }
}

function pads(session: Session): Found[] {
  const rows = gainPlan(session).filter(({ padDb }) => padDb > 0);
  return byArray(rows).flatMap(([row]) =>
    row
      ? {
          severity: 'caution' as const,
          message: `${microphoneName(row.arrayName, row.label)}: ${formatNumber(row.outputMv, 0)} mV at the peak are more than the input wants without gain.`,
          todo: `Set a pad of ${row.padDb} dB.`,
          arrays: [{ id: row.arrayId }],
          figures: { outputMv: row.outputMv, padDb: row.padDb },
        }
      : [],
  );
}

/** Hung from the venue's own points, where it is high enough for that. */
const hungUp = (array: MicArray): Fix[] =>
  array.z > OVER_PEOPLE_FROM_M
    ? [
        {
          label: `Hang ${array.name} from the venue’s points`,
          changes: [{ kind: 'array', id: array.id, set: { hung: true } }],
        },
      ]
    : [];

function standsShort(session: Session): Found[] {
  return standPlans(session)
    .filter(({ lacks }) => lacks !== '')
    .map(({ arrayId, arrayName, lacks, heightM, reachM }) => ({
      severity: 'fault' as const,
      message: `${arrayName}: the kit has no stand for it: ${lacks}.`,
      arrays: [{ id: arrayId }],
      figures: { heightM, reachM },
      size: 1,
      todo: 'Or bring another stand.',
      levers: () => {
        const array = arrayOf(session, arrayId);
        return array
          ? [lowered(session, array), raised(session, array), back(session, array), hungUp(array)]
          : [];
      },
      cause: {
        key: 'all',
        weight: heightM,
        words: (all) => `The kit lacks ${all.length} stands: for ${namesOfArrays(session, all)}.`,
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
            message: `${needed} ${what} are needed, the kit has ${has}: ${needed - has} short.`,
            subject: what,
            figures: { needed, has },
            size: needed - has,
            todo,
            levers: () => [leftOut(session)],
          },
        ];
  return [
    ...short(inputs.length, preampChannels, 'microphone preamplifiers', 'Or bring more.'),
    ...short(
      tracks.reduce((sum, track) => sum + track.inputs.length, 0),
      recorderTracks,
      'tracks',
      'Or bring another recorder.',
    ),
  ];
}

/** Kinds of the microphones of each array of several, as the kit is shared out. */
function arrayKinds(session: Session): { array: MicArray; kinds: string[] }[] {
  const rows = gainPlan(session);
  return enabledArrays(session).map((array) => ({
    array,
    kinds: rows.flatMap(({ arrayId, microphone }) =>
      arrayId === array.id && microphone ? [microphone.kind] : [],
    ),
  }));
}

const isRibbon = (kind: string): boolean => kind === 'ribbon';

function mixedPairs(session: Session): Found[] {
  return arrayKinds(session).flatMap(({ array, kinds }): Found[] | Found => {
    const other = kinds.find((kind) => !isRibbon(kind));
    if (!kinds.some(isRibbon) || other === undefined) return [];
    const midSide = array.technique.kind === 'mid-side';
    const [severity, message] = midSide
      ? ([
          'note',
          `${array.name}: M and S are a ribbon and a ${other}. Their tone differs, which the decoder spreads to both sides; many like it, and the level of S is then set by ear.`,
        ] as const)
      : ([
          'fault',
          `${array.name}: a ribbon beside a ${other}. Tone, level and rear differ, so the image wanders.`,
        ] as const);
    return {
      severity,
      message,
      arrays: [array],
      figures: {},
      levers: () => (midSide ? [] : [otherMicrophones(session, array)]),
      ...(midSide
        ? {}
        : { instead: 'The kit has no set alike for it: bring one, or take fewer capsules.' }),
    };
  });
}

/** Microphones that were chosen for a capsule and cannot do its pattern. */
function patternNotHad(session: Session): Found[] {
  const byId = new Map(session.kit.microphones.map((microphone) => [microphone.id, microphone]));
  return enabledArrays(session).flatMap((array): Found[] | Found => {
    const capsules = capsulesInFrame(array.technique);
    const wrong = array.equipment.microphoneIds.flatMap((id, i) => {
      const [microphone, capsule] = [byId.get(id), capsules[i]];
      return microphone && capsule && !canDo(microphone, capsule.pattern)
        ? [{ microphone, pattern: capsule.pattern }]
        : [];
    });
    const [first] = wrong;
    if (!first) return [];
    const { microphone, pattern } = first;
    const { technique, equipment } = array;
    const taken = microphone.patterns.map((own): Fix => ({
      label: `Take its ${patternWord(own)}`,
      changes: [
        {
          kind: 'array',
          id: array.id,
          set: { technique: withPattern(technique, own), standard: '' },
        },
      ],
    }));
    return {
      severity: 'fault',
      message: `${array.name}: ${microphone.name} cannot do ${patternWord(pattern)}; it has ${microphone.patterns.map(patternWord).join(', ') || 'no pattern listed'}.`,
      arrays: [array],
      figures: { capsules: wrong.length },
      size: wrong.length,
      levers: () => [
        [
          {
            label: 'Let the kit be shared out',
            changes: [
              {
                kind: 'array',
                id: array.id,
                set: { equipment: { ...equipment, microphoneIds: [] } },
              },
            ],
          },
        ],
        taken,
      ],
    };
  });
}

/** How far a closed lid reaches beyond the middle of what sounds, m, and how high it lies, m. */
const LID_REACH_M = 1;
const LID_HEIGHT_M = 1.1;

function lidOver(session: Session): Found[] {
  return session.sources.flatMap((source) => {
    if (source.lid !== 'closed') return [];
    // One lid lies over all strings of one case.
    const pieces = piecesWith(source, session.sources);
    const [first = source] = pieces;
    if (first !== source) return [];
    const name = source.pieceOf?.name ?? source.name;
    const around = pieces.length > 0 ? pieces : [source];
    const under = enabledArrays(session).filter((array) =>
      readyArray(array).capsules.some(
        ({ position }) =>
          around.some(
            (piece) => planDistance(position, piece) < piece.widthM / 2 + LID_REACH_M / 2,
          ) &&
          position.z < LID_HEIGHT_M &&
          position.z > LID_HEIGHT_M / 2,
      ),
    );
    return under.length === 0
      ? []
      : {
          severity: 'fault' as const,
          message: `${name}: the lid is closed over ${under.map(({ name }) => name).join(', ')}.`,
          todo: 'The microphones come out before it moves.',
          sources: [source],
          arrays: under,
          // Several lids may close over one array: each is a finding of its own.
          subject: source.id,
          figures: { heightM: LID_HEIGHT_M },
          levers: () => [
            (['full-stick', 'short-stick'] as const).map((lid) => ({
              label: `Open the lid of ${name}: ${lid.replace('-', ' ')}`,
              changes: around.map((piece) => ({
                kind: 'source' as const,
                id: piece.id,
                set: withLid(piece, lid),
              })),
            })),
          ],
        };
  });
}

export const EQUIPMENT_RULES: readonly Rule[] = [
  {
    code: 'overload',
    evidence: 'channels',
    basis: 'physics',
    severities: ['fault', 'caution'],
    reason:
      'Level at the capsule: direct sound of all players by distance and pattern, and the room’s.',
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
    severities: ['fault', 'note'],
    reason: 'The microphones of an array differ only in their place.',
    of: 'session',
    check: mixedPairs,
  },
  {
    code: 'pattern-not-had',
    evidence: 'kit',
    basis: 'rule',
    severities: ['fault'],
    reason: 'A microphone has the patterns that it has; another one has another recording angle.',
    of: 'session',
    check: patternNotHad,
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
