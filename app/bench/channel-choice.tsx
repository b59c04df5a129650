import type { OpenRecording } from './recordings';

/** What a channel is called: like its microphone, else by its number. */
export const channelName = ({ names }: Pick<OpenRecording, 'names'>, channel: number): string =>
  names[channel]?.trim() || `Channel ${channel + 1}`;

interface Props {
  label: string;
  recording: OpenRecording;
  value: number;
  onChange: (channel: number) => void;
  /** one that cannot be chosen */
  without?: number;
}

/** One of a recording's channels. */
export function ChannelChoice({ label, recording, value, onChange, without }: Props) {
  return (
    <label className="flex items-center gap-2">
      <span className="text-muted">{label}</span>
      <select
        className="select select-sm w-auto max-w-52"
        value={value}
        onChange={(event) => onChange(Number(event.currentTarget.value))}
      >
        {recording.names.map((_, channel) => (
          <option key={channel} value={channel} disabled={channel === without}>
            {channelName(recording, channel)}
          </option>
        ))}
      </select>
    </label>
  );
}
