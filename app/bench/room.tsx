import { useMemo, useState } from 'react';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { criticalDistance } from '../../core/acoustics';
import { midReverberationTime } from '../../core/prepare/context';
import type { DecayTime, OctaveDecay } from '../../core/audio/measure/decay';
import { octaveTimes, venueTimes, type OctaveTime } from '../../core/audio/measure/room';
import type { Venue } from '../../core/session';
import { formatNumber, lengthText, type UnitSystem } from '../../core/units';
import { AXIS, axisTitle, GRID, MARGIN } from '../charts/axes';
import { ChartFrame } from '../charts/chart-frame';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { notify } from '../view/notices';
import { useTask } from '../workers/use-task';
import { stretchText } from './asked';
import { HEIGHT, hzText } from './over-time';
import { messageOf, type OpenRecording } from './recordings';

interface Props {
  recording: OpenRecording;
  /** the stretch that is chosen, s; null is the whole */
  stretch: { fromS: number; toS: number } | null;
}

/** A decay is looked for in so many seconds. */
const MOST_S = 30;

/** What the analysis goes by, before and after: said before anything is changed. */
function changeWords(venue: Venue, rt60S: Record<string, number>, units: UnitSystem): string {
  const [was, is] = [midReverberationTime(venue.rt60S), midReverberationTime(rt60S)];
  const { widthM, depthM, heightM } = venue;
  const from = was === null ? 'not known' : `${formatNumber(was, 2)} s`;
  const times = `Reverberation time at 500 Hz and 1 kHz: ${from} → ${formatNumber(is, 2)} s.`;
  if (widthM === null || depthM === null || heightM === null || is === null) {
    return `${times} The size of the hall is not known yet, so no critical distance follows.`;
  }
  const distance = (seconds: number): string =>
    lengthText(criticalDistance(1, widthM * depthM * heightM, seconds), units);
  const before = was === null ? 'not known' : distance(was);
  return `${times} Critical distance of an even source: ${before} → ${distance(is)}; direct to room, mono and the recommendations follow it.`;
}

const timeText = (time: DecayTime | null): string =>
  time ? `${formatNumber(time.seconds, 2)} ± ${formatNumber(time.uncertaintyS, 2)}` : '—';

