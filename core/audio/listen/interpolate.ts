/**
 * Four points, a polynomial of third order between the middle two: weights of each power at each point.
 * Row k holds the weights of xᵏ.
 */
export type Cubic = Float64Array;

const POINTS = 4;
const ORDERS = 4;

/** Solves a small symmetric system in place, by elimination with pivots. */
function solve(matrix: Float64Array[], right: Float64Array): Float64Array {
  const n = right.length;
  for (let i = 0; i < n; i++) {
    let best = i;
    for (let r = i + 1; r < n; r++) {
      if (Math.abs(matrix[r]?.[i] ?? 0) > Math.abs(matrix[best]?.[i] ?? 0)) best = r;
    }
    const [row, other] = [matrix[best] as Float64Array, matrix[i] as Float64Array];
    [matrix[i], matrix[best]] = [row, other];
    [right[i], right[best]] = [right[best] as number, right[i] as number];
    for (let r = i + 1; r < n; r++) {
      const below = matrix[r] as Float64Array;
      const factor = (below[i] as number) / (row[i] as number);
      for (let c = i; c < n; c++) below[c] = (below[c] as number) - factor * (row[c] as number);
      right[r] = (right[r] as number) - factor * (right[i] as number);
    }
  }
  const out = new Float64Array(n);
  for (let i = n - 1; i >= 0; i--) {
    let sum = right[i] as number;
    for (let c = i + 1; c < n; c++) sum -= (matrix[i]?.[c] ?? 0) * (out[c] as number);
    out[i] = sum / (matrix[i]?.[i] ?? 1);
  }
  return out;
}

/**
 * The cubic that is nearest, in least squares, to a true delay of tones up to an edge.
 * @param edge of the band as a share of the sample rate, 0 … 0.5
 */
function fittedCubic(edge: number): Cubic {
  const n = POINTS * ORDERS;
  const matrix = Array.from({ length: n }, () => new Float64Array(n));
  const right = new Float64Array(n);
  const [tones, places] = [24, 24];
  for (let t = 0; t <= tones; t++) {
    const omega = 2 * Math.PI * edge * (t / tones);
    // Errors in the lowest tones and at the very edge count for more: the middle has room to spare.
    const weight = t < tones * 0.3 || t > tones * 0.85 ? 1.5 : 1;
    for (let p = 0; p <= places; p++) {
      const x = p / places;
      for (const shape of [Math.cos, Math.sin]) {
        const row = new Float64Array(n);
        for (let order = 0; order < ORDERS; order++) {
          for (let point = 0; point < POINTS; point++) {
            row[order * POINTS + point] = x ** order * shape(omega * (point - 1));
          }
        }
        const wanted = shape(omega * x);
        for (let i = 0; i < n; i++) {
          right[i] = (right[i] as number) + weight * (row[i] as number) * wanted;
          const line = matrix[i] as Float64Array;
          for (let j = 0; j < n; j++)
            line[j] = (line[j] as number) + weight * (row[i] as number) * (row[j] as number);
        }
      }
    }
  }
  // A trace of damping: between the lowest tones the points are hardly told apart.
  for (let i = 0; i < n; i++) (matrix[i] as Float64Array)[i]! += 1e-10;
  return solve(matrix, right);
}

/**
 * The four weights at a place between the middle two points.
 * @param x 0 … 1
 */
function cubicWeights(cubic: Cubic, x: number, out: Float64Array): void {
  for (let point = 0; point < POINTS; point++) {
    out[point] =
      (((cubic[3 * POINTS + point] as number) * x + (cubic[2 * POINTS + point] as number)) * x +
        (cubic[POINTS + point] as number)) *
        x +
      (cubic[point] as number);
  }
}

/** Places between two points at which the weights are ready: the nearest is off by less than −85 dB at 8 kHz. */
const PLACES = 4096;

/** The four weights at every place, in turn; the last place is the next point. */
function weightTable(cubic: Cubic): Float32Array {
  const table = new Float32Array(POINTS * (PLACES + 1));
  const weights = new Float64Array(POINTS);
  for (let place = 0; place <= PLACES; place++) {
    cubicWeights(cubic, place / PLACES, weights);
    table.set(weights, POINTS * place);
  }
  return table;
}

/** Samples before and after a loop that repeat its other end. */
const GUARD = 8;

/**
 * A loop with its ends repeated, so that it can be read over them.
 * @param loop samples of one round
 */
export function guarded(loop: Float32Array): Float32Array {
  const out = new Float32Array(loop.length + 2 * GUARD);
  out.set(loop, GUARD);
  for (let i = 0; i < GUARD; i++) {
    out[i] = loop[(loop.length - GUARD + i) % loop.length] as number;
    out[GUARD + loop.length + i] = loop[i % loop.length] as number;
  }
  return out;
}

/** One way on which a loop is heard during a block: delays in samples of the loop and gains at both ends. */
export interface Way {
  delay: number;
  delayEnd: number;
  gain: number;
  gainEnd: number;
}

/** How what lies between samples is read: exactly at rest, from a table on the move. */
export interface Between {
  cubic: Cubic;
  table: Float32Array;
}

/**
 * Both ways to read, true up to an edge.
 * @param edge of the band as a share of the sample rate, 0 … 0.5
 */
export function betweenSamples(edge: number): Between {
  const cubic = fittedCubic(edge);
  return { cubic, table: weightTable(cubic) };
}

const weights = new Float64Array(POINTS);

/**
 * Adds what is heard of a loop over one way to a block, from one delay to another.
 * @param loop with its guard, at a multiple of the block's rate
 * @param rate how many of its samples are one of the block
 * @param frame of the block's first sample from the loop's beginning on, 0 and more
 */
export function addWay(
  out: Float64Array,
  loop: Float32Array,
  { cubic, table }: Between,
  rate: number,
  frame: number,
  { delay, delayEnd, gain, gainEnd }: Way,
): void {
  const frames = out.length;
  const length = loop.length - 2 * GUARD;
  const step = rate - (delayEnd - delay) / frames;
  const gainStep = (gainEnd - gain) / frames;
  let place = (rate * frame - delay) % length;
  if (place < 0) place += length;
  let level = gain;
  if (step === rate && Number.isInteger(rate)) {
    // At rest every sample lies at the same place between its neighbours.
    let at = Math.floor(place);
    cubicWeights(cubic, place - at, weights);
    const [a, b, c, d] = [weights[0], weights[1], weights[2], weights[3]] as [
      number,
      number,
      number,
      number,
    ];
    at += GUARD - 1;
    for (let i = 0; i < frames; i++) {
      out[i] =
        (out[i] as number) +
        level *
          (a * (loop[at] as number) +
            b * (loop[at + 1] as number) +
            c * (loop[at + 2] as number) +
            d * (loop[at + 3] as number));
      level += gainStep;
      at += rate;
      if (at >= length + GUARD - 1) at -= length;
    }
    return;
  }
  for (let i = 0; i < frames; i++) {
    const whole = place | 0;
    const w = (((place - whole) * PLACES + 0.5) | 0) * POINTS;
    const at = whole + GUARD - 1;
    out[i] =
      (out[i] as number) +
      level *
        ((table[w] as number) * (loop[at] as number) +
          (table[w + 1] as number) * (loop[at + 1] as number) +
          (table[w + 2] as number) * (loop[at + 2] as number) +
          (table[w + 3] as number) * (loop[at + 3] as number));
    level += gainStep;
    place += step;
    if (place >= length) place -= length;
    else if (place < 0) place += length;
  }
}
