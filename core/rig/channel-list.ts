import { gainPlan, type GainRow } from '../analysis/gain';
import { channelMap, type Input, type Strip } from '../channels/map';
import { contextOf } from '../prepare/context';
import { placeCapsules } from '../arrays/capsules';
import { forWhomText, playersOf } from '../prepare/for-whom';
import { cosDeg, sinDeg } from '../units/guard';
import { planDistance } from '../units/vector';
import type { Session } from '../session/schema';

/** One strip as the desk and the recorder are set up, with what its input needs. */
export interface ChannelRow extends GainRow {
  /** of the input; the two strips of a side share it */
  number: number;
  name: string;
  polarity: 1 | -1;
  /** −1 … +1 */
  pan: number;
  delayMs: number;
  delaySamples: number;
  /** both channels of a pair lie on one stereo track */
  track: Input['track'];
  /** that it feeds; null where its pan says it */
  loudspeaker: string | null;
  /** whom its array is for */
  forWhom: string;
  /** what of its instrument this channel has: "hi-hat side"; empty where it has no ends */
  side: string;
  /** whose left and right the pan follows */
  perspective: 'audience' | 'performer';
  /** the second strip of its input: nothing more to plug in */
  again: boolean;
}

/** Every strip of the enabled arrays, in the order of their inputs. Mid-side: two inputs, three strips. */
export function channelList(session: Session): ChannelRow[] {
  const { inputs, strips } = channelMap(session);
  const gains = gainPlan(session);
  const { sampleRateHz, perspective } = session.settings;
  const { speed } = contextOf(session);
  const whom = new Map(
    session.arrays.map((array) => [array.id, forWhomText(array, session.sources, speed)]),
  );
  const used = new Set<number>();
  const row = (strip: Strip, input: Input, gain: GainRow): ChannelRow => {
    const again = used.has(input.number);
    used.add(input.number);
    return {
      ...gain,
      number: input.number,
      name: strip.name,
      polarity: strip.polarity,
      pan: strip.pan,
      delayMs: strip.delayMs,
      delaySamples: Math.round((strip.delayMs / 1000) * sampleRateHz),
      track: input.track,
      loudspeaker: input.loudspeaker,
      forWhom: whom.get(input.arrayId) ?? '',
      side: sideOf(session, input),
      perspective,
      again,
    };
  };
  return strips.flatMap((strip) => {
    const [input, gain] = [inputs[strip.input - 1], gains[strip.input - 1]];
    return input && gain ? [row(strip, input, gain)] : [];
  });
}

/** Nearer by less than this to one end than to the other, a microphone has no side, m. */
const SIDE_M = 0.05;

/** Which end of the one wide instrument that its array is for a microphone has: "hi-hat side". */
function sideOf(session: Session, { arrayId, capsule, loudspeaker }: Input): string {
  const array = session.arrays.find(({ id }) => id === arrayId);
  const [own, more] = array ? playersOf(array, session.sources, contextOf(session).speed) : [];
  const position = array && placeCapsules(array)[capsule]?.position;
  if (!array || !own?.ends || more || !position || own.widthM === 0 || loudspeaker === 'C')
    return '';
  // Left as the player sees it is the first end of the width across his facing.
  const [a, b] = [-1, 1].map((sign) => ({
    x: own.x + (sign * cosDeg(own.facingDeg) * own.widthM) / 2,
    y: own.y - (sign * sinDeg(own.facingDeg) * own.widthM) / 2,
  }));
  if (!a || !b) return '';
  const nearer = planDistance(position, b) - planDistance(position, a);
  if (Math.abs(nearer) < SIDE_M) return '';
  const end = nearer > 0 ? own.ends.left : own.ends.right;
  return end === '' ? '' : /side$/.test(end) ? end : `${end} side`;
}
