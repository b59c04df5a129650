import type { KeyboardEvent } from 'react';
import type { Source } from '../../../core/session';
import type { Vec3 } from '../../../core/units';
import { placeLabels } from '../../floor/marks/label-placement';
import { viewOf, projection, boxAround } from '../../../paper/projection';
import { useGrouping } from '../../parts/groups';
import { useSize } from '../../parts/use-size';

interface Props {
  sources: readonly Source[];
  anchorId: string;
  otherId: string | null;
  /** the two microphones; null while there is no solution */
  microphones: { first: Vec3; second: Vec3 } | null;
  /** with Shift held, the second anchor */
  onChoose: (id: string, second: boolean) => void;
}

const HEIGHT = 260;
const RADIUS = 12;

/** The floor from above, on which the anchors are chosen; both microphones with their ways. */
export function AnchorPlan({ sources, anchorId, otherId, microphones, onChoose }: Props) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const { badges } = useGrouping(sources);
  const places = microphones ? [microphones.first, microphones.second] : [];
  const wide = Math.max(width, 100);
  const shown = boxAround([...sources, ...places], 0.6);
  const view = projection(viewOf(shown, wide, HEIGHT), wide, HEIGHT);
  const at = ({ x, y }: { x: number; y: number }) => ({ x: view.toX(x), y: view.toY(y) });
  const anchors = sources.filter(({ id }) => id === anchorId || id === otherId);
  const labels = placeLabels(
    sources.map((source) => ({
      id: source.id,
      ...at(source),
      // The ring of an anchor is wider than its mark.
      radius: source.id === anchorId || source.id === otherId ? RADIUS + 8 : RADIUS,
      text: source.name,
      prefer: 'below' as const,
      important: source.id === anchorId || source.id === otherId,
    })),
  );
  return (
    <div ref={box} className="border-hairline mb-3 border">
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="group"
          aria-label="Anchors on the floor: a click chooses the anchor, with Shift the second"
        >
          {places.flatMap((place, i) =>
            anchors.map((anchor) => (
              <line
                key={`${i}${anchor.id}`}
                x1={at(place).x}
                y1={at(place).y}
                x2={at(anchor).x}
                y2={at(anchor).y}
                stroke="var(--color-primary)"
                strokeDasharray="5 4"
              />
            )),
          )}
          {sources.map((source) => {
            const role = source.id === anchorId ? 'first' : source.id === otherId ? 'second' : null;
            const label = labels.get(source.id);
            const hue = badges.get(source.id)?.group.hue;
            return (
              <g key={source.id}>
                <g
                  role="button"
                  tabIndex={0}
                  aria-pressed={role !== null}
                  aria-label={`${source.name}${role ? `, ${role} anchor` : ''}`}
                  className="cursor-pointer"
                  transform={`translate(${at(source).x} ${at(source).y})`}
                  onClick={(event) => onChoose(source.id, event.shiftKey)}
                  onKeyDown={(event: KeyboardEvent) => {
                    if (event.key !== 'Enter' && event.key !== ' ') return;
                    event.preventDefault();
                    onChoose(source.id, event.shiftKey);
                  }}
                >
                  {role && (
                    <circle
                      r={RADIUS + 5}
                      fill="none"
                      stroke="var(--color-primary)"
                      strokeWidth={1.8}
                      strokeDasharray={role === 'second' ? '3 3' : undefined}
                    />
                  )}
                  <circle r={RADIUS} fill="var(--color-base-100)" stroke={hue} strokeWidth={2} />
                  <text textAnchor="middle" y={4} fontSize={11} fontWeight={700} fill={hue}>
                    {badges.get(source.id)?.short}
                  </text>
                </g>
                {label && (
                  <text
                    x={label.x}
                    y={label.y}
                    textAnchor={label.anchor}
                    fontSize={12}
                    fill="var(--color-base-content)"
                    pointerEvents="none"
                  >
                    {source.name}
                  </text>
                )}
              </g>
            );
          })}
          {places.map((place, i) => (
            <g key={i} transform={`translate(${at(place).x} ${at(place).y})`} pointerEvents="none">
              <rect
                x={-6}
                y={-6}
                width={12}
                height={12}
                fill="var(--color-base-content)"
                stroke="var(--color-base-100)"
              />
              <text
                x={(places[1 - i]?.x ?? place.x) > place.x ? -10 : 10}
                y={4}
                textAnchor={(places[1 - i]?.x ?? place.x) > place.x ? 'end' : 'start'}
                fontSize={12}
                fontWeight={700}
                fill="var(--color-base-content)"
              >
                {i === 0 ? 'first' : 'second'}
              </text>
            </g>
          ))}
        </svg>
      )}
    </div>
  );
}
