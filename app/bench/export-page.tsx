import { useEffect, useMemo, useRef, useState } from 'react';
import type { ExportAsk } from '../../core/audio/process/exported';
import type { Fold } from '../../core/audio/process/fold';
import {
  isTreated,
  placed,
  processingOf,
  treatedNames,
  treatmentWords,
  UNTREATED,
} from '../../core/recorded';
import { formatNumber } from '../../core/units';
import { download } from '../keeping/files';
import { pickedFile } from '../keeping/recordings';
import { CheckField, ChoiceField } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { levelKind, shiftKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';
import type { PickedFile } from '../workers/export-sink';
import { run } from '../workers/run';
import type { ExportedFile } from '../workers/tasks';
import { stretchText, type TreatingProps } from './asked';
import { channelName } from './channel-choice';
import { messageOf } from './recordings';

const DEPTHS = {
  '24': { label: '24 bits', kind: 'integer', bits: 24 },
  '16': { label: '16 bits', kind: 'integer', bits: 16 },
  '32': { label: '32 bits', kind: 'integer', bits: 32 },
  float: { label: '32 bits, float', kind: 'float', bits: 32 },
} as const;
type Depth = keyof typeof DEPTHS;
const RATES = [44_100, 48_000, 88_200, 96_000, 176_400, 192_000] as const;
const AS_IT_IS = '';
type Folded = Fold | typeof AS_IT_IS;

const megabytes = (bytes: number): string =>
  bytes < 1e6
    ? `${formatNumber(bytes / 1e3, 0)} kB`
    : bytes < 1e9
      ? `${formatNumber(bytes / 1e6, 1)} MB`
      : `${formatNumber(bytes / 1e9, 2)} GB`;

/** "Take 3.wav" becomes "Take 3 treated.wav". */
const nameOf = (title: string): string =>
  `${title.replace(/\.(wav|wave|rf64|bw64|bwf|flac)$/i, '').replace(/[\\/:*?"<>|]/g, ' ')} treated.wav`;

/** What happened with a file that was to be written. */
type Writing =
  | { kind: 'writing'; name: string; done: number }
  | { kind: 'written'; name: string; file: ExportedFile; integer: boolean }
  | { kind: 'failed'; name: string; message: string }
  | { kind: 'given up'; name: string };

/** Whether a picked file is one of those that are read. */
async function isOneOf(
  files: TreatingProps['recording']['files'],
  picked: FileSystemFileHandle,
): Promise<boolean> {
  const there = await picked.getFile().catch(() => null);
  return files.some(
    ({ file }) =>
      file.name === there?.name &&
      file.size === there.size &&
      file.lastModified === there.lastModified,
  );
}

const CLEARS = { tries: 40, everyMs: 250 };

/** Picking made an empty file: a worker that was ended as it did not hear leaves it, and holds it for a while. */
async function clearedAway(handle: PickedFile): Promise<void> {
  for (let i = 0; i < CLEARS.tries; i++) {
    const left = await handle.getFile().catch(() => null);
    if (left?.size !== 0) return;
    const gone = await handle.remove?.().then(
      () => true,
      () => false,
    );
    if (gone) return;
    await new Promise((resolve) => setTimeout(resolve, CLEARS.everyMs));
  }
}

/** Writes a file beside the page; it can be given up, also by leaving. */
function useWriting({ source, files }: TreatingProps['recording']) {
  const [state, setState] = useState<Writing | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const write = async (suggested: string, wanted: ExportAsk): Promise<void> => {
    const picked = await pickedFile(suggested);
    if (picked === 'none') return;
    const name = picked?.name ?? suggested;
    if (picked && (await isOneOf(files, picked))) {
      const message = 'this is the recording itself, which stays as it is. Choose another name.';
      setState({ kind: 'failed', name, message });
      return;
    }
    const own = new AbortController();
    stop.current = own;
    setState({ kind: 'writing', name, done: 0 });
    try {
      const file = await run(
        'exported',
        { file: source, wanted, into: picked },
        {
          signal: own.signal,
          onProgress: (done) => setState({ kind: 'writing', name, done }),
        },
      );
      if (file.blob) download(name, file.blob);
      setState({ kind: 'written', name, file, integer: wanted.format.kind === 'integer' });
    } catch (error) {
      if (picked && own.signal.aborted) void clearedAway(picked);
      setState(
        own.signal.aborted
          ? { kind: 'given up', name }
          : { kind: 'failed', name, message: messageOf(error) },
      );
    }
  };
  return { state, write, cancel: () => stop.current?.abort() };
}

function Outcome({ state, cancel }: { state: Writing | null; cancel: () => void }) {
  if (!state) return null;
  const { name } = state;
  switch (state.kind) {
    case 'writing':
      return (
        <p role="status" aria-label="Export" className="flex items-center gap-3 pt-2">
          Writing {name}: {Math.round(100 * state.done)} %
          <button className="btn btn-xs" onClick={cancel}>
            Cancel
          </button>
        </p>
      );
    case 'given up':
      return (
        <p role="status" aria-label="Export" className="text-muted pt-2">
          {name} was given up: nothing of it is left.
        </p>
      );
    case 'failed':
      return (
        <p role="alert" className="text-error pt-2">
          {name} was not written: {state.message}
        </p>
      );
    case 'written': {
      const { bytes, frames, readBack, over, peak, stampMoved } = state.file;
      return (
        <div role="status" aria-label="Export" className="pt-2">
          <p className="font-semibold">
            {name} is written{readBack ? ' and read back: every byte is as it was made' : ''}.
          </p>
          <p className="text-muted">
            {megabytes(bytes)} · {formatNumber(frames, 0)} samples a channel · peak{' '}
            {peak > 0 ? `${formatNumber(20 * Math.log10(peak), 1)} dBFS` : 'none'}
            {stampMoved !== 0 &&
              ` · all of it moved by ${stampMoved} samples: its time stamp says so, the sound is untouched`}
          </p>
          {state.integer && over > 0 && (
            <p className="text-error">
              {over} samples are beyond full scale and were cut off: take{' '}
              {formatNumber(20 * Math.log10(peak), 1)} dB off, or write floats.
            </p>
          )}
        </div>
      );
    }
  }
}

/** Delay, level and polarity of every channel, as they are to be written and heard. */
function ChannelTable({ recording, treatment, treat, hear }: TreatingProps) {
  const { shiftMs, gainDb, inverted } = treatment;
  const change = (part: Parameters<typeof treat>[0]): void => {
    treat(part);
    hear();
  };
  return (
    <table className="ledger-table max-w-2xl" aria-label="What is done to every channel">
      <thead>
        <tr>
          <th>Channel</th>
          <th className="num">Later by</th>
          <th className="num">Level</th>
          <th>Polarity</th>
        </tr>
      </thead>
      <tbody>
        {recording.names.map((_, c) => {
          const name = channelName(recording, c);
          const key = (field: string) => fieldKey('recording', `${recording.key} ${c}`, field);
          return (
            <tr key={c}>
              <th scope="row">{name}</th>
              <td className="num">
                <QuantityField
                  bare
                  label={`${name} later by`}
                  fieldKey={key('shiftMs')}
                  kind={shiftKind}
                  value={shiftMs[c] ?? 0}
                  onCommit={(ms) => change({ shiftMs: placed(shiftMs, c, ms ?? 0, 0) })}
                />
              </td>
              <td className="num">
                <QuantityField
                  bare
                  label={`Level of ${name}`}
                  fieldKey={key('gainDb')}
                  kind={levelKind('gainDb')}
                  value={gainDb[c] ?? 0}
                  onCommit={(db) => change({ gainDb: placed(gainDb, c, db ?? 0, 0) })}
                />
              </td>
              <td>
                <CheckField
                  label="turned over"
                  value={inverted[c] ?? false}
                  onChange={(turned) => change({ inverted: placed(inverted, c, turned, false) })}
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** How a file is written. */
interface How {
  depth: Depth;
  /** Hz as text; empty for that of the recording */
  rate: string;
  dither: boolean;
}

interface FormProps {
  rateHz: number;
  out: readonly string[];
  how: How;
  setHow: (how: How) => void;
  /** channels that are not written */
  left: ReadonlySet<number>;
  setLeft: (left: ReadonlySet<number>) => void;
  fold: Fold | null;
  setFold: (fold: Fold | null) => void;
}

/** Depth, rate, and what is written. */
function Form({ rateHz, out, how, setHow, left, setLeft, fold, setFold }: FormProps) {
  const { kind, bits } = DEPTHS[how.depth];
  return (
    <div className="grid max-w-3xl grid-cols-2 gap-x-10 pt-3 max-md:grid-cols-1">
      <div>
        <ChoiceField
          label="Depth"
          value={how.depth}
          options={Object.entries(DEPTHS).map(([value, { label }]) => ({
            value: value as Depth,
            label,
          }))}
          onChange={(depth) => setHow({ ...how, depth })}
        />
        <ChoiceField
          label="Rate"
          value={how.rate}
          options={[
            {
              value: '',
              label: `${formatNumber(rateHz / 1000, 1)} kHz, as it is`,
            },
            ...RATES.filter((hz) => hz !== rateHz).map((hz) => ({
              value: `${hz}`,
              label: `${formatNumber(hz / 1000, 1)} kHz`,
            })),
          ]}
          onChange={(rate) => setHow({ ...how, rate })}
        />
        <ChoiceField<Folded>
          label="Folded down"
          value={fold ?? AS_IT_IS}
          options={[
            { value: AS_IT_IS, label: 'not at all' },
            { value: 'stereo', label: 'to two channels' },
            { value: 'mono', label: 'to mono' },
          ]}
          onChange={(next) => setFold(next === AS_IT_IS ? null : next)}
        />
        {kind === 'integer' && bits < 32 && (
          <CheckField
            label="with dither"
            value={how.dither}
            onChange={(dither) => setHow({ ...how, dither })}
          />
        )}
      </div>
      <fieldset>
        <legend className="text-muted">Channels that are written</legend>
        {out.map((name, c) => (
          <CheckField
            key={c}
            label={name}
            value={!left.has(c)}
            onChange={(on) => {
              const next = new Set(left);
              if (on) next.delete(c);
              else next.add(c);
              setLeft(next);
            }}
          />
        ))}
      </fieldset>
    </div>
  );
}

/** Any stretch, channels and treatment as a WAV file. */
export function ExportPage(props: TreatingProps) {
  const { recording, stretch, treatment, treat, hear } = props;
  const { info, title, names } = recording;
  const [how, setHow] = useState<How>({ depth: '24', rate: '', dither: true });
  const { depth, rate, dither } = how;
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const writing = useWriting(recording);
  const called = useMemo(() => names.map((_, c) => channelName({ names }, c)), [names]);
  const out = treatedNames(treatment, called);
  const chosen = out.flatMap((_, c) => (left.has(c) ? [] : [c]));
  const { kind, bits } = DEPTHS[depth];
  const sampleRateHz = rate === '' ? info.format.sampleRateHz : Number(rate);
  const seconds = stretch ? stretch.toS - stretch.fromS : info.frames / info.format.sampleRateHz;
  const bytes = (seconds * sampleRateHz * chosen.length * bits) / 8;
  const words = treatmentWords(treatment, called);
  const busy = writing.state?.kind === 'writing';
  const write = (): void =>
    void writing.write(nameOf(title), {
      fromS: stretch?.fromS ?? 0,
      toS: stretch?.toS ?? null,
      processing: processingOf(treatment, info.format.channels),
      channels: chosen.length === out.length ? null : chosen,
      sampleRateHz: rate === '' ? null : Number(rate),
      format: { kind, bits },
      dither,
      metadata: {
        channelNames: chosen.map((c) => out[c] ?? ''),
        ...(words.length > 0 ? { note: words.join(' ') } : {}),
      },
    });
  return (
    <section aria-label="Export">
      <p className="text-[15px] font-semibold">
        {stretch ? stretchText(stretch) : 'The whole'}, {chosen.length} of {out.length} channels,{' '}
        {megabytes(bytes)}.
      </p>
      {words.length === 0 ? (
        <p className="text-muted">As it was recorded: nothing is done to it.</p>
      ) : (
        <ul aria-label="What is done">
          {words.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap items-center gap-3 py-3">
        <button
          className="btn btn-sm btn-primary"
          disabled={busy || chosen.length === 0}
          onClick={write}
        >
          Write the file
        </button>
        {isTreated(treatment) && (
          <>
            <button className="btn btn-sm" onClick={hear}>
              Hear it so
            </button>
            <button className="btn btn-sm" onClick={() => treat(UNTREATED)}>
              Undo all that is done
            </button>
          </>
        )}
        {chosen.length === 0 && <span className="text-muted">Choose a channel at least.</span>}
      </div>
      <Outcome state={writing.state} cancel={writing.cancel} />
      <Form
        rateHz={info.format.sampleRateHz}
        out={out}
        {...{ how, setHow, left, setLeft }}
        fold={treatment.fold}
        setFold={(fold) => treat({ fold })}
      />
      <h2 className="pt-4 pb-1 text-[15px]">Delay, level, polarity</h2>
      <ChannelTable {...props} />
    </section>
  );
}
