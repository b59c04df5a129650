import type { SourceFigures } from '../../core/analysis';
import type { SchoolId } from '../../core/localisation';
import type { Badge, Group, Grouping } from '../parts/groups';
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

interface Known {
  source: Source;
  badge: Badge;
  figures: SourceFigures | undefined;
  school: SchoolId;
  note: Note;
}

/** Makes staves, handing out the same note for as long as nothing about it changed. */
export function createStaves() {
  const known = new Map<string, Known>();

  function note(
    source: Source,
    badge: Badge,
    figures: SourceFigures | undefined,
    school: SchoolId,
  ) {
    const last = known.get(source.id);
    const same = last?.figures === figures && last?.badge === badge && last.school === school;
    if (last && same && last.source.name === source.name) return last.note;
    const made = noteOf(source, badge, figures, school);
    known.set(source.id, { source, badge, figures, school, note: made });
    return made;
  }

  /** One stave a section, every player a note on it. */
  return function stavesOf(
    sources: readonly Source[],
    { groups, badges }: Grouping,
    bySource: ReadonlyMap<string, SourceFigures>,
    school: SchoolId,
  ): Stave[] {
    const byId = new Map(sources.map((source) => [source.id, source]));
    return groups.map((group) => ({
      group,
      notes: group.members.flatMap((id) => {
        const [source, badge] = [byId.get(id), badges.get(id)];
        return source && badge ? note(source, badge, bySource.get(id), school) : [];
      }),
    }));
  };
}
