import type { ReportModel } from '../../paper/measurement-report';
import './sheet.css';

/** A report as it is read and printed. */
export const ReportSheet = ({ model }: { model: ReportModel }) => (
  <article aria-label="Report" className="sheet max-w-none">
    <header>
      <h1>{model.title}</h1>
      <p>{model.facts}</p>
    </header>
    <ul aria-label="What it said" className="pt-3">
      {model.sentences.map((text, i) => (
        <li key={`${i} ${text}`}>{text}</li>
      ))}
    </ul>
    {model.tables.map(({ title, head, rows }) => (
      <section key={title}>
        <h2 className="pt-3 text-[14px]">{title}</h2>
        <table aria-label={title}>
          <thead>
            <tr>
              {head.map((cell) => (
                <th key={cell}>{cell}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={i}>
                {row.map((cell, j) => (
                  <td key={j}>{cell}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    ))}
  </article>
);
