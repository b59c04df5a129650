import { fieldKey } from '../view/validity';
import { ROOM_SURFACES, type RoomSurface } from '../../core/acoustics';
import { reverberationFromSurfaces } from '../../core/analysis';
import { formatNumber } from '../../core/units';
import { QuantityField } from '../parts/quantity-field';
import { plainNumberKind } from '../parts/quantity-kinds';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

const NAMES: Readonly<Record<RoomSurface, string>> = {
  floor: 'Floor',
  ceiling: 'Ceiling',
  left: 'Left wall',
  right: 'Right wall',
  front: 'Wall behind the audience',
  back: 'Wall behind the stage',
};

/** Mean absorption of a few customary surfaces, to be picked instead of typed. */
const CUSTOMARY: readonly (readonly [string, number])[] = [
  ['stone, plaster', 0.03],
  ['timber floor', 0.08],
  ['wood panelling', 0.12],
  ['seated audience', 0.7],
  ['heavy curtain', 0.5],
];

function setAbsorption(surface: RoomSurface, value: number | null, name = ''): void {
  edit((draft) => {
    const others = draft.venue.surfaces.filter((entry) => entry.surface !== surface);
    draft.venue.surfaces =
      value === null ? others : [...others, { surface, name, absorption: value }];
  });
}

function OneSurface({ surface }: { surface: RoomSurface }) {
  const { surfaces } = useSession().venue;
  const entries = surfaces.filter((entry) => entry.surface === surface);
  const [entry] = entries;
  const value = typeof entry?.absorption === 'number' ? entry.absorption : null;
  const banded = entries.length > 1 || (entry !== undefined && value === null);
  return (
    <div className="flex items-baseline gap-2">
      <div className="flex-1">
        <QuantityField
          label={NAMES[surface]}
          fieldKey={fieldKey('surface', '', surface)}
          kind={plainNumberKind('absorption', 0.01)}
          value={value}
          optional
          remark={banded ? 'The file holds figures by band; typing here replaces them.' : null}
          onCommit={(absorption) => setAbsorption(surface, absorption)}
        />
      </div>
      <select
        aria-label={`${NAMES[surface]}, customary`}
        className="select select-xs w-32"
        value={CUSTOMARY.find(([, alpha]) => alpha === value)?.[0] ?? ''}
        onChange={(event) => {
          const found = CUSTOMARY.find(([name]) => name === event.currentTarget.value);
          if (found) setAbsorption(surface, found[1], found[0]);
        }}
      >
        <option value="">by number</option>
        {CUSTOMARY.map(([name]) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </div>
  );
}

/** Absorption of each surface, and the reverberation time that follows by octave band. */
export function Surfaces() {
  const session = useSession();
  const times = reverberationFromSurfaces(session);
  return (
    <section aria-labelledby="surfaces-heading">
      <h2 id="surfaces-heading" className="pb-2 text-[17px]">
        Surfaces
      </h2>
      <p className="text-muted pb-1 text-[12.5px]">
        Absorption from 0 (hard) to 1 (open window). It also takes its part off every reflection.
      </p>
      {ROOM_SURFACES.map((surface) => (
        <OneSurface key={surface} surface={surface} />
      ))}
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
