import { useMemo, useState } from 'react';
import { nominalHz } from '../../core/audio/measure/bands';
import { placeText } from '../../core/audio/measure/readings';
import type { StereoFigures } from '../../core/audio/measure/stereo';
import { boundPair } from '../../core/recorded';
import { formatNumber, formatSigned } from '../../core/units';
import { ChartFrame } from '../charts/chart-frame';
import { useSession } from '../document/use-session';
import { useTask } from '../workers/use-task';
import { askedStretch, stretchText, Working, type PageProps } from './asked';
import { BandBars } from './band-bars';
import { ChannelChoice, channelName } from './channel-choice';
import { Images, sideText } from './images';
import { columnsOf } from './over-time';
import { StereoPlot } from './stereo-plot';
import { TimeChart } from './time-chart';

/** Read of at most so much, s. */
const MOST_S = 600;
const POINTS = 4000;
/** Of mono less is much, dB. */
const MUCH_DB = -6;
/** Two channels that share nothing come out at 0 dB; less than these is lost, dB. */
const [LITTLE_DB, LOST_DB] = [-1, -3];

function CorrelationOverTime({ figures, curves }: StereoFigures) {
  const { fromS } = curves;
  const points = useMemo(() => {
    const { values = [], stepS = 1 } = figures.correlation?.overTime ?? {};
    return columnsOf(values, fromS, stepS);
  }, [figures, fromS]);
  return (
    <ChartFrame
      title="Correlation over time"
      about="+1: both are one; 0: nothing in common; below: against each other. Over 0.4 s each."
      header={['time s', 'correlation']}
      rows={points.map(({ s, value }) => [s, value])}
    >
      <TimeChart
        points={points}
        ticks={[-1, -0.5, 0, 0.5, 1]}
        axis="correlation"
        stroke="var(--color-primary)"
      />
    </ChartFrame>
  );
}

/** The answer first, with its place. */
function Answer({ found, go }: { found: StereoFigures; go: PageProps['go'] }) {
  const { worstMono, images, figures, bands } = found;
  const { correlation } = figures;
  const shifts = images.flatMap(({ all }) => (all ? [all.shift] : []));
  const sorted = [...shifts].sort((a, b) => a - b);
  const at = (share: number): number => sorted[Math.floor((sorted.length - 1) * share)] ?? 0;
  const worstBand = (bands?.monoLoss ?? []).reduce<{ hz: number; db: number } | null>(
    (worst, { hz, db }) => (db !== null && db < (worst?.db ?? 0) ? { hz, db } : worst),
    null,
  );
  return (
    <ul aria-label="In short" className="flex flex-col gap-1 pb-3">
      {correlation && (
        <li>
          Correlation {formatSigned(correlation.mean, 2)} on average,{' '}
          {formatSigned(correlation.least, 2)} at least; below zero{' '}
          {formatNumber(correlation.belowZeroPct, 0)} % of the time.
        </li>
      )}
      {worstMono && (
        <li>
          {worstMono.db > LITTLE_DB ? 'Mono keeps what both have; least of it' : 'Mono loses most'}{' '}
          from {placeText(worstMono.fromS, 1)} to {placeText(worstMono.toS, 1)}:{' '}
          {formatSigned(worstMono.db, 1)} dB against the power of both
          {worstBand && worstBand.db < LOST_DB && (
            <>
              ; over the stretch the third octave at {formatNumber(nominalHz(worstBand.hz), 0)} Hz,{' '}
              {formatSigned(worstBand.db, 1)} dB
            </>
          )}
          .{' '}
          <button className="btn btn-xs font-normal" onClick={() => go(worstMono)}>
            Show<span className="sr-only"> where mono has least</span>
          </button>
        </li>
      )}
      {shifts.length >= 3 && (
        <li>
          What leads stands from {sideText(at(0.1))} to {sideText(at(0.9))} (told in{' '}
          {formatNumber((100 * shifts.length) / Math.max(1, images.length), 0)} % of the time).
        </li>
      )}
    </ul>
  );
}

/** What two channels are of each other: in figures, over time, by band, and as a picture. */
export function StereoPage(props: PageProps) {
  const { recording } = props;
  const session = useSession();
  const channels = recording.names.length;
  const usual = boundPair(session, recording.binding) ?? [0, Math.min(1, channels - 1)];
  const [chosen, setChosen] = useState<[number, number] | null>(null);
  const [left, right] = chosen ?? usual;
  const [given, setGiven] = useState(false);
  const { fromS, toS } = askedStretch(props, MOST_S);
  const pair = useMemo((): [number, number] => [left, right], [left, right]);
  const ask = useMemo(
    () =>
      channels > 1 && !given ? { file: recording.source, pair, points: POINTS, fromS, toS } : null,
    [recording.source, channels, given, pair, fromS, toS],
  );
  const state = useTask('stereo', ask);
  if (channels < 2) {
    return (
      <p role="status">
        One channel alone has no stereo: two channels are needed, or a take of files.
      </p>
    );
  }
  const found = state.busy ? null : state.value;
  const names = [channelName(recording, left), channelName(recording, right)] as const;
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <ChannelChoice
          label="Left"
          recording={recording}
          value={left}
          onChange={(channel) => setChosen([channel, right])}
          without={right}
        />
        <ChannelChoice
          label="Right"
          recording={recording}
          value={right}
          onChange={(channel) => setChosen([left, channel])}
          without={left}
        />
        <span className="text-muted text-[12.5px]">Of {stretchText({ fromS, toS })}</span>
        {given && (
          <button className="btn btn-sm" onClick={() => setGiven(false)}>
            Read it
          </button>
        )}
      </div>
      <Working state={state} what="Reading the stereo" cancel={() => setGiven(true)}>
        {found && (
          <>
            <Answer found={found} go={props.go} />
            <div className="grid grid-cols-1 gap-x-8 gap-y-5 lg:grid-cols-2">
              <ChartFrame
                title="Stereo plot"
                about="Real samples on the axes of the two loudspeakers; as it plays, what is heard."
                header={['across', 'up']}
                rows={rowsOf(found.points)}
              >
                <StereoPlot recording={recording} pair={pair} points={found.points} names={names} />
              </ChartFrame>
              <CorrelationOverTime {...found} />
              <BandBars
                title="Correlation by octave"
                about="Low in the bass is spacious; high everywhere is narrow."
                header={['frequency Hz', 'correlation']}
                values={found.bands?.correlation ?? []}
                domain={[-1, 1]}
                ticks={[-1, -0.5, 0, 0.5, 1]}
                axis="correlation"
                bad={(value) => value < -0.2}
              />
              <BandBars
                title="Mono by third octave"
                about="Mono sum against the power of both: +3 dB of equal channels, 0 dB of unlike ones."
                header={['frequency Hz', 'mono dB']}
                values={(found.bands?.monoLoss ?? []).map(({ hz, db }) => ({ hz, value: db }))}
                domain={[-12, 4]}
                ticks={[-12, -9, -6, -3, 0, 3]}
                axis="mono, dB"
                bad={(value) => value < MUCH_DB}
              />
              <Images images={found.images} />
            </div>
          </>
        )}
      </Working>
    </>
  );
}

const rowsOf = (points: Float32Array): number[][] =>
  Array.from({ length: Math.min(500, points.length / 2) }, (_, i) => [
    points[2 * i] as number,
    points[2 * i + 1] as number,
  ]);
