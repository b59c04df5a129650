import { createStore } from 'zustand/vanilla';
import { bindingByNames, isBound, readMixes } from '../../core/recorded';
import type { LogEntry, Plan, Session } from '../../core/session';
import type { ChannelGains } from '../../core/audio/listen';
import type { Processing } from '../../core/audio/process/processed';
import { allHeard, mixHeard } from '../bench/heard';
import { takeOf } from '../bench/opening';
import type { OpenRecording } from '../bench/recordings';
import { planOfTake } from '../bench/simulate';
import { run, type Options } from '../workers/run';
import type { Recorded } from '../workers/sound-of';
import { optionName, type Option } from '../../core/soundcheck';
import { planOfVersion } from '../keeping/versions';
import { planOfOption } from './data';
import { SIMULATED_PERFORMANCE, simulationOf } from './simulating';

/** What is held against each other by ear: options as they are simulated, recordings as they are open. */

/** Which are chosen, by session; in the order of their letters. */
export const comparedStore = createStore<{ of: Readonly<Record<string, readonly string[]>> }>(
  () => ({ of: remembered() }),
);

const KEY = 'rotunda-compared';

/** As it was before this tab was loaded again. */
function remembered(): Record<string, readonly string[]> {
  try {
    const found: unknown = JSON.parse(sessionStorage.getItem(KEY) ?? '{}');
    if (typeof found !== 'object' || found === null) return {};
    return Object.fromEntries(
      Object.entries(found).filter(
        ([, ids]) => Array.isArray(ids) && ids.every((id) => typeof id === 'string'),
      ),
    );
  } catch {
    return {};
  }
}

export function chooseCompared(id: string, keys: readonly string[]): void {
  comparedStore.setState(({ of }) => ({ of: { ...of, [id]: keys } }));
  try {
    sessionStorage.setItem(KEY, JSON.stringify(comparedStore.getState().of));
  } catch {
    // Without it they are chosen again.
  }
}

/** Something that can be chosen. */
export interface Comparable {
  /** of the option, the take or the recording */
  id: string;
  name: string;
  /** what one performance shares; empty where it is not known */
  performance: string;
  /** made anew wherever this is another one */
  version: string;
  sound: (help: Options) => Promise<Sounding>;
}

/** It as it can be heard. */
export interface Sounding {
  file: Recorded;
  rateHz: number;
  frames: number;
  gains: readonly ChannelGains[];
  processing: Partial<Processing>;
  /** of its beginning, s of the day; null where its files carry no time stamp */
  stampS: number | null;
}

export const lengthS = ({ frames, rateHz }: Sounding): number => frames / rateHz;

async function soundOfPlan(plan: Plan, help: Options): Promise<Sounding> {
  const { file } = await simulationOf(plan, help);
  const { info } = await run('opened', { file });
  const { channels, sampleRateHz } = info.format;
  const names = Array.from({ length: channels }, (_, c) => info.channelNames[c] ?? '');
  const binding = bindingByNames(plan, names);
  return {
    file,
    rateHz: sampleRateHz,
    frames: info.frames,
    ...(isBound(binding) ? mixHeard(plan, binding) : allHeard(channels)),
    stampS: null,
  };
}

const gone = (): never => {
  throw new Error('its version of the plan is not in this browser any more');
};

export const comparableOption = (session: Session, option: Option): Comparable => ({
  id: option.key,
  name: optionName(option),
  performance: SIMULATED_PERFORMANCE,
  version: option.entry.version,
  sound: async (help) => soundOfPlan((await planOfOption(session, option)) ?? gone(), help),
});

/** A kept blend: the plan that it was kept of, by its own faders and strips. */
export const comparableBlend = (
  session: Session,
  { id, name, version, strips }: Extract<LogEntry, { kind: 'blend' }>,
): Comparable => ({
  id,
  name: `Blend: ${name}`,
  performance: SIMULATED_PERFORMANCE,
  version: id,
  sound: async (help) => {
    const plan = (await planOfVersion(session, version)) ?? gone();
    const mixes = readMixes(strips);
    const arrays = plan.arrays.map((array) => ({ ...array, mix: mixes[array.id] ?? array.mix }));
    return soundOfPlan({ ...plan, arrays }, help);
  },
});

/** A recording that is open on the Bench: by the mix of the plan that its take was made under. */
export function comparableRecording(session: Session, recording: OpenRecording): Comparable {
  const take = takeOf(session, recording);
  const { info, binding, source } = recording;
  const stamped = info.broadcast && info.broadcast.date !== '' ? info.broadcast : null;
  return {
    id: take?.id ?? recording.key,
    name: take ? `Take ${take.number}${take.name === '' ? '' : `: ${take.name}`}` : recording.title,
    performance: take?.performance ?? '',
    version: `${recording.key} ${binding.join()} ${take?.version ?? ''}`,
    sound: async () => {
      const bound = isBound(binding);
      const plan = bound && take ? await planOfTake(session, take) : null;
      return {
        file: source,
        rateHz: info.format.sampleRateHz,
        frames: info.frames,
        ...(plan ? mixHeard(plan, binding) : allHeard(info.format.channels)),
        stampS: stamped ? stamped.timeReference / info.format.sampleRateHz : null,
      };
    },
  };
}

/** How things lie on one line, and where all of them sound. */
export interface Lines {
  /** s from the beginning of the line to that of each */
  fromS: number[];
  /** where the longest ends, and the stretch in which all sound, s */
  wholeS: number;
  commonS: readonly [from: number, to: number];
}

/**
 * Takes of one performance lie by their time stamps; all else begins together.
 * @param alike they are of one performance
 */
export function linesOf(sounds: readonly Sounding[], alike: boolean): Lines {
  const stamps = sounds.map(({ stampS }) => stampS);
  const known = stamps.flatMap((stamp) => stamp ?? []);
  const first = Math.min(...known);
  const byStamp = alike && known.length === sounds.length && sounds.length > 1;
  const fromS = stamps.map((stamp) => (byStamp && stamp !== null ? stamp - first : 0));
  const ends = sounds.map((sound, i) => (fromS[i] ?? 0) + lengthS(sound));
  const [from, to] = [Math.max(0, ...fromS), Math.min(...ends)];
  // Stamps of another day: nothing sounds together, so they begin together.
  if (byStamp && to - from < 1) return linesOf(sounds, false);
  return { fromS, wholeS: Math.max(0, ...ends), commonS: [from, Math.max(from, to)] };
}

/** Whether all are of one performance: else what differs may be the playing. */
export const areAlike = (all: readonly Pick<Comparable, 'performance'>[]): boolean =>
  all.length > 0 &&
  all.every(({ performance }) => performance !== '' && performance === all[0]?.performance);
