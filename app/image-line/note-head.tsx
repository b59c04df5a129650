import { memo } from 'react';
import { setHovered } from '../audio/actions';
import { hover, select } from '../view/choice';
import type { Note } from './notes';

interface Props {
  note: Note;
  /** x of shift −1 and of shift +1 */
  x0: number;
  x1: number;
  y: number;
  /** height available to the stave */
  pitch: number;
  lit: boolean;
  /** a neighbour stands so close that only a small head without a number fits */
  small: boolean;
}

const handlers = (id: string) => ({
  onPointerEnter: () => {
    hover(id);
    setHovered(id);
  },
  onPointerLeave: () => {
    hover(null);
    setHovered(null);
  },
  onClick: () => select({ kind: 'source', id }),
});

function Crossed({ note, x, y, hue }: { note: Note; x: number; y: number; hue: string }) {
  return (
    <g transform={`translate(${x} ${y})`} stroke={hue} {...handlers(note.id)}>
      <circle r={9} fill="transparent" stroke="none" />
      <path d="M-5 -5 5 5M5 -5-5 5" strokeWidth={2} />
      <text x={9} y={4} stroke="none" fill={hue} fontSize={11}>
        {note.badge.number}
      </text>
      <title>{note.name}: antiphase, no stable image</title>
    </g>
  );
}

/** Under the heads: the bar over the models' spread, and the width of a wide source, open. */
export const NoteSpread = memo(function NoteSpread(props: Omit<Props, 'lit' | 'small'>) {
  const { note, x0, x1, y, pitch } = props;
  if (note.antiphase || note.shift === null) return null;
  const hue = note.badge.group.hue;
  const at = (shift: number) => x0 + ((shift + 1) / 2) * (x1 - x0);
  const half = Math.min(7, pitch / 2 - 1);
  const wide = note.right - note.left > 0.005;
  return (
    <g {...handlers(note.id)}>
      {wide && (
        <rect
          x={at(note.left)}
          width={at(note.right) - at(note.left)}
          y={y - half * 0.7}
          height={half * 1.4}
          rx={2}
          fill="none"
          stroke={hue}
          strokeWidth={1.4}
          strokeDasharray={note.badge.group.dash}
        />
      )}
      <line
        x1={at(note.low)}
        x2={at(note.high)}
        y1={y}
        y2={y}
        stroke={hue}
        strokeWidth={3}
        strokeLinecap="round"
      />
    </g>
  );
});

/** A player as a note: head at the predicted place. */
export const NoteHead = memo(function NoteHead({ note, x0, x1, y, pitch, lit, small }: Props) {
  const hue = note.badge.group.hue;
  if (note.antiphase) return <Crossed note={note} x={x1 + 46} y={y} hue={hue} />;
  if (note.shift === null) return null;
  const at = (shift: number) => x0 + ((shift + 1) / 2) * (x1 - x0);
  const x = at(note.shift);
  const half = small ? Math.min(4, pitch / 2 - 1) : Math.min(7, pitch / 2 - 1);
  return (
    <g {...handlers(note.id)} data-note={note.id}>
      {lit && (
        <circle
          cx={x}
          cy={y}
          r={half + 5}
          fill="none"
          stroke="var(--color-primary)"
          strokeWidth={1.6}
        />
      )}
      <g transform={`translate(${x} ${y})`}>
        <ellipse
          className="swell"
          rx={half + 2}
          ry={half}
          transform="rotate(-14)"
          fill={note.reversed ? 'var(--color-base-100)' : hue}
          stroke={hue}
          strokeWidth={1.6}
        />
        {note.reversed ? (
          <path
            d={`M${-half * 0.6} 2 a${half * 0.55} ${half * 0.55} 0 1 1 ${half * 1.1} 0 m-2.6 -1.4 l2.6 2 l2 -2.6`}
            fill="none"
            stroke={hue}
            strokeWidth={1.3}
          />
        ) : small ? null : (
          <text
            textAnchor="middle"
            y={half * 0.55}
            fontSize={half * 1.5}
            fontWeight={700}
            fill="var(--color-base-100)"
          >
            {note.badge.number}
          </text>
        )}
      </g>
    </g>
  );
});
