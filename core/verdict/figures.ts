import { mean } from 'd3-array';
import type { OctaveDecay } from '../audio/measure/decay';
import { speakingModel } from '../localisation/leading';
import type { MicArray, Session } from '../session/schema';
import { dbToAmplitude } from '../units/guard';
import { clamp } from '../units/numbers';
import type { Freedom } from './fit';
import type { MeasuredAt } from './measured';
import { cuesAt, type Cue, type Place, type Stand } from './stand';
import { usualFreedoms } from './usual';

/** Whether a figure is as planned. */
export type Agreement = 'agrees' | 'departs' | 'cannot be told';

/** One figure as planned and as measured. */
export interface Figure {
  what:
    | 'image'
    | 'delay'
    | 'level'
    | 'polarity'
    | 'direct'
    | 'headroom'
    | 'balance'
    | 'decay'
    | 'correlation';
  /** who was alone; of the room: empty */
  placeId: string;
  placeName: string;
  /** the array whose image it is, the channel that it is of, the octave */
  of: string;
  /** of an image −1 left … 1 right; ms; dB; 1 or −1; s; −1 … 1 */
  planned: number;
  measured: number;
  /** one standard deviation of measuring and of what the plan does not know in detail */
  within: number;
  agreement: Agreement;
  /** of what departs: is that usual of a rig set by tape? */
  usual: boolean;
}

const OF_ROOM: readonly Figure['what'][] = [
  'decay',
  'correlation',
  'direct',
  'headroom',
  'balance',
];

/** Whether a figure is of the room, or of how loud they play, rather than of how the rig stands. */
export const isOfRoom = ({ what }: Pick<Figure, 'what'>): boolean => OF_ROOM.includes(what);

/** Large enough to matter: images, delays in a pair and elsewhere in ms, levels in dB, of a decay. */
const MATTERS = { image: 0.02, pairMs: 0.01, ms: 0.05, db: 0.5, decay: 0.1 } as const;
/** So many deviations are beyond chance, for one figure of many. */
const BEYOND = 2.5;
/** Where the uncertainty is so many times what matters, an agreement says nothing. */
const COARSE = 8;

/**
 * Whether a difference matters and is beyond what is not certain.
 * @param within one standard deviation in the unit of the difference (ms, dB, s or none), 0 … 1000
 * @param matters in the same unit, 0 … 1000
 */
export function agreementOf(difference: number, within: number, matters: number): Agreement {
  const size = Math.abs(difference);
  if (size > Math.max(BEYOND * within, matters)) return 'departs';
  return BEYOND * within > COARSE * matters ? 'cannot be told' : 'agrees';
}

/** Where an array puts what its two channels say, −1 … 1; null of other arrays. */
function imageOf(session: Session, array: MicArray, cue: Cue): number | null {
  const { technique } = array;
  const { settings } = session;
  if (technique.kind === 'pair') {
    if (cue.polarity === -1) return null;
    const coincident = technique.spacingM === 0;
    // Later on the right is earlier on the left.
    return clamp(speakingModel(settings, coincident).shift(cue.levelDb, -cue.delayMs), -1, 1);
  }
  if (technique.kind !== 'mid-side') return null;
  const side = cue.polarity * dbToAmplitude(cue.levelDb + technique.sideGainDb);
  const [left, right] = [1 + side, 1 - side];
  if (left <= 0 || right <= 0) return null;
  return clamp(speakingModel(settings, true).shift(20 * Math.log10(right / left), 0), -1, 1);
}

/** What some freedoms at their usual sizes make of a figure, a standard deviation. */
function spreadBy(
  stand: Stand,
  place: number,
  freedoms: readonly Freedom[],
  figure: (cues: readonly (Cue | null)[]) => number | null,
): number {
  const at = (so: Stand): number | null => {
    const where = so.places[place];
    return where ? figure(cuesAt(so, where)) : null;
  };
  const here = at(stand);
  return Math.sqrt(
    freedoms.reduce((sum, { usual, apply, place: only }) => {
      if (only !== undefined && only !== place) return sum;
      const moved = at(apply(stand, usual));
      return here === null || moved === null ? sum : sum + (moved - here) ** 2;
    }, 0),
  );
}

interface Read {
  what: Figure['what'];
  of: string;
  measured: number;
  /** of measuring alone */
  within: number;
  matters: number;
  figure: (cues: readonly (Cue | null)[]) => number | null;
}

