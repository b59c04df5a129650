import { newArray, newSource, sectionFrom } from '../session/create';
import { nameWith } from '../session/names';
import type { MicArray, Section, Source } from '../session/schema';
import { instrumentFields, instrumentOf } from './instruments';
import { sectionPlaces } from './section-layout';
import type { Template } from './templates';

/** Players, sections and suggested microphones, ready to be put into a session. */
export interface Ensemble {
  sources: Source[];
  sections: Section[];
  /** what is customarily hung or stood up for it, main pair first */
  arrays: MicArray[];
}

/** "Violin I, 3" beside "Viola 3": a number after a number is set apart. */
const numberAfter = (name: string, number: number): string =>
  /[\s\d]([ivx]+|\d+)$/i.test(name) ? `, ${number}` : ` ${number}`;

/**
 * The players of a section as sources: named by number, standing on its risers.
 * @param idOf gives a fresh id for each
 */
export function sectionSources(section: Section, idOf: () => string): Source[] {
  const height = instrumentOf(section.kind)?.heightM ?? 1.2;
  return sectionPlaces(section).map(({ x, y, floorM, facingDeg }, i) =>
    newSource({
      ...instrumentFields(section.kind),
      id: idOf(),
      name:
        section.count > 1 ? nameWith(section.name, numberAfter(section.name, i + 1)) : section.name,
      group: section.name,
      sectionId: section.id,
      x: round(x),
      y: round(y),
      z: round(height + floorM),
      facingDeg: Math.round(facingDeg * 10) / 10,
    }),
  );
}

const round = (metres: number): number => Math.round(metres * 1000) / 1000 || 0;

/**
 * The players of a section after its figures changed: who is there keeps name and settings and
 * takes the new place; who is missing is made, who is too many goes.
 */
export function rearranged(
  section: Section,
  members: readonly Source[],
  idOf: () => string,
): Source[] {
  return sectionSources(section, idOf).map((fresh, i) => {
    const known = members[i];
    if (!known) return fresh;
    return { ...known, x: fresh.x, y: fresh.y, z: fresh.z, facingDeg: fresh.facingDeg };
  });
}

/** A template written out, every entry with an id of its own. */
export function fromTemplate(template: Template, idOf: () => string): Ensemble {
  const sections = (template.sections ?? []).map((spec) => sectionFrom({ ...spec, id: idOf() }));
  const single = (template.players ?? []).map(({ kind, name, group, x, y, facingDeg }) =>
    newSource({
      ...instrumentFields(kind),
      id: idOf(),
      name,
      group: group ?? name,
      x,
      y,
      facingDeg: facingDeg ?? 180,
    }),
  );
  return {
    sections,
    sources: [...single, ...sections.flatMap((section) => sectionSources(section, idOf))],
    arrays: template.arrays.map(({ forNames = [], ...spec }) => {
      const sources = single.flatMap(({ id, name }) => (forNames.includes(name) ? [id] : []));
      const groups = sections.flatMap(({ name }) => (forNames.includes(name) ? [name] : []));
      const whom = forNames.length > 0 ? { for: { kind: 'some' as const, groups, sources } } : {};
      return newArray({ ...structuredClone(spec), ...whom, id: idOf() });
    }),
  };
}
