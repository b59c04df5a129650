import { partsOfGroup } from '../../core/ensembles';
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
  /** by the listener's own model, where it is beside the one that leads; null elsewhere */
  yours: number | null;
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
  const { own, ...others } = image ?? {};
  const shifts = Object.values(others).map(({ shift }) => shift);
  return {
    id: source.id,
    name: source.name,
    badge,
    shift: place?.shift ?? null,
    left: place?.left ?? 0,
    right: place?.right ?? 0,
    low: Math.min(...shifts),
    high: Math.max(...shifts),
    yours: model === 'own' ? null : (own?.shift ?? null),
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

/** How a head is drawn: beside its place where neighbours need room, small where there is none. */
export interface HeadPlace {
  /** from its true place, px */
  dx: number;
  small: boolean;
}

/** So many heads that would cover each other are drawn side by side; more are small ones. */
const MOST_BESIDE = 8;

interface Cluster {
  heads: { id: string; px: number }[];
  /** where the first of them would stand alone, on average, px */
  start: number;
}

/**
 * Heads of one stave that would cover a neighbour stand side by side, as close to their places as
 * there is room; too many at once are small, at their own places. The others have no entry.
 */
export function crowdedHeads(
  stave: Stave,
  widthPx: number,
  headPx: number,
): ReadonlyMap<string, HeadPlace> {
  const heads = stave.notes
    .flatMap(({ id, shift }) => (shift === null ? [] : [{ id, px: ((shift + 1) / 2) * widthPx }]))
    .sort((a, b) => a.px - b.px);
  const clusters: Cluster[] = [];
  for (const head of heads) {
    clusters.push({ heads: [head], start: head.px });
    for (let last = clusters.length - 1; last > 0; last--) {
      const [before, here] = [clusters[last - 1], clusters[last]];
      if (!before || !here || before.start + before.heads.length * headPx <= here.start) break;
      const all = [...before.heads, ...here.heads];
      const start = all.reduce((sum, { px }, i) => sum + px - i * headPx, 0) / all.length;
      clusters.splice(last - 1, 2, { heads: all, start });
    }
  }
  const places = new Map<string, HeadPlace>();
  for (const { heads: beside, start } of clusters) {
    if (beside.length === 1) continue;
    const small = beside.length > MOST_BESIDE;
    // None hangs out beyond the ends of the line.
    const first = Math.min(Math.max(start, 0), widthPx - headPx * (beside.length - 1));
    beside.forEach(({ id, px }, i) =>
      places.set(id, { dx: small ? 0 : first + i * headPx - px, small }),
    );
  }
  return places;
}

/** Antiphase players of one stave: so many of their marks as there is room for, and how many in all. */
export function asideOf(stave: Stave, roomPx: number): { notes: Note[]; more: number } {
  const all = stave.notes.filter(({ antiphase }) => antiphase);
  let left = roomPx;
  const notes = all.filter((note) => {
    left -= asideWidth(note);
    return left >= 0;
  });
  return notes.length === all.length ? { notes, more: 0 } : { notes: [], more: all.length };
}

/** What the mark of an antiphase player takes, px. */
export const asideWidth = ({ badge }: Note): number =>
  Math.max(1, (badge.number || badge.label).length) * LETTER_PX + 4;

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

  /** One stave a section, a large one by its parts; every player a note on it. */
  return function stavesOf(
    sources: readonly Source[],
    { groups, badges }: Grouping,
    bySource: ReadonlyMap<string, SourceFigures>,
    model: ModelId,
  ): Stave[] {
    const byId = new Map(sources.map((source) => [source.id, source]));
    const lanes = groups.flatMap((group) =>
      partsOfGroup(group, sources).map((part) =>
        part.members === group.members ? group : { ...group, ...part },
      ),
    );
    return lanes.map((group) => ({
      group,
      notes: group.members.flatMap((id) => {
        const [source, badge] = [byId.get(id), badges.get(id)];
        return source && badge ? note(source, badge, bySource.get(id), model) : [];
      }),
    }));
  };
}
