// Fixed pieces of work of the kinds that are measured, none of them of the product: what a figure is against
// one of them compares between a fast machine and a slow one.

const RUNS = 9;

function median(work: () => void): number {
  const times: number[] = [];
  for (let run = 0; run < RUNS; run++) {
    const { user, system } = process.cpuUsage();
    work();
    const now = process.cpuUsage();
    times.push((now.user + now.system - user - system) / 1000);
  }
  return times.sort((a, b) => a - b)[RUNS >> 1] as number;
}

/** Angles, roots and small objects, as figures are computed. */
function arithmetic(): void {
  let sum = 0;
  for (let i = 1; i <= 400_000; i++) {
    const at = { x: Math.sin(i), y: Math.cos(i / 3) };
    sum += Math.atan2(at.y, at.x) / Math.hypot(at.x, at.y, 1);
  }
  if (!Number.isFinite(sum)) throw new Error('the yardstick is broken');
}

const line = Float32Array.from({ length: 480_000 }, (_, i) => Math.sin(i / 7));

/** Ten seconds of samples through four filters of second order. */
function samples(): void {
  for (let pass = 0; pass < 4; pass++) {
    let [a, b] = [0, 0];
    for (let i = 0; i < line.length; i++) {
      const x = line[i] as number;
      const y = 0.2 * x + a;
      a = 0.1 * x + 0.3 * y + b;
      b = 0.2 * x - 0.4 * y;
      line[i] = y + 0.1 * x;
    }
  }
}

const WORK = { arithmetic, samples } as const;
/** What they took where the figures were last looked at, ms of CPU. */
const LAST_MS = { arithmetic: 36, samples: 5.8 } as const;

/**
 * Measures one of them and says it.
 * @returns ms of CPU
 */
export function yardstick(kind: keyof typeof WORK): number {
  const ms = median(WORK[kind]);
  const share = ms / LAST_MS[kind];
  process.stdout.write(
    `\na fixed piece of work of this kind (${kind}): ${ms.toFixed(1)} ms of CPU, ` +
      `${LAST_MS[kind]} where the figures were last looked at: this machine takes ${share.toFixed(2)} × as long\n`,
  );
  return ms;
}

/**
 * A figure against it: seconds as so many pieces of work, a multiple of real time as pieces for a second.
 * @returns empty where the figure is no time
 */
export function inPieces(figure: string, pieceMs: number): string {
  const found = /^([\d.]+) (s|×)/.exec(figure);
  if (!found) return '';
  const value = Number(found[1]);
  const ms = found[2] === 's' ? 1000 * value : 1000 / value;
  return `${(ms / pieceMs).toPrecision(3)} pieces`;
}
