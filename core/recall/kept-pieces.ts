import { readMixes } from '../recorded/blends';
import { freeName } from '../session/names';
import { isUntouchedPair } from '../session/create';
import { MOST_ENTRIES } from '../session/bounds';
import type { Piece } from '../session/library';
import { PIECES } from '../session/library';
import { standing } from '../session/journals';
import type { Mark, MicArray, Session, Source } from '../session/schema';
import type { z } from 'zod';
import { isSameHall, plainName } from './words';

/** Parts of sessions that are kept beside them, and put into others. */

export const KEPT_KINDS = ['hall', 'ensemble', 'seating', 'rig', 'kit', 'blend'] as const;
export type KeptKind = (typeof KEPT_KINDS)[number];
type PieceOf<K extends KeptKind> = z.output<(typeof PIECES)[K]>;

/** What each is, for whoever keeps it. */
export const KEPT_WORDS: Readonly<Record<KeptKind, string>> = {
  hall: 'size, surfaces, reverberation, stage, tape points and marks',
  ensemble: 'who plays and where they sit',
  seating: 'where they sit, for whoever plays',
  rig: 'arrays with their strips, headroom and clearance',
  kit: 'microphones, stands and bars',
  blend: 'faders, pans and delays of the arrays',
};

/** What is no part of a plan that somebody else has: what was done on the day. */
const ofTheDay = { packed: [], claps: [], photographs: [], asBuilt: [], cablesAsked: [] };

/** Arrays that may go to another plan: without players and entries of this one. */
const onTheirOwn = (arrays: readonly MicArray[]): MicArray[] =>
  arrays.map((array) => ({
    ...structuredClone(array),
    for: null,
    measuredFrom: null,
    equipment: { ...structuredClone(array.equipment), microphoneIds: [], pair: '' },
  }));

/** Why a piece of a kind cannot be kept of a session; null where it can. */
export function whyNotKept(session: Session, kind: KeptKind): string | null {
  const { sources, arrays, kit, venue } = session;
  if (kind === 'hall') return venue.name.trim() === '' ? 'the hall has no name yet' : null;
  if (kind === 'ensemble' || kind === 'seating')
    return sources.length === 0 ? 'there are no players yet' : null;
  if (kind === 'kit') {
    return kit.microphones.length + kit.stands.length + kit.bars.length === 0
      ? 'the kit is empty'
      : null;
  }
  return arrays.length === 0 ? 'there are no arrays yet' : null;
}

/**
 * A piece of a session as it is kept.
 * @param id, at of the piece; ISO 8601
 */
export function keptOf(
  session: Session,
  kind: KeptKind,
  { id, at, name }: { id: string; at: string; name: string },
): Piece {
  const head = {
    ...{ id, at, name: name.slice(0, 200) },
    from: { session: session.id, title: session.title, version: '' },
  };
  const copy = structuredClone(session);
  switch (kind) {
    case 'hall':
      // A picture beneath the plan is a content of its session.
      return {
        ...head,
        kind,
        venue: { ...copy.venue, underlay: null },
        measured: copy.venue.rt60From,
        marks: copy.marks,
      };
    case 'ensemble':
      return { ...head, kind, sources: copy.sources, sections: copy.sections };
    case 'seating':
      return { ...head, kind, sources: copy.sources };
    case 'rig':
      return { ...head, kind, arrays: onTheirOwn(copy.arrays), rig: { ...copy.rig, ...ofTheDay } };
    case 'kit':
      return { ...head, kind, kit: copy.kit };
    case 'blend':
      return {
        ...head,
        kind,
        strips: Object.fromEntries(copy.arrays.map((array) => [array.id, array.mix])),
        arrays: onTheirOwn(copy.arrays),
      };
  }
}

export interface Put {
  session: Session;
  /** "The hall is Tithe Barn now." */
  said: string;
  /** what did not come, in words */
  left: string[];
  /** marks that come with a hall, to be entered in the journal */
  marks?: Mark[];
}

const counted = (count: number, one: string, many = `${one}s`): string =>
  `${count} ${count === 1 ? one : many}`;

const sameMark = (one: Mark, other: Mark): boolean =>
  (['name', 'hall', 'x', 'y', 'z', 'rating', 'use'] as const).every(
    (field) => one[field] === other[field],
  );

