import { useCallback, useEffect, useId, useRef, useState } from 'react';
import { whenLeaving } from '../document/typing';

interface Props {
  label: string;
  value: string;
  most: number;
  /** what was said so far stays readable: each is an entry of its own */
  onSay: (value: string) => void;
  placeholder?: string;
  list?: string;
  multiline?: boolean;
}

/** Typed on without a break it is kept so often, ms: a browser that dies takes no more with it. */
const KEPT_MS = 3000;

/** A text of a journal: said when the field is left, when the page goes, and after a pause in typing. */
export function SaidField({ label, value, most, onSay, placeholder, list, multiline }: Props) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const typed = useRef<string | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const latest = useRef({ value, onSay });
  useEffect(() => {
    latest.current = { value, onSay };
  });
  const handOver = useCallback(() => {
    clearTimeout(timer.current);
    const text = typed.current;
    typed.current = null;
    if (text !== null && text !== latest.current.value) latest.current.onSay(text);
  }, []);
  useEffect(() => {
    const forget = whenLeaving(handOver);
    return () => {
      forget();
      handOver();
    };
  }, [handOver]);
  const shared = {
    id,
    value: draft ?? value,
    maxLength: most,
    placeholder,
    onChange: (event: { currentTarget: { value: string } }) => {
      typed.current = event.currentTarget.value;
      setDraft(event.currentTarget.value);
      clearTimeout(timer.current);
      timer.current = setTimeout(handOver, KEPT_MS);
    },
    onBlur: () => {
      handOver();
      setDraft(null);
    },
  };
  return (
    <div className="flex items-baseline gap-2 py-0.5">
      <label htmlFor={id} className="text-muted w-24 shrink-0">
        {label}
      </label>
      {multiline ? (
        <textarea {...shared} rows={2} className="textarea textarea-sm w-full text-[13.5px]" />
      ) : (
        <input {...shared} list={list} autoComplete="off" className="input input-sm w-full" />
      )}
    </div>
  );
}
