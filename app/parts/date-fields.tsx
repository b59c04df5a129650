import { useId } from 'react';

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

/** A time of day; empty where that is allowed and nothing is said. */
export function TimeField({
  label,
  value,
  onCommit,
}: Omit<Props, 'value' | 'onCommit'> & {
  value: string | null;
  onCommit: (value: string | null) => void;
}) {
  const id = useId();
  return (
    <div className="ledger-row">
      <label htmlFor={id} className="text-muted">
        {label}
      </label>
      <input
        id={id}
        type="time"
        className="value-input"
        value={value ?? ''}
        onChange={(event) => onCommit(event.currentTarget.value || null)}
      />
    </div>
  );
}
