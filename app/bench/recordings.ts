import { createStore } from 'zustand/vanilla';
import type { FlacCheck } from '../../core/audio/flac/reader';
import type { Overview } from '../../core/audio/measure/overview';
import type { Measurable } from '../../core/audio/measure/meters';
import type { Pyramid } from '../../core/audio/measure/pyramid';
import type { TakeFigures } from '../../core/audio/measure/take';
import type { SoundInfo } from '../../core/audio/sound';
import type { Binding } from '../../core/recorded';
import type { FileReference, Take } from '../../core/session';
import { keepOverview, keptOverview } from '../keeping/overviews';
import { letGo, run } from '../workers/run';
import type { Recorded } from '../workers/sound-of';

/** A file of a recording that is open. */
export interface OpenFile {
  file: File;
  reference: FileReference;
}

/** A recording that is open, of one file or of those of a take: what is known of it by now. */
export interface OpenRecording {
  /** of the fingerprints of its files */
  key: string;
  /** what it is called: as its file, or as the take */
  title: string;
  source: Recorded;
  files: readonly OpenFile[];
  /** file and channel in it of each channel, from 0 */
  from: readonly { file: number; channel: number }[];
  info: SoundInfo;
  /** names of its channels, as it says them itself; empty where it does not */
  own: readonly string[];
  /** the input of the channel list that each channel is */
  binding: Binding;
  /** how it was made, where nobody played */
  simulation: Take['simulation'];
  /** an entry of the take that it was opened from; null where it was opened as files */
  takeId: string | null;
  /** as its channels are called everywhere: bound ones like their microphones */
  names: readonly string[];
  sketch: Overview | null;
  pyramid: Pyramid | null;
  figures: TakeFigures | null;
  /** whether its samples are those that were written, where that can be told; null while it is not known */
  intact: FlacCheck | null;
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

export const changeRecording = (id: string, key: string, now: Partial<OpenRecording>): void =>
  change(id, (bench) => ({
    ...bench,
    open: bench.open.map((one) => (one.key === key ? { ...one, ...now } : one)),
  }));

/**
 * How far the measuring of each is, by its key, 0 … 1: apart from the recordings, so that a step of it
 * draws nothing but its figure anew.
 */
export const measuredStore = createStore<{ of: Readonly<Record<string, number>> }>(() => ({
  of: {},
}));

/** What is measured of every recording. */
export const MEASURED: readonly Measurable[] = ['levels', 'bands', 'hum', 'delays', 'identity'];

/** Columns of the rough curve that is drawn at once. */
const SKETCHED = 1000;
const working = new Map<string, AbortController>();

/** What went wrong, in words of ours where the browser's say little. */
export function messageOf(error: unknown): string {
  const message = error instanceof Error ? error.message : String(error);
  return /could not be (read|found)|NotReadable|NotFound/i.test(message)
    ? 'the file cannot be read any more. It was moved, changed or taken away since it was opened: show it once more.'
    : message;
}

/** Draws and measures a recording beside the page; what is known is shown as it comes. */
export async function look(id: string, { key, source, info }: OpenRecording): Promise<void> {
  working.get(`${id} ${key}`)?.abort();
  const stop = new AbortController();
  working.set(`${id} ${key}`, stop);
  const { signal } = stop;
  try {
    changeRecording(id, key, { problem: null });
    const { pyramid, packed } = await run(
      'overview',
      { file: source, columns: SKETCHED, kept: await keptOverview(key) },
      { signal, onPartial: (sketch) => changeRecording(id, key, { sketch: sketch as Overview }) },
    );
    changeRecording(id, key, { pyramid });
    // Beside the rest: nobody waits for it.
    if (packed) void keepOverview(key, packed);
    const figures = await run(
      'measured',
      { file: source, options: { what: MEASURED } },
      {
        signal,
        onProgress: (done) => measuredStore.setState(({ of }) => ({ of: { ...of, [key]: done } })),
      },
    );
    changeRecording(id, key, { figures });
    if (info.container !== 'FLAC' || !(source instanceof Blob)) return;
    changeRecording(id, key, { intact: await run('checked', { file: source }, { signal }) });
  } catch (error) {
    if (!signal.aborted) changeRecording(id, key, { problem: messageOf(error) });
  } finally {
    if (working.get(`${id} ${key}`) === stop) working.delete(`${id} ${key}`);
  }
}

/** Says that a file is being opened. @returns what is told once it is, or why it is not */
export function sayOpening(id: string, name: string): (problem: string | null) => void {
  const opening: Opening = { name, problem: null };
  change(id, (bench) => ({ ...bench, opening: [...bench.opening, opening] }));
  return (problem) =>
    change(id, (bench) => ({
      ...bench,
      opening: bench.opening.flatMap((one) =>
        one !== opening ? [one] : problem === null ? [] : [{ ...one, problem }],
      ),
    }));
}

/**
 * Puts a recording on the bench, in the place of one that it is more of, or of itself where it was gone.
 * @param show whether it is looked at from now on
 */
export function addRecording(id: string, one: OpenRecording, show: boolean): void {
  const { open } = benchOf(benchStore.getState().of, id);
  const known = open.find(({ key }) => key === one.key);
  const goesOn = known?.problem === null;
  change(id, (bench) => ({
    ...bench,
    open: goesOn ? bench.open : [...bench.open.filter(({ key }) => key !== one.key), one],
    shown: show ? one.key : bench.shown,
  }));
  if (!goesOn) void look(id, one);
}

export const showRecording = (id: string, key: string): void =>
  change(id, (bench) => ({ ...bench, shown: key }));

/** Lets a recording go; the file stays where it is. */
export function closeRecording(id: string, key: string): void {
  working.get(`${id} ${key}`)?.abort();
  const closed = benchOf(benchStore.getState().of, id).open.find((one) => one.key === key);
  // In the next turn: what was given up has left its worker by then.
  if (closed) setTimeout(() => letGo(closed.source));
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
