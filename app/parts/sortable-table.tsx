import {
  createSortedRowModel,
  rowSortingFeature,
  sortFns,
  tableFeatures,
  useTable,
  type ColumnDef,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useMemo, type ReactNode } from 'react';

export interface Column<Row> {
  id: string;
  header: string;
  /** what it is sorted by; a column without one cannot be sorted */
  value?: (row: Row) => string | number;
  cell: (row: Row) => ReactNode;
  numeric?: boolean;
}

interface Props<Row extends { id: string }> {
  label: string;
  columns: readonly Column<Row>[];
  rows: readonly Row[];
}

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns,
});

/** A table whose columns sort on a click on their heading; a third click restores the order. */
export function SortableTable<Row extends { id: string }>({ label, columns, rows }: Props<Row>) {
  const data = useMemo(() => [...rows], [rows]);
  const definitions = useMemo<ColumnDef<typeof features, Row>[]>(
    () =>
      columns.map(({ id, value }) => ({
        id,
        accessorFn: (row: Row) => value?.(row) ?? '',
        enableSorting: value !== undefined,
      })),
    [columns],
  );
  const table = useTable({
    features,
    columns: definitions,
    data,
    getRowId: (row: Row) => row.id,
  });
  return (
    <table className="ledger-table w-full" aria-label={label}>
      <thead>
        <tr>
          {columns.map(({ id, header, numeric, value }) => {
            const column = table.getColumn(id);
            const sorted = column?.getIsSorted() ?? false;
            return (
              <th
                key={id}
                className={numeric ? 'num' : ''}
                aria-sort={
                  sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'
                }
              >
                {value ? (
                  <button
                    className="inline-flex items-center gap-1 hover:underline"
                    onClick={column?.getToggleSortingHandler()}
                  >
                    {header}
                    {sorted === 'asc' && <ArrowUp size={12} />}
                    {sorted === 'desc' && <ArrowDown size={12} />}
                  </button>
                ) : (
                  header || <span className="sr-only">Actions</span>
                )}
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>
        {table.getRowModel().rows.map(({ id, original }) => (
          <tr key={id}>
            {columns.map((column) => (
              <td key={column.id} className={column.numeric ? 'num' : ''}>
                {column.cell(original)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
