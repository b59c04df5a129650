import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { placeText } from '../../core/audio/measure/readings';
import { overDry, type OverDry } from '../../core/audio/measure/over-dry';
import { overDryWords } from '../../core/recorded';
import { formatSigned } from '../../core/units';
import { ChartFrame } from '../charts/chart-frame';
import { useSession } from '../document/use-session';
import { QuantityField } from '../parts/quantity-field';
import { headroomKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';
import { useTask } from '../workers/use-task';
import { askedStretch, stretchText, Working, type PageProps } from './asked';
import { columnsOf } from './over-time';
import { benchOf, benchStore, type OpenRecording } from './recordings';
import { TimeChart } from './time-chart';

const USUAL_DB = 3;
const MOST_S = 3 * 3600;

/** How much of it is compared, s. */
const wholeOf = ({ info }: OpenRecording): number =>
  Math.min(MOST_S, info.frames / info.format.sampleRateHz);

interface ComparedProps {
  found: OverDry;
  mostDb: number;
  /** whether time stamps put both to each other */
  stamped: boolean;
  go: PageProps['go'];
}

/** By how much one begins after another, by their time stamps; null where they do not both say. */
function laterByStamps(one: OpenRecording, than: OpenRecording): number | null {
  const [a, b] = [one, than].map(({ info: { broadcast, format } }) =>
    broadcast && broadcast.timeReference > 0 ? broadcast.timeReference / format.sampleRateHz : null,
  );
  return a == null || b == null ? null : a - b;
}

/** Loudness over time of the dry one and of this one. */
function useBoth(props: PageProps, dry: OpenRecording | null) {
  const here = props.recording.source;
  const there = dry?.source ?? null;
  const { fromS, toS } = askedStretch(props, MOST_S);
  const wholeS = dry ? wholeOf(dry) : 0;
  const ask = useMemo(
    () => (there ? { file: there, fromS: 0, toS: wholeS } : null),
    [there, wholeS],
  );
  const askHere = useMemo(
    () => (there ? { file: here, fromS, toS } : null),
    [there, here, fromS, toS],
  );
  const [dryState, hereState] = [useTask('loudness', ask), useTask('loudness', askHere)];
  return {
    state: dryState.busy || dryState.error !== null ? dryState : hereState,
    dry: dryState.value,
    here: hereState.value,
    stretch: { fromS, toS },
  };
}

/** What came of it: said, led to, and drawn. */
function Compared({ found, mostDb, stamped, go }: ComparedProps) {
  const points = useMemo(() => columnsOf(found.db, found.fromS, found.stepS), [found]);
  return (
    <>
      <ul aria-label="Against the dry one">
        {overDryWords(found, mostDb).map((words, i) => (
          <li key={words} className={i === 0 ? 'font-semibold' : ''}>
            {words}
          </li>
        ))}
      </ul>
      <p className="text-muted pb-2 text-[12.5px]">
        {stamped
          ? 'They are put to each other by their time stamps.'
          : 'Both are compared from their beginnings.'}{' '}
        Loudness over 0.4 s each.
      </p>
      {found.beyond.length > 0 && (
        <ul aria-label="Passages beyond" className="flex flex-wrap gap-2 pb-2">
          {found.beyond.slice(0, 8).map((one) => (
            <li key={one.fromS}>
              <button className="btn btn-xs" onClick={() => go(one)}>
                {placeText(one.fromS, 1)} {formatSigned(one.db, 1)} dB
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="max-w-3xl">
        <ChartFrame
          title="Processed against dry"
          header={['time s', 'difference dB']}
          rows={points.map(({ s, value }) => [s, value])}
        >
          <TimeChart
            points={points}
            ticks={[-12, -6, 0, 6, 12]}
            axis="dB"
            stroke="var(--color-base-content)"
          />
        </ChartFrame>
      </div>
    </>
  );
}

/** This recording as it was processed, against the dry one, over time. */
export function OverDryTime(props: PageProps) {
  const { recording, go } = props;
  const { id } = useSession();
  const { open } = useStore(benchStore, ({ of }) => benchOf(of, id));
  const others = open.filter(({ key }) => key !== recording.key);
  const [chosen, setChosen] = useState<string | null>(null);
  const [mostDb, setMostDb] = useState(USUAL_DB);
  const dry = others.find(({ key }) => key === chosen) ?? null;
  const both = useBoth(props, dry);
  const laterS = dry && laterByStamps(recording, dry);
  const found = useMemo(
    () => (both.dry && both.here ? overDry(both.dry, both.here, laterS ?? 0, mostDb) : null),
    [both.dry, both.here, laterS, mostDb],
  );
  return (
    <section aria-label="Against the dry recording" className="pt-6">
      <h2 className="pb-1 text-[15px]">Against the dry recording</h2>
      {others.length === 0 ? (
        <p className="text-muted text-[12.5px]">
          Open the dry recording beside this one, and it is compared with it over time.
        </p>
      ) : (
        <div className="flex flex-wrap items-end gap-x-6 gap-y-2 pb-2">
          <label className="flex items-center gap-2">
            <span className="text-muted">Dry</span>
            <select
              aria-label="Dry"
              className="select select-sm w-auto max-w-64"
              value={dry?.key ?? ''}
              onChange={(event) => setChosen(event.currentTarget.value)}
            >
              <option value="">choose a recording</option>
              {others.map(({ key, title }) => (
                <option key={key} value={key}>
                  {title}
                </option>
              ))}
            </select>
          </label>
          <div className="w-64">
            <QuantityField
              label="Warn beyond"
              fieldKey={fieldKey('recording', recording.key, 'overDryDb')}
              kind={headroomKind}
              value={mostDb}
              onCommit={(db) => db !== null && setMostDb(db)}
            />
          </div>
        </div>
      )}
      {dry && (
        <Working
          state={both.state}
          what={`Comparing ${stretchText(both.stretch)}`}
          cancel={() => setChosen(null)}
        >
          {found && <Compared {...{ found, mostDb, go }} stamped={laterS !== null} />}
        </Working>
      )}
    </section>
  );
}
