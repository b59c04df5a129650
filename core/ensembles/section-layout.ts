import { planDistance } from '../units/vector';
import { BOUNDS, type BoundsName } from '../session/bounds';
import type { Section } from '../session/schema';
import { cosDeg, inRange, sinDeg, toDeg, wrapDeg } from '../units/guard';

/** One place in a section, in the plan frame. */
export interface Place {
  row: number;
  x: number;
  y: number;
  /** height of the floor under the player: its riser, m */
  floorM: number;
  facingDeg: number;
}

/** What a section's numbers come to. */
export interface SectionFigures {
  /** radius of the front arc, m: arc length (places × pitch) / opening angle; null for straight rows */
  frontRadiusM: number | null;
  /** players per row, front first */
  perRow: number[];
  /** distance between the outermost players, m */
  widthM: number;
}

type SectionShape = Pick<
  Section,
  | 'shape'
  | 'count'
  | 'rows'
  | 'pitchM'
  | 'rowDepthM'
  | 'openingDeg'
  | 'riserM'
  | 'x'
  | 'y'
  | 'facingDeg'
>;

/** Players per row, as equal as it goes; what is left over stands at the back. */
function perRow(players: number, wantedRows: number): number[] {
  const [count, rows] = [Math.round(players), Math.round(wantedRows)];
  if (count === 0) return [];
  const used = Math.max(1, Math.min(rows, count));
  const each = Math.floor(count / used);
  const over = count % used;
  return Array.from({ length: used }, (_, row) => each + (row >= used - over ? 1 : 0));
}

/** An opening angle below this is drawn as straight rows: its radius would be kilometres. */
const STRAIGHT_DEG = 1;

function frontRadius({ shape, openingDeg, pitchM }: SectionShape, front: number): number | null {
  if (shape === 'rows' || openingDeg < STRAIGHT_DEG || front < 2 || pitchM === 0) return null;
  // Every place takes a pitch of the arc, half of it on either side.
  return (front * pitchM) / ((openingDeg * Math.PI) / 180);
}

function within(name: string, value: number, bounds: BoundsName): void {
  const { min, max, unit } = BOUNDS[bounds];
  inRange(name, value, min, max, unit);
}

/**
 * The places of a section on arcs around one centre, or in straight rows, from left to right as
 * the audience sees a section that faces it, front row first. Neighbours stand a pitch apart along
 * the arc in every row. Players on an arc face its centre.
 * @throws RangeError for a figure outside what a session file may hold
 */
export function sectionPlaces(section: SectionShape): Place[] {
  const { count, rows, pitchM, rowDepthM, riserM, x, y, facingDeg } = section;
  within('count', count, 'count');
  within('rows', rows, 'count');
  within('pitchM', pitchM, 'widthM');
  within('rowDepthM', rowDepthM, 'widthM');
  const heads = perRow(count, rows);
  const radius = frontRadius(section, heads[0] ?? 0);
  // Away from where the section faces; its right-hand side follows by a quarter turn.
  const back = { x: -sinDeg(facingDeg), y: -cosDeg(facingDeg) };
  const right = { x: -cosDeg(facingDeg), y: sinDeg(facingDeg) };
  return heads.flatMap((players, row) =>
    Array.from({ length: players }, (_, i) => {
      const along = (i - (players - 1) / 2) * pitchM;
      // The first of several rows stands on the floor; a row alone stands on its riser.
      const floorM = (heads.length === 1 ? 1 : row) * riserM;
      if (radius === null) {
        const depth = row * rowDepthM;
        return {
          row,
          x: x + right.x * along + back.x * depth,
          y: y + right.y * along + back.y * depth,
          floorM,
          facingDeg: wrapDeg(facingDeg),
        };
      }
      const r = radius + row * rowDepthM;
      const turn = toDeg(along / r);
      const sideways = r * sinDeg(turn);
      const depth = r * cosDeg(turn) - radius;
      return {
        row,
        x: x + right.x * sideways + back.x * depth,
        y: y + right.y * sideways + back.y * depth,
        floorM,
        facingDeg: wrapDeg(facingDeg + turn),
      };
    }),
  );
}

/** Front radius, players per row and width of a section. */
export function sectionFigures(section: SectionShape): SectionFigures {
  const heads = perRow(section.count, section.rows);
  const places = sectionPlaces(section);
  let widthM = 0;
  for (const a of places) {
    for (const b of places) widthM = Math.max(widthM, planDistance(a, b));
  }
  return { frontRadiusM: frontRadius(section, heads[0] ?? 0), perRow: heads, widthM };
}

/** How much farther the ends of a front row are from a microphone than its middle. */
export interface EndFallOff {
  /** level of the end against the middle by distance alone, dB (negative: softer) */
  levelDb: number;
  /** the end arrives later by, ms */
  delayMs: number;
}

/**
 * Fall-off at the ends of the front row as a microphone hears it: distance law and travel time,
 * patterns left out. The worse of both ends.
 * @param at the microphone; heights count
 * @param soundingM height at which the players sound
 * @param speed speed of sound, m/s
 * @returns null with fewer than three players in front
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function endFallOff(
  section: SectionShape,
  at: { x: number; y: number; z: number },
  soundingM: number,
  speed: number,
): EndFallOff | null {
  inRange('speed', speed, 250, 450, 'm/s');
  const front = sectionPlaces(section).filter(({ row }) => row === 0);
  const [first, last] = [front[0], front[front.length - 1]];
  if (front.length < 3 || !first || !last) return null;
  const away = (x: number, y: number) =>
    Math.max(Math.hypot(x - at.x, y - at.y, soundingM - at.z), 0.01);
  const middle = away(section.x, section.y);
  const end = Math.max(away(first.x, first.y), away(last.x, last.y));
  return { levelDb: 20 * Math.log10(middle / end), delayMs: ((end - middle) / speed) * 1000 };
}
