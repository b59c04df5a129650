import { capsulesInFrame } from '../../../arrays/capsules';
import { stripsOf } from '../../../arrays/routing';
import { instrumentOf } from '../../../ensembles/instruments';
import { facingTo } from '../../../ensembles/radiation';
import { looksSteeply } from '../../../localisation/prepared-array';
import { playersOf } from '../../../prepare/for-whom';
import { contextOf } from '../../../prepare/context';
import { enabledArrays } from '../../../session/lists';
import type { MicArray, Session } from '../../../session/schema';
import { wrapDeg } from '../../../units/guard';
import { planDistance } from '../../../units/vector';
import { leadingMain } from '../beside-main';
import { namesOf, sourcesOf, type Found } from '../finding';
import { standingOf } from './picture';

/** Players who turn their backs, and names that say the other side. */

/** Turned away by more than this somebody plays to the wall, degrees. */
const AWAY_DEG = 120;
/** Nearer than this nobody has a back to turn, m. */
const NEAR_M = 0.8;

/** Players of the main array who play away from it, on its own side of the audience. */
export function playersAway(session: Session): Found[] {
  const main = leadingMain(session) ?? enabledArrays(session).find(({ role }) => role === 'main');
  if (!main || looksSteeply(main)) return [];
  const standing = standingOf(session, main);
  if (!standing || standing.behind) return [];
  const away = playersOf(main, session.sources, contextOf(session).speed).filter((source) => {
    if (planDistance(source, main) < NEAR_M) return false;
    const side = instrumentOf(source.kind)?.side;
    // Horns speak to the wall behind them by nature; what radiates all round has no back.
    if (side === 'behind' || side === 'up' || side === 'all round') return false;
    return Math.abs(wrapDeg(source.facingDeg - facingTo(source, main))) > AWAY_DEG;
  });
  return away.map((source) => {
    const facingDeg = facingTo(source, main);
    const offDeg = Math.abs(wrapDeg(source.facingDeg - facingDeg));
    return {
      severity: 'caution' as const,
      message: `${source.name} turns away from ${main.name} by ${Math.round(offDeg)}°, so it is heard off its bright side and by way of the walls.`,
      sources: [source],
      arrays: [main],
      figures: { offDeg },
      size: offDeg,
      levers: () => [
        [
          {
            label: `Turn ${source.name} to ${main.name}`,
            changes: [{ kind: 'source' as const, id: source.id, set: { facingDeg } }],
          },
        ],
      ],
      cause: {
        key: 'all',
        weight: offDeg,
        words: (all: readonly Found[]) =>
          `${all.length} players turn away from ${main.name}: ${namesOf(session, sourcesOf(all))}. They are heard off their bright side and by way of the walls.`,
        fixLabel: 'Turn them all to it',
      },
    };
  });
}

const SIDE_WORD = /\b(left|right|links|rechts)\b/i;
/** On a stage these are the performers' own. */
const STAGE_SIDE = /\bstage (left|right)\b/i;
/** Nearer to the middle than this nothing is on a side, m. */
const MIDDLE_M = 0.2;

const isLeft = (word: string): boolean => /^l/i.test(word);
const otherWord = (word: string): string => {
  const [left, right] = /^(left|right)$/i.test(word) ? ['left', 'right'] : ['links', 'rechts'];
  const other = isLeft(word) ? right : left;
  if (/^[LR][a-z]/.test(word)) return other.charAt(0).toUpperCase() + other.slice(1);
  return word === word.toUpperCase() ? other.toUpperCase() : other;
};

interface Sided {
  id: string;
  name: string;
  word: string;
  x: number;
}

function sided(list: readonly { id: string; name: string; x: number }[]): Sided[] {
  return list.flatMap(({ id, name, x }) => {
    const word = STAGE_SIDE.test(name) ? null : SIDE_WORD.exec(name)?.[1];
    return word === undefined || word === null ? [] : [{ id, name, word, x }];
  });
}

