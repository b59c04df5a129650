import { fieldKey } from '../view/validity';
import { ROOM_SURFACES } from '../../core/acoustics';
import { reverberationFromSurfaces } from '../../core/analysis';
import {
  bandsOf,
  facedRoom,
  isPlainBox,
  materialOf,
  MATERIALS,
  surfacesOf,
  surfaceWords,
  type Material,
} from '../../core/hall';
import type { Venue } from '../../core/session';
import { formatNumber } from '../../core/units';
import { QuantityField } from '../parts/quantity-field';
import { plainNumberKind } from '../parts/quantity-kinds';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

type Absorption = Venue['surfaces'][number]['absorption'];

function setAbsorption(surface: string, absorption: Absorption | null, name = ''): void {
  edit((draft) => {
    const others = draft.venue.surfaces.filter((entry) => entry.surface !== surface);
    draft.venue.surfaces =
      absorption === null ? others : [...others, { surface, name, absorption }];
  });
}

/** At 1 kHz, as single figures are. */
const middleOf = (absorption: Absorption): number | null =>
  typeof absorption === 'number' ? absorption : (absorption['1000'] ?? null);

interface SurfaceProps {
  surface: string;
  label: string;
  /** what it is taken as where nothing is said of it alone */
  instead?: string | undefined;
}

function OneSurface({ surface, label, instead }: SurfaceProps) {
  const { surfaces } = useSession().venue;
  const entries = surfaces.filter((entry) => entry.surface === surface);
  const [entry] = entries;
  const value = entry ? middleOf(entry.absorption) : null;
  const material = entry && materialOf(entry.absorption);
  const banded =
    entries.length > 1 || (entry !== undefined && typeof entry.absorption !== 'number');
  const remark = banded
    ? `At 1 kHz; ${material ? `${material.name}, by octave` : 'the file holds figures by octave'}. Typing here replaces them by one.`
    : entry === undefined && instead !== undefined
      ? `Taken as ${instead}.`
      : null;
  return (
    <div className="flex items-baseline gap-2">
      <div className="flex-1">
        <QuantityField
          label={label}
          fieldKey={fieldKey('surface', '', surface)}
          kind={plainNumberKind('absorption', 0.01)}
          value={value}
          optional
          remark={remark}
          onCommit={(absorption) => setAbsorption(surface, absorption)}
        />
      </div>
      <MaterialChoice
        label={`${label}, material`}
        chosen={material}
        onChoose={(found) => setAbsorption(surface, bandsOf(found), found.name)}
      />
    </div>
  );
}

interface ChoiceProps {
  label: string;
  chosen: Material | undefined;
  onChoose: (material: Material) => void;
}

/** A material of the table: its figures by octave. */
export function MaterialChoice({ label, chosen, onChoose }: ChoiceProps) {
  return (
    <select
      aria-label={label}
      title={chosen && `${chosen.absorption.join(', ')} from 125 Hz to 4 kHz; ${chosen.source}`}
      className="select select-xs w-36"
      value={chosen?.name ?? ''}
      onChange={(event) => {
        const found = MATERIALS.find(({ name }) => name === event.currentTarget.value);
        if (found) onChoose(found);
      }}
    >
      <option value="">by number</option>
      {MATERIALS.map(({ name }) => (
        <option key={name}>{name}</option>
      ))}
    </select>
  );
}

const SIDES: Readonly<Record<string, string>> = {
  floor: 'Floor',
  ceiling: 'Ceiling',
  left: 'Left wall',
  right: 'Right wall',
  front: 'Wall behind the audience',
  back: 'Wall behind the stage',
};
const SIDES_OF_SHAPE: Readonly<Record<string, string>> = {
  left: 'All walls on the left',
  right: 'All walls on the right',
  front: 'All walls behind the audience',
  back: 'All walls behind the stage',
};

