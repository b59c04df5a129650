import { aboutWord } from './glossary';
import { useCallback, useEffect, useId, useRef, useState } from 'react';
import { whenLeaving } from '../document/typing';
import { asOneStep, endStep, takeBackStep } from '../document/session-store';

interface TextProps {
  label: string;
  value: string;
  most: number;
  onCommit: (value: string) => void;
  multiline?: boolean;
  required?: boolean;
  /** in a table: the label is there for assistive technology only */
  bare?: boolean;
}

/**
 * A text that is stored while it is typed, as one step of undo; Escape takes it back to what it
 * was when the field was entered.
 */
export function TextField(props: TextProps) {
  const { label, value, most, multiline, bare } = props;
  const id = useId();
  const { draft, empty, field, onEscape, onEnter } = useTyping(id, props);
  const shared = {
    id,
    value: draft ?? value,
    maxLength: most,
    'aria-invalid': empty,
    ...field,
  };
  return (
    <div className={bare ? '' : multiline ? 'py-1' : 'ledger-row text-row'}>
      <label htmlFor={id} className={bare ? 'sr-only' : 'text-muted'}>
        {label}
      </label>
      {multiline ? (
        <textarea
          {...shared}
          rows={4}
          className="textarea textarea-sm mt-1 w-full text-[13.5px]"
          onKeyDown={(event) => event.key === 'Escape' && onEscape()}
        />
      ) : (
        <input
          {...shared}
          autoComplete="off"
          className="value-input w-full! text-left!"
          onKeyDown={(event) => {
            if (event.key === 'Enter') onEnter();
            if (event.key === 'Escape') onEscape();
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

/** What is typed goes to the session this often, ms: soon enough to be stored within a second. */
const HAND_OVER_MS = 150;

/** The typing in one field, from entering it to leaving it, as one step. */
function useTyping(key: string, { value, most, required, onCommit }: TextProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const empty = required === true && draft !== null && draft.trim() === '';
  const typed = useRef<string | null>(null);
  /** what stood there before anything was typed */
  const first = useRef<string | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const latest = useRef({ value, onCommit });
  useEffect(() => {
    latest.current = { value, onCommit };
  });

  const handOver = useCallback((): void => {
    if (timer.current !== null) clearTimeout(timer.current);
    timer.current = null;
    const text = typed.current?.slice(0, most) ?? null;
    if (text === null || text === latest.current.value) return;
    if (required === true && text.trim() === '') return;
    asOneStep(key, () => latest.current.onCommit(text));
  }, [key, most, required]);

  // Also when the page saves or goes, and when the field goes with the page that it stands on.
  useEffect(() => {
    const forget = whenLeaving(handOver);
    return () => {
      forget();
      handOver();
      endStep(key);
    };
  }, [handOver, key]);

  function finish(): void {
    typed.current = null;
    first.current = null;
    setDraft(null);
    endStep(key);
  }
  return {
    draft,
    empty,
    field: {
      onChange: (event: { currentTarget: { value: string } }) => {
        first.current ??= latest.current.value;
        typed.current = event.currentTarget.value;
        setDraft(event.currentTarget.value);
        timer.current ??= setTimeout(handOver, HAND_OVER_MS);
      },
      onBlur: () => {
        handOver();
        if (!empty) finish();
      },
    },
    onEnter: () => {
      handOver();
      if (!empty) finish();
    },
    onEscape: () => {
      if (timer.current !== null) clearTimeout(timer.current);
      timer.current = null;
      const before = first.current;
      // A field of a dialog stands in no history: its first content is handed over again.
      if (!takeBackStep(key) && before !== null && before !== latest.current.value)
        onCommit(before);
      finish();
    },
  };
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
      <label htmlFor={id} title={aboutWord(label)} className={hideLabel ? 'sr-only' : 'text-muted'}>
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
      <span className="text-muted" title={aboutWord(label)}>
        {label}
      </span>
      <span className="whitespace-nowrap font-semibold">
        <output aria-label={label}>{number}</output>
        <span className="unit font-normal">{unit}</span>
      </span>
    </div>
  );
}

interface CheckProps {
  label: string;
  value: boolean;
  onChange: (value: boolean) => void;
}

/** Something that is shown or not. */
export function CheckField({ label, value, onChange }: CheckProps) {
  return (
    <label className="flex cursor-pointer items-center gap-2 py-1">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={value}
        onChange={(event) => onChange(event.currentTarget.checked)}
      />
      {label}
    </label>
  );
}
