import { MEASURED_OCTAVES_HZ } from '../../core/audio/measure/bands';
import type { TakeFigures } from '../../core/audio/measure/take';
import { formatNumber, formatSigned } from '../../core/units';
import { downloadTable } from '../keeping/tables';
import { channelName } from './channel-choice';
import type { OpenRecording } from './recordings';

interface Props {
  recording: OpenRecording;
  figures: TakeFigures | null;
}

const LEVELS = [
  'Channel',
  'Peak dBFS',
  'True peak dBTP',
  'Headroom dB',
  'RMS dBFS',
  'Offset %',
  'Clips',
];

const cell = (value: number | null, decimals: number): string =>
  value === null ? '—' : formatNumber(value, decimals);

/** Hum, harmonic by harmonic. */
function HumTable({ recording, figures }: { recording: OpenRecording; figures: TakeFigures }) {
  const hums = (figures.hum ?? []).flatMap((found, c) =>
    found
      .filter(({ levelDb }) => levelDb !== null)
      .flatMap(({ mainsHz, harmonics }) =>
        harmonics.map(({ hz, levelDb }) => ({ channel: c, mainsHz, hz, levelDb })),
      ),
  );
  return (
    <section aria-label="Hum">
      <h2 className="pb-1 text-[15px]">Hum</h2>
      {hums.length === 0 ? (
        <p className="text-muted text-[12.5px]">None of 50 or 60 Hz was found.</p>
      ) : (
        <table className="ledger-table" aria-label="Harmonics of hum">
          <thead>
            <tr>
              <th>Channel</th>
              <th className="num">Mains Hz</th>
              <th className="num">Harmonic Hz</th>
              <th className="num">Level dBFS</th>
            </tr>
          </thead>
          <tbody>
            {hums.map(({ channel, mainsHz, hz, levelDb }) => (
              <tr key={`${channel} ${mainsHz} ${hz}`}>
                <th scope="row">{channelName(recording, channel)}</th>
                <td className="num">{mainsHz}</td>
                <td className="num">{formatNumber(hz, 0)}</td>
                <td className="num">{formatNumber(levelDb, 0)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** Levels of every channel, and what it is never softer than, by octave. */
export function LevelsPage({ recording, figures }: Props) {
  if (!figures) return <p role="status">Still being measured.</p>;
  const { channels, bands, loudness } = figures;
  const rows = (channels ?? []).map((of, c) => [
    channelName(recording, c),
    of.peakDb,
    of.truePeakDb,
    of.headroomDb,
    of.rmsDb,
    100 * of.offset,
    of.clips,
  ]);
  const octaves = MEASURED_OCTAVES_HZ.filter((hz) =>
    bands?.noiseFloor.some((list) => list.some((of) => of.hz === hz && of.db !== null)),
  );
  const floors = (bands?.noiseFloor ?? []).map((list, c) => [
    channelName(recording, c),
    ...octaves.map((hz) => list.find((of) => of.hz === hz)?.db ?? null),
  ]);
  const octaveNames = octaves.map((hz) => `${formatNumber(hz, hz < 63 ? 1 : 0)} Hz`);
  return (
    <div className="flex flex-col gap-6">
      {loudness && (
        <dl aria-label="Loudness" className="flex flex-wrap gap-x-8 gap-y-1">
          {(
            [
              ['Integrated', loudness.integrated, 'LUFS'],
              ['Loudest 3 s', loudness.shortTermMax, 'LUFS'],
              ['Loudest 0.4 s', loudness.momentaryMax, 'LUFS'],
              ['Range', loudness.range, 'LU'],
            ] as const
          ).map(([name, value, unit]) => (
            <div key={name}>
              <dt className="text-muted text-[12.5px]">{name}</dt>
              <dd className="text-[17px]">
                {value === null ? '—' : `${formatNumber(value, 1)} ${unit}`}
              </dd>
            </div>
          ))}
        </dl>
      )}
      <section aria-label="Levels">
        <Heading
          title="Levels"
          csv={() => void downloadTable(`${recording.title} levels`, LEVELS, rows)}
        />
        <table className="ledger-table w-full" aria-label="Levels by channel">
          <thead>
            <tr>
              {LEVELS.map((name, i) => (
                <th key={name} className={i === 0 ? '' : 'num'}>
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {(channels ?? []).map((of, c) => (
              <tr key={c}>
                <th scope="row">{channelName(recording, c)}</th>
                <td className="num">{cell(of.peakDb, 1)}</td>
                <td className="num">{cell(of.truePeakDb, 1)}</td>
                <td className="num">{cell(of.headroomDb, 1)}</td>
                <td className="num">{cell(of.rmsDb, 1)}</td>
                <td className="num">{formatSigned(100 * of.offset, 2)}</td>
                <td className="num">{of.clips}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section aria-label="Noise by octave">
        <Heading
          title="Softest it gets, by octave"
          csv={() =>
            void downloadTable(`${recording.title} noise`, ['Channel', ...octaveNames], floors)
          }
        />
        <p className="text-muted pb-1 text-[12.5px]">
          dBFS that a channel does not fall under for more than a twentieth of the time: the noise
          of hall and chain where there are pauses, else the softest of the music.
        </p>
        {octaves.length === 0 ? (
          <p role="status">Too short to tell: 1.4 s at least, 5.8 s for the lowest octaves.</p>
        ) : (
          <div className="overflow-auto">
            <table className="ledger-table w-full" aria-label="Noise floor by octave">
              <thead>
                <tr>
                  <th>Channel</th>
                  {octaveNames.map((name) => (
                    <th key={name} className="num">
                      {name}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {floors.map(([name, ...list], c) => (
                  <tr key={c}>
                    <th scope="row">{name}</th>
                    {list.map((db, i) => (
                      <td key={octaves[i]} className="num">
                        {cell(db as number | null, 0)}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </section>
      <HumTable recording={recording} figures={figures} />
    </div>
  );
}

function Heading({ title, csv }: { title: string; csv: () => void }) {
  return (
    <div className="flex items-baseline gap-2 pb-1">
      <h2 className="flex-1 text-[15px]">{title}</h2>
      <button className="btn btn-ghost btn-xs" aria-label={`${title}: CSV`} onClick={csv}>
        CSV
      </button>
    </div>
  );
}
