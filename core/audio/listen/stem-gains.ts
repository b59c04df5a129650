import { Ramp } from './ramp';

/** How loud each stem is, by its id, whichever takes it is in: a take of others changes nobody’s. */
export class StemGains {
  private readonly ramps = new Map<string, Ramp>();
  private goals: ReadonlyMap<string, number> = new Map();
  private atRest = false;
  private now: ReadonlyMap<string, readonly [number, number]> = new Map();

  /** @param gains 0 … 1; a stem that is not named keeps what it has, and has 1 at first */
  set(gains: ReadonlyMap<string, number>): void {
    this.goals = new Map([...this.goals, ...gains]);
    this.atRest = false;
  }

  /** What was set. */
  get wanted(): ReadonlyMap<string, number> {
    return this.goals;
  }

  /** One ramp for each of these stems, and no other. */
  keep(ids: ReadonlySet<string>): void {
    this.atRest = false;
    for (const id of ids) {
      if (!this.ramps.has(id)) this.ramps.set(id, new Ramp(this.goals.get(id) ?? 1));
    }
    for (const id of this.ramps.keys()) if (!ids.has(id)) this.ramps.delete(id);
  }

  /** Goes on by a stretch. @param most that a gain changes in it */
  next(most: number): void {
    // At rest, which is nearly always, nothing is made anew.
    if (this.atRest) return;
    this.atRest = [...this.ramps].every(
      ([id, { from, to }]) => from === to && to === (this.goals.get(id) ?? 1),
    );
    this.now = new Map(
      [...this.ramps].map(([id, ramp]) => [id, ramp.next(this.goals.get(id) ?? 1, most)]),
    );
  }

  /** Gains of these stems at the beginning and at the end of the present stretch. */
  of(ids: readonly string[]): (readonly [number, number])[] {
    return ids.map((id) => this.now.get(id) ?? WHOLE);
  }
}

const WHOLE = [1, 1] as const;
