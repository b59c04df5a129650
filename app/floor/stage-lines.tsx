import { memo } from 'react';
import type { Venue } from '../../core/session';
import type { Projection } from './view';

interface Props {
  venue: Venue;
  view: Projection;
}

function Room({ venue, view }: Props) {
  const { widthM, depthM, origin } = venue;
  if (widthM === null || depthM === null || origin === null) return null;
  const left = -origin.x;
  const front = -origin.y;
  return (
    <rect
      x={view.toX(left)}
      y={view.toY(front + depthM)}
      width={widthM * view.scale}
      height={depthM * view.scale}
      fill="none"
      stroke="var(--muted)"
      strokeWidth={3}
    />
  );
}

/** Walls, stage and the points that tapes are held to. */
export const StageLines = memo(function StageLines(props: Props) {
  const { venue, view } = props;
  const { stage, datumPoints } = venue;
  const left = view.toX(-stage.widthM / 2);
  const right = view.toX(stage.widthM / 2);
  const front = view.toY(0);
  const back = view.toY(stage.depthM);
  return (
    <g aria-hidden="true">
      <Room {...props} />
      <path
        d={`M${left} ${front}V${back}H${right}V${front}`}
        fill="none"
        stroke="var(--muted)"
        strokeDasharray="5 4"
      />
      <line
        x1={left}
        x2={right}
        y1={front}
        y2={front}
        stroke="var(--color-base-content)"
        strokeWidth={2}
      />
      <text x={left + 4} y={front + 16} fontSize={12} fill="var(--muted)">
        stage edge
      </text>
      {datumPoints.map(({ id, name, x, y }) => (
        <g
          key={id}
          transform={`translate(${view.toX(x)} ${view.toY(y)})`}
          stroke="var(--color-base-content)"
          fill="none"
        >
          <circle r={5} />
          <path d="M-8 0H8M0 -8V8" />
          <text y={-11} textAnchor="middle" fontSize={12} fill="var(--muted)" stroke="none">
            tape {name}
          </text>
        </g>
      ))}
    </g>
  );
});
