import { mean } from 'd3-array';
import { BOUNDS } from '../session/bounds';
import { newSource } from '../session/create';
import { nameWith } from '../session/names';
import type { Session, Source } from '../session/schema';
import { capitalised } from '../units/format';
import { powerDb } from '../units/guard';
import { clamp } from '../units/numbers';
import { anatomyOf, floorUnder, onPlan, sizeOf, type PartPlace } from './anatomy';
import { instrumentOf } from './instruments';

const { positionM, levelDb: levels } = BOUNDS;

/** A place inside a session's limits, to the millimetre. */
const round = (metres: number): number =>
  Math.round(clamp(metres, positionM.min, positionM.max) * 1000) / 1000 || 0;
/** A level inside a session's limits, to a tenth. */
const tenths = (db: number): number => Math.round(clamp(db, levels.min, levels.max) * 10) / 10;
const power = (db: number): number => 10 ** (db / 10);

/** "timpano 2" is a timpano. */
const kindOfPiece = (kind: string): string => kind.replace(/ \d+$/, '');

/** Can a player's set of instruments be taken apart? */
export const hasPieces = (source: Pick<Source, 'kind'>): boolean =>
  (anatomyOf(source)?.pieces.length ?? 0) > 1;

/**
 * A player's set as pieces, each a source of its own where it lies; together they are as loud as
 * the player was.
 * @param idOf gives a fresh id for each
 * @returns empty for an instrument that is one piece
 */
export function splitIntoPieces(source: Source, idOf: () => string): Source[] {
  if (!hasPieces(source)) return [];
  const pieces = anatomyOf(source)?.pieces ?? [];
  const usual = pieces.map(({ kind }) => instrumentOf(kindOfPiece(kind))?.levelDb ?? 0);
  const offDb = source.levelDb - powerDb(usual.reduce((total, db) => total + power(db), 0));
  const floorM = floorUnder(source);
  return pieces.map(({ kind, right, ahead, up, radiusM }, i) => {
    const known = instrumentOf(kindOfPiece(kind));
    const at = onPlan(source, [right, ahead]);
    return newSource({
      id: idOf(),
      kind: known?.kind ?? kind,
      name: nameWith('', capitalised(kind)),
      group: source.group || source.name,
      x: round(at.x),
      y: round(at.y),
      z: round(floorM + up),
      facingDeg: source.facingDeg,
      widthM: known ? known.widthM : round(2 * radiusM * sizeOf(source)),
      levelDb: tenths((usual[i] ?? 0) + offDb),
      q: known?.q ?? source.q,
      lid: known ? 'none' : source.lid,
      felt: known ? false : source.felt,
      pieceOf: { id: source.id, name: source.name, kind: source.kind },
    });
  });
}

/** All pieces of the set that one of them belongs to; empty where it is none. */
export const piecesWith = (
  { pieceOf }: Pick<Source, 'pieceOf'>,
  sources: readonly Source[],
): Source[] => (pieceOf ? sources.filter((other) => other.pieceOf?.id === pieceOf.id) : []);

/**
 * The player again whose set was split: where the pieces are now on the whole, and as loud as all of
 * them together.
 * @returns null without pieces
 */
export function joinedPieces(pieces: readonly Source[]): Source | null {
  const [first] = pieces;
  const of = first?.pieceOf;
  if (!first || !of) return null;
  const known = instrumentOf(of.kind);
  const whole = newSource({
    id: of.id,
    name: of.name,
    kind: of.kind,
    group: first.group === of.name ? '' : first.group,
    facingDeg: first.facingDeg,
    widthM: known?.widthM ?? 0,
    depthM: known?.depthM ?? 0,
    q: known?.q ?? first.q,
    lid: first.lid === 'none' ? (known?.lid ?? 'none') : first.lid,
    felt: first.felt,
    ends: known?.ends ? { ...known.ends } : null,
  });
  // Each piece says where the middle of the set would be; what was moved apart counts as a share.
  const usual = new Map(
    (anatomyOf(of)?.pieces ?? []).map((piece) => [capitalised(piece.kind), piece]),
  );
  const middles = pieces.map((piece) => {
    const known =
      usual.get(piece.name) ?? [...usual.values()].find(({ kind }) => kind === piece.kind);
    const place: PartPlace = known ? [known.right, known.ahead] : [0, 0];
    const off = onPlan({ ...whole, x: 0, y: 0 }, place);
    return {
      x: piece.x - off.x,
      y: piece.y - off.y,
      floorM: piece.z - (known?.up ?? piece.z),
    };
  });
  const at = (of: (middle: (typeof middles)[number]) => number): number =>
    round(mean(middles, of) ?? 0);
  return {
    ...whole,
    x: at(({ x }) => x),
    y: at(({ y }) => y),
    z: round(at(({ floorM }) => floorM) + (known?.heightM ?? 1)),
    levelDb: tenths(powerDb(pieces.reduce((total, { levelDb }) => total + power(levelDb), 0))),
  };
}

/**
 * Instruments that were split and still stand there as one case: what a height or a distance is
 * measured from, and what is drawn around their pieces. Sets whose pieces are all there is have none.
 */
export function casesOf(sources: readonly Source[]): Source[] {
  const sets = new Map<string, Source[]>();
  for (const source of sources) {
    const { pieceOf } = source;
    if (!pieceOf || (anatomyOf(pieceOf)?.outline.length ?? 0) === 0) continue;
    const known = sets.get(pieceOf.id);
    if (known) known.push(source);
    else sets.set(pieceOf.id, [source]);
  }
  return [...sets.values()].flatMap((pieces) => joinedPieces(pieces) ?? []);
}

/** Players, and instruments that were split as the cases that they still are. */
export const withCases = (sources: readonly Source[]): readonly Source[] => {
  const cases = casesOf(sources);
  return cases.length === 0 ? sources : [...sources, ...cases];
};

/** Who an array is for, after some players became others. */
function forOthers(session: Session, gone: ReadonlySet<string>, come: readonly string[]): void {
  for (const array of session.arrays) {
    if (array.for?.kind !== 'some') continue;
    const { sources } = array.for;
    if (!sources.some((id) => gone.has(id))) continue;
    array.for.sources = [...sources.filter((id) => !gone.has(id)), ...come];
  }
}

/** Puts other players in the place of some, in the list as well; changes the session given. */
export function replacePlayers(
  session: Session,
  gone: ReadonlySet<string>,
  come: readonly Source[],
): void {
  const at = session.sources.findIndex(({ id }) => gone.has(id));
  const before = session.sources.slice(0, Math.max(0, at)).filter(({ id }) => !gone.has(id));
  const after = session.sources.slice(Math.max(0, at)).filter(({ id }) => !gone.has(id));
  session.sources = [...before, ...come, ...after];
  forOthers(
    session,
    gone,
    come.map(({ id }) => id),
  );
}