/** Names of two that are each on the other's side: of players, or of arrays. */
function namesSwapped(
  session: Session,
  kind: 'source' | 'array',
  list: readonly { id: string; name: string; x: number }[],
): Found[] {
  const turn = session.settings.perspective === 'audience' ? 1 : -1;
  const all = sided(list);
  return all.flatMap(({ id, name, word, x }): Found[] | Found => {
    if (!isLeft(word)) return [];
    const twin = all.find(
      (other) =>
        other.name.toLowerCase() === name.replace(SIDE_WORD, otherWord(word)).toLowerCase(),
    );
    if (!twin || (x - twin.x) * turn < MIDDLE_M) return [];
    const changes = [
      { kind, id, set: { name: twin.name } },
      { kind, id: twin.id, set: { name } },
    ];
    return {
      severity: 'caution',
      message: `${name} is to the right of ${twin.name}: their names say the other side.`,
      ...(kind === 'source'
        ? { sources: [{ id }, { id: twin.id }] }
        : { arrays: [{ id }, { id: twin.id }] }),
      figures: {},
      size: 1,
      subject: `${kind} ${[id, twin.id].sort().join()}`,
      levers: () => [[{ label: 'Swap the two names', changes }]],
    };
  });
}

/** So far out and panned so far, a name that says the other side says it wrongly: m, of the way. */
const CLEARLY_M = 0.5;
const CLEARLY_PANNED = 0.2;

/** One alone whose name says the other side than where it stands and where it is panned. */
function nameAgainstPlace(session: Session, arrays: readonly MicArray[]): Found[] {
  const turn = session.settings.perspective === 'audience' ? 1 : -1;
  const main = leadingMain(session);
  const all = sided(arrays);
  return all.flatMap(({ id, name, word, x }): Found[] | Found => {
    const array = arrays.find((one) => one.id === id);
    const renamed = name.replace(SIDE_WORD, otherWord(word));
    const taken = session.arrays.some((one) => one.name.toLowerCase() === renamed.toLowerCase());
    if (!array || !main || array.id === main.id || taken) return [];
    const strips = stripsOf(array.technique, array.mix.capsules);
    const says = isLeft(word) ? -1 : 1;
    const panned = strips.every(({ pan }) => pan * says < -CLEARLY_PANNED);
    if (!panned || (x - main.x) * turn * says > -CLEARLY_M) return [];
    const side = isLeft(word) ? 'right' : 'left';
    return {
      severity: 'note',
      message: `${name} stands on the ${side} and is panned ${side}: its name says the other side.`,
      arrays: [{ id }],
      figures: {},
      size: 1,
      levers: () => [
        [{ label: `Call it ${renamed}`, changes: [{ kind: 'array', id, set: { name: renamed } }] }],
      ],
    };
  });
}

/** A capsule's label that says the other side than its own, or than its channel. */
function labelsSwapped(array: MicArray): Found[] {
  const { technique, mix } = array;
  if (technique.kind !== 'custom') return [];
  const strips = stripsOf(technique, mix.capsules);
  const capsules = capsulesInFrame(technique);
  const says = (label: string): number => {
    if (/^L([a-z ]|$)/.test(label) || /^left\b/i.test(label)) return -1;
    return /^R([a-z ]|$)/.test(label) || /^right\b/i.test(label) ? 1 : 0;
  };
  const wrong = capsules.flatMap(({ label, dx }, i) =>
    says(label) * dx < -0.05 && says(label) * (strips[i]?.pan ?? 0) < 0 ? [i] : [],
  );
  if (wrong.length === 0) return [];
  const turned = technique.capsules.map((capsule, i) =>
    wrong.includes(i)
      ? {
          ...capsule,
          label: capsule.label.replace(/^(L|R|left|right)/i, (word) =>
            word.length === 1 ? (word === 'L' ? 'R' : 'L') : otherWord(word),
          ),
        }
      : capsule,
  );
  return [
    {
      severity: 'caution',
      message: `${array.name}: ${wrong.map((i) => capsules[i]?.label).join(', ')} ${wrong.length === 1 ? 'hangs' : 'hang'} on the other side than ${wrong.length === 1 ? 'its name says' : 'their names say'}.`,
      arrays: [array],
      figures: { labels: wrong.length },
      size: wrong.length,
      levers: () => [
        [
          {
            label: 'Name them by their sides',
            changes: [
              {
                kind: 'array',
                id: array.id,
                set: { technique: { ...technique, capsules: turned } },
              },
            ],
          },
        ],
      ],
    },
  ];
}

/** Everything whose name says the other side. */
export const namesOfTheOtherSide = (session: Session): Found[] => [
  ...namesSwapped(session, 'source', session.sources),
  ...namesSwapped(session, 'array', enabledArrays(session)),
  ...nameAgainstPlace(session, enabledArrays(session)),
  ...enabledArrays(session).flatMap(labelsSwapped),
];
