import { plainEngine, type SpectraEngine } from '../signal/spectra';
import type { Planes } from '../wav/decode';
import { BandMeter } from './bands';
import { DelayMeter, judgedDelay, type ChannelDelay } from './delay';

/** A track that should be the side copied and turned over, against the side. */
export interface SideCopy extends ChannelDelay {
  /** is it one? Silent and unrelated ones are not; a late or loud one is a faulty one */
  is: 'a copy' | 'silent' | 'not a copy';
  /** what both leave in mono, against one of them by third octave, dB; null without sound there */
  leftInMono: { hz: number; db: number | null }[];
  /** of all of it, dB */
  leftInMonoDb: number | null;
  /** what is wrong with it, in words; empty where nothing is */
  faults: string[];
}

/** What the tracks of a mid-side recording say. */
export interface MidSideAudit {
  /** of the side against the mid, dB; null where one is silent */
  sideDb: number | null;
  /** of mid and side, −1 … 1: away from 0 the stage leans to one side */
  correlation: number | null;
  /** of left and right after decoding at equal levels */
  decodedCorrelation: number | null;
  /** of left against right after decoding, dB */
  leftAgainstRightDb: number | null;
  /** what the tracks are like, by level and likeness alone; null where that cannot be told */
  like: 'mid and side' | 'left and right' | null;
  copy: SideCopy | null;
}

/** A copy may be off by so much before it is said. */
const GAIN_DB = 0.05;
const LATE_SAMPLES = 0.05;
/** Left and right are about equally loud and alike; a mid and its side are neither. */
const EQUAL_DB = 3;
const ALIKE = 0.4;
/** A copy may be this late, ms; beyond it is not looked for. */
const MOST_LATE_MS = 200;
/** A copy agrees in this much of its spectrum, whatever its delay; another microphone does not. */
const COPY = 0.5;
const SILENT = 1e-18;

/** Mid, side and perhaps the side's copy, block by block. */
export class MidSideMeter {
  private readonly bands: BandMeter | null;
  private readonly delay: DelayMeter | null;
  private mm = 0;
  private ss = 0;
  private ms = 0;
  private copied = 0;
  private left = 0;
  private frames = 0;

  /**
   * @param sampleRateHz 8000 … 384000 Hz
   * @param withCopy is there a third track, the side turned over?
   */
  constructor(
    private readonly sampleRateHz: number,
    withCopy: boolean,
    engine: SpectraEngine = plainEngine,
  ) {
    this.bands = withCopy ? new BandMeter(2, sampleRateHz, engine) : null;
    this.delay = withCopy ? new DelayMeter([[0, 1]], sampleRateHz, MOST_LATE_MS, engine) : null;
  }

  /** @param planes mid, side and, where there is one, the copy */
  add([mid, side, copy]: Planes, frames: number): void {
    if (!mid || !side) return;
    this.frames += frames;
    for (let i = 0; i < frames; i++) {
      const m = mid[i] as number;
      const s = side[i] as number;
      this.mm += m * m;
      this.ss += s * s;
      this.ms += m * s;
    }
    if (!copy) return;
    for (let i = 0; i < frames; i++) {
      this.copied += (copy[i] as number) ** 2;
      this.left += ((side[i] as number) + (copy[i] as number)) ** 2;
    }
    this.bands?.add([side, copy], frames);
    this.delay?.add([side, copy], frames);
  }

  private copy(): SideCopy | null {
    if (!this.delay || !this.bands) return null;
    const bands = this.bands.result();
    // Against one of both rather than their sum.
    const both = 10 * Math.log10((this.ss + this.copied) / this.ss);
    const left = {
      leftInMono: bands.monoLoss.map(({ hz, db }) => ({ hz, db: db === null ? null : db + both })),
      leftInMonoDb: 10 * Math.log10(Math.max(1e-15, this.left / this.ss)),
    };
    const [found] = this.delay.found();
    if (!found) return { ...NO_COPY, ...left, is: 'silent', faults: ['the copy is silent'] };
    const said = judgedDelay(found);
    const { delayMs, polarity } = said;
    if (delayMs === null || said.certainty < COPY) {
      const faults = [
        `the third track is no copy of the side: they agree in ${Math.round(said.certainty * 100)} % of the spectrum at most, whatever the delay up to ${MOST_LATE_MS} ms`,
      ];
      return { ...said, ...left, delayMs: null, polarity: null, is: 'not a copy', faults };
    }
    const late = (delayMs / 1000) * this.sampleRateHz;
    const faults: string[] = [];
    if (polarity === 1) faults.push('the copy is not turned over: both sides add in mono');
    if (Math.abs(late) > LATE_SAMPLES) {
      faults.push(
        `the copy is ${Math.abs(late).toFixed(2)} samples ${late > 0 ? 'late' : 'early'}`,
      );
    }
    if (Math.abs(said.levelDb) > GAIN_DB) {
      faults.push(
        `the copy is ${Math.abs(said.levelDb).toFixed(2)} dB too ${said.levelDb > 0 ? 'loud' : 'soft'}`,
      );
    }
    return { ...said, ...left, is: 'a copy', faults };
  }

  result(): MidSideAudit {
    const { mm, ss, ms } = this;
    const silent = SILENT * Math.max(1, this.frames);
    const heard = mm > silent && ss > silent;
    const [l, r] = [mm + ss + 2 * ms, mm + ss - 2 * ms];
    const sideDb = heard ? 10 * Math.log10(ss / mm) : null;
    const correlation = heard ? ms / Math.sqrt(mm * ss) : null;
    return {
      sideDb,
      correlation,
      decodedCorrelation: heard && l > silent && r > silent ? (mm - ss) / Math.sqrt(l * r) : null,
      leftAgainstRightDb: heard && l > silent && r > silent ? 10 * Math.log10(l / r) : null,
      like: likeOf(sideDb, correlation),
      copy: ss > silent ? this.copy() : null,
    };
  }
}

const LEAST_DB = -150;

/** A track of which nothing can be measured. */
const NO_COPY: ChannelDelay = {
  delayMs: null,
  levelDb: LEAST_DB,
  polarity: null,
  certainty: 0,
  verdict: 'cannot be told',
  orMs: null,
};

/** A raw crossed pair is like left and right as well: whether anything was decoded, signals do not tell. */
function likeOf(sideDb: number | null, correlation: number | null): MidSideAudit['like'] {
  if (sideDb === null || correlation === null) return null;
  if (Math.abs(sideDb) < EQUAL_DB) return correlation > ALIKE ? 'left and right' : null;
  return sideDb < 0 && Math.abs(correlation) < ALIKE ? 'mid and side' : null;
}
