import { reachedBetween } from '../units/numbers';
import { unfilledCues, type Cues } from './cues';
import type { WeighedEvents } from './events';
import type { LocalisationModel } from './models/model';
import { marginOf } from './placed';
import type { PreparedArray } from './prepared-array';

/**
 * Cues at a source angle off the aim; null where there is no figure.
 * @param into where they may be written, instead of making them anew
 */
export type CuesAtAngle = (azimuthDeg: number, into?: Cues) => Cues | null;

export const STEP_DEG = 1;
const LIMIT_DEG = 180;
export const LAST_STEP = LIMIT_DEG / STEP_DEG;
const TOLERANCE_DEG = 1e-8;

/** What is known of a step. */
const [UNSEEN, IMAGE, NO_IMAGE] = [0, 1, 2];
/** Sides are looked at one after the other, so that all of them write into the same lists. */
const SEEN = new Uint8Array(LAST_STEP + 1);
const ICLD_DB = new Float64Array(LAST_STEP + 1);
const ICTD_MS = new Float64Array(LAST_STEP + 1);
const NOTHING: readonly number[] = [];

/** Whether a pair hears what is behind as what is in front: two omnis, side by side. */
const hearsBothWays = ({ plainPair, capsules }: PreparedArray): boolean =>
  plainPair && capsules.every(({ patternA }) => patternA === 1);

/**
 * One side of an array at every whole step outward, each computed once and only when asked for:
 * its cues, kept as plain numbers, and the places that they are worth in every model of the scan.
 * It holds until the next side is begun.
 */
export class Side {
  private readonly seen = SEEN.fill(UNSEEN);
  private readonly icldDb = ICLD_DB;
  private readonly ictdMs = ICTD_MS;
  private readonly weighed: (WeighedEvents | undefined)[] = [];
  private readonly placesKnown: (readonly number[] | undefined)[] = [];
  private readonly scratch = unfilledCues();

  /** Nowhere before this step are the cues' shares so much. */
  private reaching = { share: 0, step: 0 };
  readonly lastStep: number;
  /** One wave a channel, so never several events. */
  readonly isPlain: boolean;

  /** @param array whose side it is, where that is known: a plain pair's is looked at faster */
  constructor(
    private readonly cuesAt: CuesAtAngle,
    private readonly sign: 1 | -1,
    readonly models: readonly LocalisationModel[],
    private readonly placesAt: (cues: Cues) => readonly number[],
    array: PreparedArray | null = null,
  ) {
    this.isPlain = array?.plainPair ?? false;
    this.lastStep = array && hearsBothWays(array) ? LAST_STEP / 2 : LAST_STEP;
  }

  /** Whether there is an image at a step. */
  hasImage(step: number): boolean {
    const seen = this.seen[step];
    if (seen !== UNSEEN) return seen === IMAGE;
    const here = this.cuesAt(step * STEP_DEG * this.sign, this.scratch);
    // A null on the way is the loudspeaker itself: beyond it the image only comes back.
    const image = here !== null && !here.opposed;
    this.seen[step] = image ? IMAGE : NO_IMAGE;
    if (here?.events) this.weighed[step] = here.events;
    if (!image) return false;
    this.icldDb[step] = here.icldDb;
    this.ictdMs[step] = here.ictdMs;
    return true;
  }

  /** Whether what is heard at a step are several events. */
  byEvents(step: number): boolean {
    if (this.isPlain) return false;
    this.hasImage(step);
    return this.weighed[step] !== undefined;
  }

  /**
   * The first step from one on at which an image may be as wide as where the cues' shares are so
   * much, or is lost.
   */
  firstPerhapsWide(share: number, from: number): number {
    const { reaching, lastStep } = this;
    const onward = share >= reaching.share && reaching.step >= from;
    let step = onward ? reaching.step : from;
    while (step <= lastStep && this.isNarrower(step, share)) step += 1;
    if (onward || from <= 1) this.reaching = { share, step };
    return step;
  }

  private isNarrower(step: number, share: number): boolean {
    if (!this.hasImage(step) || this.weighed[step]) return false;
    const [icldDb, ictdMs] = [this.icldDb[step] ?? 0, this.ictdMs[step] ?? 0];
    return Math.abs(icldDb) / 15 + Math.abs(ictdMs) / 1.12 < share;
  }

  /** Whether level and time pull to different sides. */
  isOpposed(step: number): boolean {
    return (this.icldDb[step] ?? 0) * (this.ictdMs[step] ?? 0) < 0;
  }

  /** A model's margin at a step; null where there is no image. */
  margin(step: number, model: LocalisationModel, level: number): number | null {
    if (!this.hasImage(step)) return null;
    const { scratch } = this;
    const events = this.weighed[step];
    if (events) return marginOf({ icldDb: 0, ictdMs: 0, events }, model, level);
    scratch.icldDb = this.icldDb[step] ?? 0;
    scratch.ictdMs = this.ictdMs[step] ?? 0;
    return marginOf(scratch, model, level);
  }

  /** Where a model's image first reaches a level between a step and the one inside it, degrees. */
  reached(step: number, model: LocalisationModel, level: number): number | null {
    const { cuesAt, scratch } = this;
    const inner = (step - 1) * STEP_DEG * this.sign;
    const outer = step * STEP_DEG * this.sign;
    const marginAt = (at: number): number | null => {
      if (at === inner) return this.margin(step - 1, model, level);
      if (at === outer) return this.margin(step, model, level);
      const here = cuesAt(at, scratch);
      return here && !here.opposed ? marginOf(here, model, level) : null;
    };
    const angle = reachedBetween(marginAt, inner, outer, TOLERANCE_DEG);
    return angle === null ? null : Math.abs(angle);
  }

  /** Places at a step; empty where there is no image. */
  places(step: number): readonly number[] {
    const before = this.placesKnown[step];
    if (before) return before;
    if (!this.hasImage(step)) return (this.placesKnown[step] = NOTHING);
    const { scratch } = this;
    const events = this.weighed[step];
    scratch.icldDb = this.icldDb[step] ?? 0;
    scratch.ictdMs = this.ictdMs[step] ?? 0;
    const places = this.placesAt(events ? { ...scratch, events } : scratch);
    return (this.placesKnown[step] = places);
  }
}
