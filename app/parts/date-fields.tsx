import { useId, useState } from 'react';
import { timeOf } from './time-of';

interface Props {
  label: string;
  value: string;
  onCommit: (value: string) => void;
}

const ISO_DAY = /^\d{4}-\d{2}-\d{2}$/;

/** A day from the calendar; what was written as text before stays until another is chosen. */
export function DateField({ label, value, onCommit }: Props) {
  const id = useId();
  const known = ISO_DAY.test(value);
  return (
    <div className="ledger-row text-row">
      <label htmlFor={id} className="text-muted">
        {label}
      </label>
      <span>
        <input
          id={id}
          type="date"
          min="1900-01-01"
          max="2999-12-31"
          className="value-input w-40! text-left!"
          value={known ? value : ''}
          onChange={(event) => onCommit(event.currentTarget.value)}
        />
        {!known && value !== '' && (
          <span className="text-muted block text-[12.5px]">
            “{value}” is kept as text: choose a day in its place.
          </span>
        )}
      </span>
    </div>
  );
}

/** A time of day by the clock of 24 hours; empty where that is allowed and nothing is said. */
export function TimeField({
  label,
  value,
  required = false,
  onCommit,
}: Omit<Props, 'value' | 'onCommit'> & {
  value: string | null;
  /** it may not be empty */
  required?: boolean;
  onCommit: (value: string | null) => void;
}) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  function settle(text: string) {
    const time = timeOf(text);
    const fits = time !== null || (text.trim() === '' && !required);
    setWrong(!fits);
    if (!fits) return;
    setDraft(null);
    if (time !== value) onCommit(time);
  }
  return (
    <div>
      <div className="ledger-row">
        <label htmlFor={id} className="text-muted">
          {label}
        </label>
        <input
          id={id}
          inputMode="numeric"
          autoComplete="off"
          placeholder="hh:mm"
          className="value-input"
          value={draft ?? value ?? ''}
          aria-invalid={wrong}
          aria-describedby={wrong ? `${id}-wrong` : undefined}
          onChange={(event) => {
            const text = event.currentTarget.value;
            setDraft(text);
            // A whole time is taken at once; what is being typed waits.
            if (/^\d\d:\d\d$/.test(text)) settle(text);
          }}
          onBlur={(event) => draft !== null && settle(event.currentTarget.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') settle(event.currentTarget.value);
            else if (event.key === 'Escape') {
              setDraft(null);
              setWrong(false);
            }
          }}
        />
      </div>
      {wrong && (
        <p id={`${id}-wrong`} role="alert" className="text-error py-1 text-[12.5px]">
          {label}: a time of day as hh:mm, 00:00 to 23:59.
        </p>
      )}
    </div>
  );
}
