import { useMemo, useState } from 'react';
import { criticalDistance } from '../../core/acoustics';
import { midReverberationTime } from '../../core/prepare/context';
import { octaveTimes, venueTimes, type OctaveTime } from '../../core/audio/measure/room';
import type { Venue } from '../../core/session';
import { formatNumber, lengthText, type UnitSystem } from '../../core/units';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { notify } from '../view/notices';
import { useTask } from '../workers/use-task';
import { stretchText } from './asked';
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

function Times({ times }: { times: readonly OctaveTime[] }) {
  return (
    <table className="ledger-table" aria-label="Decay by octave">
      <thead>
        <tr>
          {['Octave', 'EDT', 'Time', 'Read over', 'Range'].map((name) => (
            <th key={name} className={name === 'Octave' ? '' : 'num'}>
              {name}
            </th>
          ))}
          <th />
        </tr>
      </thead>
      <tbody>
        {times.map(({ hz, time, of, edt, rangeDb, refused }) => (
          <tr key={hz}>
            <th scope="row">{hz} Hz</th>
            <td className="num">{edt ? `${formatNumber(edt.seconds, 2)} s` : '—'}</td>
            <td className="num">
              {time
                ? `${formatNumber(time.seconds, 2)} ± ${formatNumber(time.uncertaintyS, 2)} s`
                : '—'}
            </td>
            <td className="num">{of ?? '—'}</td>
            <td className="num">{formatNumber(rangeDb, 0)} dB</td>
            <td className="text-muted text-[12.5px]">{time ? '' : refused}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
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
      given ? null : { file: recording.source, options: { what: ['decay'] as const, fromS, toS } },
    [recording.source, given, fromS, toS],
  );
  const { value, busy, error, progress } = useTask('measured', ask);
  const decay = ask && !busy ? value?.decay?.[channel] : undefined;
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
      {times && times.length > 0 && <Times times={times} />}
      {times && !found && (
        <p role="status" className="text-warning pt-1">
          No octave falls far enough above the noise for a time. A louder clap, a quieter hall or a
          balloon would do.
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
              if (edit((draft) => void (draft.venue.rt60S = found))) {
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
    </section>
  );
}