/** The hall of another session in the place of this one's; tape points and things keep ids of their own. */
export function withHall(session: Session, venue: Session['venue'], newId: () => string): Session {
  const withIds = <T extends { id: string }>(entries: readonly T[]): T[] =>
    entries.map((entry) => ({ ...entry, id: entry.id || newId() }));
  const { underlay, temperatureC } = session.venue;
  const same = isSameHall(session.venue.name, venue.name);
  return {
    ...session,
    venue: {
      ...structuredClone(venue),
      // The weather is that of the day.
      temperatureC,
      datumPoints: withIds(venue.datumPoints),
      obstacles: withIds(venue.obstacles),
      seats: withIds(venue.seats),
      areas: withIds(venue.areas),
      underlay: same ? underlay : null,
    },
  };
}

function putHall(
  session: Session,
  { venue, marks, name }: PieceOf<'hall'>,
  newId: () => string,
): Put {
  const here = standing(session.marks);
  const room = Math.max(0, MOST_ENTRIES.marks - session.marks.length);
  const come = standing(marks)
    .filter((mark) => !here.some((one) => sameMark(one, mark)))
    .slice(0, room);
  const { underlay } = session.venue;
  const same = isSameHall(session.venue.name, venue.name);
  return {
    session: withHall(session, venue, newId),
    marks: come,
    said: `The hall is ${venue.name || name} now${come.length > 0 ? `, with ${counted(come.length, 'mark')}` : ''}.`,
    left: underlay && !same ? ['the picture under the plan went with the former hall'] : [],
  };
}

/** Players with names and ids of their own, and whatever names them. */
function putEnsemble(session: Session, piece: PieceOf<'ensemble'>, newId: () => string): Put {
  const ids = new Map(piece.sources.map(({ id }) => [id, newId()]));
  const sections = new Map(piece.sections.map(({ id }) => [id, newId()]));
  const taken = new Set(session.sources.map(({ name }) => name));
  const room = Math.max(0, MOST_ENTRIES.sources - session.sources.length);
  const come = piece.sources.slice(0, room).map((source): Source => {
    const name = freeName(source.name, taken);
    taken.add(name);
    return {
      ...structuredClone(source),
      id: ids.get(source.id) ?? newId(),
      name,
      sectionId: sections.get(source.sectionId) ?? '',
      constraints: source.constraints.flatMap((one): Source['constraints'] => {
        if (one.kind === 'row') return [one];
        const other = ids.get(one.sourceId);
        return other === undefined ? [] : [{ ...one, sourceId: other }];
      }),
    };
  });
  const over = piece.sources.length - come.length;
  return {
    session: {
      ...session,
      sources: [...session.sources, ...come],
      sections: [
        ...session.sections,
        ...piece.sections.map((section) => ({
          ...structuredClone(section),
          id: sections.get(section.id) ?? newId(),
        })),
      ],
    },
    said: `${counted(come.length, 'player')} came.`,
    left: over > 0 ? [`${over} found no room: a session holds ${MOST_ENTRIES.sources}`] : [],
  };
}

/** Places of a seating for players of the same name, then of the same instrument, in their order. */
function putSeating(session: Session, { sources: seats }: PieceOf<'seating'>): Put {
  const free = new Set(seats);
  const given = new Map<string, Source>();
  const give = (fits: (seat: Source, player: Source) => boolean): void => {
    for (const player of session.sources) {
      if (given.has(player.id)) continue;
      const seat = [...free].find((one) => fits(one, player));
      if (!seat) continue;
      free.delete(seat);
      given.set(player.id, seat);
    }
  };
  give(
    (seat, player) =>
      plainName(seat.name) === plainName(player.name) &&
      plainName(seat.kind) === plainName(player.kind),
  );
  give((seat, player) => plainName(seat.kind) === plainName(player.kind));
  const without = session.sources.filter(({ id }) => !given.has(id));
  return {
    session: {
      ...session,
      sources: session.sources.map((player) => {
        const seat = given.get(player.id);
        if (!seat) return player;
        const { x, y, facingDeg } = seat;
        // On the same riser: the height of the instrument over its floor stays.
        return {
          ...player,
          x,
          y,
          z: seat.kind === player.kind ? seat.z : player.z,
          facingDeg,
          sectionId: '',
        };
      }),
    },
    said: `${counted(given.size, 'player')} ${given.size === 1 ? 'has' : 'have'} a place of the seating.`,
    left: [
      ...(without.length > 0
        ? [
            `without a place of it: ${without
              .slice(0, 5)
              .map(({ name }) => name)
              .join(', ')}${without.length > 5 ? ' and others' : ''}`,
          ]
        : []),
      ...(free.size > 0 ? [`${counted(free.size, 'place')} stayed empty`] : []),
    ],
  };
}

