import { BOUNDS } from '../session/bounds';
import { newSource } from '../session/create';
import { nameWith } from '../session/names';
import type { Source } from '../session/schema';
import { powerDb } from '../units/guard';
import type { Vec3 } from '../units/vector';

/**
 * A wide instrument or a row as points of its own (the strings of a piano in groups, the ends and
 * the middle of a row), each to be moved and judged alone.
 * @param of what is divided: its level is shared out alike, its other settings are kept
 * @param points where its parts sound
 * @param idOf makes a new id
 */
export function partsOf(
  of: Pick<Source, 'name' | 'kind' | 'group' | 'levelDb' | 'q' | 'facingDeg'>,
  points: readonly Vec3[],
  idOf: () => string,
): Source[] {
  const each = of.levelDb - powerDb(Math.max(1, points.length));
  return points.map(({ x, y, z }, index) =>
    newSource({
      kind: of.kind,
      q: of.q,
      facingDeg: of.facingDeg,
      id: idOf(),
      name: nameWith(of.name, ` ${index + 1} of ${points.length}`),
      group: of.group || of.name,
      x: round(x),
      y: round(y),
      z: round(z),
      levelDb: Math.max(BOUNDS.levelDb.min, Math.round(each * 10) / 10),
      widthM: 0,
    }),
  );
}

const round = (metres: number): number => Math.round(metres * 1000) / 1000 || 0;
