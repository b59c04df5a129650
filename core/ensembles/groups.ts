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

/** The shortest beginning of a section's name that no other section shares, up to three letters. */
function shortName(name: string, groups: readonly PlayerGroup[]): string {
  const others = groups.filter((group) => group.name !== name).map((group) => group.name);
  const shared = (size: number) =>
    others.some((o) => o.slice(0, size).toLowerCase() === name.slice(0, size).toLowerCase());
  let size = 1;
  while (size < 3 && shared(size)) size += 1;
  const start = name.slice(0, size);
  return start.charAt(0).toUpperCase() + start.slice(1);
}

/** What a mark on a drawing says of a player. */
export interface PlayerMark {
  /** "C1" */
  short: string;
  /** "1": its number within the section, empty when alone */
  number: string;
}

/** The short mark of every player, by id. */
export function playerMarks(groups: readonly PlayerGroup[]): Map<string, PlayerMark> {
  return new Map(
    groups.flatMap((group) => {
      const start = shortName(group.name, groups);
      return group.members.map((id, index): [string, PlayerMark] => {
        const number = group.members.length > 1 ? `${index + 1}` : '';
        return [id, { short: `${start}${number}`, number }];
      });
    }),
  );
}
