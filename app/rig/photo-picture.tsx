import { useRef, useState } from 'react';
import {
  markWords,
  wantedMarks,
  type MarkName,
  type Photograph,
  type Pixel,
} from '../../core/photo';
import { clamp } from '../../core/units';

interface Props {
  photograph: Photograph;
  /** its address in this page; null while it is read */
  url: string | null;
  /** what a press beside every mark sets */
  next: MarkName | null;
  /** the mark that keys move */
  chosen: MarkName | null;
  choose: (name: MarkName) => void;
  put: (name: MarkName, at: Pixel) => void;
  /** the bar as it is planned */
  plan: readonly { capsule: Pixel; rear: Pixel }[];
}

/** What the loupe shows, px of the picture, and how much larger. */
const [SEEN_PX, LARGER] = [60, 4];
/** A mark that is nearer to a press is the one that is meant, px of the screen. */
const NEAR = 14;

const colourOf = (name: MarkName): string =>
  /^(corner|end)/.test(name) ? '#0b7285' : name.startsWith('left') ? '#c92a2a' : '#2b8a3e';

/** The picture with its marks: a press sets or takes one, a loupe shows what is under the finger. */
export function PhotoPicture({ photograph, url, next, chosen, choose, put, plan }: Props) {
  const { widthPx, heightPx, view } = photograph;
  const wanted = wantedMarks(photograph);
  const marks = photograph.marks.filter(({ name }) => wanted.includes(name));
  const drawing = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ name: MarkName; at: Pixel } | null>(null);
  /** px of the picture that one of the screen is; the picture may be narrower than its place */
  const perScreen = (): number => 1 / (drawing.current?.getScreenCTM()?.a ?? 1);
  const at = ({ clientX, clientY }: { clientX: number; clientY: number }): Pixel => {
    const matrix = drawing.current?.getScreenCTM()?.inverse();
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix);
    return { u: clamp(x, 0, widthPx), v: clamp(y, 0, heightPx) };
  };
  const near = ({ u, v }: Pixel): MarkName | null => {
    const [best] = marks
      .map((mark) => ({ name: mark.name, away: Math.hypot(mark.u - u, mark.v - v) }))
      .sort((a, b) => a.away - b.away);
    return best && best.away < NEAR * perScreen() ? best.name : null;
  };
  const shown = marks.map((mark) => (held?.name === mark.name ? { ...mark, ...held.at } : mark));
  if (held && !marks.some(({ name }) => name === held.name)) {
    shown.push({ name: held.name, ...held.at });
  }
  const size = widthPx / 160;
  const loupe = held && { ...held.at, side: LARGER * SEEN_PX };
  return (
    <svg
      ref={drawing}
      viewBox={`0 0 ${widthPx} ${heightPx}`}
      className="max-h-[max(260px,calc(100dvh-320px))] w-full cursor-crosshair touch-none bg-black"
      role="application"
      tabIndex={0}
      aria-label={`The photograph${next ? `, next: ${markWords(next, view)}` : ''}. Press to set a mark; arrows move it by a pixel.`}
      onPointerDown={(event) => {
        const spot = at(event);
        const name = near(spot) ?? next;
        if (!name) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        choose(name);
        setHeld({ name, at: spot });
      }}
      onPointerMove={(event) => held && setHeld({ name: held.name, at: at(event) })}
      onPointerUp={(event) => {
        if (held) put(held.name, at(event));
        setHeld(null);
      }}
      onPointerCancel={() => setHeld(null)}
      onKeyDown={(event) => {
        const by = event.shiftKey ? 10 : 1;
        const [du, dv] =
          {
            ArrowLeft: [-by, 0],
            ArrowRight: [by, 0],
            ArrowUp: [0, -by],
            ArrowDown: [0, by],
          }[event.key] ?? [];
        const mark = marks.find(({ name }) => name === chosen);
        if (du === undefined || dv === undefined || !mark) return;
        event.preventDefault();
        event.stopPropagation();
        put(mark.name, {
          u: clamp(mark.u + du, 0, widthPx),
          v: clamp(mark.v + dv, 0, heightPx),
        });
      }}
    >
      {url && <image href={url} width={widthPx} height={heightPx} preserveAspectRatio="none" />}
      {plan.map(({ capsule, rear }, i) => (
        <g key={i} stroke="#ffffff" strokeWidth={size * 0.8} strokeDasharray={`${size * 2}`}>
          <line x1={rear.u} y1={rear.v} x2={capsule.u} y2={capsule.v} />
          <circle cx={capsule.u} cy={capsule.v} r={size * 3} fill="none" />
        </g>
      ))}
      {shown.map(({ name, u, v }) => (
        <g key={name} stroke={colourOf(name)} strokeWidth={name === chosen ? size : size / 2}>
          <title>{markWords(name, view)}</title>
          <circle cx={u} cy={v} r={size * 2.4} fill="none" stroke="#ffffff" />
          <circle cx={u} cy={v} r={size * 2} fill="none" />
          <path d={`M${u - size} ${v}H${u + size}M${u} ${v - size}V${v + size}`} />
        </g>
      ))}
      {loupe && url && (
        <svg
          x={clamp(loupe.u - loupe.side / 2, 0, widthPx - loupe.side)}
          y={loupe.v > 1.6 * loupe.side ? loupe.v - 1.5 * loupe.side : loupe.v + loupe.side / 2}
          width={loupe.side}
          height={loupe.side}
          viewBox={`${loupe.u - SEEN_PX / 2} ${loupe.v - SEEN_PX / 2} ${SEEN_PX} ${SEEN_PX}`}
          data-loupe=""
        >
          <rect
            x={loupe.u - SEEN_PX / 2}
            y={loupe.v - SEEN_PX / 2}
            width={SEEN_PX}
            height={SEEN_PX}
            fill="#000000"
          />
          <image href={url} width={widthPx} height={heightPx} preserveAspectRatio="none" />
          <path
            d={`M${loupe.u - SEEN_PX} ${loupe.v}h${2 * SEEN_PX}M${loupe.u} ${loupe.v - SEEN_PX}v${2 * SEEN_PX}`}
            stroke="#ffffff"
            strokeWidth="0.7"
          />
          <rect
            x={loupe.u - SEEN_PX / 2}
            y={loupe.v - SEEN_PX / 2}
            width={SEEN_PX}
            height={SEEN_PX}
            fill="none"
            stroke="#ffffff"
            strokeWidth="2"
          />
        </svg>
      )}
    </svg>
  );
}
