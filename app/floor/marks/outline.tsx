import { sizeOf, type Anatomy, type PartPlace } from '../../../core/ensembles';
import type { Source } from '../../../core/session';

interface Props {
  source: Source;
  anatomy: Anatomy;
  scale: number;
  hue: string;
}

/** How far a lid reaches over the case when it stands open, seen from above. */
const LID_REACH: Readonly<Partial<Record<Source['lid'], number>>> = {
  closed: 1,
  'short-stick': 0.95,
  'full-stick': 0.72,
};

/** An instrument as it lies on the floor: case, strings, hammers and lid, or its pieces. */
export function Outline({ source, anatomy, scale, hue }: Props) {
  const px = scale * sizeOf(source);
  const at = ([right, ahead]: PartPlace): string => `${right * px} ${-ahead * px}`;
  const shape = (places: readonly PartPlace[]): string => `M${places.map(at).join('L')}Z`;
  const hinge = anatomy.hinge && Math.min(...anatomy.outline.map(([right]) => right));
  const reach = LID_REACH[source.lid];
  return (
    <g transform={`rotate(${source.facingDeg})`} stroke={hue} fill="none">
      {anatomy.outline.length > 0 && (
        <path d={shape(anatomy.outline)} strokeWidth={1.4} fill={hue} fillOpacity={0.05} />
      )}
      {anatomy.lines.map(({ name, line: [from, to] }) => (
        <path
          key={name}
          d={`M${at(from)}L${at(to)}`}
          strokeWidth={name === 'hammers' || name === 'jacks' ? 1.6 : 0.8}
          strokeDasharray={name === 'keys' ? '1 2' : undefined}
          strokeOpacity={0.75}
        />
      ))}
      {hinge !== undefined && reach !== undefined && (
        <path
          d={shape(
            anatomy.outline.map(([right, ahead]) => [hinge + (right - hinge) * reach, ahead]),
          )}
          strokeWidth={1}
          strokeDasharray="5 3"
          fill={hue}
          fillOpacity={source.lid === 'closed' ? 0.16 : 0}
        />
      )}
      {source.openPanels.length > 0 && anatomy.outline.length > 0 && (
        <path
          d={shape(anatomy.outline)}
          strokeWidth={1}
          strokeDasharray="2 3"
          strokeOpacity={0.9}
        />
      )}
      {source.felt &&
        anatomy.lines
          .filter(({ name }) => name === 'hammers')
          .map(({ line: [from, to] }) => (
            <path key="felt" d={`M${at(from)}L${at(to)}`} strokeWidth={5} strokeOpacity={0.35} />
          ))}
      {anatomy.pieces
        .filter(() => anatomy.outline.length === 0)
        .map(({ kind, right, ahead, radiusM }) => (
          <circle
            key={kind}
            cx={right * px}
            cy={-ahead * px}
            r={radiusM * px}
            strokeWidth={1.1}
            fill={hue}
            fillOpacity={0.05}
          />
        ))}
    </g>
  );
}
