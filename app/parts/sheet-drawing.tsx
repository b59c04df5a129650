import { INKS, type Drawing } from '../../paper/sheet-drawing';

/** A drawing of the sheet on the page and for the printer: black on white in every theme. */
export function SheetDrawing({ drawing }: { drawing: Drawing }) {
  const { width, height, title, shapes } = drawing;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={title}
      style={{ width: '100%', height: 'auto' }}
    >
      <rect width={width} height={height} fill="#ffffff" />
      {shapes.map((shape, index) => {
        const colour = INKS[shape.ink];
        switch (shape.kind) {
          case 'line':
            return (
              <line
                key={index}
                x1={shape.from[0]}
                y1={shape.from[1]}
                x2={shape.to[0]}
                y2={shape.to[1]}
                stroke={colour}
                strokeWidth={shape.width}
                strokeDasharray={shape.dash?.join(' ')}
              />
            );
          case 'circle':
            return (
              <circle
                key={index}
                cx={shape.at[0]}
                cy={shape.at[1]}
                r={shape.radius}
                fill={shape.filled ? '#ffffff' : 'none'}
                stroke={colour}
              />
            );
          case 'text':
            return (
              <text
                key={index}
                x={shape.at[0]}
                y={shape.at[1]}
                fontSize={shape.size}
                textAnchor={shape.middle ? 'middle' : 'start'}
                fill={colour}
              >
                {shape.words}
              </text>
            );
        }
      })}
    </svg>
  );
}
