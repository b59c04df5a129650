import { useId, useState } from 'react';
import { placeText } from '../../core/audio/measure/readings';
import { secondsOf, within, type View } from './view';

interface Props {
  stretch: View | null;
  frames: number;
  sampleRateHz: number;
  setStretch: (stretch: View | null) => void;
}

interface FieldProps {
  label: string;
  /** s; null where there is no stretch */
  value: number | null;
  mostS: number;
  set: (seconds: number) => void;
}

/** A time that is typed: "1:02.5" or seconds. */
function TimeField({ label, value, mostS, set }: FieldProps) {
  const id = useId();
  const [problem, setProblem] = useState<string | null>(null);
  const shown = value === null ? '' : placeText(value);
  return (
    <div>
      <label htmlFor={id} className="text-muted pr-2">
        {label}
      </label>
      <input
        id={id}
        key={shown}
        className="value-input w-24!"
        defaultValue={shown}
        placeholder="—"
        autoComplete="off"
        aria-invalid={problem !== null}
        aria-describedby={problem === null ? undefined : `${id}-problem`}
        onKeyDown={(event) => {
          if (event.key === 'Enter' || event.key === 'Escape') {
            if (event.key === 'Escape') event.currentTarget.value = shown;
            event.currentTarget.blur();
          }
        }}
        onBlur={(event) => {
          const text = event.currentTarget.value;
          if (text.trim() === shown) return setProblem(null);
          const seconds = secondsOf(text);
          if (seconds === null || seconds > mostS) {
            return setProblem(`Allowed: a time from 0:00 to ${placeText(mostS)}.`);
          }
          setProblem(null);
          set(seconds);
        }}
      />
      {problem !== null && (
        <p id={`${id}-problem`} role="alert" className="text-error text-[12.5px]">
          {label}: {problem}
        </p>
      )}
    </div>
  );
}

/** The stretch that is heard again and again and kept with the figures: typed, or pulled on the curve. */
export function StretchFields({ stretch, frames, sampleRateHz, setStretch }: Props) {
  const mostS = frames / sampleRateHz;
  const seconds = (frame: number | undefined): number | null =>
    frame === undefined ? null : frame / sampleRateHz;
  const put = (from: number, to: number): void =>
    setStretch(within({ from: Math.min(from, to), to: Math.max(from, to) }, frames));
  return (
    <div role="group" aria-label="Stretch" className="flex flex-wrap items-start gap-4">
      <TimeField
        label="From"
        value={seconds(stretch?.from)}
        mostS={mostS}
        set={(from) => put(from * sampleRateHz, stretch?.to ?? frames)}
      />
      <TimeField
        label="to"
        value={seconds(stretch?.to)}
        mostS={mostS}
        set={(to) => put(stretch?.from ?? 0, to * sampleRateHz)}
      />
      {stretch && (
        <button className="btn btn-sm btn-ghost font-normal" onClick={() => setStretch(null)}>
          The whole
        </button>
      )}
    </div>
  );
}
