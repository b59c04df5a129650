import { capsulesInFrame } from '../arrays/capsules';
import { usualPans } from '../arrays/routing';
import { gainPlan, type GainRow } from '../analysis/gain';
import type { Session } from '../session/schema';

/** One input as the desk and the recorder are set up. */
export interface ChannelRow extends GainRow {
  number: number;
  name: string;
  polarity: 1 | -1;
  /** −1 … +1 */
  pan: number;
  delayMs: number;
  delaySamples: number;
  /** both channels of a pair lie on one stereo track */
  track: 'stereo' | 'mono';
  /** whose left and right the pan follows */
  perspective: 'audience' | 'performer';
}

/** Every input of the enabled arrays in order, from 1. Mid-side takes three: its side is doubled. */
export function channelList(session: Session): ChannelRow[] {
  const gains = gainPlan(session);
  const { sampleRateHz, perspective } = session.settings;
  let next = 0;
  const rows: ChannelRow[] = [];
  for (const array of session.arrays.filter(({ enabled }) => enabled)) {
    const { technique, mix } = array;
    const pans = usualPans(technique);
    capsulesInFrame(technique).forEach((_, i) => {
      const gain = gains[next++];
      if (!gain) return;
      const strip = mix.capsules[i];
      const delayMs = strip?.delayMs ?? 0;
      const row = {
        ...gain,
        polarity: strip?.polarity ?? 1,
        delayMs,
        delaySamples: Math.round((delayMs / 1000) * sampleRateHz),
        perspective,
      };
      const add = (name: string, pan: number, polarity: 1 | -1, track: ChannelRow['track']) =>
        rows.push({ ...row, number: rows.length + 1, name, pan, polarity, track });
      if (technique.kind === 'mid-side' && i === 1) {
        add(`${array.name} S+`, -1, row.polarity, 'mono');
        add(`${array.name} S−`, 1, row.polarity === 1 ? -1 : 1, 'mono');
        return;
      }
      const pan = technique.kind === 'mid-side' ? 0 : (strip?.pan ?? pans[i] ?? 0);
      const stereo = technique.kind === 'pair';
      add(`${array.name} ${gain.label}`, pan, row.polarity, stereo ? 'stereo' : 'mono');
    });
  }
  return rows;
}
