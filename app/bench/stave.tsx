import { useEffect, useMemo, useRef, useState } from 'react';
import { columnsFrom, type Cells, type Columns } from '../../core/audio/measure/pyramid';
import type { Overview } from '../../core/audio/measure/overview';
import { useSize } from '../parts/use-size';
import { run } from '../workers/run';
import type { OpenRecording } from './recordings';
import type { View } from './view';

/** Height of one channel, px: where the curve is what is looked at, and where something else is. */
export const STAVE_PX = { tall: 84, low: 44 } as const;
/** A hand that rests so long is waited for, ms. */
const RESTS_MS = 40;
export type StaveHeight = (typeof STAVE_PX)[keyof typeof STAVE_PX];

/** Cells that are coarser than the columns, each drawn as broad as it is. */
function columnsOfCells(
  { framesEach, channels }: Pick<Overview, 'framesEach' | 'channels'>,
  view: View,
  columns: number,
): Columns {
  const width = (view.to - view.from) / columns;
  const cells = channels.map(({ least, most, square }): Cells => {
    const one = [least, most, square].map((list) =>
      Float32Array.from({ length: columns }, (_, k) => {
        const at = Math.floor((view.from + (k + 0.5) * width) / framesEach);
        return list[Math.min(list.length - 1, at)] ?? 0;
      }),
    ) as [Float32Array, Float32Array, Float32Array];
    return { least: one[0], most: one[1], square: one[2] };
  });
  return { channels: cells, known: columns };
}

/** What is drawn now: from what is known at once, and finer from the samples where one is near. */
function useColumns(recording: OpenRecording, view: View, columns: number): Columns | null {
  const { source: file, pyramid, sketch } = recording;
  const [fine, setFine] = useState<{ view: View; columns: Columns } | null>(null);
  const exact = useMemo(
    () => (columns > 0 && pyramid ? columnsFrom(pyramid, { ...view, columns }) : null),
    [pyramid, view, columns],
  );
  const finest = pyramid?.levels[0]?.framesEach ?? 0;
  const near = columns > 0 && !exact && (view.to - view.from) / columns < Math.max(256, finest);
  const rough = useMemo(() => {
    const cells = pyramid?.levels[0] ?? sketch;
    return columns > 0 && cells && !exact ? columnsOfCells(cells, view, columns) : null;
  }, [pyramid, sketch, exact, view, columns]);
  useEffect(() => {
    if (!near) return;
    const stop = new AbortController();
    // Once the hand rests: what it passes over is not read.
    const timer = setTimeout(() => {
      run('columns', { file, ...view, columns }, { signal: stop.signal }).then(
        (found) => setFine({ view, columns: found }),
        () => undefined,
      );
    }, RESTS_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [near, file, view, columns]);
  return near && fine?.view === view ? fine.columns : (exact ?? rough);
}

/** One channel as two shapes, from its lowest to its highest and what it is on average. */
function shapesOf({ least, most, square }: Cells, known: number, middle: number, half: number) {
  const [outer, inner] = [new Path2D(), new Path2D()];
  const clip = (value: number): number => Math.max(-1, Math.min(1, value)) * half;
  const mean = (x: number): number => Math.min(1, Math.sqrt(square[x] ?? 0)) * half;
  for (const [path, up, down] of [
    [outer, (x: number) => clip(most[x] ?? 0) + 0.5, (x: number) => clip(least[x] ?? 0) - 0.5],
    [inner, mean, (x: number) => -mean(x)],
  ] as const) {
    for (let x = 0; x < known; x++) path.lineTo(x + 0.5, middle - up(x));
    for (let x = known - 1; x >= 0; x--) path.lineTo(x + 0.5, middle - down(x));
    path.closePath();
  }
  return { outer, inner };
}

/** One channel in ink: lowest to highest, and darker what it is on average. */
function drawCells(
  pen: CanvasRenderingContext2D,
  cells: Cells,
  top: number,
  known: number,
  height: StaveHeight,
  colours: { ink: string; line: string },
): void {
  const half = height / 2 - 5;
  const middle = top + height / 2;
  pen.strokeStyle = colours.line;
  pen.beginPath();
  pen.moveTo(0, middle + 0.5);
  pen.lineTo(cells.least.length, middle + 0.5);
  pen.stroke();
  if (known === 0) return;
  const { outer, inner } = shapesOf(cells, known, middle, half);
  pen.fillStyle = colours.ink;
  pen.globalAlpha = 0.45;
  pen.fill(outer);
  pen.globalAlpha = 1;
  pen.fill(inner);
}

interface Props {
  recording: OpenRecording;
  view: View;
  height: StaveHeight;
}

/** Every channel as a stave with its recording in ink. */
export function Staves({ recording, view, height }: Props) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const columns = useColumns(recording, view, Math.floor(width));
  const count = recording.info.format.channels;
  useEffect(() => {
    const pen = canvas.current?.getContext('2d');
    if (!pen || !canvas.current || width === 0) return;
    const { current } = canvas;
    const scale = devicePixelRatio;
    const size = [Math.floor(width) * scale, count * height * scale] as const;
    // Made anew only where it has another size: that is the dearest of all.
    if (current.width !== size[0] || current.height !== size[1]) {
      [current.width, current.height] = size;
    }
    pen.setTransform(scale, 0, 0, scale, 0, 0);
    pen.clearRect(0, 0, width, count * height);
    const style = getComputedStyle(current);
    const colours = { ink: style.color, line: style.getPropertyValue('--hairline') };
    columns?.channels.forEach((cells, c) =>
      drawCells(pen, cells, c * height, columns.known, height, colours),
    );
  }, [columns, width, count, height]);
  return (
    <div ref={box} className="absolute inset-0">
      <canvas
        ref={canvas}
        aria-hidden="true"
        className="block"
        style={{ width: Math.floor(width), height: count * height }}
      />
    </div>
  );
}
