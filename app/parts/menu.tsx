import { useEffect, useRef, useState, type ReactNode } from 'react';

interface Props {
  /** what stands on the button */
  button: ReactNode;
  title?: string;
  /** name for assistive technology, where the button's words do not say it */
  label?: string;
  buttonClass?: string;
  className?: string;
  /** drawn only while it is open; `close` puts it away and gives the focus back */
  children: (close: () => void) => ReactNode;
}

/** A menu under its button: one Escape, a click outside or a choice puts it away. */
export function Menu({ button, title, label, buttonClass, className, children }: Props) {
  const menu = useRef<HTMLDetailsElement>(null);
  const [open, setOpen] = useState(false);
  const close = () => setOpen(false);
  useEffect(() => {
    if (!open) return;
    const outside = (event: PointerEvent) => {
      if (event.target instanceof Node && !menu.current?.contains(event.target)) setOpen(false);
    };
    // Before anything else takes the press for itself.
    addEventListener('pointerdown', outside, true);
    return () => removeEventListener('pointerdown', outside, true);
  }, [open]);
  return (
    <details
      ref={menu}
      open={open}
      className={`dropdown ${className ?? ''}`}
      onToggle={(event) => setOpen(event.currentTarget.open)}
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || !open) return;
        close();
        menu.current?.querySelector('summary')?.focus();
        event.stopPropagation();
      }}
      onBlur={(event) => {
        if (event.relatedTarget && !event.currentTarget.contains(event.relatedTarget)) close();
      }}
    >
      <summary
        className={buttonClass ?? 'btn btn-sm btn-ghost'}
        title={title}
        aria-label={label}
        aria-expanded={open}
      >
        {button}
      </summary>
      {open && children(close)}
    </details>
  );
}
