/** Goes from one value to another in a time. */
export class Ramp {
  from: number;

  constructor(public to: number) {
    this.from = to;
  }

  /** @returns values at the beginning and at the end of the next stretch */
  next(goal: number, most: number): readonly [number, number] {
    this.from = this.to;
    this.to = goal > this.to ? Math.min(goal, this.to + most) : Math.max(goal, this.to - most);
    return [this.from, this.to];
  }
}
