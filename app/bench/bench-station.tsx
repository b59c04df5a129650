import { FileAudio, FolderOpen, X } from 'lucide-react';
import { useCallback, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { placeText, readingsOf, type Reading } from '../../core/audio/measure/readings';
import type { TakeFigures } from '../../core/audio/measure/take';
import { speedOfSound } from '../../core/units';
import { withEngine } from '../audio/actions';
import { useSession } from '../document/use-session';
import { chooseFiles } from '../keeping/files';
import { notifyFailure } from '../view/notices';
import { Facts } from './facts';
import { useHeardRecording, type Hear } from './heard';
import { KeepButton, Kept } from './kept';
import { ReadingsList } from './readings-list';
import {
  benchOf,
  benchStore,
  closeRecording,
  forgetRefused,
  MEASURED,
  openRecordings,
  showRecording,
  type OpenRecording,
} from './recordings';
import { Room } from './room';
import { StretchFields } from './stretch-fields';
import { TimeLine } from './time-line';
import { about, type View } from './view';
import { useTask } from '../workers/use-task';

/** "0:10.000 to 0:12.500" */
const stretchText = ({ fromS, toS }: { fromS: number; toS: number }): string =>
  `${placeText(fromS)} to ${placeText(toS)}`;

const ACCEPTED = '.wav,.wave,.rf64,.bw64,.bwf,.flac,audio/*';

function useReadings(recording: OpenRecording, figures: TakeFigures | null): Reading[] {
  const { venue, settings } = useSession();
  const { names, info } = recording;
  return useMemo(
    () =>
      figures
        ? readingsOf(figures, {
            names,
            sampleRateHz: info.format.sampleRateHz,
            speed: speedOfSound(venue.temperatureC),
            units: settings.units,
          })
        : [],
    [figures, names, info, venue.temperatureC, settings.units],
  );
}

/** How far the work on a recording is, and that it can be given up. */
function Progress({ recording, close }: { recording: OpenRecording; close: () => void }) {
  const { pyramid, figures, measured, problem } = recording;
  if (problem !== null) {
    return (
      <p role="alert" className="text-error py-2">
        It could not be read to its end: {problem}
      </p>
    );
  }
  if (figures) return null;
  const words = pyramid
    ? `Measured: ${Math.round(100 * measured)} %`
    : 'The whole curve is being drawn';
  return (
    <p
      role="status"
      aria-label="Being measured"
      className="text-muted flex items-center gap-3 py-2"
    >
      {words}
      <button className="btn btn-xs" onClick={close}>
        Cancel
      </button>
    </p>
  );
}

interface HearProps {
  recording: OpenRecording;
  hear: Hear;
  setHear: (hear: Hear) => void;
  go: (at: { fromS: number; toS: number }) => void;
}

/** What of it is heard, and the places that are marked in the file. */
function HearAndMarkers({ recording, hear, setHear, go }: HearProps) {
  const { cues, format } = recording.info;
  const { channels, sampleRateHz } = format;
  return (
    <>
      <label className="flex items-center gap-2">
        <span className="text-muted">Hear</span>
        <select
          aria-label="Hear"
          className="select select-sm w-auto max-w-56"
          value={String(hear)}
          onChange={(event) => {
            const { value } = event.currentTarget;
            setHear(value === 'all' || value === 'plan' ? value : Number(value));
          }}
        >
          <option value="all">{channels === 2 ? 'left and right' : 'all channels'}</option>
          {channels > 1 &&
            Array.from({ length: channels }, (_, c) => (
              <option key={c} value={c}>
                {recording.names[c] || `Channel ${c + 1}`} alone
              </option>
            ))}
          <option value="plan">the plan in its place, simulated</option>
        </select>
      </label>
      {cues.length > 0 && (
        <label className="flex items-center gap-2">
          <span className="text-muted">Markers</span>
          <select
            className="select select-sm w-auto max-w-56"
            value=""
            onChange={(event) => {
              const cue = cues[Number(event.currentTarget.value)];
              if (cue)
                go({ fromS: cue.position / sampleRateHz, toS: cue.position / sampleRateHz + 1 });
            }}
          >
            <option value="">{cues.length} in the file</option>
            {cues.map(({ id, position, label }, i) => (
              <option key={id} value={i}>
                {placeText(position / sampleRateHz, 1)} {label}
              </option>
            ))}
          </select>
        </label>
      )}
    </>
  );
}

interface OneProps {
  recording: OpenRecording;
  close: () => void;
}

/** One recording: what it says first, then its curve, then what can be done with it. */
function One({ recording, close }: OneProps) {
  const { frames, format, warnings } = recording.info;
  const { sampleRateHz, channels } = format;
  /** a stretch that is measured by itself; null is the whole */
  const [part, setPart] = useState<{ fromS: number; toS: number } | null>(null);
  const asked = useMemo(
    () => part && { file: recording.file, options: { what: MEASURED, ...part } },
    [recording.file, part],
  );
  const ofPart = useTask('measured', asked);
  const figures = part ? (ofPart.busy ? null : ofPart.value) : recording.figures;
  const readings = useReadings(recording, figures);
  const [view, setView] = useState<View>({ from: 0, to: frames });
  const [stretch, setStretchNow] = useState<View | null>(null);
  const [hear, setHear] = useState<Hear>('all');
  useHeardRecording(recording, hear);
  const setStretch = useCallback(
    (next: View | null) => {
      setStretchNow(next);
      const range = next && ([next.from / frames, next.to / frames] as const);
      void withEngine((engine) => engine.setRange(range));
    },
    [frames],
  );
  const ofStretch = useMemo(
    () => stretch && { fromS: stretch.from / sampleRateHz, toS: stretch.to / sampleRateHz },
    [stretch, sampleRateHz],
  );
  const go = (at: { fromS: number; toS: number }): void => {
    const place = { from: at.fromS * sampleRateHz, to: at.toS * sampleRateHz };
    setView(about(place, frames));
    void withEngine((engine) => engine.seek(place.from / Math.max(1, frames - 1)));
  };
  return (
    <>
      <Facts recording={recording} />
      <Progress recording={recording} close={close} />
      {warnings.map((warning) => (
        <p key={warning} role="note" className="text-warning py-1">
          {warning}
        </p>
      ))}
      {part && (
        <p role="status" aria-label="What was measured" className="flex items-center gap-3 pb-1">
          {ofPart.busy
            ? `Measuring ${stretchText(part)}: ${Math.round(100 * ofPart.progress)} %`
            : `Of ${stretchText(part)} alone:`}
          <button className="btn btn-xs" onClick={() => setPart(null)}>
            {ofPart.busy ? 'Cancel' : 'Of the whole'}
          </button>
        </p>
      )}
      {ofPart.error !== null && <p role="alert">Not measured: {ofPart.error}</p>}
      {figures && <ReadingsList readings={readings} go={go} />}
      <div className="flex pt-4">
        <ul aria-label="Channels" className="w-24 shrink-0">
          {Array.from({ length: channels }, (_, c) => (
            <li key={c} className="flex h-[84px] items-center pr-2 text-[12.5px] font-semibold">
              <span className="truncate" title={recording.names[c]}>
                {recording.names[c] || `Channel ${c + 1}`}
              </span>
            </li>
          ))}
        </ul>
        <div className="min-w-0 flex-1">
          <TimeLine
            recording={recording}
            readings={readings}
            view={view}
            setView={setView}
            stretch={stretch}
            setStretch={setStretch}
          />
          <div className="text-muted flex justify-between pt-1 text-[12px]">
            <span>{placeText(view.from / sampleRateHz)}</span>
            <span>{placeText(view.to / sampleRateHz)}</span>
          </div>
        </div>
      </div>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2 pt-2">
        <StretchFields
          stretch={stretch}
          frames={frames}
          sampleRateHz={sampleRateHz}
          setStretch={setStretch}
        />
        {stretch && (
          <button className="btn btn-sm" onClick={() => setPart(ofStretch)}>
            Measure it alone
          </button>
        )}
        <HearAndMarkers recording={recording} hear={hear} setHear={setHear} go={go} />
      </div>
      <Room recording={recording} stretch={ofStretch} />
      <KeepButton recording={recording} figures={figures} readings={readings} part={part} />
    </>
  );
}

/** Nothing is open yet. */
function Beginning({ choose }: { choose: () => void }) {
  return (
    <section aria-label="Recordings" className="border-hairline border-2 border-dashed px-8 py-12">
      <h2 className="text-[16px]">What is on a recording?</h2>
      <p className="text-muted max-w-[60ch] pt-2 pb-4">
        Drop recordings here, or open them: WAV, RF64 and BW64 of every width, and FLAC. They stay
        where they are, and nothing is sent anywhere. What is wrong with them comes first, as
        sentences that lead to the place; then their curves.
      </p>
      <button className="btn btn-sm btn-primary" onClick={choose}>
        <FolderOpen size={15} /> Open recordings
      </button>
    </section>
  );
}

/** What is on a recording, and is it what was planned? */
export function BenchStation() {
  const session = useSession();
  const { id } = session;
  const { open, opening, shown } = useStore(benchStore, ({ of }) => benchOf(of, id));
  const recording = open.find(({ key }) => key === shown) ?? open[0] ?? null;
  const take = (files: readonly File[]): void => {
    forgetRefused(id);
    openRecordings(
      session,
      files.map((file) => ({ file, handle: null })),
    ).catch(notifyFailure);
  };
  const choose = (): void => void chooseFiles(ACCEPTED).then(take);
  return (
    <main
      aria-label="Bench"
      className="bg-base-100 flex h-full flex-col"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        take([...event.dataTransfer.files]);
      }}
    >
      <div className="border-hairline bg-base-200 flex min-h-11 shrink-0 flex-wrap items-center gap-2 border-b px-3 py-1">
        <button className="btn btn-sm" onClick={choose}>
          <FolderOpen size={15} /> Open recordings
        </button>
        {open.map((one) => (
          <span key={one.key} className="inline-flex items-center">
            <button
              className={`btn btn-sm px-2 ${one === recording ? 'btn-neutral' : 'btn-ghost font-normal'}`}
              aria-pressed={one === recording}
              onClick={() => showRecording(id, one.key)}
            >
              <FileAudio size={13} />
              <span className="max-w-48 truncate">{one.reference.name}</span>
            </button>
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`Close ${one.reference.name}`}
              onClick={() => closeRecording(id, one.key)}
            >
              <X size={12} />
            </button>
          </span>
        ))}
      </div>
      <div className="relative min-h-0 flex-1 overflow-auto px-6 py-4 max-md:px-3" tabIndex={0}>
        {opening.map(({ name, problem }, i) => (
          <p
            key={`${name} ${i}`}
            role={problem === null ? 'status' : 'alert'}
            className={problem === null ? 'text-muted pb-2' : 'text-error pb-2'}
          >
            {problem === null ? `Opening ${name} …` : `${name} was not opened: ${problem}`}
          </p>
        ))}
        {recording ? (
          <One
            key={recording.key}
            recording={recording}
            close={() => closeRecording(id, recording.key)}
          />
        ) : (
          <Beginning choose={choose} />
        )}
        <Kept />
      </div>
    </main>
  );
}
