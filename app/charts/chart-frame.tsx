import { useId, useRef, useState, type ReactNode } from 'react';
import { formatNumber } from '../../core/units';
import { FormulaLink } from '../parts/formula-link';
import { downloadJson, downloadTable, type Cell } from '../keeping/tables';
import { savePng, saveSvg } from './save-picture';

interface Props {
  title: string;
  /** what is read from it, in a line */
  about?: string;
  formula?: string;
  header: readonly string[];
  rows: readonly (readonly Cell[])[];
  children: ReactNode;
  /** as high as the page leaves room for */
  fill?: boolean;
}

/** As fine as a tape, a protractor or a meter shows it, by the unit at the end of a heading. */
const DIGITS: readonly (readonly [RegExp, number])[] = [
  [/ m$/, 2],
  [/°$/, 1],
  [/%$/, 0],
  [/dB$/, 1],
  [/Hz$/, 0],
];

function cellText(cell: Cell, heading = ''): string {
  if (cell === null) return '—';
  if (typeof cell !== 'number') return cell;
  return formatNumber(cell, DIGITS.find(([unit]) => unit.test(heading))?.[1] ?? 2);
}

/** A chart with its figures as a table, and both as files. */
export function ChartFrame({ title, about, formula, header, rows, children, fill }: Props) {
  const [asTable, setAsTable] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  const heading = useId();
  const drawing = () => frame.current?.querySelector('svg') ?? null;
  const button = (label: string, run: () => void) => (
    <button
      className="btn btn-ghost btn-xs no-print"
      onClick={run}
      aria-label={`${title}: ${label}`}
    >
      {label}
    </button>
  );
  return (
    <section
      aria-labelledby={heading}
      className={fill ? 'flex min-h-full min-w-0 flex-col' : 'min-w-0'}
    >
      <div className="flex items-baseline gap-2">
        <h2 id={heading} className="flex-1 text-[14px]">
          {title}
        </h2>
        {button(asTable ? 'Chart' : 'Table', () => setAsTable(!asTable))}
        {button('CSV', () => void downloadTable(title, header, rows))}
        {button('JSON', () => downloadJson(title, header, rows))}
        {!asTable && (
          <>
            {button('SVG', () => {
              const svg = drawing();
              if (svg) saveSvg(title, svg);
            })}
            {button('PNG', () => {
              const svg = drawing();
              if (svg) void savePng(title, svg);
            })}
          </>
        )}
      </div>
      {about && (
        <p className="text-muted text-[12.5px]">
          {about} {formula && <FormulaLink to={formula}>Formula</FormulaLink>}
        </p>
      )}
      {asTable ? (
        <div className="max-h-[300px] overflow-auto" tabIndex={0}>
          <table className="ledger-table w-full" aria-label={title}>
            <thead>
              <tr>
                {header.map((name) => (
                  <th key={name} className="num">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((row, i) => (
                <tr key={i}>
                  {row.map((cell, j) => (
                    <td key={j} className="num">
                      {cellText(cell, header[j])}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : (
        <div
          ref={frame}
          role="group"
          aria-labelledby={heading}
          className={fill ? 'flex min-h-0 flex-1 flex-col' : ''}
        >
          {children}
        </div>
      )}
    </section>
  );
}
