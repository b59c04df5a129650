import { useEffect, useMemo, useRef, useState } from 'react';
import { isRecording, listeningStore, onHeard } from '../audio/listening';
import { run } from '../workers/run';
import type { OpenRecording } from './recordings';

/** The drawing, units of its own. */
const [WIDE, HIGH] = [460, 270];
const [MIDDLE, FOOT] = [WIDE / 2, HIGH - 22];
/** A moment that is drawn where one listens, s, and how many points of it. */
const MOMENT_S = 0.1;
const LIVE_POINTS = 700;
/** The farthest of so many in a hundred fill the drawing. */
const FILLS = 0.995;

/** How far out a share of the points lies. */
function reachOf(points: Float32Array): number {
  const far: number[] = [];
  for (let i = 0; i < points.length; i += 2) {
    far.push(Math.hypot(points[i] as number, points[i + 1] as number));
  }
  far.sort((a, b) => a - b);
  return far[Math.floor((far.length - 1) * FILLS)] ?? 0;
}

/** Points as strokes of a pen: one path, folded up where the sum is below nothing. */
function strokes(points: Float32Array, reach: number): string {
  const scale = (FOOT - 26) / Math.max(reach, 1e-9);
  const parts: string[] = [];
  for (let i = 0; i < points.length; i += 2) {
    // Below the line is the same picture once more: it is turned up.
    const sign = (points[i + 1] as number) < 0 ? -1 : 1;
    const x = MIDDLE + sign * (points[i] as number) * scale;
    const y = FOOT - sign * (points[i + 1] as number) * scale;
    if (x < 0 || x > WIDE || y < 0) continue;
    parts.push(`M${x.toFixed(1)} ${y.toFixed(1)}h.01`);
  }
  return parts.join('');
}

/** What is heard just now, while the recording plays; null while it does not. */
function useMoment(recording: OpenRecording, pair: readonly [number, number]): Float32Array | null {
  const [moment, setMoment] = useState<Float32Array | null>(null);
  const busy = useRef(false);
  const { source, info } = recording;
  useEffect(() => {
    let here = true;
    const stop = onHeard((heard) => {
      const { side, lengthFrames, state } = listeningStore.getState();
      if (!heard || !isRecording(side) || state !== 'playing') return setMoment(null);
      if (busy.current) return;
      busy.current = true;
      const wholeS = info.frames / info.format.sampleRateHz;
      const atS = (heard.levels.position / lengthFrames) * wholeS;
      const ask = { file: source, pair: [...pair] as [number, number], count: LIVE_POINTS };
      run('points', { ...ask, fromS: Math.max(0, atS - MOMENT_S), toS: atS })
        .then(
          (points) => here && setMoment(points),
          () => undefined,
        )
        .finally(() => (busy.current = false));
    });
    return () => {
      here = false;
      stop();
    };
  }, [source, info, pair]);
  return moment;
}

interface Props {
  recording: OpenRecording;
  pair: readonly [number, number];
  /** of the stretch */
  points: Float32Array;
  names: readonly [string, string];
}

/** Both channels as places between two loudspeakers: what the left has lies on its axis. */
export function StereoPlot({ recording, pair, points, names }: Props) {
  const moment = useMoment(recording, pair);
  const reach = useMemo(() => reachOf(points), [points]);
  const drawn = useMemo(() => strokes(moment ?? points, reach), [moment, points, reach]);
  const axis = (FOOT - 26) * Math.SQRT1_2;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full max-w-[460px]"
      role="img"
      aria-label={`Stereo plot of ${names[0]} and ${names[1]}, ${moment ? 'as it sounds' : 'of the stretch'}`}
    >
      {[-1, 0, 1].map((side) => (
        <line
          key={side}
          x1={MIDDLE}
          y1={FOOT}
          x2={MIDDLE + side * axis}
          y2={side === 0 ? 20 : FOOT - axis}
          stroke={side === 0 ? 'var(--hairline)' : 'var(--muted)'}
          strokeDasharray={side === 0 ? '3 3' : undefined}
        />
      ))}
      <line x1={12} x2={WIDE - 12} y1={FOOT} y2={FOOT} stroke="var(--hairline)" />
      <path d={drawn} stroke="var(--color-base-content)" strokeWidth={1.3} strokeLinecap="round" />
      {names.map((name, i) => {
        const side = i === 0 ? -1 : 1;
        return (
          <text
            key={side}
            x={MIDDLE + side * (axis + 4)}
            y={FOOT - axis - 8}
            textAnchor="middle"
            fontSize={11.5}
            fill="var(--muted)"
          >
            {name.length > 20 ? `${name.slice(0, 19)}…` : name}
          </text>
        );
      })}
      <text x={MIDDLE} y={13} textAnchor="middle" fontSize={11.5} fill="var(--muted)">
        both alike
      </text>
      <text x={14} y={HIGH - 6} fontSize={11.5} fill="var(--muted)">
        against each other
      </text>
      <text x={WIDE - 14} y={HIGH - 6} textAnchor="end" fontSize={11.5} fill="var(--muted)">
        against each other
      </text>
    </svg>
  );
}
