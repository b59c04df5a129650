import { sourceEdges } from '../ensembles/extent';
import type { Source } from '../session/schema';
import { cosDeg, sinDeg, toDeg, wrapDeg } from '../units/guard';

/** An ensemble as it faces its listeners, whatever stands before it. */
export interface EnsembleFrame {
  /** azimuth in which a main array before it looks, degrees */
  aimDeg: number;
  /** outermost ends across, from the line through the datum, m; and their middle */
  leftM: number;
  rightM: number;
  acrossM: number;
  /** nearest and farthest player along the aim, m */
  frontM: number;
  backM: number;
}

/** Less agreement than this on where to play, and the audience is where it is by convention. */
const AGREED = 0.35;

/** Along the aim and across it, m. */
export const inFrame = (
  aimDeg: number,
  { x, y }: { x: number; y: number },
): { across: number; along: number } => ({
  across: x * cosDeg(aimDeg) - y * sinDeg(aimDeg),
  along: x * sinDeg(aimDeg) + y * cosDeg(aimDeg),
});

/** A place of the frame on the plan, m. */
export const fromFrame = (
  aimDeg: number,
  across: number,
  along: number,
): { x: number; y: number } => ({
  x: across * cosDeg(aimDeg) + along * sinDeg(aimDeg),
  y: along * cosDeg(aimDeg) - across * sinDeg(aimDeg),
});

/** Where an array looks that has the ensemble before it: against the players' mean facing. */
function aimAt(sources: readonly Source[]): number {
  let [east, north] = [0, 0];
  for (const { facingDeg } of sources) {
    east += sinDeg(facingDeg);
    north += cosDeg(facingDeg);
  }
  if (Math.hypot(east, north) < AGREED * sources.length) return 0;
  return Math.round(wrapDeg(toDeg(Math.atan2(east, north)) + 180));
}

/** @returns null without players */
export function ensembleFrame(sources: readonly Source[]): EnsembleFrame | null {
  if (sources.length === 0) return null;
  const aimDeg = aimAt(sources);
  const places = sources
    .flatMap((source) => (source.widthM > 0 ? sourceEdges(source) : [source]))
    .map((point) => inFrame(aimDeg, point));
  const across = places.map((place) => place.across);
  const along = places.map((place) => place.along);
  const [leftM, rightM] = [Math.min(...across), Math.max(...across)];
  return {
    aimDeg,
    leftM,
    rightM,
    acrossM: (leftM + rightM) / 2,
    frontM: Math.min(...along),
    backM: Math.max(...along),
  };
}

/** How deep in the ensemble a player sits, from the front, m. */
export const depthIn = ({ aimDeg, frontM }: EnsembleFrame, source: Source): number =>
  inFrame(aimDeg, source).along - frontM;
