import { placeText } from '../../core/audio/measure/readings';
import { formatNumber } from '../../core/units';
import type { OpenRecording } from './recordings';

/** "23.1 MB" */
const sizeText = (bytes: number): string =>
  bytes < 1e6
    ? `${formatNumber(bytes / 1e3, 0)} kB`
    : bytes < 1e9
      ? `${formatNumber(bytes / 1e6, 1)} MB`
      : `${formatNumber(bytes / 1e9, 2)} GB`;

/** What a recording says of itself, in one line. */
export function Facts({ recording }: { recording: OpenRecording }) {
  const { info, files, title } = recording;
  const { format, frames, validBits, container, broadcast } = info;
  const { channels, sampleRateHz, kind } = format;
  const parts = [
    `${channels} ${channels === 1 ? 'channel' : 'channels'}`,
    placeText(frames / sampleRateHz, 1),
    `${formatNumber(sampleRateHz / 1000, sampleRateHz % 1000 === 0 ? 0 : 1)} kHz`,
    kind === 'float' ? `${format.bits} bits, floating` : `${validBits} bits`,
    container === 'RIFF' ? 'WAV' : container,
    ...(files.length > 1 ? [`${files.length} files`] : []),
    sizeText(files.reduce((sum, { reference }) => sum + reference.bytes, 0)),
    ...(recording.intact === 'whole' ? ['whole, by its own sum'] : []),
    ...(broadcast && broadcast.timeReference > 0
      ? [`begins at ${placeText(broadcast.timeReference / sampleRateHz, 0)} of the day`]
      : []),
  ];
  return (
    <div className="pb-2">
      <h2
        className="truncate text-[17px]"
        title={files.map(({ reference }) => reference.name).join(', ')}
      >
        {title}
      </h2>
      <p className="text-muted text-[12.5px]">{parts.join(' · ')}</p>
    </div>
  );
}
