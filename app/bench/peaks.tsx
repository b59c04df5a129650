import { useMemo, useState } from 'react';
import { noteText, peakIs, peakWords } from '../../core/recorded';
import { formatNumber } from '../../core/units';
import { downloadTable } from '../keeping/tables';
import { useTask } from '../workers/use-task';
import { askedStretch, stretchText, Working, type PageProps } from './asked';
import { ChannelChoice, channelName } from './channel-choice';

/** Peaks are read of no more than this, s. */
const LOOKED_S = 60;
const HEAD = ['Frequency Hz', 'Nearest note', 'Above dB', 'Of the time %', 'What it is'] as const;

/** Narrow peaks of a channel with their notes, what stands under every note first. */
export function Peaks(props: PageProps) {
  const { recording } = props;
  const [channel, setChannel] = useState(0);
  const [given, setGiven] = useState(false);
  const { fromS, toS } = askedStretch(props, LOOKED_S);
  const ask = useMemo(
    () =>
      given
        ? null
        : {
            file: recording.source,
            channels: [channel],
            options: { what: ['resonances' as const], fromS, toS },
          },
    [given, recording.source, channel, fromS, toS],
  );
  const state = useTask('measured', ask);
  const peaks = state.busy || given ? null : (state.value?.resonances?.[0] ?? []);
  const name = channelName(recording, channel);
  const rows = (peaks ?? []).map((peak) => [
    peak.hz,
    noteText(peak),
    peak.aboveDb,
    peak.sharePct,
    peakIs(peak),
  ]);
  return (
    <section aria-label="Peaks">
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <h2 className="text-[15px]">Peaks</h2>
        <ChannelChoice
          label="Channel"
          recording={recording}
          value={channel}
          onChange={(next) => {
            setGiven(false);
            setChannel(next);
          }}
        />
        {rows.length > 0 && (
          <button
            className="btn btn-ghost btn-xs"
            onClick={() => void downloadTable(`${recording.title} ${name} peaks`, HEAD, rows)}
          >
            CSV
          </button>
        )}
      </div>
      <Working
        state={state}
        what={`Listening for peaks in ${stretchText({ fromS, toS })}`}
        cancel={() => setGiven(true)}
      >
        {given && <p className="text-muted">Not read: choose a channel again.</p>}
        {peaks && (
          <p role="status" aria-label="What stands out" className="pb-2 font-semibold">
            {peakWords(peaks, name)}
          </p>
        )}
        {peaks && peaks.length > 0 && (
          <table className="ledger-table w-full max-w-3xl" aria-label="Peaks by note">
            <thead>
              <tr>
                {HEAD.map((head, i) => (
                  <th key={head} className={i === 1 || i === 4 ? '' : 'num'}>
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {peaks.map((peak) => (
                <tr key={peak.hz}>
                  <td className="num">{formatNumber(peak.hz, peak.hz < 100 ? 1 : 0)}</td>
                  <th scope="row">{noteText(peak)}</th>
                  <td className="num">{formatNumber(peak.aboveDb, 0)}</td>
                  <td className="num">{formatNumber(peak.sharePct, 0)}</td>
                  <td>{peakIs(peak)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Working>
    </section>
  );
}
