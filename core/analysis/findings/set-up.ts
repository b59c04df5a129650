import { channelMap } from '../../channels/map';
import { enabledArrays, isKnown } from '../../session/lists';
import { violations } from '../../ensembles/constraints';
import { fronts, unknownFronts } from '../../kit/address';
import { assignKit } from '../../kit/assignment';
import { patternWord } from '../../kit/needs';
import { withPattern } from '../summary';
import { nameWith } from '../../session/names';
import type { Session, Source } from '../../session/schema';
import { contextOf } from '../../prepare/context';
import type { Fix, Found, Rule } from './finding';
import { leftOut } from './levers';
import { seatAbout } from './seat-levers';

function repeatedNames(session: Session): Found[] {
  const found: Found[] = [];
  for (const [kind, entries] of [
    ['player', session.sources],
    ['array', session.arrays],
  ] as const) {
    const seen = new Map<string, { id: string }[]>();
    for (const entry of entries) {
      seen.set(entry.name, [...(seen.get(entry.name) ?? []), entry]);
    }
    for (const [name, same] of seen) {
      if (same.length < 2) continue;
      found.push({
        severity: 'caution',
        message: `${same.length} ${kind}s are named “${name}”. On a sheet or a channel list nobody can tell them apart.`,
        sources: kind === 'player' ? same : [],
        arrays: kind === 'array' ? same : [],
        subject: `${kind} ${name}`,
        figures: { count: same.length },
        levers: () => [
          [
            {
              label: 'Number them',
              changes: same.map(({ id }, i) => ({
                kind: kind === 'player' ? ('source' as const) : ('array' as const),
                id,
                set: { name: nameWith(name, ` ${i + 1}`) },
              })),
            },
          ],
        ],
      });
    }
  }
  return found;
}

/** Players decide whether what they wished for still counts. */
const wishDropped = ({ id, name }: Source): Fix[] => [
  {
    label: `Drop the wish of ${name}, once that is agreed`,
    changes: [{ kind: 'source', id, set: { constraints: [] } }],
  },
];

function unmetConstraints(session: Session): Found[] {
  return violations(session).map(({ sourceId, wish, message }) => {
    const player = session.sources.find(({ id }) => id === sourceId);
    return {
      severity: 'caution' as const,
      message,
      sources: [{ id: sourceId }],
      subject: `${sourceId} ${wish}`,
      figures: {},
      size: 1,
      levers: () => (player ? [seatAbout(session, player), wishDropped(player)] : []),
    };
  });
}

function addressSide(session: Session): Found[] {
  const asked = unknownFronts(session).map(({ name }) => ({
    severity: 'note' as const,
    message: `Is ${name} addressed at its end or on its side? Turned by 90°, its front looks past the players.`,
    todo: 'Say it in the kit.',
    subject: name,
    sources: [],
    figures: {},
  }));
  const mixed = enabledArrays(session)
    .filter((array) => new Set(fronts(session, array.id).filter(Boolean)).size > 1)
    .map(({ id, name }) => ({
      severity: 'caution' as const,
      message: `${name}: one microphone is addressed at its end, another on its side.`,
      todo: 'Aim each by its front, not by its body.',
      subject: `array ${id}`,
      sources: [],
      figures: {},
    }));
  return [...asked, ...mixed];
}

/** What is left over in place of what is short, pattern by pattern, array by array. */
function* standIns(session: Session): Generator<Fix> {
  const { capsules, left } = assignKit(session);
  const short = new Set(
    capsules.flatMap(({ arrayId, microphoneId }) => (microphoneId === null ? [arrayId] : [])),
  );
  const spare = session.kit.microphones.filter(({ id }) => (left[id] ?? 0) > 0);
  for (const array of session.arrays.filter(({ id }) => short.has(id))) {
    const { technique } = array;
    if (technique.kind === 'custom' || technique.kind === 'mid-side') continue;
    for (const microphone of spare) {
      for (const pattern of microphone.patterns) {
        yield {
          label: `${array.name} with ${microphone.name} as ${patternWord(pattern)}`,
          changes: [
            {
              kind: 'array',
              id: array.id,
              set: { technique: withPattern(technique, pattern), standard: '' },
            },
          ],
        };
      }
    }
  }
}

