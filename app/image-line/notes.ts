import { leadingOf } from '../../core/localisation';
import type { SourceFigures } from '../../core/analysis';
import type { ModelId } from '../../core/localisation';
import type { Badge, Group, Grouping } from '../parts/groups';
import type { Source } from '../../core/session';
import type { LiveFigures } from '../figures/figures';

/** One player on the image line. */
export interface Note {
  id: string;
  name: string;
  badge: Badge;
  /** by the leading model; null when there is no image */
  shift: number | null;
  left: number;
  right: number;
  /** lowest and highest shift over the models */
  low: number;
  high: number;
  antiphase: boolean;
  reversed: boolean;
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
  model: ModelId,
): Note {
  const image = figures?.image;
  const place = leadingOf(image, model);
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
    reversed: figures?.reversed ?? false,
    missing: !figures || figures.atCapsule,
  };
}

/** Where a candidate would put each player, by id. */
export function ghostShifts(
  { ghost }: Pick<LiveFigures, 'ghost'>,
  model: ModelId,
): ReadonlyMap<string, number> {
  const shifts = new Map<string, number>();
  for (const [id, { image }] of ghost?.bySource ?? []) {
    const shift = leadingOf(image, model)?.shift;
    if (shift !== undefined) shifts.set(id, shift);
  }
  return shifts;
}

/** Heads that would cover a neighbour on their stave are drawn small and without a number. */
export function crowdedNotes(stave: Stave, widthPx: number, headPx: number): ReadonlySet<string> {
  const heads = stave.notes.flatMap(({ id, shift }) =>
    shift === null ? [] : [{ id, px: ((shift + 1) / 2) * widthPx }],
  );
  heads.sort((a, b) => a.px - b.px);
  const crowded = new Set<string>();
  heads.forEach((head, i) => {
    const next = heads[i + 1];
    if (next && next.px - head.px < headPx) crowded.add(head.id).add(next.id);
  });
  return crowded;
}

/** A name beside a head, where the head has no number of its own. */
export interface NoteLabel {
  id: string;
  label: string;
  /** from the left end of the line */
  px: number;
  below: boolean;
}

/** A letter of a label takes so much, px. */
const LETTER_PX = 6.6;
const APART_PX = 5;

/**
 * The labels of one stave, above or below their heads; one that would cover another on both sides
 * is left out, and stands in the title of its head.
 */
export function labelsOf(stave: Stave, widthPx: number): NoteLabel[] {
  const heads = stave.notes.flatMap(({ id, shift, badge }) =>
    shift === null || badge.label === ''
      ? []
      : [{ id, label: badge.label, px: ((shift + 1) / 2) * widthPx }],
  );
  heads.sort((a, b) => a.px - b.px);
  const ends: [above: number, below: number] = [-Infinity, -Infinity];
  return heads.flatMap(({ id, label, px }): NoteLabel[] => {
    const half = (label.length * LETTER_PX) / 2;
    const row = ends.findIndex((end) => px - half >= end + APART_PX);
    if (row < 0) return [];
    ends[row] = px + half;
    return [{ id, label, px, below: row === 1 }];
  });
}

interface Known {
  source: Source;
  badge: Badge;
  figures: SourceFigures | undefined;
  model: ModelId;
  note: Note;
}

/** Makes staves, handing out the same note for as long as nothing about it changed. */
export function createStaves() {
  const known = new Map<string, Known>();

  function note(source: Source, badge: Badge, figures: SourceFigures | undefined, model: ModelId) {
    const last = known.get(source.id);
    const same = last?.figures === figures && last?.badge === badge && last.model === model;
    if (last && same && last.source.name === source.name) return last.note;
    const made = noteOf(source, badge, figures, model);
    known.set(source.id, { source, badge, figures, model, note: made });
    return made;
  }

  /** One stave a section, every player a note on it. */
  return function stavesOf(
    sources: readonly Source[],
    { groups, badges }: Grouping,
    bySource: ReadonlyMap<string, SourceFigures>,
    model: ModelId,
  ): Stave[] {
    const byId = new Map(sources.map((source) => [source.id, source]));
    return groups.map((group) => ({
      group,
      notes: group.members.flatMap((id) => {
        const [source, badge] = [byId.get(id), badges.get(id)];
        return source && badge ? note(source, badge, bySource.get(id), model) : [];
      }),
    }));
  };
}
