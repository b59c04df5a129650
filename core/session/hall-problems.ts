import { boxAround, outlineProblems, type PlanPoint } from '../units/polygon';

/** What of a hall must fit together, as far as the file knows it. */
interface HallFigures {
  widthM: number | null;
  depthM: number | null;
  heightM: number | null;
  shape: { corners: readonly PlanPoint[] } | null;
  ceiling:
    | { kind: 'flat' }
    | { kind: 'pitched'; eavesM: number; ridge: 'along' | 'across'; ridgeAtM: number | null }
    | { kind: 'stepped'; steps: readonly { fromM: number; heightM: number }[] };
}

interface HallProblem {
  path: (string | number)[];
  message: string;
}

/** The box around corners may be off what the hall says of it by rounding, m. */
const BOX_M = 0.0015;
/** A ceiling lower than this over its walls is none, m. */
const LEAST_PITCH_M = 0.05;

const metres = (m: number): string => `${Math.round(m * 1000) / 1000} m`;

function shapeProblems({ shape, widthM, depthM }: HallFigures): HallProblem[] {
  if (!shape) return [];
  const path = ['shape', 'corners'];
  const [wrong] = outlineProblems(shape.corners);
  if (wrong) {
    const at = wrong.corner === null ? path : [...path, wrong.corner];
    return [{ path: at, message: wrong.message }];
  }
  const box = boxAround(shape.corners);
  if (!box) return [];
  if (Math.abs(box.minX) > BOX_M || Math.abs(box.minY) > BOX_M) {
    const message = `the box around the corners begins at ${metres(box.minX)}, ${metres(box.minY)}; allowed: at 0, 0, as corners are measured from its left front corner`;
    return [{ path, message }];
  }
  const problems: HallProblem[] = [];
  const size = (name: 'widthM' | 'depthM', is: number | null, around: number): void => {
    if (is !== null && Math.abs(is - around) <= BOX_M) return;
    const word = name === 'widthM' ? 'wide' : 'deep';
    problems.push({
      path: [name],
      message: `allowed: ${metres(around)}, as ${word} as the box around the corners`,
    });
  };
  size('widthM', widthM, box.maxX);
  size('depthM', depthM, box.maxY);
  return problems;
}

function ceilingProblems({ ceiling, widthM, depthM, heightM }: HallFigures): HallProblem[] {
  if (ceiling.kind === 'flat') return [];
  if (heightM === null) {
    const message = 'allowed: a height, as the ceiling is not flat';
    return [{ path: ['heightM'], message }];
  }
  if (ceiling.kind === 'stepped') {
    return ceiling.steps.flatMap((step, i): HallProblem[] => {
      if (step.heightM <= heightM) return [];
      const message = `allowed: up to ${metres(heightM)}, the height of the hall at its highest`;
      return [{ path: ['ceiling', 'steps', i, 'heightM'], message }];
    });
  }
  const problems: HallProblem[] = [];
  if (ceiling.eavesM > heightM - LEAST_PITCH_M) {
    const message = `allowed: up to ${metres(heightM - LEAST_PITCH_M)}, below the ridge`;
    problems.push({ path: ['ceiling', 'eavesM'], message });
  }
  const across = ceiling.ridge === 'along' ? widthM : depthM;
  if (ceiling.ridgeAtM !== null && across !== null && ceiling.ridgeAtM > across) {
    const message = `allowed: 0 to ${metres(across)}, within the hall`;
    problems.push({ path: ['ceiling', 'ridgeAtM'], message });
  }
  return problems;
}

/** What of a hall does not fit together: its field, and what is allowed. */
export const hallProblems = (hall: HallFigures): HallProblem[] => [
  ...shapeProblems(hall),
  ...ceilingProblems(hall),
];
