import { BOUNDS } from '../session/bounds';
import type { Session, Source, Venue } from '../session/schema';
import { toDeg, wrapDeg } from '../units/guard';
import { clamp } from '../units/numbers';

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
      ...stage,
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

/** Rows are bent to a half circle at most; what is still too wide moves together. */
const MOST_BEND = Math.PI / 2;

/** The bend, radians at the outermost end, that makes an ensemble so much narrower: sin(a) / a. */
function bendFor(ratio: number): number {
  let [low, high] = [0, MOST_BEND];
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2;
    if (Math.sin(middle) / middle > ratio) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * Players too wide for a hall, their rows bent around its centre line so that neighbours keep their
 * distance: the ends come forward and turn inwards. Those that fit are returned as they are.
 * @param halfM from the centre line to where the outermost may stand, m
 */
export function bentToFit(sources: readonly Source[], halfM: number): readonly Source[] {
  const asideM = Math.max(0, ...sources.map(({ x, widthM }) => Math.abs(x) + widthM / 2));
  if (!(asideM > halfM) || !(halfM > 0)) return sources;
  const bend = bendFor(halfM / asideM);
  const radiusM = asideM / bend;
  const together = Math.min(1, halfM / (radiusM * Math.sin(bend)));
  const front = Math.min(...sources.map(({ y }) => y));
  const bent = sources.map((source) => {
    const turn = source.x / radiusM;
    return {
      ...source,
      x: radiusM * Math.sin(turn) * together,
      y: source.y - radiusM * (1 - Math.cos(turn)),
      facingDeg: Math.round(wrapDeg(source.facingDeg + toDeg(turn)) * 10) / 10,
    };
  });
  const aheadM = front - Math.min(...bent.map(({ y }) => y));
  const { min, max } = BOUNDS.positionM;
  const thousandths = (metres: number): number =>
    Math.round(clamp(metres, min, max) * 1000) / 1000 || 0;
  return bent.map((source) => ({
    ...source,
    x: thousandths(source.x),
    y: thousandths(source.y + aheadM),
  }));
}
