/** Two loudspeakers at a head: sum and difference, each through a filter of its own. */
export class HeadFilter {
  private readonly sum: Float64Array;
  private readonly difference: Float64Array;
  private readonly taps: number;
  private readonly past: [Float64Array, Float64Array];

  constructor([near, far]: readonly [Float32Array, Float32Array], block: number) {
    this.taps = near.length;
    this.sum = Float64Array.from(near, (value, i) => value + (far[i] as number));
    this.difference = Float64Array.from(near, (value, i) => value - (far[i] as number));
    this.past = [new Float64Array(this.taps + block), new Float64Array(this.taps + block)];
  }

  blend(left: Float64Array, right: Float64Array, [from, to]: readonly [number, number]): void {
    const { taps, past } = this;
    const block = left.length;
    const [sums, differences] = past;
    sums.copyWithin(0, block);
    differences.copyWithin(0, block);
    for (let i = 0; i < block; i++) {
      sums[taps + i] = ((left[i] as number) + (right[i] as number)) / 2;
      differences[taps + i] = ((left[i] as number) - (right[i] as number)) / 2;
    }
    for (let i = 0; i < block; i++) {
      let [sum, difference] = [0, 0];
      for (let k = 0, at = taps + i; k < taps; k++, at--) {
        sum += (this.sum[k] as number) * (sums[at] as number);
        difference += (this.difference[k] as number) * (differences[at] as number);
      }
      const share = from + ((to - from) * i) / block;
      left[i] = (left[i] as number) + share * (sum + difference - (left[i] as number));
      right[i] = (right[i] as number) + share * (sum - difference - (right[i] as number));
    }
  }
}
