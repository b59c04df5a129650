import { capsulesInFrame, microphoneName } from '../arrays/capsules';
import { stripsOf } from '../arrays/routing';
import { enabledArrays } from '../session/lists';
import type { MicArray, Session } from '../session/schema';

/** One microphone on one input, in the order of the arrays and their capsules. */
export interface Input {
  /** from 1 */
  number: number;
  arrayId: string;
  arrayName: string;
  role: MicArray['role'];
  /** place in the technique's order */
  capsule: number;
  label: string;
  /** "Main pair L"; of a single microphone the array's name alone */
  name: string;
  /** both inputs of a pair go together on one stereo track */
  track: 'stereo' | 'mono';
  /** the loudspeaker that it feeds: as chosen, else by its label; null where its pan says it */
  loudspeaker: string | null;
}

/** One strip of the desk. Most inputs have one; the side of mid-side has two, S+ and S−. */
export interface Strip {
  /** number of its input */
  input: number;
  name: string;
  /** −1 … +1 */
  pan: number;
  gainDb: number;
  polarity: 1 | -1;
  delayMs: number;
}

/** One track of the recorder, in the order of the inputs. */
export interface Track {
  /** from 1 */
  number: number;
  name: string;
  /** numbers of its inputs: one, or the two of a stereo track */
  inputs: readonly number[];
}

/** From the microphones to the desk and the recorder: the one map that everything counts by. */
export interface ChannelMap {
  inputs: readonly Input[];
  strips: readonly Strip[];
  tracks: readonly Track[];
}

const LOUDSPEAKERS = /^(L|C|R|LFE|Ls|Rs|Lb|Rb|Lss|Rss|Lrs|Rrs|Lh|Rh|Ch|Lsh|Rsh|Ltf|Rtf|Ltr|Rtr)$/;

function inputsOf(array: MicArray, from: number): Input[] {
  const { id, name, role, technique, equipment } = array;
  const capsules = capsulesInFrame(technique);
  const many = technique.kind === 'custom' && capsules.length > 2;
  return capsules.map(({ label }, capsule) => ({
    number: from + capsule,
    arrayId: id,
    arrayName: name,
    role,
    capsule,
    label,
    name: microphoneName(name, label),
    track: technique.kind === 'pair' ? 'stereo' : 'mono',
    loudspeaker:
      equipment.loudspeakers[capsule]?.trim() || (many && LOUDSPEAKERS.test(label) ? label : null),
  }));
}

/** The strips of one array's inputs: what the mix says of each, plain at its usual pan otherwise. */
function stripsOn({ name, technique, mix }: MicArray, inputs: readonly Input[]): Strip[] {
  const strips = stripsOf(technique, mix.capsules);
  return inputs.flatMap((input, index): Strip[] => {
    const { pan = 0, gainDb = 0, polarity = 1, delayMs = 0 } = strips[index] ?? {};
    const strip = { input: input.number, name: input.name, gainDb, polarity, delayMs };
    if (technique.kind !== 'mid-side') return [{ ...strip, pan }];
    // The decoder says where they go: mid to the centre, side to both ends against each other.
    if (index === 0) return [{ ...strip, pan: 0 }];
    const inverted = polarity === 1 ? -1 : 1;
    return [
      { ...strip, name: `${name} S+`, pan: -1 },
      { ...strip, name: `${name} S−`, pan: 1, polarity: inverted },
    ];
  });
}

function tracksOf(inputs: readonly Input[]): Track[] {
  const tracks: Track[] = [];
  for (const { number, arrayName, name, track, capsule } of inputs) {
    const last = tracks[tracks.length - 1];
    if (track === 'stereo' && capsule > 0 && last) {
      tracks[tracks.length - 1] = { ...last, inputs: [...last.inputs, number] };
    } else {
      const title = track === 'stereo' ? arrayName : name;
      tracks.push({ number: tracks.length + 1, name: title, inputs: [number] });
    }
  }
  return tracks;
}

/** The channels of a session's enabled arrays. */
export function channelMap(session: Pick<Session, 'arrays'>): ChannelMap {
  const inputs: Input[] = [];
  const strips: Strip[] = [];
  for (const array of enabledArrays(session)) {
    const own = inputsOf(array, inputs.length + 1);
    inputs.push(...own);
    strips.push(...stripsOn(array, own));
  }
  return { inputs, strips, tracks: tracksOf(inputs) };
}

/** How many inputs an array takes: one a microphone; mid-side two. */
export const inputsOfArray = ({ technique }: Pick<MicArray, 'technique'>): number =>
  capsulesInFrame(technique).length;
