import { joinedSound } from '../../core/audio/joined';
import type { Sound, SoundInfo } from '../../core/audio/sound';
import { takesOf, type RecordedTake, type TakeFile } from '../../core/audio/wav/takes';
import { channelMap } from '../../core/channels';
import { bindingByNames, isBound, type Binding } from '../../core/recorded';
import { takeState } from '../../core/rig';
import { matters, standing, type FileReference, type Session, type Take } from '../../core/session';
import { amend, enter, strike } from '../document/journals';
import { sessionStore } from '../document/session-store';
import { referTo, type Shown } from '../keeping/recordings';
import { keptVersion } from '../keeping/versions';
import { notify } from '../view/notices';
import { keepOpen } from './kept-open';
import {
  addRecording,
  benchOf,
  benchStore,
  changeRecording,
  messageOf,
  sayOpening,
  type OpenFile,
  type OpenRecording,
} from './recordings';

interface Opened extends OpenFile {
  info: SoundInfo;
}

const inputNames = (session: Session): string[] =>
  channelMap(session).inputs.map(({ name }) => name);

const fingerprints = (files: readonly { fingerprint: string }[]): string =>
  files
    .map(({ fingerprint }) => fingerprint)
    .sort()
    .join(' ');

/** The take that a recording is of, if it was made already. */
export function takeOf(
  session: Session,
  { files, takeId }: Pick<OpenRecording, 'files' | 'takeId'>,
): Take | null {
  const own = fingerprints(files.map(({ reference }) => reference));
  const found = matters(session.takes).find(
    ({ standing: take, history }) =>
      take &&
      (history.some(({ id }) => id === takeId) ||
        (take.files.length > 0 && fingerprints(take.files) === own)),
  );
  return found?.standing ?? null;
}

/** What the files of a take say together; read by workers later, not here. */
function infoOf(take: RecordedTake): SoundInfo {
  const joined = joinedSound(take, ({ info }): Sound => ({
    info,
    blocks: () => {
      throw new TypeError('its samples are read by workers');
    },
  }));
  if (!joined.ok) throw new Error(joined.message);
  return joined.value.info;
}

/** How each channel of a recording is bound in a take that was made of it. */
function bindingOf(take: Take, { files, from }: Pick<OpenRecording, 'files' | 'from'>): Binding {
  return from.map(({ file, channel }) => {
    const fingerprint = files[file]?.reference.fingerprint;
    const reference = take.files.find((of) => of.fingerprint === fingerprint);
    return reference?.channels[channel] ?? null;
  });
}

/** What a lone file says of its channels: names of its own, and for one channel how the file is called. */
function namesIn(session: Session, { name, info }: TakeFile, track: string): string[] {
  const { channels } = info.format;
  if (channels === 1) {
    const isInput = isBound(bindingByNames(session, [track]));
    return [isInput ? track : (info.channelNames[0]?.trim() ?? '') || name.replace(/\.\w+$/, '')];
  }
  const usual = channels === 2 ? ['Left', 'Right'] : [];
  return Array.from(
    { length: channels },
    (_, c) => info.channelNames[c]?.trim() || (usual[c] ?? ''),
  );
}

/** Where a recording comes from. */
export interface Origin {
  /** how it was made, where nobody played */
  simulation?: Take['simulation'];
  /** an entry of the take that it is */
  takeId?: string | null;
  /** nobody asked for it just now: what is looked at stays */
  unasked?: boolean;
}

function recordingOf(
  session: Session,
  take: RecordedTake,
  all: readonly Opened[],
  { simulation = null, takeId = null }: Origin,
): OpenRecording {
  const of = (file: TakeFile): Opened => {
    const found = all.find(({ info }) => info === file.info);
    if (!found) throw new TypeError('a file of the take is missing');
    return found;
  };
  const files = [...new Set(take.tracks.flatMap((track) => track.files.map(of)))];
  const [first] = take.tracks;
  const [alone] = files.length === 1 ? files : [];
  const names = inputNames(session);
  const own =
    alone && first
      ? namesIn(session, { name: alone.reference.name, info: alone.info }, first.name)
      : take.tracks.map(({ name }) => name);
  const from = take.tracks.map(({ channel, files: [file] }) => ({
    file: file ? files.indexOf(of(file)) : 0,
    channel,
  }));
  const known = takeOf(session, { files, takeId });
  const title = alone?.reference.name ?? (take.name || `${take.tracks.length} tracks of one take`);
  // What was made of the plan says itself what it is.
  const told = known && known.files.length > 0;
  const bound = told ? bindingOf(known, { files, from }) : bindingByNames(session, own);
  return {
    key: fingerprints(files.map(({ reference }) => reference)),
    title: known?.name || title,
    source: alone?.file ?? {
      files: files.map(({ file, reference }) => ({ name: reference.name, file })),
      names,
    },
    files: files.map(({ file, reference }) => ({ file, reference })),
    from,
    info: alone?.info ?? infoOf(take),
    own,
    simulation: known?.simulation ?? simulation,
    takeId,
    binding: bound,
    names: own,
    sketch: null,
    pyramid: null,
    figures: null,
    intact: null,
    problem: null,
  };
}

