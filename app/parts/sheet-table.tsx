import type { SheetTable } from '../../paper/sheet-model';

/** A table of the sheet: one column of lines where the page is a phone. */
export function SheetTableView({ table, label }: { table: SheetTable; label: string }) {
  return (
    <table aria-label={label} className="stacked">
      <thead>
        <tr>
          {table.head.map((cell) => (
            <th key={cell}>{cell}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.rows.map((row, index) => (
          <tr key={`${row[0]}-${index}`}>
            {row.map((cell, column) =>
              column === 0 ? (
                <th key={column} scope="row">
                  {cell}
                </th>
              ) : (
                <td
                  key={column}
                  data-label={table.head[column]}
                  className={cell.length < 24 && !cell.includes('(') ? 'whitespace-nowrap' : ''}
                >
                  {cell}
                </td>
              ),
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
