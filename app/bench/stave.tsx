import { useEffect, useMemo, useRef, useState } from 'react';
import { columnsFrom, type Cells, type Columns } from '../../core/audio/measure/pyramid';
import type { Overview } from '../../core/audio/measure/overview';
import { useSize } from '../parts/use-size';
import { run } from '../workers/run';
import type { OpenRecording } from './recordings';
import type { View } from './view';

/** Height of one channel, px: where the curve is what is looked at, and where something else is. */
export const STAVE_PX = { tall: 84, low: 44 } as const;
export type StaveHeight = (typeof STAVE_PX)[keyof typeof STAVE_PX];

/** A rough curve of the whole, drawn in as many columns as are wanted. */
function columnsOfSketch({ framesEach, channels }: Overview, view: View, columns: number): Columns {
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
  const known = useMemo(() => {
    if (columns === 0) return null;
    const exact = pyramid && columnsFrom(pyramid, { ...view, columns });
    return exact ?? (sketch ? columnsOfSketch(sketch, view, columns) : null);
  }, [pyramid, sketch, view, columns]);
  const near = columns > 0 && (view.to - view.from) / columns < 256;
  useEffect(() => {
    if (!near) return;
    const stop = new AbortController();
    run('columns', { file, ...view, columns }, { signal: stop.signal }).then(
      (found) => setFine({ view, columns: found }),
      () => undefined,
    );
    return () => stop.abort();
  }, [near, file, view, columns]);
  return near && fine?.view === view ? fine.columns : known;
}

/** One channel in ink: lowest to highest, and darker what it is on average. */
function drawCells(
  pen: CanvasRenderingContext2D,
  { least, most, square }: Cells,
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
  pen.lineTo(least.length, middle + 0.5);
  pen.stroke();
  pen.fillStyle = colours.ink;
  for (let x = 0; x < known; x++) {
    const [low, high] = [least[x] as number, most[x] as number].map((v) =>
      Math.max(-1, Math.min(1, v)),
    ) as [number, number];
    pen.globalAlpha = 0.45;
    pen.fillRect(x, middle - high * half, 1, Math.max(1, (high - low) * half));
    const mean = Math.min(1, Math.sqrt(square[x] as number)) * half;
    pen.globalAlpha = 1;
    if (mean >= 0.5) pen.fillRect(x, middle - mean, 1, 2 * mean);
  }
  pen.globalAlpha = 1;
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
    const scale = devicePixelRatio;
    canvas.current.width = Math.floor(width) * scale;
    canvas.current.height = count * height * scale;
    pen.scale(scale, scale);
    const style = getComputedStyle(canvas.current);
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
