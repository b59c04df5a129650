import { capitalised } from '../units/format';
import type { Source } from '../session/schema';

/** A section of the ensemble by name; a player without one stands alone. */
export interface PlayerGroup {
  name: string;
  /** ids of its players */
  members: readonly string[];
}

/** Sections in the order in which they first appear. */
export function playerGroups(
  sources: readonly Pick<Source, 'id' | 'name' | 'group'>[],
): PlayerGroup[] {
  const members = new Map<string, string[]>();
  for (const source of sources) {
    const name = source.group.trim() || source.name;
    const known = members.get(name);
    if (known) known.push(source.id);
    else members.set(name, [source.id]);
  }
  return [...members].map(([name, list]) => ({ name, members: list }));
}

/** A section of more than this is looked at by its parts. */
const LARGE = 10;
/** So many lines are still told apart. */
const MOST_PARTS = 8;

/**
 * A large section by its parts, each a group of its own: players of one name but for its number, or
 * of one instrument. The section itself where it is small, has no parts, or too many.
 */
export function partsOfGroup(
  group: PlayerGroup,
  sources: readonly Pick<Source, 'id' | 'name' | 'kind'>[],
): PlayerGroup[] {
  if (group.members.length <= LARGE) return [group];
  const byId = new Map(sources.map((source) => [source.id, source]));
  const by = (part: (source: Pick<Source, 'name' | 'kind'>) => string): Map<string, string[]> => {
    const parts = new Map<string, string[]>();
    for (const id of group.members) {
      const source = byId.get(id);
      const name = source ? part(source) : '';
      parts.set(name, [...(parts.get(name) ?? []), id]);
    }
    return parts;
  };
  const fits = ({ size }: Map<string, string[]>): boolean => size > 1 && size <= MOST_PARTS;
  const named = by(({ name }) => NUMBERED.exec(name)?.[1] ?? name);
  const parts = fits(named) ? named : by(({ kind }) => kind);
  if (!fits(parts)) return [group];
  return [...parts].map(([name, members]) => ({
    name: capitalised(name) || group.name,
    members,
  }));
}

/** How players and parts are abbreviated in scores; the longer names first. */
const SCORE_WORDS: readonly (readonly [RegExp, string])[] = [
  [/^bass drums?$/, 'BD'],
  [/^double bass(es)?$/, 'Db'],
  [/^(grand |upright )?pianos?$/, 'Pno'],
  [/^violins?$/, 'Vn'],
  [/^violas?$/, 'Va'],
  [/^(violon)?cell(o|os|i)$/, 'Vc'],
  [/^viols?$/, 'Vl'],
  [/^piccolos?$/, 'Pic'],
  [/^flutes?$/, 'Fl'],
  [/^recorders?$/, 'Rec'],
  [/^oboes?$/, 'Ob'],
  [/^(cor anglais|english horns?)$/, 'CA'],
  [/^clarinets?$/, 'Cl'],
  [/^bassoons?$/, 'Bn'],
  [/^saxophones?$/, 'Sax'],
  [/^(french )?horns?$/, 'Hn'],
  [/^trumpets?$/, 'Tpt'],
  [/^trombones?$/, 'Tbn'],
  [/^tubas?$/, 'Tba'],
  [/^timpani$/, 'Timp'],
  [/^timpano$/, 'Tp'],
  [/^snare drums?$/, 'SD'],
  [/^concert bass drums?$/, 'BD'],
  [/^floor toms?$/, 'FT'],
  [/^high toms?$/, 'HT'],
  [/^middle toms?$/, 'MT'],
  [/^hi-hats?$/, 'HH'],
  [/^crash cymbals?$/, 'Cr'],
  [/^ride cymbals?$/, 'Ri'],
  [/^tam-tams?$/, 'TT'],
  [/^percussion( set-up)?$/, 'Perc'],
  [/^(drum )?kit$/, 'Kit'],
  [/^harps?$/, 'Hp'],
  [/^harpsichords?$/, 'Hpd'],
  [/^(chamber )?organs?$/, 'Org'],
  [/^guitars?$/, 'Gtr'],
  [/^lutes?$/, 'Lt'],
  [/^sopranos?$/, 'S'],
  [/^altos?$/, 'A'],
  [/^tenors?$/, 'T'],
  [/^basses$/, 'B'],
];

/** A section's number at the end of its name: "Violin II", "Flutes 1". */
const NUMBERED = /^(.*?)[\s,]+([ivx]+|\d+)$/i;

/** "Vn II" for violins of that number, else the beginning of the name. */
function usualShort(name: string, size: number): string {
  const [, words = name, number = ''] = NUMBERED.exec(name) ?? [];
  const known = SCORE_WORDS.find(([word]) => word.test(words.trim().toLowerCase()))?.[1];
  const start = known ?? words.trim().slice(0, size);
  const capital = capitalised(start);
  return number === '' ? capital : `${capital} ${number}`;
}

const LONGEST = 5;

/**
 * A short name for every section that no other has: as in scores where they know it, else as many
 * letters of its own as tell it from the others, else with a number.
 */
function shortNames(groups: readonly PlayerGroup[]): string[] {
  const given: string[] = [];
  const free = (short: string): boolean =>
    !given.some((other) => other.toLowerCase() === short.toLowerCase());
  for (const { name } of groups) {
    const own = [2, 3, 4, LONGEST].map((size) => usualShort(name, size));
    const others = groups.filter((group) => group.name !== name);
    const alone = (short: string): boolean =>
      others.every((other) => usualShort(other.name, short.length) !== short);
    const [first = '?'] = own;
    let short = own.find((entry) => free(entry) && alone(entry)) ?? own.find(free);
    for (let i = 2; short === undefined; i++) {
      if (free(`${first}.${i}`)) short = `${first}.${i}`;
    }
    given.push(short);
  }
  return given;
}

/** What a mark on a drawing says of a player. */
export interface PlayerMark {
  /** "Vn I 1" */
  short: string;
  /** "1": its number within the section, empty when alone */
  number: string;
}

/**
 * The short mark of every player, by id; no two have the same. The pieces of a set go by their own
 * names, where those are given.
 */
export function playerMarks(
  groups: readonly PlayerGroup[],
  sources: readonly Pick<Source, 'id' | 'name' | 'pieceOf'>[] = [],
): Map<string, PlayerMark> {
  const pieces = new Map(
    sources.flatMap(({ id, name, pieceOf }) => (pieceOf ? [[id, name] as const] : [])),
  );
  const alone = [...pieces].map(([id, name]) => ({ name, members: [id] }));
  const shorts = shortNames([...groups, ...alone]);
  const ofPiece = new Map(alone.map(({ members: [id] }, i) => [id, shorts[groups.length + i]]));
  return new Map(
    groups.flatMap((group, i) =>
      group.members.map((id, index): [string, PlayerMark] => {
        const own = ofPiece.get(id);
        if (own !== undefined) return [id, { short: own, number: '' }];
        const number = group.members.length > 1 ? `${index + 1}` : '';
        return [id, { short: [shorts[i] ?? '', number].filter(Boolean).join(' '), number }];
      }),
    ),
  );
}
