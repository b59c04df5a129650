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

/** The softest is drawn up by no more, dB. */
const MOST_UP_DB = 48;

/** What a soft recording is drawn up by, so that it is seen: whole steps of 6 dB. */
export function drawnUpDb({ pyramid, sketch }: OpenRecording): number {
  const cells = pyramid?.levels[pyramid.levels.length - 1]?.channels ?? sketch?.channels ?? [];
  let peak = 0;
  for (const { least, most } of cells) {
    for (let i = 0; i < most.length; i++) peak = Math.max(peak, most[i] ?? 0, -(least[i] ?? 0));
  }
  if (peak <= 0) return 0;
  const room = -20 * Math.log10(peak);
  return Math.min(MOST_UP_DB, Math.max(0, 6 * Math.floor(room / 6)));
}

type Ink = readonly [red: number, green: number, blue: number];
const inks = new Map<string, Ink>();

/** A colour as the browser writes it, in its parts. */
function inkOf(colour: string): Ink {
  const known = inks.get(colour);
  if (known) return known;
  const pen = new OffscreenCanvas(1, 1).getContext('2d');
  if (!pen) return [0, 0, 0];
  pen.fillStyle = colour;
  pen.fillRect(0, 0, 1, 1);
  const [red = 0, green = 0, blue = 0] = pen.getImageData(0, 0, 1, 1).data;
  inks.set(colour, [red, green, blue]);
  return [red, green, blue];
}

/** Opacity of what a column reaches, of what it is on average, and of the line of silence. */
const [REACHES, AVERAGE, LINE] = [115, 255, 70];

/**
 * One channel in ink: lowest to highest, and darker what it is on average. Point by point: shapes and strokes
 * would take the page several times as long.
 * @param scale points of the picture for one of the page
 */
function drawCells(
  { data, width }: ImageData,
  { least, most, square }: Cells,
  at: { top: number; height: number; known: number; scale: number; gain: number },
  [red, green, blue]: Ink,
): void {
  const { top, height, known, scale, gain } = at;
  const half = (height / 2 - 5) * scale;
  const middle = (top + height / 2) * scale;
  const run = (x: number, from: number, to: number, alpha: number): void => {
    for (let y = Math.round(from); y < Math.max(Math.round(from) + 1, Math.round(to)); y++) {
      const i = 4 * (y * width + x);
      data[i] = red;
      data[i + 1] = green;
      data[i + 2] = blue;
      data[i + 3] = alpha;
    }
  };
  const within = (value: number): number => Math.max(-1, Math.min(1, value * gain)) * half;
  for (let x = 0; x < width; x++) {
    const k = Math.floor(x / scale);
    run(x, middle, middle + 1, LINE);
    if (k >= known) continue;
    run(x, middle - within(most[k] ?? 0), middle - within(least[k] ?? 0), REACHES);
    const mean = within(Math.sqrt(square[k] ?? 0));
    if (mean >= 0.5) run(x, middle - mean, middle + mean, AVERAGE);
  }
}

interface Props {
  recording: OpenRecording;
  view: View;
  height: StaveHeight;
  /** what everything is drawn up by, dB */
  upDb: number;
}

/** Every channel as a stave with its recording in ink. */
export function Staves({ recording, view, height, upDb }: Props) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const columns = useColumns(recording, view, Math.floor(width));
  const count = recording.info.format.channels;
  useEffect(() => {
    const pen = canvas.current?.getContext('2d');
    if (!pen || !canvas.current || width === 0) return;
    const { current } = canvas;
    const scale = Math.max(1, Math.round(devicePixelRatio));
    const size = [Math.floor(width) * scale, count * height * scale] as const;
    // Made anew only where it has another size.
    if (current.width !== size[0] || current.height !== size[1]) {
      [current.width, current.height] = size;
    }
    const ink = inkOf(getComputedStyle(current).color);
    const gain = 10 ** (upDb / 20);
    const picture = pen.createImageData(...size);
    columns?.channels.forEach((cells, c) =>
      drawCells(
        picture,
        cells,
        { top: c * height, height, known: columns.known, scale, gain },
        ink,
      ),
    );
    pen.putImageData(picture, 0, 0);
  }, [columns, width, count, height, upDb]);
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
