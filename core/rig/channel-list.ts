import { gainPlan, type GainRow } from '../analysis/gain';
import { channelMap, type Input, type Strip } from '../channels/map';
import { contextOf } from '../prepare/context';
import { forWhomText } from '../prepare/for-whom';
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
      perspective,
      again,
    };
  };
  return strips.flatMap((strip) => {
    const [input, gain] = [inputs[strip.input - 1], gains[strip.input - 1]];
    return input && gain ? [row(strip, input, gain)] : [];
  });
}
