/** It holds below this, and lets go in that many s. */
const MOST = 0.89;
const LET_GO_S = 0.25;

/** Holds peaks below full scale: a block late, so that it knows what is coming and never steps. */
export class Limiter {
  private readonly late: readonly [Float32Array, Float32Array];
  private gain = 1;
  /** what the block that is still to go is allowed at most */
  private allowed = 1;

  /**
   * @param block frames that come at a time
   * @param sampleRateHz 8000 … 192000 Hz
   */
  constructor(
    private readonly block: number,
    private readonly sampleRateHz: number,
  ) {
    this.late = [new Float32Array(block), new Float32Array(block)];
  }

  /** Silence follows. */
  forget(): void {
    for (const samples of this.late) samples.fill(0);
  }

  /**
   * Takes a block in, and gives the one before it out.
   * @returns peaks of what came in as it will be let through, and the gain, 0 … 1
   */
  next(
    [nextLeft, nextRight]: readonly [Float64Array, Float64Array],
    left: Float32Array,
    right: Float32Array,
  ): { peaks: [number, number]; gain: number } {
    let [peakLeft, peakRight] = [0, 0];
    for (let i = 0; i < this.block; i++) {
      peakLeft = Math.max(peakLeft, Math.abs(nextLeft[i] as number));
      peakRight = Math.max(peakRight, Math.abs(nextRight[i] as number));
    }
    const peak = Math.max(peakLeft, peakRight);
    const held = this.gain;
    const freed = Math.min(1, held + this.block / this.sampleRateHz / LET_GO_S);
    // Ends low enough for what comes, and is never higher than what goes is allowed.
    const goal = Math.min(freed, peak > MOST ? MOST / peak : 1);
    const [l, r] = this.late;
    for (let i = 0; i < this.block; i++) {
      const gain = Math.min(held + ((goal - held) * (i + 1)) / this.block, this.allowed);
      left[i] = (l[i] as number) * gain;
      right[i] = (r[i] as number) * gain;
      l[i] = nextLeft[i] as number;
      r[i] = nextRight[i] as number;
    }
    this.allowed = peak > MOST ? MOST / peak : 1;
    this.gain = goal;
    return { peaks: [peakLeft * goal, peakRight * goal], gain: goal };
  }
}
