import { Plus, Trash2 } from 'lucide-react';
import { bandsOf, materialOf, MATERIALS, surfacesOf } from '../../core/hall';
import type { Venue } from '../../core/session';
import { formatNumber } from '../../core/units';
import { CheckField, TextField } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { plainNumberKind } from '../parts/quantity-kinds';
import { newId } from '../document/new-id';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { fieldKey } from '../view/validity';
import { MaterialChoice, surfaceRows } from './surfaces';

type Area = Venue['areas'][number];

const MOST_AREAS = 60;

function change(id: string, part: Partial<Area>): void {
  edit((draft) => {
    const area = draft.venue.areas.find((each) => each.id === id);
    if (area) Object.assign(area, part);
  });
}

function add(kind: 'curtain' | 'people'): void {
  const material = MATERIALS.find(({ movable }) => movable === kind);
  edit((draft) => {
    draft.venue.areas.push({
      id: newId(),
      name: kind === 'curtain' ? 'Curtain' : 'People',
      kind,
      surface: kind === 'curtain' ? 'front' : 'floor',
      areaM2: kind === 'curtain' ? 20 : 40,
      absorption: material ? bandsOf(material) : 0.5,
      on: true,
    });
  });
}

function OneArea({ area }: { area: Area }) {
  const { venue } = useSession();
  const rows = surfaceRows(venue);
  const { id, name, surface, areaM2, absorption, on } = area;
  const whole = (surfacesOf({ ...venue, areas: [] }, 1000) ?? [])
    .filter((each) => each.id === surface)
    .reduce((sum, each) => sum + each.areaM2, 0);
  const known = rows.some((row) => row.surface === surface);
  return (
    <li className="border-hairline border-t py-1">
      <div className="flex items-baseline gap-2">
        <div className="flex-1">
          <TextField
            label="Name"
            value={name}
            most={200}
            required
            onCommit={(value) => change(id, { name: value })}
          />
        </div>
        <button
          className="btn btn-xs btn-ghost text-error"
          aria-label={`Remove ${name}`}
          onClick={() =>
            edit((draft) => {
              draft.venue.areas = draft.venue.areas.filter((each) => each.id !== id);
            })
          }
        >
          <Trash2 size={13} />
        </button>
      </div>
      <CheckField
        label={`${name} is there`}
        value={on}
        onChange={(value) => change(id, { on: value })}
      />
      <label className="flex items-baseline justify-between gap-2 py-1">
        <span>On</span>
        <select
          aria-label={`${name}, on which surface`}
          className="select select-xs w-52"
          value={surface}
          onChange={(event) => change(id, { surface: event.currentTarget.value })}
        >
          {!known && <option value={surface}>{surface}</option>}
          {rows.map((row) => (
            <option key={row.surface} value={row.surface}>
              {row.label}
            </option>
          ))}
        </select>
      </label>
      <QuantityField
        label="Area"
        fieldKey={fieldKey('area', id, 'areaM2')}
        kind={plainNumberKind('areaM2', 1)}
        value={areaM2}
        remark={
          whole > 0 && areaM2 > whole
            ? `Larger than what it is on (${formatNumber(whole, 0)} m²): it counts as all of it.`
            : null
        }
        onCommit={(value) => value !== null && change(id, { areaM2: value })}
      />
      <div className="flex items-baseline gap-2">
        <div className="flex-1">
          <QuantityField
            label="Absorption"
            fieldKey={fieldKey('area', id, 'absorption')}
            kind={plainNumberKind('absorption', 0.01)}
            value={typeof absorption === 'number' ? absorption : (absorption['1000'] ?? null)}
            remark={typeof absorption === 'number' ? null : 'At 1 kHz.'}
            onCommit={(value) => value !== null && change(id, { absorption: value })}
          />
        </div>
        <MaterialChoice
          label={`${name}, material`}
          chosen={materialOf(absorption)}
          onChoose={(material) => change(id, { absorption: bandsOf(material) })}
        />
      </div>
    </li>
  );
}

/** Curtains, people and panels: on surfaces, and switched on and off. */
export function HallAreas() {
  const { areas } = useSession().venue;
  return (
    <section aria-labelledby="areas-heading">
      <h2 id="areas-heading" className="pt-4 pb-1 text-[17px]">
        Curtains and people
      </h2>
      {areas.length === 0 ? (
        <p className="text-muted pb-1 text-[12.5px]">
          What may be there or not: curtains drawn, people in the seats. Each takes its part of the
          surface that it is on.
        </p>
      ) : (
        <ul>
          {areas.map((area) => (
            <OneArea key={area.id} area={area} />
          ))}
        </ul>
      )}
      <div className="flex gap-1 pt-1">
        {(['curtain', 'people'] as const).map((kind) => (
          <button
            key={kind}
            className="btn btn-sm font-normal"
            disabled={areas.length >= MOST_AREAS}
            onClick={() => add(kind)}
          >
            <Plus size={14} /> {kind === 'curtain' ? 'A curtain' : 'People'}
          </button>
        ))}
      </div>
    </section>
  );
}
