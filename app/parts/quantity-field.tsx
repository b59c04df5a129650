import { clamp } from '../../core/units';
import { useEffect, useId, useLayoutEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { aboutWord } from './glossary';
import { setInvalid, type FieldKey } from '../view/validity';
import type { QuantityKind } from './quantity-kinds';

interface Props {
  label: string;
  /** key under which an invalid content is known */
  fieldKey: FieldKey;
  kind: QuantityKind;
  value: number | null;
  onCommit: (value: number | null) => void;
  /** an empty field is allowed and means "not known" */
  optional?: boolean;
  /** extra check after the range: a message, or null when the value may stand */
  check?: (value: number) => string | null;
  /** in a table: the label is there for assistive technology only */
  bare?: boolean;
  /** what the word means, for whoever hovers it */
  about?: string;
  /** what could be, where the field is emptied: a range and a question, at once */
  ifEmpty?: (() => string) | undefined;
  /** something that is allowed but should be known, shown under the field */
  remark?: string | null;
}

const shownOf = ({ kind, value }: Props): { number: string; unit: string } =>
  value === null ? { number: '', unit: '' } : kind.format(value);
const textOf = ({ kind, value }: Props): string => (value === null ? '' : kind.editText(value));

/** What is typed into a field, from the first letter until it is taken, refused or given up. */
function useTyped(props: Props) {
  const { fieldKey, kind, value, onCommit, optional = false, check, ifEmpty } = props;
  /** what stands in the field while one is in it; untyped it follows the value */
  const [entered, setEntered] = useState(false);
  const [draft, setDraft] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);

  useEffect(() => () => setInvalid(fieldKey, null), [fieldKey]);

  function fail(message: string) {
    setError(message);
    setInvalid(fieldKey, message);
  }

  function settle() {
    setEntered(false);
    setDraft(null);
    setError(null);
    setInvalid(fieldKey, null);
  }

  function accept(text: string) {
    // What was not typed is a display, perhaps rounded, and never read back.
    if (draft === null || text.trim() === textOf(props).trim()) return settle();
    if (text.trim() === '' && optional) {
      settle();
      if (value !== null) onCommit(null);
      return;
    }
    if (text.trim() === '' && ifEmpty) return fail(ifEmpty());
    const read = kind.parse(text);
    if (!read.ok) return fail(read.message);
    const { min, max } = kind.bounds;
    if (!(read.value >= min && read.value <= max)) return fail(`Allowed: ${kind.boundsText}.`);
    const objection = check?.(read.value) ?? null;
    if (objection !== null) return fail(objection);
    settle();
    if (read.value !== value) onCommit(read.value);
  }

  function step(direction: 1 | -1, coarse: boolean) {
    if (value === null || error !== null) return;
    const size = kind.step * (coarse ? 10 : 1) * direction;
    const next = clamp(value + size, kind.bounds.min, kind.bounds.max);
    const rounded = Math.round(next * 1e6) / 1e6;
    setEntered(false);
    setDraft(null);
    if (rounded !== value && !check?.(rounded)) onCommit(rounded);
  }

  function type(text: string) {
    setDraft(text);
    if (!ifEmpty || optional) return;
    if (text.trim() === '') fail(ifEmpty());
    else if (error !== null) {
      setError(null);
      setInvalid(fieldKey, null);
    }
  }

  return { draft, entered, error, enter: () => setEntered(true), type, accept, settle, step };
}

/**
 * A figure with its unit that takes typed values in any unit. What is not valid stays as typed,
 * with a message that says what is allowed; Escape brings the last valid value back.
 */
export function QuantityField(props: Props) {
  const { label, kind, value, optional = false, remark } = props;
  const { draft, entered, error, enter, type, accept, settle, step } = useTyped(props);
  const bare = props.bare === true;
  const inputId = useId();
  const messageId = useId();
  const input = useRef<HTMLInputElement>(null);
  /** just entered: the first click selects all instead of placing the caret */
  const fresh = useRef(false);
  /** left by Escape: what stands in the field is not taken */
  const escaping = useRef(false);

  const shown = shownOf(props);
  const shownText = textOf(props);
  const editing = draft !== null || entered;
  // Where the value changes beneath it, what is typed next still takes the place of the whole.
  useLayoutEffect(() => {
    const field = input.current;
    if (entered && draft === null && field === document.activeElement) field?.select();
  }, [entered, draft, shownText]);
  return (
    <div>
      <div className={bare ? 'text-right' : 'ledger-row'}>
        <label
          htmlFor={inputId}
          title={props.about ?? aboutWord(label)}
          className={bare ? 'sr-only' : 'text-muted'}
        >
          {label}
        </label>
        <span className="whitespace-nowrap">
          <input
            ref={input}
            id={inputId}
            className={`value-input ${bare ? 'w-20!' : ''}`}
            inputMode="text"
            autoComplete="off"
            spellCheck={false}
            title={kind.hint(value)}
            placeholder={optional ? (bare ? '—' : 'not known') : undefined}
            value={draft ?? (entered ? shownText : shown.number)}
            aria-invalid={error !== null}
            aria-describedby={error !== null || remark ? messageId : undefined}
            onFocus={(event) => {
              const field = event.currentTarget;
              // The unit joins the text now, before anything is typed over the selection.
              flushSync(enter);
              field.select();
              fresh.current = true;
            }}
            onMouseUp={(event) => {
              if (fresh.current) event.currentTarget.select();
              fresh.current = false;
            }}
            onChange={(event) => type(event.currentTarget.value)}
            onBlur={(event) => {
              if (!escaping.current) accept(event.currentTarget.value);
              escaping.current = false;
            }}
            onKeyDown={(event) => {
              if (event.key === 'Enter') {
                accept(event.currentTarget.value);
                // A figure that is taken sends no form off.
                event.preventDefault();
              } else if (event.key === 'Escape') {
                escaping.current = true;
                settle();
                input.current?.blur();
              } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
                event.preventDefault();
                step(event.key === 'ArrowUp' ? 1 : -1, event.shiftKey);
              }
            }}
          />
          <span className={`unit ${bare ? 'min-w-0!' : ''}`}>{editing ? '' : shown.unit}</span>
        </span>
      </div>
      {error !== null && (
        <p id={messageId} role="alert" className="text-error py-1 text-[12.5px]">
          {label}: {error}
        </p>
      )}
      {error === null && remark && (
        <p id={messageId} className="text-warning py-1 text-[12.5px]">
          {remark}
        </p>
      )}
    </div>
  );
}
