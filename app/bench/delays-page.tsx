import { ticks } from 'd3-array';
import { useMemo, useState } from 'react';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { ChannelDelay, DelayCurve } from '../../core/audio/measure/delay';
import type { TakeFigures } from '../../core/audio/measure/take';
import { boundPair, inputOf, plannedDifferences, sidesTold } from '../../core/recorded';
import { delayReadings, formatNumber, formatSigned, lengthText } from '../../core/units';
import { AXIS, axisTitle, GRID, MARGIN } from '../charts/axes';
import { ChartFrame } from '../charts/chart-frame';
import { useSession } from '../document/use-session';
import { ChoiceField } from '../parts/fields';
import { downloadTable } from '../keeping/tables';
import { useTask } from '../workers/use-task';
import { askedStretch, stretchText, Working, type PageProps, type Seconds } from './asked';
import { ChannelChoice, channelName } from './channel-choice';

/** Read of at most so much, s; and delays up to so much, ms. */
const MOST_S = 600;
const MOST_MS = [5, 50, 200, 2000] as const;
/** Points of a curve that are drawn on either side of its peak. */
const DRAWN = 400;

const M_PER_FT = 0.3048;
/** A way that is shorter is given as bars are, m. */
const NEAR_M = 0.3;

const SURENESS = { certain: 'sure', likely: 'likely', 'cannot be told': 'cannot be told' } as const;

interface Told {
  rateHz: number;
  temperatureC: number;
}

/** ms, samples, metres and feet of a delay: both, whatever the units, as tapes differ. */
function delayText(ms: number, { rateHz, temperatureC }: Told): string {
  const { samples, metres } = delayReadings(Math.abs(ms), rateHz, temperatureC);
  const near = metres < NEAR_M ? 'bar' : 'floor';
  return [
    `${formatNumber(Math.abs(ms), 3)} ms`,
    `${formatNumber(samples, 1).replace(/\.0$/, '')} samples`,
    lengthText(metres, 'metric', near),
    lengthText(metres, 'imperial', near),
  ].join(', ');
}

function pairSentence(names: readonly [string, string], delay: ChannelDelay, told: Told): string {
  const [first, second] = names;
  const { delayMs, levelDb, polarity, certainty, verdict, orMs } = delay;
  const height = `peak ${formatNumber(certainty, 2)}`;
  if (verdict === 'cannot be told' || delayMs === null) {
    return `How ${second} stands against ${first} cannot be told there (${height}). A stretch with one sharp sound, a clap or a tap near both, would tell.`;
  }
  const late =
    Math.abs(delayMs) < 0.0005 ? `at the same time as` : delayMs > 0 ? 'behind' : 'ahead of';
  const by = Math.abs(delayMs) < 0.0005 ? '' : `: ${delayText(delayMs, told)}`;
  const turned = polarity === -1 ? ', and turned over' : '';
  const or = orMs === null ? '' : ` ${formatSigned(orMs, 2)} ms is nearly as likely.`;
  return `${second} is ${late} ${first}${by}${turned}; ${formatSigned(levelDb, 1)} dB; ${SURENESS[verdict]} (${height}).${or}`;
}

