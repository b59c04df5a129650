import type { Reading } from '../../core/audio/measure/readings';

const GRADE_WORDS = { fault: 'Fault', caution: 'Caution', note: 'Note' } as const;
const GRADE_INK = { fault: 'text-error', caution: 'text-warning', note: 'text-muted' } as const;

interface Props {
  readings: readonly Reading[];
  /** leads to the place of one */
  go?: (at: NonNullable<Reading['at']>) => void;
}

/** What a recording says, the gravest first; a sentence leads to its place. */
export function ReadingsList({ readings, go }: Props) {
  return (
    <ul aria-label="What it says" className="flex flex-col">
      {readings.map(({ key, grade, sureness, text, at }) => (
        <li key={key} className="border-hairline flex items-baseline gap-3 border-b py-1.5">
          <span className={`w-16 shrink-0 text-[12.5px] font-semibold ${GRADE_INK[grade]}`}>
            {GRADE_WORDS[grade]}
          </span>
          <span className="min-w-0 flex-1">{text}</span>
          {sureness !== 'sure' && <span className="text-muted text-[12.5px]">{sureness}</span>}
          {at && go && (
            <button className="btn btn-xs font-normal" onClick={() => go(at)}>
              Show<span className="sr-only"> where: {text}</span>
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