function kitShort(session: Session): Found[] {
  if (session.kit.microphones.length === 0) return [];
  const { missing, alternatives } = assignKit(session);
  if (missing === 0) return [];
  return [
    {
      severity: 'fault' as const,
      message: `The kit is ${missing} microphone${missing === 1 ? '' : 's'} short. ${alternatives.join(' ')}`,
      sources: [],
      figures: { missing },
      size: missing,
      gauge: {
        words: 'microphones short',
        unit: '',
        digits: 0,
        of: (there) => assignKit(there).missing,
      },
      levers: () => [standIns(session), leftOut(session)],
    },
  ];
}

/** Pairs of which a number is not known. */
function numbersMissing(session: Session): Found[] {
  return enabledArrays(session)
    .filter((array) => !isKnown(array))
    .map((array) => {
      const what = array.missing
        .map((name) => (name === 'spacingM' ? 'spacing' : 'included angle'))
        .join(' and ');
      return {
        severity: 'caution' as const,
        message: `${array.name}: the ${what} is not known, so nothing is said of its picture, its tolerance or the mix with it.`,
        todo: 'Type it at the Array station, where the range over customary values stands.',
        arrays: [array],
        figures: {},
      };
    });
}

export const SET_UP_RULES: readonly Rule[] = [
  {
    code: 'number-missing',
    evidence: 'pair',
    basis: 'rule',
    severities: ['caution'],
    reason: 'A missing number gives a range and a question, never a guess.',
    of: 'session',
    check: numbersMissing,
  },
  {
    code: 'player-wish',
    evidence: 'floor',
    basis: 'rule',
    severities: ['caution'],
    reason: 'Players asked for it: sight lines, neighbours and rows are theirs to decide.',
    of: 'session',
    check: unmetConstraints,
  },
  {
    code: 'kit-short',
    evidence: 'kit',
    basis: 'rule',
    severities: ['fault'],
    reason: 'Every microphone of the plan must come from the kit.',
    of: 'session',
    check: kitShort,
  },
  {
    code: 'address-side',
    evidence: 'kit',
    basis: 'rule',
    severities: ['caution', 'note'],
    reason: 'The axis that is aimed is that of the front, wherever the body points.',
    of: 'session',
    check: addressSide,
  },
  {
    code: 'name-twice',
    evidence: 'channels',
    basis: 'rule',
    severities: ['caution'],
    reason: 'Names stand on sheets, tracks and in the log.',
    of: 'session',
    check: repeatedNames,
  },
  {
    code: 'channels-short',
    evidence: 'kit',
    basis: 'rule',
    severities: ['fault'],
    reason: 'Every microphone needs a channel.',
    of: 'session',
    check: (session) => {
      const limit = session.brief.channelLimit;
      if (limit === null) return [];
      const needed = channelMap(session).inputs.length;
      if (needed <= limit) return [];
      const message = `${needed} microphones for ${limit} channel${limit === 1 ? '' : 's'}: ${needed - limit} short.`;
      return [
        {
          severity: 'fault',
          message,
          figures: { needed, limit, short: needed - limit },
          size: needed - limit,
          todo: 'Or bring more channels.',
          gauge: {
            words: 'channels short',
            unit: '',
            digits: 0,
            of: (there) => Math.max(0, channelMap(there).inputs.length - limit),
          },
          levers: () => [leftOut(session)],
        },
      ];
    },
  },
  {
    code: 'hall-unknown',
    evidence: 'hall',
    basis: 'rule',
    severities: ['note'],
    reason: 'Direct-to-reverberant figures need the volume and the reverberation time.',
    of: 'session',
    check: (session) =>
      contextOf(session).criticalDistanceM === null && session.sources.length > 0
        ? [
            {
              severity: 'note',
              message:
                'How large is the hall, and how long does it ring? Without both nothing is said about the room in the sound.',
              figures: {},
            },
          ]
        : [],
  },
];
