import { useState } from 'react';
import {
  hasOwnName,
  playerGroups,
  playerMarks,
  type PlayerGroup,
  type PlayerMark,
} from '../../core/ensembles';
import type { Source } from '../../core/session';

/** A section of the ensemble, drawn in one hue and on one line of the stave. */
export interface Group extends PlayerGroup {
  hue: string;
  /** dash of its outlines: sections beyond the five hues differ by it */
  dash: string | undefined;
}

/** What stands in a player's mark on the floor and on the line. */
export interface Badge extends PlayerMark {
  group: Group;
  /** beside the head on the line: a piece of a set, a singer who has a name of his own */
  label: string;
}

const HUES = 5;
const DASHES = [undefined, '4 2', '1.5 2', '6 2 1.5 2'];

export function groupsOf(sources: readonly Pick<Source, 'id' | 'name' | 'group'>[]): Group[] {
  return playerGroups(sources).map((group, index) => ({
    ...group,
    hue: `var(--hue-${index % HUES})`,
    dash: DASHES[Math.floor(index / HUES) % DASHES.length],
  }));
}

const MOST_LETTERS = 12;
const cut = (name: string): string =>
  name.length > MOST_LETTERS ? `${name.slice(0, MOST_LETTERS - 1).trim()}…` : name;

export function badgesOf(
  groups: readonly Group[],
  sources: readonly Source[] = [],
): Map<string, Badge> {
  const marks = playerMarks(groups, sources);
  const owns = new Map(sources.flatMap((one) => (hasOwnName(one) ? [[one.id, one.name]] : [])));
  return new Map(
    groups.flatMap((group) =>
      group.members.flatMap((id): [string, Badge][] => {
        const mark = marks.get(id);
        if (!mark) return [];
        const several = group.members.length > 1;
        const label = mark.number === '' ? mark.short : cut(owns.get(id) ?? '');
        return [[id, { ...mark, group, label: several ? label : '' }]];
      }),
    ),
  );
}

export interface Grouping {
  groups: readonly Group[];
  badges: ReadonlyMap<string, Badge>;
}

const sameGrouping = (a: readonly Source[], b: readonly Source[]): boolean =>
  a.length === b.length &&
  a.every(({ id, name, group, kind }, index) => {
    const other = b[index];
    if (other?.id !== id || other.kind !== kind) return false;
    return other.name === name && other.group === group;
  });

function groupingOf(sources: readonly Source[]): Grouping {
  const groups = groupsOf(sources);
  return { groups, badges: badgesOf(groups, sources) };
}

/** Sections and badges, the same objects for as long as no name or section changes. */
export function useGrouping(sources: readonly Source[]): Grouping {
  const [known, setKnown] = useState(() => ({ sources, grouping: groupingOf(sources) }));
  if (sameGrouping(known.sources, sources)) return known.grouping;
  const grouping = groupingOf(sources);
  setKnown({ sources, grouping });
  return grouping;
}
