import { CAPSULE, POINT, type Pose } from './pose';

/** How quickly what is heard follows the hand, 1/s, and how fast anything slides at most, m/s. */
const OMEGA = 200;
const FASTEST = 8;
/** A greater step is a jump: another place, not a way there, m. */
const JUMP_M = 0.3;
/** Poses are heard so much later than they were sent, so that they can be joined without gaps, s. */
export const LATER_S = 0.025;
/** After a rest the way to a pose begins so long before it, s. */
const BEFORE_S = 0.016;
const REST_S = 0.06;
/** A face that comes into sight answers fully after so long, s. */
const OPEN_S = 0.03;
/** Closer than this is arrived, m and amplitudes. */
const ARRIVED = 1e-7;

interface Stamped {
  timeS: number;
  pose: Pose;
}

const copied = (pose: Pose): Pose => ({
  ...pose,
  points: pose.points.slice(),
  capsules: pose.capsules.slice(),
  seen: pose.seen?.slice() ?? null,
});

function farthest(a: Float64Array, b: Float64Array, each: number): number {
  let most = 0;
  for (let i = 0; i < a.length; i += each) {
    let square = 0;
    for (let axis = 0; axis < 3; axis++) {
      const off = (a[i + axis] as number) - (b[i + axis] as number);
      square += off * off;
    }
    most = Math.max(most, square);
  }
  return Math.sqrt(most);
}

/** Whether two poses are of as many points and capsules. */
export const alike = (a: Pose, b: Pose): boolean =>
  a.points.length === b.points.length && a.capsules.length === b.capsules.length;

/** Goes after a target, critically damped. */
class Chaser {
  private readonly velocity: Float64Array;

  constructor(
    readonly now: Float64Array,
    private readonly each: number,
  ) {
    this.velocity = new Float64Array(now.length);
  }

  /** @returns the greatest distance that is left */
  towards(target: Float64Array, seconds: number): number {
    const fade = Math.exp(-OMEGA * seconds);
    const most = FASTEST * seconds;
    let left = 0;
    for (let i = 0; i < this.now.length; i++) {
      const goal = target[i] as number;
      const off = (this.now[i] as number) - goal;
      const speed = this.velocity[i] as number;
      if (off === 0 && speed === 0) continue;
      const push = (speed + OMEGA * off) * seconds;
      let next = goal + (off + push) * fade;
      let after = (speed - OMEGA * push) * fade;
      const step = next - (this.now[i] as number);
      if (i % this.each < 3 && Math.abs(step) > most) {
        next = (this.now[i] as number) + Math.sign(step) * most;
        after = Math.sign(step) * FASTEST;
      }
      const arrived = Math.abs(next - goal) < ARRIVED && Math.abs(after) < ARRIVED * OMEGA;
      this.now[i] = arrived ? goal : next;
      this.velocity[i] = arrived ? 0 : after;
      left = Math.max(left, arrived ? 0 : Math.abs(next - goal) + Math.abs(after) / OMEGA);
    }
    return left;
  }
}

/** What is heard of poses that come in with their times: joined, damped, and never a step. */
export class Follower {
  private readonly points: Chaser;
  private readonly capsules: Chaser;
  private readonly coming: Stamped[] = [];
  private target: Pose;
  /** where everything is heard now */
  readonly heard: Pose;
  moving = false;

  constructor(pose: Pose) {
    this.target = pose;
    this.heard = copied(pose);
    this.points = new Chaser(this.heard.points, POINT);
    this.capsules = new Chaser(this.heard.capsules, CAPSULE);
  }

  /** The latest pose that is known, heard or not. */
  get last(): Pose {
    return this.coming[this.coming.length - 1]?.pose ?? this.target;
  }

  /** Whether a pose is too far from the last one to be a way there. */
  jumpsTo(pose: Pose): boolean {
    const { last } = this;
    return (
      !alike(last, pose) ||
      farthest(last.points, pose.points, POINT) > JUMP_M ||
      farthest(last.capsules, pose.capsules, CAPSULE) > JUMP_M
    );
  }

  /** @param timeS when it was so, on the clock of the sound */
  add(pose: Pose, timeS: number): void {
    const before = this.coming[this.coming.length - 1];
    if (before && timeS <= before.timeS) {
      // Two at one time, or clocks that were set: the later one counts.
      before.pose = pose;
      return;
    }
    if (!before || timeS - before.timeS > REST_S) {
      this.coming.push({ timeS: timeS - BEFORE_S, pose: this.last });
    }
    this.coming.push({ timeS, pose });
    this.moving = true;
  }

  /** Goes on by so many seconds to a time. */
  advance(timeS: number, seconds: number): void {
    if (!this.moving) return;
    const goal = this.goalAt(timeS - LATER_S);
    this.heard.room = goal.room;
    this.heard.planes = goal.planes ?? null;
    this.heard.speed = goal.speed;
    const left = Math.max(
      this.points.towards(goal.points, seconds),
      this.capsules.towards(goal.capsules, seconds),
    );
    const opening = this.open(goal.seen ?? null, seconds);
    this.moving = left > 0 || opening || this.coming.length > 0;
  }

  /** What comes into sight of a face, or goes out of it, does so gradually. @returns whether it still does */
  private open(goal: Float64Array | null, seconds: number): boolean {
    const { seen } = this.heard;
    if (!goal || seen?.length !== goal.length) {
      this.heard.seen = goal?.slice() ?? null;
      return false;
    }
    const step = seconds / OPEN_S;
    let opening = false;
    for (let i = 0; i < goal.length; i++) {
      const off = (goal[i] as number) - (seen[i] as number);
      if (off === 0) continue;
      seen[i] =
        Math.abs(off) <= step ? (goal[i] as number) : (seen[i] as number) + Math.sign(off) * step;
      opening ||= Math.abs(off) > step;
    }
    return opening;
  }

  private goalAt(timeS: number): Pose {
    while (this.coming[0] && this.coming[0].timeS <= timeS) {
      const next = this.coming[1];
      if (next && next.timeS > timeS) {
        const share = (timeS - this.coming[0].timeS) / (next.timeS - this.coming[0].timeS);
        return between(this.coming[0].pose, next.pose, share);
      }
      this.target = (this.coming.shift() as Stamped).pose;
    }
    return this.target;
  }
}

function between(a: Pose, b: Pose, share: number): Pose {
  const mixed = (x: Float64Array, y: Float64Array): Float64Array =>
    x.map((value, i) => value + share * ((y[i] as number) - value));
  return {
    ...b,
    points: mixed(a.points, b.points),
    capsules: mixed(a.capsules, b.capsules),
  };
}