/** Every octave with all of its times, and which one is taken. */
function Times({ decay, times }: { decay: readonly OctaveDecay[]; times: readonly OctaveTime[] }) {
  const heads = ['EDT s', 'T20 s', 'T30 s', 'Taken', 'Range dB'];
  return (
    <div className="overflow-auto">
      <table className="ledger-table" aria-label="Decay by octave">
        <thead>
          <tr>
            <th>Octave</th>
            {heads.map((name) => (
              <th key={name} className="num">
                {name}
              </th>
            ))}
            <th>
              <span className="sr-only">Why there is none</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {decay.map(({ hz, edt, t20, t30, rangeDb, refused }, i) => (
            <tr key={hz}>
              <th scope="row">{hz} Hz</th>
              <td className="num">{timeText(edt)}</td>
              <td className="num">{timeText(t20)}</td>
              <td className="num">{timeText(t30)}</td>
              <td className="num">{times[i]?.of ?? '—'}</td>
              <td className="num">{formatNumber(rangeDb, 0)}</td>
              <td className="text-muted text-[12.5px]">{times[i]?.time ? '' : refused}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Times by octave: measured, and as the plan has the hall. */
function TimesChart({ times, venue }: { times: readonly OctaveTime[]; venue: Venue }) {
  const points = times.map(({ hz, time }) => ({
    name: hzText(hz),
    hz,
    measured: time?.seconds ?? null,
    planned: (venue.rt60S as Record<string, number | undefined>)[`${hz}`] ?? null,
  }));
  return (
    <ChartFrame
      title="Reverberation time"
      about="Filled: measured; open: the hall as the plan has it."
      header={['frequency Hz', 'measured s', 'planned s']}
      rows={points.map(({ hz, measured, planned }) => [hz, measured, planned])}
    >
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} />
          <XAxis dataKey="name" label={axisTitle('octave, Hz', 'bottom')} {...AXIS} />
          <YAxis domain={[0, 'auto']} label={axisTitle('seconds', 'left')} {...AXIS} />
          <Line
            dataKey="planned"
            connectNulls
            isAnimationActive={false}
            stroke="var(--muted)"
            strokeDasharray="4 3"
            dot={{ r: 6, fill: 'var(--color-base-100)', strokeDasharray: '' }}
          />
          <Line
            dataKey="measured"
            connectNulls
            isAnimationActive={false}
            stroke="var(--color-primary)"
            strokeWidth={2}
            dot={{ r: 3.5, fill: 'var(--color-primary)' }}
          />
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

/** Why no octave has a time: once, where all have one reason. */
function noneWords(decay: readonly OctaveDecay[]): string {
  const [reason, other] = [...new Set(decay.map(({ refused }) => refused))];
  return other === undefined && reason
    ? `No time here: ${reason}.`
    : 'No octave falls far enough above the noise for a time.';
}

/** A clap, a balloon or a noise that is switched off: how long the hall sounds. */
export function Room({ recording, stretch }: Props) {
  const { venue, settings } = useSession();
  const { channels, sampleRateHz } = recording.info.format;
  const [channel, setChannel] = useState(0);
  const [given, setGiven] = useState(false);
  const wholeS = recording.info.frames / sampleRateHz;
  const fromS = stretch?.fromS ?? 0;
  const toS = Math.min(stretch?.toS ?? wholeS, fromS + MOST_S);
  const ask = useMemo(
    () =>
      given
        ? null
        : {
            file: recording.source,
            options: { what: ['decay'] as const, fromS, toS },
            channels: [channel],
          },
    [recording.source, given, fromS, toS, channel],
  );
  const { value, busy, error, progress } = useTask('measured', ask);
  const decay = ask && !busy ? value?.decay?.[0] : undefined;
  const times = decay ? octaveTimes(decay) : null;
  const found = times && venueTimes(times);
  return (
    <section aria-label="Room" className="pt-6">
      <h2 className="pb-1 text-[15px]">How long the hall sounds</h2>
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <span className="text-muted text-[12.5px]">Of {stretchText({ fromS, toS })}</span>
        {given && (
          <button className="btn btn-sm" onClick={() => setGiven(false)}>
            Read the decay
          </button>
        )}
        {channels > 1 && (
          <select
            aria-label="At which microphone"
            className="select select-sm w-auto"
            value={channel}
            onChange={(event) => setChannel(Number(event.currentTarget.value))}
          >
            {Array.from({ length: channels }, (_, c) => (
              <option key={c} value={c}>
                {recording.names[c] || `Channel ${c + 1}`}
              </option>
            ))}
          </select>
        )}
        {busy && (
          <>
            <span role="status">Reading: {Math.round(100 * progress)} %</span>
            <button className="btn btn-xs" onClick={() => setGiven(true)}>
              Cancel
            </button>
          </>
        )}
      </div>
      {!busy && !stretch && (
        <p className="text-muted text-[12.5px]">
          From a clap, a balloon or a noise that is switched off: pull a stretch over it that ends
          in silence.
        </p>
      )}
      {error !== null && <p role="alert">Not read: {messageOf(new Error(error))}</p>}
      {decay && !found && (
        <p role="status" className="pt-1">
          {noneWords(decay)} A clap, a balloon or a noise that is switched off is needed, in a quiet
          hall and with nothing behind it.
        </p>
      )}
      {found && (
        <div className="pt-2">
          <p role="status" aria-label="What would change">
            {changeWords(venue, found, settings.units)}
          </p>
          <button
            className="btn btn-sm btn-primary mt-2"
            onClick={() => {
              const taken = edit((draft) => {
                draft.venue.rt60S = found;
                draft.venue.rt60From =
                  `measured from “${recording.title}”, ${stretchText({ fromS, toS })}, at ${recording.names[channel] || `channel ${channel + 1}`}, ${new Date().toISOString().slice(0, 10)}`.slice(
                    0,
                    500,
                  );
              });
              if (taken) {
                notify(
                  'The hall has the measured reverberation time. Undo brings the former back.',
                );
              }
            }}
          >
            Take it as the hall’s
          </button>
        </div>
      )}
      {decay && times && found && (
        <div className="grid grid-cols-1 gap-x-8 gap-y-4 pt-4 lg:grid-cols-2">
          <Times decay={decay} times={times} />
          <TimesChart times={times} venue={venue} />
        </div>
      )}
    </section>
  );
}
