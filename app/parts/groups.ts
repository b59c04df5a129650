import { useState } from 'react';
import type { Source } from '../../core/session';

/** A section of the ensemble, drawn in one hue and on one line of the stave. */
export interface Group {
  name: string;
  hue: string;
  /** dash of its outlines: sections beyond the five hues differ by it */
  dash: string | undefined;
  /** ids of its players */
  members: readonly string[];
}

export interface Badge {
  group: Group;
  /** "C1": short enough for a mark on the floor */
  short: string;
  /** "1": its number within the section, empty when alone */
  number: string;
}

const HUES = 5;
const DASHES = [undefined, '4 2', '1.5 2', '6 2 1.5 2'];

/** Sections in the order in which they first appear; a player without one stands alone. */
export function groupsOf(sources: readonly Pick<Source, 'id' | 'name' | 'group'>[]): Group[] {
  const members = new Map<string, string[]>();
  for (const source of sources) {
    const name = source.group.trim() || source.name;
    const known = members.get(name);
    if (known) known.push(source.id);
    else members.set(name, [source.id]);
  }
  return [...members].map(([name, list], index) => ({
    name,
    hue: `var(--hue-${index % HUES})`,
    dash: DASHES[Math.floor(index / HUES) % DASHES.length],
    members: list,
  }));
}

/** The shortest beginning of a section's name that no other section shares, up to three letters. */
function shortNames(groups: readonly Group[]): Map<string, string> {
  const result = new Map<string, string>();
  for (const { name } of groups) {
    const others = groups.filter((group) => group.name !== name).map((group) => group.name);
    let size = 1;
    while (
      size < 3 &&
      others.some((o) => o.slice(0, size).toLowerCase() === name.slice(0, size).toLowerCase())
    ) {
      size += 1;
    }
    const start = name.slice(0, size);
    result.set(name, start.charAt(0).toUpperCase() + start.slice(1));
  }
  return result;
}

export function badgesOf(groups: readonly Group[]): Map<string, Badge> {
  const starts = shortNames(groups);
  const badges = new Map<string, Badge>();
  for (const group of groups) {
    group.members.forEach((id, index) => {
      const number = group.members.length > 1 ? `${index + 1}` : '';
      badges.set(id, { group, number, short: `${starts.get(group.name) ?? ''}${number}` });
    });
  }
  return badges;
}

export interface Grouping {
  groups: readonly Group[];
  badges: ReadonlyMap<string, Badge>;
}

const sameGrouping = (a: readonly Source[], b: readonly Source[]): boolean =>
  a.length === b.length &&
  a.every(({ id, name, group }, index) => {
    const other = b[index];
    return other?.id === id && other.name === name && other.group === group;
  });

function groupingOf(sources: readonly Source[]): Grouping {
  const groups = groupsOf(sources);
  return { groups, badges: badgesOf(groups) };
}

/** Sections and badges, the same objects for as long as no name or section changes. */
export function useGrouping(sources: readonly Source[]): Grouping {
  const [known, setKnown] = useState(() => ({ sources, grouping: groupingOf(sources) }));
  if (sameGrouping(known.sources, sources)) return known.grouping;
  const grouping = groupingOf(sources);
  setKnown({ sources, grouping });
  return grouping;
}
