import { createStore } from 'zustand/vanilla';
import type { TakeFigures } from '../../core/audio/measure/take';
import type { Overview } from '../../core/audio/measure/overview';
import type { Measurable } from '../../core/audio/measure/meters';
import type { Pyramid } from '../../core/audio/measure/pyramid';
import type { SoundInfo } from '../../core/audio/sound';
import type { FileReference, Session } from '../../core/session';
import { channelList } from '../../core/rig';
import { referTo, type FileHandle } from '../keeping/recordings';
import { run } from '../workers/run';

/** A recording that is open: what is known of it by now. */
export interface OpenRecording {
  /** its fingerprint */
  key: string;
  file: File;
  reference: FileReference;
  info: SoundInfo;
  /** of its channels, as they are called everywhere */
  names: readonly string[];
  sketch: Overview | null;
  pyramid: Pyramid | null;
  figures: TakeFigures | null;
  /** of the measuring, 0 … 1 */
  measured: number;
  /** why it could not be drawn or measured; null while it could */
  problem: string | null;
}

interface Opening {
  name: string;
  /** why it could not be opened; null while it is on its way */
  problem: string | null;
}

interface Bench {
  open: readonly OpenRecording[];
  opening: readonly Opening[];
  /** which of them is looked at */
  shown: string | null;
}

const NOTHING: Bench = { open: [], opening: [], shown: null };

/** What is open, by session: a file that was opened for one is nobody else's. */
export const benchStore = createStore<{ of: Readonly<Record<string, Bench>> }>(() => ({ of: {} }));

export const benchOf = (of: Readonly<Record<string, Bench>>, id: string): Bench =>
  of[id] ?? NOTHING;

const change = (id: string, next: (bench: Bench) => Bench): void =>
  benchStore.setState(({ of }) => ({ of: { ...of, [id]: next(benchOf(of, id)) } }));

const changeOne = (id: string, key: string, now: Partial<OpenRecording>): void =>
  change(id, (bench) => ({
    ...bench,
    open: bench.open.map((one) => (one.key === key ? { ...one, ...now } : one)),
  }));

/** What is measured of every recording. */
export const MEASURED: readonly Measurable[] = ['levels', 'bands', 'hum', 'delays', 'identity'];

/** Columns of the rough curve that is drawn at once. */
const SKETCHED = 2000;
const working = new Map<string, AbortController>();

/** "Main pair L.wav" is that microphone's. */
function nameOfFile(session: Session, name: string): string | null {
  const stem = name
    .replace(/\.\w+$/, '')
    .trim()
    .toLowerCase();
  return channelList(session).find((row) => row.name.toLowerCase() === stem)?.name ?? null;
}

/** What channels are called: by the channel list, by the file itself, else by where they are heard. */
export function channelNames(session: Session, file: string, info: SoundInfo): string[] {
  const { channels } = info.format;
  if (channels === 1) return [nameOfFile(session, file) ?? info.channelNames[0] ?? ''];
  const usual = channels === 2 ? ['Left', 'Right'] : [];
  return Array.from(
    { length: channels },
    (_, c) => info.channelNames[c]?.trim() || (usual[c] ?? ''),
  );
}

const messageOf = (error: unknown): string =>
  error instanceof Error ? error.message : String(error);

async function look(session: Session, { key, file }: OpenRecording): Promise<void> {
  const { id } = session;
  const stop = new AbortController();
  working.set(`${id} ${key}`, stop);
  const { signal } = stop;
  try {
    const pyramid = await run(
      'overview',
      { file, columns: SKETCHED },
      { signal, onPartial: (sketch) => changeOne(id, key, { sketch: sketch as Overview }) },
    );
    changeOne(id, key, { pyramid });
    const figures = await run(
      'measured',
      { file, options: { what: MEASURED } },
      { signal, onProgress: (measured) => changeOne(id, key, { measured }) },
    );
    changeOne(id, key, { figures });
  } catch (error) {
    if (!signal.aborted) changeOne(id, key, { problem: messageOf(error) });
  } finally {
    working.delete(`${id} ${key}`);
  }
}

/** Opens recordings; each that cannot be read says why, and the others are opened. */
export async function openRecordings(
  session: Session,
  files: readonly { file: File; handle: FileHandle | null }[],
): Promise<void> {
  const { id } = session;
  let led = false;
  for (const { file, handle } of files) {
    const opening: Opening = { name: file.name, problem: null };
    change(id, (bench) => ({ ...bench, opening: [...bench.opening, opening] }));
    const settled = (problem: string | null): void =>
      change(id, (bench) => ({
        ...bench,
        opening: bench.opening.flatMap((one) =>
          one !== opening ? [one] : problem === null ? [] : [{ ...one, problem }],
        ),
      }));
    try {
      const { info, fingerprint, reference } = await referTo(file, handle);
      settled(null);
      const known = benchOf(benchStore.getState().of, id).open.some(
        ({ key }) => key === fingerprint,
      );
      const one: OpenRecording = {
        key: fingerprint,
        file,
        reference,
        info,
        names: channelNames(session, file.name, info),
        sketch: null,
        pyramid: null,
        figures: null,
        measured: 0,
        problem: null,
      };
      change(id, (bench) => ({
        ...bench,
        open: known ? bench.open : [...bench.open, one],
        // Of several the first one is looked at; whoever has gone to another meanwhile stays there.
        shown: led ? bench.shown : fingerprint,
      }));
      led = true;
      if (!known) void look(session, one);
    } catch (error) {
      settled(messageOf(error));
    }
  }
}

export const showRecording = (id: string, key: string): void =>
  change(id, (bench) => ({ ...bench, shown: key }));

/** Lets a recording go; the file stays where it is. */
export function closeRecording(id: string, key: string): void {
  working.get(`${id} ${key}`)?.abort();
  change(id, (bench) => {
    const open = bench.open.filter((one) => one.key !== key);
    const shown = bench.shown === key ? (open[0]?.key ?? null) : bench.shown;
    return { ...bench, open, shown };
  });
}

/** What could not be opened is not looked at any more. */
export const forgetRefused = (id: string): void =>
  change(id, (bench) => ({
    ...bench,
    opening: bench.opening.filter(({ problem }) => problem === null),
  }));
