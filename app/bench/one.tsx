import { useCallback, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { placeText, readingsOf, type Reading } from '../../core/audio/measure/readings';
import type { TakeFigures } from '../../core/audio/measure/take';
import { isBound, isTreated } from '../../core/recorded';
import { speedOfSound } from '../../core/units';
import { withEngine } from '../audio/actions';
import { isRecording, listeningStore } from '../audio/listening';
import { useSession } from '../document/use-session';
import { useSettled } from '../figures/use-settled';
import { panelStore } from '../view/panels';
import { BENCH_PAGES } from '../parts/station-pages';
import { useTask } from '../workers/use-task';
import { AgainstPage } from './against-page';
import { stretchText, type PageProps, type Seconds } from './asked';
import { ClapsPage } from './claps-page';
import { ChannelsPage } from './channels-page';
import { channelName } from './channel-choice';
import { DelaysPage } from './delays-page';
import { Facts } from './facts';
import { sideOf, useHeardRecording, type Hear } from './heard';
import { ExportPage } from './export-page';
import { useKeptInDemo } from './keep';
import { KeepButton } from './kept';
import { LevelsPage } from './levels-page';
import { MicrophonesPage } from './microphones-page';
import { ReadingsList } from './readings-list';
import { look, MEASURED, measuredStore, messageOf, type OpenRecording } from './recordings';
import { Room } from './room';
import { drawnUpDb, STAVE_PX, type StaveHeight } from './stave';
import { MidSidePage } from './mid-side-page';
import { SpotsPage } from './spots-page';
import { StereoPage } from './stereo-page';
import { StretchFields } from './stretch-fields';
import { TimeLine } from './time-line';
import { TonePage } from './tone-page';
import { useTreatment } from './treatment';
import { about, type View } from './view';

/** A stretch that is pulled is read once the hand rests, ms. */
const RESTS_MS = 300;

export type BenchPage = (typeof BENCH_PAGES)[number]['id'];

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

interface ProgressProps {
  recording: OpenRecording;
  close: () => void;
}

/** How far the work on a recording is, and that it can be given up; what stands in its way. */
function Progress({ recording, close }: ProgressProps) {
  const { id } = useSession();
  const { key, pyramid, figures, problem } = recording;
  const measured = useStore(measuredStore, ({ of }) => of[key] ?? 0);
  if (problem !== null) {
    return (
      <p role="alert" className="text-error flex flex-wrap items-center gap-3 py-2">
        It could not be read to its end: {problem}
        <button className="btn btn-xs" onClick={() => void look(id, recording)}>
          Try again
        </button>
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
  /** whether anything is to be done to it */
  treated: boolean;
  go: (at: Seconds) => void;
}

/** What of it is heard, and the places that are marked in the file. */
function HearAndMarkers({ recording, hear, setHear, treated, go }: HearProps) {
  const { cues, format } = recording.info;
  const { channels, sampleRateHz } = format;
  const onPlan = useStore(
    listeningStore,
    ({ side, recordings }) => recordings.length > 0 && !isRecording(side),
  );
  return (
    <>
      <label className="flex items-center gap-2">
        <span className="text-muted">Hear</span>
        <select
          aria-label="Hear"
          className="select select-sm w-auto max-w-56"
          value={onPlan ? 'plan' : String(hear)}
          onChange={(event) => {
            const { value } = event.currentTarget;
            if (value !== 'plan') setHear(isNaN(Number(value)) ? (value as Hear) : Number(value));
            void withEngine((engine) =>
              engine.choose(value === 'plan' ? 'plan' : sideOf(recording)),
            );
          }}
        >
          <option value="all">{channels === 2 ? 'left and right' : 'all channels'}</option>
          {isBound(recording.binding) && <option value="mix">the plan’s mix of it</option>}
          {(treated || hear === 'treated') && <option value="treated">as it is treated</option>}
          {channels > 1 &&
            Array.from({ length: channels }, (_, c) => (
              <option key={c} value={c}>
                {channelName(recording, c)} alone
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

interface CurveProps {
  recording: OpenRecording;
  readings: readonly Reading[];
  view: View;
  setView: (next: (view: View) => View) => void;
  stretch: View | null;
  setStretch: (stretch: View | null) => void;
  height: StaveHeight;
}

/** Every channel as a stave, with its name at its left. */
function Curve(props: CurveProps) {
  const { recording, view, height } = props;
  const upDb = useMemo(() => drawnUpDb(recording), [recording]);
  const { sampleRateHz } = recording.info.format;
  return (
    <div
      className={`flex overflow-y-auto pt-3 ${height === STAVE_PX.tall ? 'max-h-[520px]' : 'max-h-[210px]'}`}
    >
      <ul aria-label="Channels" className="w-24 shrink-0">
        {recording.names.map((_, c) => (
          <li
            key={c}
            style={{ height }}
            className="flex items-center pr-2 text-[12.5px] font-semibold"
          >
            <span className="truncate" title={channelName(recording, c)}>
              {channelName(recording, c)}
            </span>
          </li>
        ))}
      </ul>
      <div className="min-w-0 flex-1">
        <TimeLine {...props} upDb={upDb} />
        <div className="text-muted flex justify-between pt-1 text-[12px]">
          <span>{placeText(view.from / sampleRateHz)}</span>
          {upDb > 0 && <span>drawn up by {upDb} dB</span>}
          <span>{placeText(view.to / sampleRateHz)}</span>
        </div>
      </div>
    </div>
  );
}

interface OneProps {
  recording: OpenRecording;
  page: BenchPage;
  close: () => void;
}

/** What was measured: of the whole, or of a stretch by itself. */
function useFigures(recording: OpenRecording) {
  const [part, setPart] = useState<Seconds | null>(null);
  const asked = useMemo(
    () => part && { file: recording.source, options: { what: MEASURED, ...part } },
    [recording.source, part],
  );
  const ofPart = useTask('measured', asked);
  const figures = part ? (ofPart.busy ? null : ofPart.value) : recording.figures;
  return { part, setPart, ofPart, figures };
}

/** One recording: what it says first, then its curve, then what the page is about. */
export function One({ recording, page, close }: OneProps) {
  const { frames, format, warnings } = recording.info;
  const { sampleRateHz } = format;
  const { part, setPart, ofPart, figures } = useFigures(recording);
  const readings = useReadings(recording, figures);
  useKeptInDemo({ recording, figures, part });
  const [view, setView] = useState<View>({ from: 0, to: frames });
  const [stretch, setStretchNow] = useState<View | null>(null);
  const [hear, setHear] = useState<Hear>('all');
  const blind = useStore(panelStore, (state) => state.blind);
  const [treatment, treat] = useTreatment(recording);
  useHeardRecording(recording, hear, treatment);
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
  const go = useCallback(
    (at: Seconds): void => {
      const place = { from: at.fromS * sampleRateHz, to: at.toS * sampleRateHz };
      setView(about(place, frames));
      void withEngine((engine) => engine.seek(place.from / Math.max(1, frames - 1)));
    },
    [sampleRateHz, frames],
  );
  const settled = useSettled(ofStretch, RESTS_MS);
  const content = useMemo(() => {
    // Its own element, so that a curve that is moved does not make the page anew.
    const props: PageProps = { recording, stretch: settled, go };
    const treating = { treatment, treat, hear: () => setHear('treated') };
    return (
      <>
        {page === 'said' && <KeepButton recording={recording} figures={figures} part={part} />}
        {page === 'levels' && <LevelsPage recording={recording} figures={figures} />}
        {page === 'stereo' && <StereoPage {...props} />}
        {page === 'delays' && <DelaysPage {...props} figures={figures} />}
        {page === 'room' && <Room recording={recording} stretch={settled} />}
        {page === 'against' && (
          <AgainstPage {...props} heardAll={hear === 'all'} hearAll={() => setHear('all')} />
        )}
        {page === 'claps' && <ClapsPage {...props} />}
        {page === 'channels' && <ChannelsPage {...props} />}
        {page === 'mid-side' && <MidSidePage {...props} {...treating} />}
        {page === 'spots' && <SpotsPage {...props} {...treating} figures={figures} />}
        {page === 'microphones' && <MicrophonesPage {...props} {...treating} />}
        {page === 'tone' && <TonePage {...props} />}
        {page === 'export' && <ExportPage {...props} {...treating} />}
      </>
    );
  }, [recording, settled, go, page, figures, part, treatment, treat, hear]);
  const list = useMemo(
    () => figures && page === 'said' && <ReadingsList readings={readings} go={go} />,
    [figures, page, readings, go],
  );
  return (
    <>
      <Facts recording={recording} />
      <Progress recording={recording} close={close} />
      {warnings.map((warning) => (
        <p key={warning} role="note" className="text-warning py-1">
          {warning}
        </p>
      ))}
      {recording.intact === 'damaged' && (
        <p role="alert" className="text-error py-1">
          Its samples are not those that were written: the file is damaged somewhere. Take a copy
          from the recorder once more.
        </p>
      )}
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
      {ofPart.error !== null && (
        <p role="alert">Not measured: {messageOf(new Error(ofPart.error))}</p>
      )}
      {list}
      {/* The curve tells on which side it is louder, and who plays when. */}
      {!blind && (
        <Curve
          {...{ recording, readings, view, setView, stretch, setStretch }}
          height={page === 'said' ? STAVE_PX.tall : STAVE_PX.low}
        />
      )}
      <div className="no-print flex flex-wrap items-end gap-x-6 gap-y-2 pt-2 pb-4">
        <StretchFields
          stretch={stretch}
          frames={frames}
          sampleRateHz={sampleRateHz}
          setStretch={setStretch}
        />
        {ofStretch && (
          <button className="btn btn-sm" onClick={() => setPart(ofStretch)}>
            Measure it alone
          </button>
        )}
        <HearAndMarkers {...{ recording, hear, setHear, go }} treated={isTreated(treatment)} />
      </div>
      {content}
    </>
  );
}
