import { leadingOf } from '../../core/localisation';
import { useMemo } from 'react';
import { arrayFigures, contextOf } from '../../core/analysis';
import type { MicArray, Session } from '../../core/session';
import { useGrouping } from '../parts/groups';

interface Props {
  session: Session;
  array: MicArray;
  /** px between the loudspeakers */
  wide?: number;
}

/** Where one array would put the players, small: for lists of proposals. */
export function SmallLine({ session, array, wide = 300 }: Props) {
  const { badges } = useGrouping(session.sources);
  const shifts = useMemo(() => {
    const figures = arrayFigures(array, session.sources, contextOf(session));
    const { model } = session.settings;
    return figures.sources.flatMap(({ id, image }) => {
      const shift = leadingOf(image, model)?.shift;
      return shift === undefined ? [] : [{ id, shift }];
    });
  }, [session, array]);
  return (
    <svg width={wide + 24} height={26} role="img" aria-label="Where the players would appear">
      <line x1={12} x2={wide + 12} y1={13} y2={13} stroke="var(--muted)" />
      {[-1, 0, 1].map((tick) => (
        <line
          key={tick}
          x1={12 + ((tick + 1) / 2) * wide}
          x2={12 + ((tick + 1) / 2) * wide}
          y1={tick === 0 ? 7 : 3}
          y2={tick === 0 ? 19 : 23}
          stroke="var(--color-base-content)"
          strokeWidth={tick === 0 ? 1 : 3}
        />
      ))}
      {shifts.map(({ id, shift }) => (
        <ellipse
          key={id}
          cx={12 + ((shift + 1) / 2) * wide}
          cy={13}
          rx={6}
          ry={4.5}
          fill={badges.get(id)?.group.hue}
        />
      ))}
    </svg>
  );
}
