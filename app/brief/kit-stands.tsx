import { fieldKey } from '../view/validity';
import type { Kit } from '../../core/session';
import { QuantityField } from '../parts/quantity-field';
import { countKind, kilogramsKind, lengthKind } from '../parts/quantity-kinds';
import { SortableTable, type Column } from '../parts/sortable-table';
import { newId } from '../document/new-id';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

type Stand = Kit['stands'][number];
type Bar = Kit['bars'][number];
type ListName = 'microphones' | 'stands' | 'bars';

/** A text in a cell, kept when it is left. */
export function CellText(props: {
  label: string;
  value: string;
  onCommit: (value: string) => void;
}) {
  const { label, value, onCommit } = props;
  return (
    <input
      key={value}
      aria-label={`${label}: ${value}`}
      className="value-input w-full! min-w-40 text-left!"
      defaultValue={value}
      maxLength={200}
      onBlur={(event) => {
        const text = event.currentTarget.value.trim();
        if (text !== '' && text !== value) onCommit(text);
      }}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

export function removeButton(name: string, list: ListName, id: string) {
  return (
    <button
      className="btn btn-ghost btn-xs"
      aria-label={`Remove ${name}`}
      onClick={() =>
        edit((draft) => {
          const entries: { id: string }[] = draft.kit[list];
          const index = entries.findIndex((known) => known.id === id);
          if (index >= 0) entries.splice(index, 1);
        })
      }
    >
      ×
    </button>
  );
}

function change(list: 'stands' | 'bars', id: string, part: object): void {
  edit((draft) => {
    const entries: { id: string }[] = draft.kit[list];
    const entry = entries.find((known) => known.id === id);
    if (entry) Object.assign(entry, part);
  });
}

/** Stands with their reach and bars with their spacing. */
export function StandsAndBars() {
  const { kit, settings } = useSession();
  const length = lengthKind('widthM', settings.units);
  const number = (
    list: 'stands' | 'bars',
    row: Stand | Bar,
    name: string,
    label: string,
    kind: typeof length,
  ) => (
    <QuantityField
      bare
      label={`${row.name}, ${label}`}
      fieldKey={fieldKey(list, row.id, name)}
      kind={kind}
      value={(row as unknown as Record<string, number>)[name] ?? 0}
      onCommit={(value) => value !== null && change(list, row.id, { [name]: value })}
    />
  );
  const named = <Row extends Stand | Bar>(
    list: 'stands' | 'bars',
    header: string,
  ): Column<Row> => ({
    id: 'name',
    header,
    value: ({ name }) => name,
    cell: (row) => (
      <CellText label="Name" value={row.name} onCommit={(name) => change(list, row.id, { name })} />
    ),
  });
  const numeric = <Row extends Stand | Bar>(
    list: 'stands' | 'bars',
    id: string,
    header: string,
    kind: typeof length,
  ): Column<Row> => ({
    id,
    header,
    numeric: true,
    value: (row) => (row as unknown as Record<string, number>)[id] ?? 0,
    cell: (row) => number(list, row, id, header, kind),
  });
  const standColumns: Column<Stand>[] = [
    named('stands', 'Stand'),
    numeric('stands', 'count', 'How many', countKind),
    numeric('stands', 'minHeightM', 'From', length),
    numeric('stands', 'maxHeightM', 'Up to', length),
    numeric('stands', 'reachM', 'Boom', length),
    numeric('stands', 'baseM', 'Base radius', lengthKind('baseM', settings.units)),
    numeric('stands', 'massKg', 'Weight', kilogramsKind),
    { id: 'remove', header: '', cell: (row) => removeButton(row.name, 'stands', row.id) },
  ];
  const barColumns: Column<Bar>[] = [
    named('bars', 'Bar'),
    numeric('bars', 'count', 'How many', countKind),
    numeric('bars', 'mostSpacingM', 'Spacing up to', length),
    { id: 'remove', header: '', cell: (row) => removeButton(row.name, 'bars', row.id) },
  ];
  return (
    <section aria-labelledby="stands-heading">
      <h2 id="stands-heading" className="text-[17px]">
        Stands and bars
      </h2>
      <div className="flex gap-2 py-2">
        <button
          className="btn btn-sm font-normal"
          onClick={() =>
            edit((draft) => {
              draft.kit.stands.push({
                id: newId(),
                name: `Stand ${draft.kit.stands.length + 1}`,
                count: 1,
                minHeightM: 1,
                maxHeightM: 2.5,
                reachM: 0.8,
                baseM: 0.35,
                massKg: 4,
              });
            })
          }
        >
          Add a stand
        </button>
        <button
          className="btn btn-sm font-normal"
          onClick={() =>
            edit((draft) => {
              const name = `Bar ${draft.kit.bars.length + 1}`;
              draft.kit.bars.push({ id: newId(), name, count: 1, mostSpacingM: 0.3 });
            })
          }
        >
          Add a bar
        </button>
      </div>
      {kit.stands.length > 0 && (
        <SortableTable label="Stands" columns={standColumns} rows={kit.stands} />
      )}
      {kit.bars.length > 0 && (
        <div className="max-w-xl pt-3">
          <SortableTable label="Bars" columns={barColumns} rows={kit.bars} />
        </div>
      )}
    </section>
  );
}
