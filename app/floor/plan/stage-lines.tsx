import { memo } from 'react';
import type { Venue } from '../../../core/session';
import { useStore } from 'zustand';
import { toolStore } from '../../view/floor-tools';
import { HallOutline } from '../../parts/hall-outline';
import type { Projection } from '../../../paper/projection';

interface Props {
  venue: Venue;
  view: Projection;
  seats: boolean;
}

const MOST_SEATS = 4000;

/** Rows of seats, away from the stage; beyond what can be drawn, the block's outline alone. */
function Seats({ venue, view }: Omit<Props, 'seats'>) {
  return venue.seats.map(({ id, x, y, columns, rows, pitchM, rowPitchM }) => {
    const left = x - (columns * pitchM) / 2;
    const size = Math.max(1, 0.42 * view.scale);
    const total = columns * rows;
    return (
      <g key={id} fill="none" stroke="var(--muted)" strokeOpacity={0.6}>
        {total > MOST_SEATS || size < 3 ? (
          <rect
            x={view.toX(left)}
            y={view.toY(y)}
            width={columns * pitchM * view.scale}
            height={rows * rowPitchM * view.scale}
          />
        ) : (
          <path
            d={Array.from({ length: total }, (_, i) => {
              const px = view.toX(left + ((i % columns) + 0.5) * pitchM) - size / 2;
              const py = view.toY(y - Math.floor(i / columns) * rowPitchM);
              return `M${px} ${py}h${size}v${size}h${-size}z`;
            }).join('')}
          />
        )}
      </g>
    );
  });
}

/** Walls, stage and the points that tapes are held to. */
export const StageLines = memo(function StageLines(props: Props) {
  const { venue, view, seats } = props;
  const { stage } = venue;
  // While the walls are worked on their marks carry the numbers.
  const worked = useStore(toolStore, ({ tool }) => tool === 'corners');
  const left = view.toX(-stage.widthM / 2);
  const right = view.toX(stage.widthM / 2);
  const front = view.toY(0);
  const back = view.toY(stage.depthM);
  return (
    <g aria-hidden="true">
      <HallOutline venue={venue} view={view} numbered={!worked} />
      {seats && <Seats venue={venue} view={view} />}
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
    </g>
  );
});
