import type { ReactNode } from 'react';
import { FormulaLink } from '../parts/formula-link';

interface Props {
  right: boolean | null;
  /** what it was, with its figure */
  said: string;
  formula: string;
  children?: ReactNode;
  next: () => void;
  /** what the button says */
  nextName: string;
}

/** What is said after an answer: the truth first. */
export function After({ right, said, formula, children, next, nextName }: Props) {
  return (
    <section aria-label="What it was" className="flex max-w-[76ch] flex-col gap-2">
      <p role="status" aria-label="Outcome" className="text-[16px]">
        {right !== null && (
          <strong className={right ? 'text-primary' : 'text-error'}>
            {right ? 'Right. ' : 'No. '}
          </strong>
        )}
        {said}
      </p>
      {children}
      <div className="flex flex-wrap items-center gap-4 pt-1">
        <button className="btn btn-primary" autoFocus onClick={next}>
          {nextName}
        </button>
        <FormulaLink to={formula}>Formula and source</FormulaLink>
      </div>
    </section>
  );
}

/** How far a round has come, as strokes: full where it was right. */
export function Strokes(props: {
  of: number;
  right: readonly boolean[];
  /** the question that is shown has no answer yet */
  isOpen: boolean;
}) {
  const { of, right, isOpen } = props;
  return (
    <p
      role="status"
      aria-label="Round"
      className="text-muted flex items-center gap-2 text-[12.5px] tabular-nums"
    >
      Question {Math.min(of, right.length + (isOpen ? 1 : 0))} of {of}
      <svg width={of * 10} height={14} aria-hidden="true">
        {Array.from({ length: of }, (_, i) => (
          <line
            key={i}
            x1={5 + i * 10}
            x2={5 + i * 10}
            y1={i < right.length && !right[i] ? 8 : 2}
            y2={12}
            stroke={i < right.length ? 'var(--color-base-content)' : 'var(--hairline)'}
            strokeWidth={2.4}
          />
        ))}
      </svg>
    </p>
  );
}
