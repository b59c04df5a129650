import type { SourceFigures } from '../../core/analysis';
import type { SchoolId } from '../../core/localisation';
import { badgesOf, groupsOf, type Badge, type Group } from '../parts/groups';
import type { Source } from '../../core/session';

/** One player on the playback line. */
export interface Note {
  id: string;
  name: string;
  badge: Badge;
  /** by the leading school; null when there is no image */
  shift: number | null;
  left: number;
  right: number;
  /** lowest and highest shift over the schools */
  low: number;
  high: number;
  antiphase: boolean;
  mirrored: boolean;
  /** no figure at all: a field is not valid, or the player is at a capsule */
  missing: boolean;
}

export interface Stave {
  group: Group;
  notes: Note[];
}

function noteOf(
  source: Source,
  badge: Badge,
  figures: SourceFigures | undefined,
  school: SchoolId,
): Note {
  const image = figures?.image;
  // The tangent law does not speak for spaced arrays; the traded cues then lead.
  const place = image?.[school] ?? image?.traded;
  const shifts = Object.values(image ?? {}).map(({ shift }) => shift);
  return {
    id: source.id,
    name: source.name,
    badge,
    shift: place?.shift ?? null,
    left: place?.left ?? 0,
    right: place?.right ?? 0,
    low: Math.min(...shifts),
    high: Math.max(...shifts),
    antiphase: figures?.antiphase ?? false,
    mirrored: figures?.mirrored ?? false,
    missing: !figures || figures.atCapsule,
  };
}

/** One stave a section, every player a note on it. */
export function stavesOf(
  sources: readonly Source[],
  bySource: ReadonlyMap<string, SourceFigures>,
  school: SchoolId,
): Stave[] {
  const groups = groupsOf(sources);
  const badges = badgesOf(groups);
  return groups.map((group) => ({
    group,
    notes: group.members.flatMap((source) => {
      const badge = badges.get(source.id);
      return badge ? noteOf(source, badge, bySource.get(source.id), school) : [];
    }),
  }));
}
