import { useMemo, useState } from 'react';
import {
  Bar,
  BarChart,
  CartesianGrid,
  Cell,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { placeText } from '../../core/audio/measure/readings';
import { placesByBand, type ImageStep, type StereoFigures } from '../../core/audio/measure/stereo';
import { boundPair } from '../../core/recorded';
import { formatNumber, formatSigned } from '../../core/units';
import { AXIS, axisTitle, GRID, MARGIN } from '../charts/axes';
import { ChartFrame } from '../charts/chart-frame';
import { useSession } from '../document/use-session';
import { useTask } from '../workers/use-task';
import { askedStretch, stretchText, Working, type PageProps } from './asked';
import { ChannelChoice, channelName } from './channel-choice';
import { StereoPlot } from './stereo-plot';

/** Read of at most so much, s. */
const MOST_S = 600;
const POINTS = 4000;
const HEIGHT = 190;
/** More columns nobody tells apart in a chart of a half page. */
const COLUMNS = 300;
/** Of mono less is much, dB. */
const MUCH_DB = -6;

const hzText = (hz: number): string =>
  hz >= 1000 ? `${formatNumber(hz / 1000, hz % 1000 === 0 ? 0 : 1)}k` : formatNumber(hz, 0);

/** Values over time, as many as can be seen: of each column the least. */
function columnsOf(
  values: readonly (number | null)[],
  fromS: number,
  stepS: number,
): { s: number; value: number | null }[] {
  const each = Math.max(1, Math.ceil(values.length / COLUMNS));
  return Array.from({ length: Math.ceil(values.length / each) }, (_, k) => {
    const some = values.slice(k * each, (k + 1) * each).flatMap((value) => value ?? []);
    return {
      s: fromS + k * each * stepS,
      value: some.length === 0 ? null : Math.min(...some),
    };
  });
}

const timeAxis = {
  dataKey: 's',
  type: 'number' as const,
  domain: ['dataMin', 'dataMax'] as const,
  tickFormatter: (s: number) => placeText(s, 0),
  label: axisTitle('time', 'bottom'),
  ...AXIS,
};

function CorrelationOverTime({ curves }: StereoFigures) {
  const { correlation, fromS, stepS } = curves;
  const points = useMemo(() => columnsOf(correlation, fromS, stepS), [correlation, fromS, stepS]);
  return (
    <ChartFrame
      title="Correlation over time"
      about="+1: both are one; 0: nothing in common; below: against each other. The least of each moment."
      header={['time s', 'correlation']}
      rows={points.map(({ s, value }) => [s, value])}
    >
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} />
          <XAxis {...timeAxis} />
          <YAxis
            domain={[-1, 1]}
            ticks={[-1, -0.5, 0, 0.5, 1]}
            label={axisTitle('correlation', 'left')}
            {...AXIS}
          />
          <ReferenceLine y={0} stroke="var(--muted)" />
          <Line
            dataKey="value"
            dot={false}
            isAnimationActive={false}
            stroke="var(--color-primary)"
            strokeWidth={1.5}
          />
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

interface BarsProps {
  title: string;
  about: string;
  header: readonly [string, string];
  values: readonly { hz: number; value: number | null }[];
  domain: [number, number];
  ticks: number[];
  axis: string;
  bad: (value: number) => boolean;
}

/** Bars by band about zero. */
function Bars({ title, about, header, values, domain, ticks, axis, bad }: BarsProps) {
  const points = values.map(({ hz, value }) => ({ name: hzText(hz), hz, value }));
  return (
    <ChartFrame
      title={title}
      about={about}
      header={header}
      rows={values.map(({ hz, value }) => [hz, value])}
    >
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <BarChart data={points} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} vertical={false} />
          <XAxis
            dataKey="name"
            interval="preserveStartEnd"
            label={axisTitle('frequency, Hz', 'bottom')}
            {...AXIS}
          />
          <YAxis
            domain={domain}
            allowDataOverflow
            ticks={ticks}
            label={axisTitle(axis, 'left')}
            {...AXIS}
          />
          <ReferenceLine y={0} stroke="var(--muted)" />
          <Bar dataKey="value" isAnimationActive={false}>
            {points.map(({ hz, value }) => (
              <Cell
                key={hz}
                fill={value !== null && bad(value) ? 'var(--color-error)' : 'var(--color-primary)'}
              />
            ))}
          </Bar>
        </BarChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

const percent = (shift: number): number => Math.round(100 * shift);
const sideText = (shift: number): string =>
  Math.abs(shift) < 0.03
    ? 'in the middle'
    : `${formatNumber(Math.abs(100 * shift), 0)} % ${shift < 0 ? 'left' : 'right'}`;

/** Where whoever plays stands, over time and in each octave. */
function Images({ images }: { images: readonly ImageStep[] }) {
  const told = images.filter(({ all }) => all !== null);
  const places = useMemo(() => placesByBand(images), [images]);
  const points = useMemo(() => {
    const each = Math.max(1, Math.ceil(images.length / COLUMNS));
    return images
      .filter((_, i) => i % each === 0)
      .map(({ atS, all }) => ({ s: atS, value: all ? percent(all.shift) : null }));
  }, [images]);
  if (told.length < 3) {
    return (
      <p role="status" className="text-muted text-[12.5px]">
        No place can be told there: it needs a passage of a second and more in which one player is
        alone.
      </p>
    );
  }
  return (
    <>
      <ChartFrame
        title="Image over time"
        about="−100 % left, +100 % right loudspeaker: by the consensus of the models, from level and delay. Of one player alone; of several it is whoever leads."
        header={['time s', 'place %']}
        rows={points.map(({ s, value }) => [s, value])}
      >
        <ResponsiveContainer width="100%" height={HEIGHT}>
          <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
            <CartesianGrid {...GRID} />
            <XAxis {...timeAxis} />
            <YAxis
              domain={[-100, 100]}
              ticks={[-100, -50, 0, 50, 100]}
              label={axisTitle('place, %', 'left')}
              {...AXIS}
            />
            <ReferenceLine y={0} stroke="var(--muted)" />
            <Line
              dataKey="value"
              dot={{ r: 1.2 }}
              isAnimationActive={false}
              stroke="var(--color-base-content)"
              strokeWidth={1}
            />
          </LineChart>
        </ResponsiveContainer>
      </ChartFrame>
      <ChartFrame
        title="Image by octave"
        about="Half of the time it lies within the stroke. From the level of each octave and the delay of all of it."
        header={['frequency Hz', 'from %', 'middle %', 'to %']}
        rows={places.map(({ hz, low, middle, high }) => [
          hz,
          percent(low),
          percent(middle),
          percent(high),
        ])}
      >
        <svg
          viewBox="0 0 460 190"
          className="w-full max-w-[560px]"
          role="img"
          aria-label="Image by octave"
        >
          {[-1, -0.5, 0, 0.5, 1].map((at) => (
            <g key={at}>
              <line
                x1={250 + at * 195}
                x2={250 + at * 195}
                y1={8}
                y2={168}
                stroke="var(--hairline)"
              />
              <text
                x={250 + at * 195}
                y={184}
                textAnchor="middle"
                fontSize={11.5}
                fill="var(--muted)"
              >
                {at === 0
                  ? 'middle'
                  : `${formatNumber(Math.abs(at * 100), 0)} % ${at < 0 ? 'left' : 'right'}`}
              </text>
            </g>
          ))}
          {places.map(({ hz, low, middle, high }, i) => {
            const y = 18 + (i * 150) / Math.max(1, places.length);
            return (
              <g key={hz}>
                <text x={46} y={y + 4} textAnchor="end" fontSize={11.5} fill="var(--muted)">
                  {hzText(hz)}
                </text>
                <line
                  x1={250 + low * 195}
                  x2={250 + high * 195}
                  y1={y}
                  y2={y}
                  stroke="var(--color-primary)"
                  strokeWidth={3}
                  strokeLinecap="round"
                />
                <circle cx={250 + middle * 195} cy={y} r={3.5} fill="var(--color-base-content)" />
              </g>
            );
          })}
        </svg>
      </ChartFrame>
    </>
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
          Mono loses most from {placeText(worstMono.fromS, 1)} to {placeText(worstMono.toS, 1)}:{' '}
          {formatSigned(worstMono.db, 1)} dB against both channels (0 dB: nothing in common)
          {worstBand && worstBand.db < 0 && (
            <>
              ; over the stretch the third octave at {formatNumber(worstBand.hz, 0)} Hz,{' '}
              {formatSigned(worstBand.db, 1)} dB
            </>
          )}
          .{' '}
          <button className="btn btn-xs font-normal" onClick={() => go(worstMono)}>
            Show<span className="sr-only"> where mono loses most</span>
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
              <Bars
                title="Correlation by octave"
                about="Low in the bass is spacious; high everywhere is narrow."
                header={['frequency Hz', 'correlation']}
                values={found.bands?.correlation ?? []}
                domain={[-1, 1]}
                ticks={[-1, -0.5, 0, 0.5, 1]}
                axis="correlation"
                bad={(value) => value < -0.2}
              />
              <Bars
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
