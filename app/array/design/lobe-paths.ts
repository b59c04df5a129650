import { sensitivity } from '../../../core/acoustics';
import { cosDeg, sinDeg } from '../../../core/units';

const POINTS = 72;

/** The polar pattern around a capsule; behind the null it is dashed, where polarity turns. */
export function lobePaths(
  patternA: number,
  azimuthDeg: number,
  sizePx: number,
): { front: string; back: string } {
  const point = (offDeg: number) => {
    const size = Math.abs(sensitivity(patternA, cosDeg(offDeg))) * sizePx;
    const turn = azimuthDeg + offDeg;
    return `${(sinDeg(turn) * size).toFixed(2)} ${(-cosDeg(turn) * size).toFixed(2)}`;
  };
  const angles = Array.from({ length: POINTS + 1 }, (_, i) => -180 + (i * 360) / POINTS);
  const part = (keep: (deg: number) => boolean) => {
    const runs: string[][] = [];
    let open = false;
    for (const deg of angles) {
      if (!keep(deg)) open = false;
      else if (open) runs[runs.length - 1]?.push(point(deg));
      else {
        runs.push([point(deg)]);
        open = true;
      }
    }
    return runs.map((run) => `M${run.join('L')}`).join('');
  };
  const positive = (deg: number) => sensitivity(patternA, cosDeg(deg)) >= -1e-9;
  return { front: part(positive), back: part((deg) => !positive(deg)) };
}
