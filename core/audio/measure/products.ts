/** What two channels have of each other in one stretch: their own powers and their product, means of a sample. */
export interface Products {
  xx: number;
  yy: number;
  xy: number;
}

/** Products of two channels, stretch by stretch of one length; what is left at the end is no stretch. */
export class ProductMeter {
  private filled = 0;
  private xx = 0;
  private yy = 0;
  private xy = 0;

  /** @param stretch samples, 1 and more */
  constructor(
    private readonly stretch: number,
    private readonly told: (products: Products) => void,
  ) {}

  add(first: Float32Array, second: Float32Array, frames: number): void {
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.stretch - this.filled);
      let [xx, yy, xy] = [0, 0, 0];
      for (let i = from; i < to; i++) {
        const x = first[i] as number;
        const y = second[i] as number;
        xx += x * x;
        yy += y * y;
        xy += x * y;
      }
      this.xx += xx;
      this.yy += yy;
      this.xy += xy;
      this.filled += to - from;
      from = to;
      if (this.filled < this.stretch) continue;
      const { stretch } = this;
      this.told({ xx: this.xx / stretch, yy: this.yy / stretch, xy: this.xy / stretch });
      this.xx = this.yy = this.xy = this.filled = 0;
    }
  }
}

/** Likeness, −1 … 1; null where one is below a power. */
export function likeness({ xx, yy, xy }: Products, silent: number): number | null {
  return xx > silent && yy > silent ? xy / Math.sqrt(xx * yy) : null;
}
