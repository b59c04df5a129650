import type { MicArray, Session } from '../session/schema';

/** Two plans of different sessions have ids of their own: what is the same by name gets the same id. */

interface Named {
  id: string;
  name?: string;
  title?: string;
  kind?: unknown;
  role?: unknown;
}

const keyOf = ({ name, title, kind, role }: Named): string =>
  JSON.stringify([(name ?? title ?? '').trim().toLowerCase(), kind ?? '', role ?? '']);

type Rename = (id: string) => string;

/** Ids of the second list by which they are in the first: of the same name and kind, in their order. */
function byName(before: readonly Named[], after: readonly Named[]): Rename {
  const [here, theirs] = [new Set(before.map(({ id }) => id)), new Set(after.map(({ id }) => id))];
  const pairs = new Map<string, string>();
  const free = new Map<string, string[]>();
  for (const entry of before) {
    if (theirs.has(entry.id)) continue;
    free.set(keyOf(entry), [...(free.get(keyOf(entry)) ?? []), entry.id]);
  }
  for (const entry of after) {
    if (here.has(entry.id)) continue;
    const own = free.get(keyOf(entry))?.shift();
    if (own !== undefined) pairs.set(entry.id, own);
  }
  return (id) => pairs.get(id) ?? id;
}

const withIds = <T extends { id: string }>(entries: readonly T[], rename: Rename): T[] =>
  entries.map((entry) => ({ ...entry, id: rename(entry.id) }));

/**
 * The second plan with the ids of the first for whatever has the same name and kind: what is left between
 * them is what is really other. Whatever names a player, a section, an array or a microphone goes along.
 */
export function alignedTo<S extends Session>(before: Session, after: S): S {
  const source = byName(before.sources, after.sources);
  const section = byName(before.sections, after.sections);
  const array = byName(before.arrays, after.arrays);
  const microphone = byName(before.kit.microphones, after.kit.microphones);
  const arrayWithIds = (one: MicArray): MicArray => ({
    ...one,
    id: array(one.id),
    for: one.for?.kind === 'some' ? { ...one.for, sources: one.for.sources.map(source) } : one.for,
    measuredFrom: one.measuredFrom && {
      ...one.measuredFrom,
      sourceId: source(one.measuredFrom.sourceId),
    },
    equipment: {
      ...one.equipment,
      microphoneIds: one.equipment.microphoneIds.map(microphone),
    },
  });
  const { venue, kit, brief, rig } = after;
  const own = <T extends Named>(list: readonly T[], of: readonly Named[]): T[] =>
    withIds(list, byName(of, list));
  return {
    ...after,
    sources: after.sources.map((one) => ({
      ...one,
      id: source(one.id),
      sectionId: section(one.sectionId),
      pieceOf: one.pieceOf && { ...one.pieceOf, id: source(one.pieceOf.id) },
      constraints: one.constraints.map((constraint) =>
        constraint.kind === 'row'
          ? constraint
          : { ...constraint, sourceId: source(constraint.sourceId) },
      ),
    })),
    sections: withIds(after.sections, section),
    arrays: after.arrays.map(arrayWithIds),
    candidates: own(after.candidates, before.candidates).map((one) => ({
      ...one,
      array: arrayWithIds(one.array),
      setUp: one.setUp.map(arrayWithIds),
    })),
    venue: {
      ...venue,
      datumPoints: own(venue.datumPoints, before.venue.datumPoints),
      obstacles: own(venue.obstacles, before.venue.obstacles),
      seats: own(venue.seats, before.venue.seats),
      areas: own(venue.areas, before.venue.areas),
    },
    kit: {
      ...kit,
      microphones: withIds(kit.microphones, microphone),
      stands: own(kit.stands, before.kit.stands),
      bars: own(kit.bars, before.kit.bars),
    },
    brief: {
      ...brief,
      timetable: {
        ...brief.timetable,
        entries: own(brief.timetable.entries, before.brief.timetable.entries),
      },
      intent: {
        ...brief.intent,
        bands: brief.intent.bands.map((band) => ({ ...band, sourceId: source(band.sourceId) })),
      },
    },
    rig: {
      ...rig,
      asBuilt: rig.asBuilt.map((one) => ({ ...one, arrayId: array(one.arrayId) })),
      photographs: rig.photographs.map((one) => ({ ...one, arrayId: array(one.arrayId) })),
    },
  };
}