/** Every surface that a hall has, with what it is taken as where nothing is said. */
export function surfaceRows(venue: Venue): SurfaceProps[] {
  if (isPlainBox(venue)) {
    return ROOM_SURFACES.map((surface) => ({ surface, label: SIDES[surface] ?? surface }));
  }
  const room = facedRoom({ ...venue, origin: venue.origin ?? { x: 0, y: 0 } });
  const groups = ['floor', 'ceiling', ...Object.keys(SIDES_OF_SHAPE)].map((surface) => ({
    surface,
    label: SIDES_OF_SHAPE[surface] ?? SIDES[surface] ?? surface,
  }));
  const extra: SurfaceProps[] = [];
  if (venue.stage.heightM > 0) {
    extra.push({ surface: 'stage', label: 'Stage floor', instead: 'the floor' });
  }
  if (venue.seats.some(({ riseM }) => riseM > 0)) {
    extra.push({ surface: 'seats', label: 'Raked seats', instead: 'the floor' });
  }
  for (const kind of ['balcony', 'organ case', 'wall'] as const) {
    const kinds: readonly string[] = kind === 'wall' ? ['wall', 'column'] : [kind];
    if (venue.obstacles.some((each) => kinds.includes(each.kind))) {
      const label = { balcony: 'Balcony', 'organ case': 'Organ case', wall: 'Columns, free walls' };
      extra.push({ surface: kind, label: label[kind], instead: 'the walls' });
    }
  }
  const walls =
    room?.faces
      .filter(({ id }) => venue.shape !== null && /^wall \d+$/.test(id))
      .sort((a, b) => Number(a.id.slice(5)) - Number(b.id.slice(5)))
      .map(({ id }) => {
        const words = surfaceWords(room, id);
        return {
          surface: id,
          label: words.charAt(0).toUpperCase() + words.slice(1),
          instead: 'its side',
        };
      }) ?? [];
  return [...groups, ...extra, ...walls];
}

/** Absorption of each surface, and the reverberation time that follows by octave band. */
export function Surfaces() {
  const session = useSession();
  const { venue } = session;
  const times = reverberationFromSurfaces(session);
  const rows = surfaceRows(venue);
  const single = rows.filter(({ surface }) => /^wall \d+$/.test(surface));
  const total = surfacesOf(venue, 1000)?.reduce(
    (sum, { areaM2, absorption }) => sum + areaM2 * (absorption ?? 0),
    0,
  );
  return (
    <section aria-labelledby="surfaces-heading">
      <h2 id="surfaces-heading" className="pb-2 text-[17px]">
        Surfaces
      </h2>
      <p className="text-muted pb-1 text-[12.5px]">
        Absorption from 0 (hard) to 1 (open window). It also takes its part off every reflection.
        Materials are textbook means by octave; a real wall is easily a third off.
      </p>
      {rows
        .filter((row) => !single.includes(row))
        .map((row) => (
          <OneSurface key={row.surface} {...row} />
        ))}
      {single.length > 0 && (
        <details className="py-1">
          <summary className="cursor-pointer py-1 font-semibold">Wall by wall</summary>
          {single.map((row) => (
            <OneSurface key={row.surface} {...row} />
          ))}
        </details>
      )}
      {times.kind === 'missing' ? (
        <p className="text-muted py-2 text-[12.5px]">
          For a reverberation time still missing: {times.what.join(', ')}.
        </p>
      ) : (
        <>
          <table className="ledger-table mt-2 w-full" aria-label="Reverberation time">
            <thead>
              <tr>
                <th>Octave</th>
                <th className="num">Sabine</th>
                <th className="num">Eyring</th>
              </tr>
            </thead>
            <tbody>
              {times.bands.map(({ frequencyHz, sabineS, eyringS }) => (
                <tr key={frequencyHz}>
                  <td>{frequencyHz} Hz</td>
                  <td className="num">{formatNumber(sabineS, 2)} s</td>
                  <td className="num">{formatNumber(eyringS, 2)} s</td>
                </tr>
              ))}
            </tbody>
          </table>
          {total !== undefined && (
            <p className="text-muted pt-1 text-[12.5px]">
              {formatNumber(total, 1)} m² of open window at 1 kHz, by the area of every face.
            </p>
          )}
          <button
            className="btn btn-sm mt-2 font-normal"
            onClick={() =>
              edit((draft) => {
                const usable = times.bands.filter(
                  ({ eyringS }) => eyringS !== null && eyringS >= 0.1 && eyringS <= 12,
                );
                draft.venue.rt60S = Object.fromEntries(
                  usable.map(({ frequencyHz, eyringS }) => [
                    `${frequencyHz}`,
                    Math.round((eyringS ?? 0) * 100) / 100,
                  ]),
                );
              })
            }
          >
            Take Eyring’s as the hall’s reverberation time
          </button>
        </>
      )}
    </section>
  );
}