/** What is read of one place. */
function readsAt(session: Session, stand: Stand, measured: MeasuredAt): Read[] {
  const [first] = stand.channels;
  const main = stand.arrays.find(({ id }) => id === first?.arrayId);
  return measured.flatMap((cue, k): Read[] => {
    const channel = stand.channels[k + 1];
    if (!cue || !channel) return [];
    const together = channel.arrayId === first?.arrayId;
    const of = channel.name;
    const reads: Read[] = [
      {
        what: 'delay',
        of,
        measured: cue.delayMs,
        within: cue.delayWithinMs,
        matters: together ? MATTERS.pairMs : MATTERS.ms,
        figure: (cues) => cues[k]?.delayMs ?? null,
      },
    ];
    const { levelWithinDb } = cue;
    if (!together || levelWithinDb === null || !main) return reads;
    reads.push({
      what: 'level',
      of,
      measured: cue.levelDb,
      within: levelWithinDb,
      matters: MATTERS.db,
      figure: (cues) => cues[k]?.levelDb ?? null,
    });
    const place = imageOf(session, main, cue);
    if (place === null) return reads;
    const off = (change: Partial<Cue>): number =>
      (imageOf(session, main, { ...cue, ...change }) ?? place) - place;
    reads.unshift({
      what: 'image',
      of: main.name,
      measured: place,
      within: Math.hypot(
        off({ levelDb: cue.levelDb + levelWithinDb }),
        off({ delayMs: cue.delayMs + cue.delayWithinMs }),
      ),
      matters: MATTERS.image,
      figure: (cues) => {
        const planned = cues[k];
        return planned ? imageOf(session, main, planned) : null;
      },
    });
    return reads;
  });
}

/**
 * Every figure of every place, as planned and as measured, images first.
 * @param measured by place, in the order of the stand's places
 */
export function figuresOf(
  session: Session,
  planned: Stand,
  measured: readonly MeasuredAt[],
): Figure[] {
  const all = usualFreedoms(session, planned);
  const details = all.filter(({ place }) => place !== undefined);
  const byTape = all.filter(({ place }) => place === undefined);
  return measured.flatMap((at, place) => {
    const where = planned.places[place];
    if (!where) return [];
    const cues = cuesAt(planned, where);
    return readsAt(session, planned, at).flatMap((read): Figure[] => {
      const expected = read.figure(cues);
      if (expected === null) return [];
      const within = Math.hypot(read.within, spreadBy(planned, place, details, read.figure));
      const tape = spreadBy(planned, place, byTape, read.figure);
      const difference = read.measured - expected;
      return [
        {
          what: read.what,
          placeId: where.id,
          placeName: where.name,
          of: read.of,
          planned: expected,
          measured: read.measured,
          within,
          agreement: agreementOf(difference, within, read.matters),
          usual: Math.abs(difference) <= 2 * Math.hypot(within, tape),
        },
      ];
    });
  });
}

/** The reverberation time of a plan in an octave, s; null where it is not known. */
function plannedDecay(time: Session['venue']['rt60S'], hz: number): number | null {
  if (time === null || typeof time === 'number') return time;
  return (time as Readonly<Record<string, number | undefined>>)[String(hz)] ?? null;
}

/** The room by octave, of the mean of the channels. @param decays by channel */
export function roomFigures(
  { venue }: Pick<Session, 'venue'>,
  decays: readonly (readonly OctaveDecay[])[],
): Figure[] {
  const octaves = [...new Set(decays.flatMap((list) => list.map(({ hz }) => hz)))];
  return octaves.flatMap((hz): Figure[] => {
    const planned = plannedDecay(venue.rt60S, hz);
    const read = decays.flatMap((list) => {
      const octave = list.find((one) => one.hz === hz);
      return octave?.t30 ?? octave?.t20 ?? [];
    });
    const measured = mean(read, ({ seconds }) => seconds);
    if (planned === null || measured === undefined) return [];
    // What one decay is off by, all channels are: they hear the same ones.
    const within = mean(read, ({ uncertaintyS }) => uncertaintyS) ?? 0;
    return [
      {
        what: 'decay',
        placeId: '',
        placeName: '',
        of: `${hz} Hz`,
        planned,
        measured,
        within,
        agreement: agreementOf(measured - planned, within, MATTERS.decay * planned),
        usual: false,
      },
    ];
  });
}

/** Where sound came from: players as they are planned. */
export const placesOf = ({ sources }: Pick<Session, 'sources'>, taped: boolean): Place[] =>
  sources.map(({ id, name, x, y, z }) => ({ id, name, x, y, z, taped }));
