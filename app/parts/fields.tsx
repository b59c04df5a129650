import { useId, useState } from 'react';

interface TextProps {
  label: string;
  value: string;
  most: number;
  onCommit: (value: string) => void;
  multiline?: boolean;
  required?: boolean;
}

/** A text that is kept when the field is left or Enter is pressed; Escape takes it back. */
export function TextField({ label, value, most, onCommit, multiline, required }: TextProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const id = useId();
  const empty = required === true && draft !== null && draft.trim() === '';
  function accept() {
    if (draft !== null && draft !== value && !empty) onCommit(draft.slice(0, most));
    if (!empty) setDraft(null);
  }
  const shared = {
    id,
    value: draft ?? value,
    maxLength: most,
    'aria-invalid': empty,
    onBlur: accept,
    onChange: (event: { currentTarget: { value: string } }) => setDraft(event.currentTarget.value),
  };
  return (
    <div className={multiline ? 'py-1' : 'ledger-row text-row'}>
      <label htmlFor={id} className="text-muted">
        {label}
      </label>
      {multiline ? (
        <textarea
          {...shared}
          rows={4}
          className="textarea textarea-sm mt-1 w-full text-[13.5px]"
          onKeyDown={(event) => event.key === 'Escape' && setDraft(null)}
        />
      ) : (
        <input
          {...shared}
          autoComplete="off"
          className="value-input w-full! text-left!"
          onKeyDown={(event) => {
            if (event.key === 'Enter') accept();
            if (event.key === 'Escape') setDraft(null);
          }}
        />
      )}
      {empty && (
        <p role="alert" className="text-error text-[12.5px]">
          {label}: empty. Allowed: text of up to {most} characters.
        </p>
      )}
    </div>
  );
}

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; label: string; disabled?: boolean }[];
  onChange: (value: T) => void;
  hideLabel?: boolean;
}

/** A choice among a few words. */
export function ChoiceField<T extends string>(props: ChoiceProps<T>) {
  const { label, value, options, onChange, hideLabel } = props;
  const id = useId();
  return (
    <div className={hideLabel ? 'contents' : 'ledger-row'}>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'text-muted'}>
        {label}
      </label>
      <select
        id={id}
        className="select select-sm w-auto max-w-[190px] border-transparent bg-transparent font-semibold"
        value={value}
        onChange={(event) => {
          const chosen = options.find((option) => option.value === event.currentTarget.value);
          if (chosen) onChange(chosen.value);
        }}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value} disabled={option.disabled ?? false}>
            {option.label}
          </option>
        ))}
      </select>
    </div>
  );
}

interface ReadoutProps {
  label: string;
  number: string;
  unit?: string;
}

/** A computed figure in the ledger: never typed. */
export function Readout({ label, number, unit = '' }: ReadoutProps) {
  return (
    <div className="ledger-row">
      <span className="text-muted">{label}</span>
      <span className="whitespace-nowrap font-semibold">
        <output aria-label={label}>{number}</output>
        <span className="unit font-normal">{unit}</span>
      </span>
    </div>
  );
}
