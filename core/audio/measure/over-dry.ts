import { quantile } from 'd3-array';
import type { Sound } from '../sound';
import { walked, type Work } from '../work';
import type { FrameRange } from './curves';
import { channelWeights, LoudnessMeter } from './loudness';

/** Loudness over time, LUFS of the last 0.4 s at every 0.1 s. */
export interface LoudnessOverTime {
  stepS: number;
  /** of the first value, s from the beginning of the recording */
  fromS: number;
  /** null where it is below −70 LUFS */
  values: (number | null)[];
}

const STEP_S = 0.1;
/** 0.4 s are known at their end. */
const FIRST_S = 0.4;
const SILENCE = -70;

/**
 * Momentary loudness of a stretch, step by step.
 * Source: ITU-R BS.1770-4.
 * @param range frames, 0 … the recording's
 * @throws Cancelled where it was given up
 */
export async function loudnessOverTime(
  sound: Sound,
  range: FrameRange,
  work: Partial<Work> = {},
): Promise<LoudnessOverTime> {
  const { format, channelNames, channelMask } = sound.info;
  const { sampleRateHz } = format;
  const meter = new LoudnessMeter(channelWeights(channelNames, channelMask), sampleRateHz);
  for await (const { planes, frames } of walked(sound, range, work)) meter.add(planes, frames);
  return {
    stepS: STEP_S,
    fromS: range.from / sampleRateHz + FIRST_S,
    values: meter.momentary().map((value) => (value > SILENCE ? value : null)),
  };
}

/** A passage in which a processed recording is farther from its dry one than is wanted. */
export interface Beyond {
  fromS: number;
  toS: number;
  /** the farthest, dB */
  db: number;
}

/** A processed recording against its dry one. */
export interface OverDry {
  stepS: number;
  fromS: number;
  /** of the processed against the dry, dB; null where either is silent */
  db: (number | null)[];
  /** half of the time above, half below, dB; null where nothing can be compared */
  middleDb: number | null;
  /** one step of ten is below the first, one above the second */
  spreadDb: [low: number, high: number] | null;
  /** the farthest first */
  beyond: Beyond[];
}

const MOST_PASSAGES = 20;

/**
 * Level of a processed recording against its dry one, over the time of the processed one.
 * @param laterS by which the processed one begins later than the dry one, s
 * @param mostDb farther than this is named, 0 … 60 dB
 */
export function overDry(
  dry: LoudnessOverTime,
  processed: LoudnessOverTime,
  laterS: number,
  mostDb: number,
): OverDry {
  const db = processed.values.map((value, i) => {
    const atS = processed.fromS + i * processed.stepS + laterS;
    const other = dry.values[Math.round((atS - dry.fromS) / dry.stepS)] ?? null;
    return value === null || other === null ? null : value - other;
  });
  const told = db.flatMap((value) => value ?? []);
  const passages: Beyond[] = [];
  let open: Beyond | null = null;
  db.forEach((value, i) => {
    const far = value !== null && Math.abs(value) > mostDb;
    if (!far) {
      open = null;
      return;
    }
    const toS = processed.fromS + i * processed.stepS;
    // On the other side it is another passage.
    if (open && Math.sign(open.db) === Math.sign(value)) {
      open.toS = toS;
      if (Math.abs(value) > Math.abs(open.db)) open.db = value;
      return;
    }
    open = { fromS: Math.max(0, toS - FIRST_S), toS, db: value };
    passages.push(open);
  });
  const [low, middle, high] = [0.1, 0.5, 0.9].map((share) => quantile(told, share));
  return {
    stepS: processed.stepS,
    fromS: processed.fromS,
    db,
    middleDb: middle ?? null,
    spreadDb: low === undefined || high === undefined ? null : [low, high],
    beyond: passages.sort((a, b) => Math.abs(b.db) - Math.abs(a.db)).slice(0, MOST_PASSAGES),
  };
}