/** The references of a recording's files, each with the inputs that its channels are. */
export const boundFiles = ({ files, from, binding }: OpenRecording): FileReference[] =>
  files.map(({ reference }, file) => {
    const channels = [...reference.channels];
    from.forEach((at, c) => {
      if (at.file === file) channels[at.channel] = binding[c] ?? null;
    });
    return { ...reference, channels };
  });

/** The session as it is by now, where it is still the one that is open. */
const sessionNow = (id: string): Session | null => {
  const { session } = sessionStore.getState();
  return session?.id === id ? session : null;
};

/** The take of just this simulation of just this plan. */
const sameSimulation = (
  session: Session,
  simulation: NonNullable<Take['simulation']>,
  version: string,
): Take | null =>
  standing(session.takes).find(
    (take) =>
      take.version === version && JSON.stringify(take.simulation) === JSON.stringify(simulation),
  ) ?? null;

/** Makes a take of a bound recording, with the version of the plan; or binds that of it otherwise. */
export function keepTake(id: string, recording: OpenRecording): void {
  const session = sessionNow(id);
  if (!session) return;
  const version = keptVersion(session);
  // A simulation is made again: it needs no file.
  const files = recording.simulation ? [] : boundFiles(recording);
  const known =
    takeOf(session, recording) ??
    (recording.simulation && sameSimulation(session, recording.simulation, version.hash));
  if (known) {
    changeRecording(id, recording.key, { takeId: known.id });
    if (recording.simulation) return;
    if (JSON.stringify(known.files) !== JSON.stringify(files)) amend('takes', known.id, { files });
    return;
  }
  const number = 1 + Math.max(0, ...standing(session.takes).map((take) => take.number));
  const entered = enter(
    'takes',
    {
      by: '',
      number,
      name: recording.title,
      comment: '',
      option: '',
      version: version.hash,
      performance: '',
      files,
      simulation: recording.simulation,
      state: takeState(session),
    },
    [version],
  );
  if (entered !== '') {
    changeRecording(id, recording.key, { takeId: entered });
    notify(`It is take ${number}, with the plan as it stands.`, {
      label: 'Strike it',
      run: () => strike('takes', entered),
    });
  }
}

/** Binds a recording that is open, by hand. */
export function bind(id: string, recording: OpenRecording, binding: Binding): void {
  const bound = { ...recording, binding };
  changeRecording(id, recording.key, { binding });
  const session = sessionNow(id);
  if (session && (isBound(binding) || takeOf(session, recording))) {
    keepTake(id, bound);
  }
}

/**
 * Opens recordings; files of one take are one. Each that cannot be read says why, and the
 * others are opened.
 * @param origin where they come from, if not from files
 */
export async function openRecordings(
  session: Session,
  files: readonly Shown[],
  origin: Origin = {},
): Promise<void> {
  const { id } = session;
  const opened: Opened[] = [];
  for (const { file, handle } of files) {
    const settled = sayOpening(id, file.name);
    try {
      const { info, reference } = await referTo(file, handle);
      settled(null);
      // The same file twice is once.
      if (opened.some((one) => one.reference.fingerprint === reference.fingerprint)) continue;
      opened.push({ file, reference, info });
    } catch (error) {
      settled(messageOf(error));
    }
  }
  const now = sessionNow(id) ?? session;
  // Whatever they are called by now: a take is known by what is in its files.
  const called = new Map(
    standing(now.takes).flatMap((take) => take.files.map((of) => [of.fingerprint, of.name])),
  );
  for (const { reference } of opened) {
    reference.name = called.get(reference.fingerprint) ?? reference.name;
  }
  const takes = takesOf(
    opened.map(({ reference, info }) => ({ name: reference.name, info })),
    inputNames(now),
  );
  const recordings = takes.map((take) => recordingOf(now, take, opened, origin));
  const { open } = benchOf(benchStore.getState().of, id);
  const show = !origin.unasked || open.length === 0;
  recordings.forEach((one, i) => addRecording(id, one, show && i === 0));
  keepOpen(id);
  for (const one of recordings) {
    if (isBound(one.binding) && !takeOf(now, one)) keepTake(id, one);
  }
}