function putRig(session: Session, { arrays, rig }: PieceOf<'rig'>, newId: () => string): Put {
  const kept = session.arrays.filter((array) => !isUntouchedPair(array));
  const taken = new Set(kept.map(({ name }) => name));
  const room = Math.max(0, MOST_ENTRIES.arrays - kept.length);
  const come = arrays.slice(0, room).map((array) => {
    const name = freeName(array.name, taken);
    taken.add(name);
    return { ...structuredClone(array), id: newId(), name };
  });
  const { headroomDb, peakAboveDb, fullScaleDbu, clearanceM } = rig;
  return {
    session: {
      ...session,
      arrays: [...come, ...kept],
      rig: { ...session.rig, headroomDb, peakAboveDb, fullScaleDbu, clearanceM },
    },
    said: `${counted(come.length, 'array')} came, first in the list.`,
    left:
      arrays.length > come.length
        ? [
            `${arrays.length - come.length} found no room: a session holds ${MOST_ENTRIES.arrays} arrays`,
          ]
        : [],
  };
}

/** Levels for arrays of the same name, then of the same role where there is one alone. */
function putBlend(session: Session, { strips, arrays }: PieceOf<'blend'>): Put {
  const mixes = readMixes(strips);
  const fits = (array: MicArray): MicArray['mix'] | null => {
    const named = arrays.find(({ name }) => plainName(name) === plainName(array.name));
    const sameRole = arrays.filter(({ role }) => role === array.role);
    const alone = session.arrays.filter(({ role }) => role === array.role).length === 1;
    const from = named ?? (alone && sameRole.length === 1 ? sameRole[0] : undefined);
    if (!from) return null;
    const mix = mixes[from.id];
    if (!mix) return null;
    // Strips are those of a technique: of another one its usual ones stay.
    const same = from.technique.kind === array.technique.kind;
    return same ? mix : { ...mix, capsules: [] };
  };
  const set = session.arrays.map((array) => ({ array, mix: fits(array) }));
  const without = set.filter(({ mix }) => mix === null).map(({ array }) => array.name);
  return {
    session: {
      ...session,
      arrays: set.map(({ array, mix }) => (mix ? { ...array, mix: structuredClone(mix) } : array)),
    },
    said: `${counted(set.length - without.length, 'array')} ${set.length - without.length === 1 ? 'has' : 'have'} the levels of the blend.`,
    left: without.length > 0 ? [`not in the blend: ${without.slice(0, 5).join(', ')}`] : [],
  };
}

const isPiece = <K extends KeptKind>(piece: Piece, kind: K): piece is PieceOf<K> & Piece =>
  piece.kind === kind;

/**
 * A session with a kept piece put into it; nothing of the piece is shared with it.
 * @param newId gives a fresh id for each
 * @returns null of a kind that cannot be put into a session
 */
export function withPiece(session: Session, piece: Piece, newId: () => string): Put | null {
  if (isPiece(piece, 'hall')) return putHall(session, piece, newId);
  if (isPiece(piece, 'ensemble')) return putEnsemble(session, piece, newId);
  if (isPiece(piece, 'seating')) return putSeating(session, piece);
  if (isPiece(piece, 'rig')) return putRig(session, piece, newId);
  if (isPiece(piece, 'blend')) return putBlend(session, piece);
  if (isPiece(piece, 'kit')) {
    return {
      session: { ...session, kit: structuredClone(piece.kit) },
      said: 'The kit is the kept one now.',
      left: [],
    };
  }
  return null;
}
