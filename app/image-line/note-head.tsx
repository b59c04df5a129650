import { memo } from 'react';
import { shiftText } from '../../core/units';
import { setHovered } from '../audio/actions';
import { hover, select } from '../view/choice';
import { asideOf, asideWidth, type Note, type Stave } from './notes';

interface Props {
  note: Note;
  /** x of shift −1 and of shift +1 */
  x0: number;
  x1: number;
  y: number;
  /** height available to the stave */
  pitch: number;
  lit: boolean;
  /** so many neighbours stand so close that only a small head without a number fits */
  small: boolean;
  /** the head stands so far beside its place, because a neighbour has it, px */
  dx: number;
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

/** Beside the line: a cross, and who has no stable image there. */
export const Aside = memo(function Aside(props: {
  stave: Stave;
  x: number;
  y: number;
  room: number;
}) {
  const { stave, x, y, room } = props;
  const { hue } = stave.group;
  const { notes, more } = asideOf(stave, room);
  if (notes.length === 0 && more === 0) return null;
  let at = x + 9;
  return (
    <g stroke={hue}>
      <path d={`M${x - 4} ${y - 4}l8 8m0 -8l-8 8`} strokeWidth={2} />
      {more > 0 && (
        <text x={at} y={y + 4} stroke="none" fill={hue} fontSize={11} fontWeight={600}>
          {more} of {stave.notes.length}
          <title>{more} players in antiphase: no stable image</title>
        </text>
      )}
      {notes.map((note) => {
        const from = at;
        at += asideWidth(note);
        return (
          <text
            key={note.id}
            x={from}
            y={y + 4}
            stroke="none"
            fill={hue}
            fontSize={11}
            fontWeight={600}
            data-aside={note.id}
            {...handlers(note.id)}
          >
            {note.badge.number || note.badge.label || note.badge.short}
            <title>{note.name}: antiphase, no stable image</title>
          </text>
        );
      })}
    </g>
  );
});

/** Under the heads: the bar over the models' spread, and the width of a wide source, open. */
export const NoteSpread = memo(function NoteSpread(props: Omit<Props, 'lit' | 'small' | 'dx'>) {
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
      {note.yours !== null && (
        <path
          d={`M${at(note.yours)} ${y - half - 3}l4 4l-4 4l-4 -4z`}
          fill="var(--color-base-100)"
          stroke={hue}
          strokeWidth={1.5}
          data-yours={note.id}
        >
          <title>
            {note.name}, by your own model: {shiftText(note.yours)}
          </title>
        </path>
      )}
    </g>
  );
});

/** A player as a note: head at the predicted place. */
export const NoteHead = memo(function NoteHead(props: Props) {
  const { note, x0, x1, y, pitch, lit, small, dx } = props;
  const hue = note.badge.group.hue;
  if (note.antiphase || note.shift === null) return null;
  const place = x0 + ((note.shift + 1) / 2) * (x1 - x0);
  const x = place + dx;
  const half = small ? Math.min(4, pitch / 2 - 1) : Math.min(7, pitch / 2 - 1);
  return (
    <g {...handlers(note.id)} data-note={note.id}>
      {Math.abs(dx) > 0.5 && (
        <line
          x1={place}
          x2={place}
          y1={y - half - 3}
          y2={y + half + 3}
          stroke={hue}
          strokeWidth={1.4}
        />
      )}
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
        {note.reversed && (
          <path
            d={`M${half + 1} ${-half * 0.7}a${half + 1.5} ${half + 1.5} 0 0 0 ${-2 * half - 2} 0m3.4 -2.6l-3.4 2.6l-0.6 -4`}
            fill="none"
            stroke={hue}
            strokeWidth={1.3}
          />
        )}
        {!small && (
          <text
            textAnchor="middle"
            y={half * 0.55}
            fontSize={half * 1.5}
            fontWeight={700}
            fill={note.reversed ? hue : 'var(--color-base-100)'}
          >
            {note.badge.number}
          </text>
        )}
      </g>
    </g>
  );
});
