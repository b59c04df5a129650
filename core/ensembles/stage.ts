import { BOUNDS } from '../session/bounds';
import type { Session, Source, Venue } from '../session/schema';

type Sides = Pick<Venue, 'stage' | 'datumPoints'>;

const MARGIN_M = 0.6;
const half = (metres: number): number => Math.round(metres * 2) / 2;
const same = (a: number, b: number): boolean => Math.abs(a - b) < 1e-6;

/** Tape points that stand at the back corners of one stage stand at those of another. */
export function withStage({ stage: before, datumPoints }: Sides, stage: Venue['stage']): Sides {
  return {
    stage,
    datumPoints: datumPoints.map((point) => {
      const corner = same(Math.abs(point.x), before.widthM / 2) && same(point.y, before.depthM);
      if (!corner) return point;
      return { ...point, x: (Math.sign(point.x) * stage.widthM) / 2, y: stage.depthM };
    }),
  };
}

/**
 * The stage, grown to hold players and a step beside them, as far as the hall goes; it never
 * shrinks. Its tape points at the corners go with it.
 */
export function stageFor(
  { stage, datumPoints, widthM, depthM, origin }: Session['venue'],
  sources: readonly Pick<Source, 'x' | 'y' | 'widthM'>[],
): Sides {
  if (sources.length === 0) return { stage, datumPoints };
  const aside = Math.max(...sources.map((source) => Math.abs(source.x) + source.widthM / 2));
  const back = Math.max(...sources.map(({ y }) => y));
  const room = {
    widthM: widthM === null || origin === null ? widthM : 2 * Math.min(origin.x, widthM - origin.x),
    depthM: depthM === null || origin === null ? depthM : depthM - origin.y,
  };
  return withStage(
    { stage, datumPoints },
    {
      widthM: Math.max(
        stage.widthM,
        Math.min(half(2 * (aside + MARGIN_M)), room.widthM ?? BOUNDS.roomM.max),
      ),
      depthM: Math.max(
        stage.depthM,
        Math.min(half(back + MARGIN_M), room.depthM ?? BOUNDS.roomM.max),
      ),
    },
  );
}
