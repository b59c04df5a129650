import { memo } from 'react';
import type { PlacedLabel } from './label-placement';

interface Props {
  name: string;
  x: number;
  y: number;
  anchor: PlacedLabel['anchor'];
  look: 'player' | 'active' | 'array';
}

/** A player's name beside its mark. */
export const SourceLabel = memo(function SourceLabel({ name, x, y, anchor, look }: Props) {
  return (
    <text
      x={x}
      y={y}
      textAnchor={anchor}
      fontSize={12}
      fontWeight={look === 'player' ? 400 : 600}
      fill={look === 'array' ? 'var(--muted)' : 'var(--color-base-content)'}
      stroke="var(--color-base-100)"
      strokeWidth={4}
      paintOrder="stroke"
      className="pointer-events-none"
    >
      {name}
    </text>
  );
});
