import { capsulesInFrame } from '../../../arrays/capsules';
import type { MicArray, Session } from '../../../session/schema';
import { remembered } from '../../../units/remember';
import { LARGE_GAP_PCT } from '../../criteria';
import { heardArrays } from '../../mix';
import type { Change, Found } from '../finding';
import { pictureOf, standingOf, type Picture, type Standing } from './picture';
import { undoingsOf, type CauseCode, type Undo } from './undo';

/** What is wrong with an array as a whole: found by undoing it on a copy. */
export interface ArrayCause {
  array: MicArray;
  code: CauseCode;
  found: Found;
  changes: Change[];
}

/** A picture from here on is worth asking why. */
const BAD = 0.15;
/** What undoing must leave of it at the most, and which share of it. */
const MENDED = 0.12;
const MENDED_SHARE = 0.45;

interface Tried {
  undos: readonly Undo[];
  array: MicArray;
  picture: Picture;
}

function tried(session: Session, array: MicArray, undos: readonly Undo[]): Tried | null {
  let there = array;
  for (const { code, set } of undos) {
    // Strips are undone one after the other, each on what the one before it left.
    const again = undos[0]?.code === code ? set : undoAgain(session, there, code);
    if (!again) return null;
    there = { ...there, ...again };
  }
  const standing = standingOf(session, there);
  return standing ? { undos, array: there, picture: pictureOf(session, there, standing) } : null;
}

function undoAgain(session: Session, array: MicArray, code: CauseCode): Partial<MicArray> | null {
  const standing = standingOf(session, array);
  if (!standing) return null;
  return undoingsOf(session, array, standing).find((undo) => undo.code === code)?.set ?? null;
}

/** Every choice of so many of some, in order. */
function choices<T>(list: readonly T[], count: number): T[][] {
  if (count === 0) return [[]];
  return list.flatMap((first, i) =>
    choices(list.slice(i + 1), count - 1).map((rest) => [first, ...rest]),
  );
}

/** The fewest undoings that mend a picture, and of as few the ones that mend it best. */
function mendedBy(session: Session, array: MicArray, before: Picture, standing: Standing) {
  const undos = undoingsOf(session, array, standing);
  for (let count = 1; count <= Math.min(3, undos.length); count++) {
    let best: Tried | null = null;
    for (const choice of choices(undos, count)) {
      const here = tried(session, array, choice);
      if (here && here.picture.badness < (best?.picture.badness ?? Infinity) - 1e-9) best = here;
    }
    if (
      best &&
      best.picture.badness <= MENDED &&
      best.picture.badness <= MENDED_SHARE * before.badness
    ) {
      return best;
    }
  }
  return null;
}

/** What is heard because of it, in words. */
function effectOf(
  { swapped, lost, collapsed, gapPct, fromBehind, players }: Picture,
  after: Picture,
  session: Session,
): string {
  const whose = session.settings.perspective === 'audience' ? 'the audience’s' : 'the performers’';
  const everybody = (count: number): string =>
    count === players ? (players === 1 ? 'the player' : 'everybody') : `${count} of ${players}`;
  if (collapsed) return 'everybody is heard at one place';
  if (lost > 0 && lost >= swapped) {
    if (lost === players && players > 1) return 'nobody has a stable image';
    return `${everybody(lost)} ${lost === 1 ? 'has' : 'have'} no stable image`;
  }
  if (swapped > 0) {
    return swapped * 4 >= players * 3
      ? `the picture is turned left for right against ${whose} side`
      : `${everybody(swapped)} ${swapped === 1 ? 'is' : 'are'} heard on the other side`;
  }
  if (gapPct <= LARGE_GAP_PCT && fromBehind) return 'it hears their room and little of themselves';
  return `the picture has a hole of ${Math.round(gapPct)} % of the base, ${Math.round(after.gapPct)} % without it`;
}

const joined = (parts: readonly string[]): string =>
  parts.length < 2
    ? parts.join('')
    : `${parts.slice(0, -1).join(', ')}, and ${parts[parts.length - 1] ?? ''}`;

function causeOf(session: Session, array: MicArray): ArrayCause[] {
  const standing = standingOf(session, array);
  if (!standing || capsulesInFrame(array.technique).length < 2) return [];
  const before = pictureOf(session, array, standing);
  if (before.badness < BAD) return [];
  const mended = mendedBy(session, array, before, standing);
  const [first] = mended?.undos ?? [];
  if (!mended || !first) return [];
  const { undos, picture } = mended;
  const set: Change = { kind: 'array', id: array.id, set: changed(array, mended.array) };
  const what = joined(undos.map(({ words }) => words));
  const label =
    undos.length === 1
      ? first.label
      : `${array.name}: undo ${undos.length === 2 ? 'both' : 'all of it'}`;
  return [
    {
      array,
      code: first.code,
      changes: [set],
      found: {
        severity: 'fault',
        message: `${array.name}: ${what}, so ${effectOf(before, picture, session)}.`,
        arrays: [array],
        figures: {
          swapped: before.swapped,
          lost: before.lost,
          players: before.players,
        },
        size: before.badness,
        levers: () => [[{ label, changes: [set] }]],
        cause: {
          key: undos.map(({ code }) => code).join(),
          weight: before.badness,
          words: (all) =>
            `${all.flatMap(({ arrays }) => (arrays ?? []).map(({ id }) => nameIn(session, id))).join(', ')}: ${what}${undos.length === 1 ? '' : ' each'}. The worst is ${array.name}: ${effectOf(before, picture, session)}.`,
          fixLabel: label,
        },
      },
    },
  ];
}

const nameIn = (session: Session, id: string): string =>
  session.arrays.find((array) => array.id === id)?.name ?? id;

type ArraySet = Extract<Change, { kind: 'array' }>['set'];

/** The fields in which two states of one array differ. */
function changed(from: MicArray, to: MicArray): ArraySet {
  const fields = ['x', 'y', 'z', 'aimDeg', 'tiltDeg', 'technique', 'mix'] as const;
  return Object.fromEntries(
    fields.filter((field) => from[field] !== to[field]).map((field) => [field, to[field]]),
  );
}

/** What is wrong with each heard array as a whole. */
export const arrayCauses = remembered((session: Session): readonly ArrayCause[] =>
  heardArrays(session).flatMap((array) => causeOf(session, array)),
);
