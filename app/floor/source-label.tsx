import { memo } from 'react';
import type { PlacedLabel } from './label-placement';

interface Props {
  name: string;
  x: number;
  y: number;
  anchor: PlacedLabel['anchor'];
}

/** A player's name beside its mark. */
export const SourceLabel = memo(function SourceLabel({ name, x, y, anchor }: Props) {
  return (
    <text
      x={x}
      y={y}
      textAnchor={anchor}
      fontSize={12}
      fill="var(--color-base-content)"
      stroke="var(--color-base-100)"
      strokeWidth={4}
      paintOrder="stroke"
      className="pointer-events-none"
    >
      {name}
    </text>
  );
});