/** What proves it: how alike both are at every delay. */
function Proof({ curve, delay, title }: { curve: DelayCurve; delay: ChannelDelay; title: string }) {
  const points = useMemo(() => {
    const { fromMs, stepMs, values } = curve;
    const about = delay.delayMs ?? 0;
    const middle = Math.round((about - fromMs) / stepMs);
    const from = Math.max(0, middle - DRAWN);
    return [...values.subarray(from, middle + DRAWN)].map((value, i) => ({
      ms: fromMs + (from + i) * stepMs,
      value,
    }));
  }, [curve, delay]);
  return (
    <ChartFrame
      title={title}
      about="Likeness of both at every delay, each frequency counted alike; below zero they oppose each other."
      header={['delay ms', 'likeness']}
      rows={points.map(({ ms, value }) => [ms, value])}
    >
      <ResponsiveContainer width="100%" height={200}>
        <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} />
          <XAxis
            dataKey="ms"
            type="number"
            domain={['dataMin', 'dataMax']}
            ticks={ticks(points[0]?.ms ?? 0, points[points.length - 1]?.ms ?? 0, 8)}
            label={axisTitle('second later by, ms', 'bottom')}
            {...AXIS}
          />
          <YAxis
            domain={[-1, 1]}
            ticks={[-1, 0, 1]}
            label={axisTitle('likeness', 'left')}
            {...AXIS}
          />
          <ReferenceLine y={0} stroke="var(--muted)" />
          {delay.delayMs !== null && (
            <ReferenceLine x={delay.delayMs} stroke="var(--color-primary)" strokeDasharray="4 3" />
          )}
          <Line
            dataKey="value"
            dot={false}
            isAnimationActive={false}
            stroke="var(--color-base-content)"
            strokeWidth={1.2}
          />
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

/** The plan beside what was measured: of every player, or of the one who plays. */
function Planned({
  pair,
  delay,
  props,
}: {
  pair: [number, number];
  delay: ChannelDelay;
  props: PageProps;
}) {
  const session = useSession();
  const [who, setWho] = useState('');
  const { binding } = props.recording;
  const [first, second] = pair.map((channel) => inputOf(session, binding, channel));
  if (!first || !second) {
    return (
      <p className="text-muted text-[12.5px]">
        What the plan expects stands here once both channels are bound to microphones, under
        Channels.
      </p>
    );
  }
  const planned = plannedDifferences(session, first, second);
  const chosen = planned.find(({ sourceId }) => sourceId === who);
  const isPair = boundPair(session, binding)?.every((channel) => pair.includes(channel)) ?? false;
  const told = chosen && isPair ? sidesTold(delay, chosen) : null;
  return (
    <section aria-label="Planned beside measured" className="pt-3">
      <div className="max-w-sm pb-2">
        <ChoiceField
          label="Who plays there"
          value={chosen ? who : ''}
          options={[
            { value: '', label: 'everybody' },
            ...planned.map(({ sourceId, name }) => ({ value: sourceId, label: name })),
          ]}
          onChange={setWho}
        />
      </div>
      {told && (
        <p
          role="status"
          aria-label="Left and right"
          className={`pb-2 ${told.verdict === 'swapped' ? 'text-error font-semibold' : ''}`}
        >
          {told.text}
        </p>
      )}
      <table className="ledger-table" aria-label="Planned and measured">
        <thead>
          <tr>
            <th>Player</th>
            <th className="num">Planned ms</th>
            <th className="num">Planned dB</th>
            {chosen && <th className="num">Measured ms</th>}
            {chosen && <th className="num">Measured dB</th>}
          </tr>
        </thead>
        <tbody>
          {(chosen ? [chosen] : planned).map(({ sourceId, name, delayMs, levelDb }) => (
            <tr key={sourceId}>
              <th scope="row">{name}</th>
              <td className="num">{formatSigned(delayMs, 2)}</td>
              <td className="num">{formatSigned(levelDb, 1)}</td>
              {chosen && (
                <td className="num">
                  {delay.delayMs === null ? '—' : formatSigned(delay.delayMs, 2)}
                </td>
              )}
              {chosen && <td className="num">{formatSigned(delay.levelDb, 1)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {!chosen && (
        <p className="text-muted pt-1 text-[12.5px]">
          With everybody playing the strongest player decides: measure a stretch in which one is
          alone, and say who.
        </p>
      )}
    </section>
  );
}

/** Any two channels, on request. */
function Pair(props: PageProps) {
  const { recording } = props;
  const session = useSession();
  const channels = recording.names.length;
  const [first, setFirst] = useState(0);
  const [second, setSecond] = useState(Math.min(1, channels - 1));
  const [mostMs, setMostMs] = useState<number>(200);
  const [asked, setAsked] = useState<({ pair: [number, number]; mostMs: number } & Seconds) | null>(
    null,
  );
  const ask = useMemo(
    () => asked && { file: recording.source, ...asked },
    [recording.source, asked],
  );
  const state = useTask('pair', ask);
  const stretch = askedStretch(props, MOST_S);
  const found = asked && !state.busy ? state.value : null;
  const told: Told = {
    rateHz: recording.info.format.sampleRateHz,
    temperatureC: session.venue.temperatureC,
  };
  return (
    <section aria-label="A pair" className="pt-6">
      <h2 className="pb-2 text-[15px]">Any two channels</h2>
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <ChannelChoice
          label="First"
          recording={recording}
          value={first}
          onChange={setFirst}
          without={second}
        />
        <ChannelChoice
          label="Second"
          recording={recording}
          value={second}
          onChange={setSecond}
          without={first}
        />
        <label className="flex items-center gap-2">
          <span className="text-muted">Delays up to</span>
          <select
            className="select select-sm w-auto"
            value={mostMs}
            onChange={(event) => setMostMs(Number(event.currentTarget.value))}
          >
            {MOST_MS.map((ms) => (
              <option key={ms} value={ms}>
                {ms} ms
              </option>
            ))}
          </select>
        </label>
        <button
          className="btn btn-sm"
          onClick={() => setAsked({ pair: [first, second], mostMs, ...stretch })}
        >
          Compare {props.stretch ? 'in the stretch' : 'them'}
        </button>
      </div>
      <Working state={state} what="Comparing" cancel={() => setAsked(null)}>
        {found && asked && (
          <>
            <p role="status" aria-label="How they stand" className="pb-2">
              {found.delay
                ? pairSentence(
                    [channelName(recording, found.first), channelName(recording, found.second)],
                    found.delay,
                    told,
                  )
                : 'One of them is silent there: nothing to compare.'}{' '}
              <span className="text-muted">Of {stretchText(asked)}.</span>
            </p>
            {found.delay && found.curve && (
              <Proof
                curve={found.curve}
                delay={found.delay}
                title={`${channelName(recording, found.second)} against ${channelName(recording, found.first)}`}
              />
            )}
            {found.delay && <Planned pair={asked.pair} delay={found.delay} props={props} />}
          </>
        )}
      </Working>
    </section>
  );
}

const HEAD = ['Channel', 'Later by ms', 'Samples', 'm', 'ft', 'Level dB', 'Polarity', 'How sure'];

/** How every track stands against one; others on request. */
export function DelaysPage(props: PageProps & { figures: TakeFigures | null }) {
  const { recording, figures } = props;
  const session = useSession();
  if (recording.names.length < 2) {
    return (
      <p role="status">
        One channel alone has no delay: two channels are needed, or a take of files.
      </p>
    );
  }
  const rate = recording.info.format.sampleRateHz;
  const delays = figures?.delays ?? [];
  const others = new Set(delays.map(({ channel }) => channel));
  const against = recording.names.findIndex((_, c) => !others.has(c));
  const rows = delays.map(({ channel, whole }) => {
    const ms = whole?.delayMs ?? null;
    const told = ms === null ? null : delayReadings(ms, rate, session.venue.temperatureC);
    return {
      channel,
      cells: [
        channelName(recording, channel),
        ms,
        told?.samples ?? null,
        told?.metres ?? null,
        told ? told.metres / M_PER_FT : null,
        whole?.levelDb ?? null,
        whole?.polarity === -1 ? 'turned over' : whole?.polarity === 1 ? 'as it' : '—',
        whole ? SURENESS[whole.verdict] : 'silent',
      ] as const,
    };
  });
  const number = (value: number | null, decimals: number): string =>
    value === null ? '—' : formatSigned(value, decimals);
  return (
    <>
      <div className="flex items-baseline gap-2 pb-1">
        <h2 className="flex-1 text-[15px]">
          Every channel against {channelName(recording, Math.max(0, against))}
        </h2>
        <button
          className="btn btn-ghost btn-xs"
          aria-label="Delays: CSV"
          disabled={!figures}
          onClick={() =>
            void downloadTable(
              `${recording.title} delays`,
              HEAD,
              rows.map(({ cells }) => [...cells]),
            )
          }
        >
          CSV
        </button>
      </div>
      {!figures && <p role="status">Still being measured.</p>}
      {figures && (
        <div className="overflow-auto">
          <table className="ledger-table w-full" aria-label="Delays">
            <thead>
              <tr>
                {HEAD.map((name, i) => (
                  <th key={name} className={i === 0 || i > 5 ? '' : 'num'}>
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map(({ channel, cells: [name, ms, samples, m, ft, db, polarity, sure] }) => (
                <tr key={channel}>
                  <th scope="row">{name}</th>
                  <td className="num">{number(ms, 3)}</td>
                  <td className="num">{number(samples, 1)}</td>
                  <td className="num">{number(m, 3)}</td>
                  <td className="num">{number(ft, 2)}</td>
                  <td className="num">{number(db, 1)}</td>
                  <td>{polarity}</td>
                  <td>{sure}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <Pair {...props} />
    </>
  );
}
