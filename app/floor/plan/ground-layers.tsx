import type { ArrayFigures } from '../../../core/analysis';
import { anglesIn, looksSteeply } from '../../../core/localisation';
import type { MicArray } from '../../../core/session';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import { anatomyOf, casesOf } from '../../../core/ensembles';
import { cosDeg, sinDeg } from '../../../core/units';
import { useFigures } from '../../figures/figures';
import { toolStore } from '../../view/floor-tools';
import { usePicture } from '../../keeping/use-picture';
import { useSession } from '../../document/use-session';
import { Guides } from './guides';
import { PolarGrid } from './polar-grid';
import { RecordingAngleField } from './recording-angle-rules';
import type { Rect } from '../marks/label-placement';
import { Outline } from '../marks/outline';
import { Labels } from '../marks/source-marks';
import { SquareGrid } from './square-grid';
import { StageLines } from './stage-lines';
import type { Projection } from '../../../paper/projection';

export interface Ground {
  width: number;
  height: number;
  view: Projection;
}

/** Where nobody plays below an array, its plane is drawn at the height of a seated player, m. */
const SEATED_M = 1.2;

/** How far aside of an array that looks steeply an angle meets the height of its players, px. */
function asideOf(
  { z, tiltDeg }: MicArray,
  figures: ArrayFigures | null,
  scale: number,
): (deg: number) => number {
  const along = Math.abs((z - (figures?.ensemble?.heightM ?? SEATED_M)) / sinDeg(tiltDeg));
  return (deg) => (along * scale * sinDeg(deg)) / Math.max(cosDeg(deg), 1e-6);
}

/** Where the rules start and how wide they open; the array's place in pixels. */
export function useAngleField({ width, height, view }: Ground) {
  const { array, figures } = useFigures();
  const model = useSession().settings.model;
  const half = anglesIn(figures, model)?.halfDeg ?? null;
  // Drawn as it is written, to a tenth: what does not change on paper is not painted again.
  const halfDeg = half === null ? null : Math.round(half * 10) / 10;
  return {
    x: view.toX(array?.x ?? 0),
    y: view.toY(array?.y ?? 0),
    aimDeg: array?.aimDeg ?? 0,
    reach: Math.hypot(width, height) * 1.5,
    halfDeg: array ? halfDeg : null,
    /** of an array that looks down: how far aside each angle meets the players' height, px */
    asidePx: array && looksSteeply(array) ? asideOf(array, figures, view.scale) : null,
  };
}

/** Half the room of a rule's figure, px, however it is turned. */
const FIGURE_PX = 27;
/** Where along the rules their figures may stand, fractions of the usual distance. */
const ALONG = [1, 0.8, 1.2, 0.62, 1.4, 0.45, 1.6] as const;

/** How far out the figures of both rules stand, clear of the players, and the room they take. */
export function useRuleLabels(ground: Ground): { labelAt: number; rects: Rect[] } {
  const { height, view } = ground;
  const { sources } = useSession();
  const { x, y, aimDeg, halfDeg, asidePx } = useAngleField(ground);
  const usual = Math.min(height * (asidePx ? 0.3 : 0.62), 4.2 * view.scale);
  if (halfDeg === null) return { labelAt: usual, rects: [] };
  const rectsAt = (distance: number): Rect[] =>
    [-1, 1].map((side) => {
      const deg = aimDeg + side * halfDeg;
      const aside = asidePx ? side * asidePx(halfDeg) : 0;
      const [cx, cy] = asidePx
        ? [
            x + sinDeg(aimDeg) * distance + cosDeg(aimDeg) * aside,
            y - cosDeg(aimDeg) * distance + sinDeg(aimDeg) * aside,
          ]
        : [x + sinDeg(deg) * distance, y - cosDeg(deg) * distance];
      return {
        left: cx - FIGURE_PX,
        right: cx + FIGURE_PX,
        top: cy - FIGURE_PX,
        bottom: cy + FIGURE_PX,
      };
    });
  const clear = (distance: number) =>
    rectsAt(distance).every(({ left, right, top, bottom }) =>
      sources.every((source) => {
        const [px, py] = [view.toX(source.x), view.toY(source.y)];
        return px < left - 8 || px > right + 8 || py < top - 8 || py > bottom + 8;
      }),
    );
  const labelAt = ALONG.map((fraction) => fraction * usual).find(clear) ?? usual;
  return { labelAt, rects: rectsAt(labelAt) };
}

function UnderlayPicture({ view }: { view: Projection }) {
  const { venue, blobs } = useSession();
  const { underlay } = venue;
  const picture = usePicture(blobs, underlay?.picture ?? '');
  if (!underlay || picture === null) return null;
  const { widthPx, heightPx, x, y, metresPerPixel, opacityPct } = underlay;
  return (
    <image
      href={picture}
      x={view.toX(x)}
      y={view.toY(y)}
      width={widthPx * metresPerPixel * view.scale}
      height={heightPx * metresPerPixel * view.scale}
      preserveAspectRatio="none"
      opacity={opacityPct / 100}
    />
  );
}

/** Instruments that were split, around their pieces: case, strings and hammers where they are. */
function Cases({ view }: { view: Projection }) {
  const { sources } = useSession();
  const cases = useMemo(() => casesOf(sources), [sources]);
  return cases.map((source) => {
    const anatomy = anatomyOf(source);
    return (
      anatomy && (
        <g key={source.id} transform={`translate(${view.toX(source.x)} ${view.toY(source.y)})`}>
          <Outline source={source} anatomy={anatomy} scale={view.scale} hue="var(--muted)" />
        </g>
      )
    );
  });
}

/**
 * What stands under the marks: picture, hatching, field and grid, not painted again while a player
 * moves above them.
 */
export function GroundLayers(ground: Ground) {
  const { width, height, view } = ground;
  const session = useSession();
  const grid = useStore(toolStore, (state) => state.layers.grid);
  const seats = useStore(toolStore, (state) => state.layers.seats);
  const { units } = session.settings;
  const { x, y, aimDeg, reach, halfDeg, asidePx } = useAngleField(ground);
  const { rects } = useRuleLabels(ground);
  return (
    <div aria-hidden="true" className="pointer-events-none absolute inset-0">
      {halfDeg !== null && (
        <>
          <div className="ground-hatch absolute inset-0" />
          <svg width={width} height={height} className="absolute inset-0">
            <RecordingAngleField
              x={x}
              y={y}
              aimDeg={aimDeg}
              reach={reach}
              halfDeg={halfDeg}
              asidePx={asidePx?.(halfDeg) ?? null}
            />
          </svg>
        </>
      )}
      <svg width={width} height={height} className="absolute inset-0">
        <UnderlayPicture view={view} />
        {grid === 'polar' ? (
          <PolarGrid x={x} y={y} aimDeg={aimDeg} scale={view.scale} reach={reach} units={units} />
        ) : (
          <SquareGrid width={width} height={height} view={view} units={units} />
        )}
        <Guides view={view} reach={reach} asidePx={asidePx} />
        <StageLines venue={session.venue} view={view} seats={seats} />
        <Cases view={view} />
        <Labels
          session={session}
          view={view}
          width={width}
          height={height}
          keepOut={rects}
          looked={false}
        />
      </svg>
    </div>
  );
}
