import { techniqueFigures } from '../../parts/technique-text';
import { fieldKey } from '../../view/validity';
import { useState } from 'react';
import { useStore } from 'zustand';
import {
  capsulesInFrame,
  inequality,
  overheadPositions,
  pairOverLine,
  type Overheads,
} from '../../../core/arrays';
import type { MicArray } from '../../../core/session';
import {
  formatNumber,
  formatSigned,
  lengthText,
  speedOfSound,
  type Vec3,
} from '../../../core/units';
import { ChoiceField, Readout } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { lengthKind } from '../../parts/quantity-kinds';
import { changeArray, editReplacing, rebuilt } from '../../document/edits';
import { choiceStore } from '../../view/choice';
import {
  EQUIDISTANT,
  keepEquidistant,
  overheadsStore,
  type Equidistant,
} from '../../view/overheads';
import { notify } from '../../view/notices';
import { useSession } from '../../document/use-session';
import { AnchorPlan } from './anchor-plan';
import { OverStrings } from './over-strings';

/** The two microphones as one array, each looking at the anchor. */
function put(array: MicArray, was: string, { first, second }: Overheads, anchor: Vec3): void {
  const centre = {
    x: (first.x + second.x) / 2,
    y: (first.y + second.y) / 2,
    z: (first.z + second.z) / 2,
  };
  const [left, right] = first.x <= second.x ? [first, second] : [second, first];
  const pattern = capsulesInFrame(array.technique)[0]?.pattern ?? 'cardioid';
  const capsule = (label: string, at: Vec3) => {
    const [dx, dy, dz] = [anchor.x - at.x, anchor.y - at.y, anchor.z - at.z];
    return {
      label,
      dx: at.x - centre.x,
      dy: at.y - centre.y,
      dz: at.z - centre.z,
      azimuthDeg: (Math.atan2(dx, dy) * 180) / Math.PI,
      elevationDeg: (Math.atan2(dz, Math.hypot(dx, dy)) * 180) / Math.PI,
      pattern,
    };
  };
  editReplacing(
    array,
    was,
    `${array.name} stands at equal distances.`,
    rebuilt(
      array.id,
      {
        ...centre,
        aimDeg: 0,
        tiltDeg: 0,
        technique: { kind: 'custom', capsules: [capsule('L', left), capsule('R', right)] },
      },
      [],
    ),
  );
}

/** The pair as it is, above the middle of both anchors, looking down, its bar across their line. */
function putOver(array: MicArray, was: string, anchor: Vec3, other: Vec3, upM: number): void {
  const found = pairOverLine(anchor, other, 0.5, upM);
  if (found.ok)
    editReplacing(
      array,
      was,
      `${array.name} is over both.`,
      changeArray(array.id, { ...found.value }),
    );
  else notify(found.message);
}

function Inequalities({ result }: { result: Overheads }) {
  const { sources, settings, venue } = useSession();
  const speed = speedOfSound(venue.temperatureC);
  return (
    <table className="ledger-table w-full" aria-label="Distances to both microphones">
      <thead>
        <tr>
          <th>Player</th>
          <th className="num">first</th>
          <th className="num">second</th>
          <th className="num">differ by</th>
          <th className="num">in time</th>
          <th className="num">first notch</th>
        </tr>
      </thead>
      <tbody>
        {sources.map((source) => {
          const of = inequality(source, result.first, result.second, speed);
          return (
            <tr key={source.id}>
              <th scope="row">{source.name}</th>
              <td className="num">{lengthText(of.firstM, settings.units)}</td>
              <td className="num">{lengthText(of.secondM, settings.units)}</td>
              <td className="num">{formatSigned(of.differenceMm, 0)} mm</td>
              <td className="num">{formatSigned(of.differenceMs, 2)} ms</td>
              <td className="num">
                {of.firstNotchHz === null ? 'none' : `${formatNumber(of.firstNotchHz, 0)} Hz`}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** The players chosen on the Floor are the anchors to begin with, the last one first. */
function chosenPlayer(fromEnd: -1 | -2): string {
  const players = choiceStore.getState().selected.filter(({ kind }) => kind === 'source');
  return players.at(fromEnd)?.id ?? '';
}

interface FoundProps {
  array: MicArray;
  found: ReturnType<typeof overheadPositions>;
  put: (result: Overheads) => void;
}

/** Where both microphones come, or why they come nowhere. */
function Found({ array, found, put }: FoundProps) {
  const { settings } = useSession();
  const place = ({ x, y, z }: Vec3) =>
    [x, y, z].map((m) => lengthText(m, settings.units)).join(' · ');
  if (!found.ok) {
    return (
      <p role="alert" className="text-error">
        {found.message}
      </p>
    );
  }
  const result = found.value;
  return (
    <>
      <Readout label="First: right · upstage · up" number={place(result.first)} />
      <Readout label="Second: right · upstage · up" number={place(result.second)} />
      <button className="btn btn-sm btn-primary my-3" onClick={() => put(result)}>
        Put {array.name} there
      </button>
      <p className="text-muted pb-2 text-[12.5px]">
        Stands and booms over people: counterweight, sandbag and safety bond, and follow the venue’s
        rules.
      </p>
      <Inequalities result={result} />
    </>
  );
}

/** Overhead forms whose two microphones are equally far from an anchor. */
export function OverheadsPage({ array }: { array: MicArray }) {
  const { sources, settings } = useSession();
  const known = useStore(overheadsStore, ({ byArray }) => byArray[array.id]);
  const [begun] = useState<Equidistant>(() => ({
    ...EQUIDISTANT,
    anchorId: chosenPlayer(-1),
    otherId: chosenPlayer(-2),
  }));
  const { form, anchorId, otherId, numbers } = known ?? begun;
  const set = (change: Partial<Equidistant>) =>
    keepEquidistant(array.id, { ...(known ?? begun), ...change });
  const anchor = sources.find(({ id }) => id === anchorId) ?? sources[0];
  if (!anchor) {
    return (
      <p className="text-muted">
        Put the players on the Floor first: one of them is the anchor that both microphones are
        equally far from.
      </p>
    );
  }
  const other = sources.find(({ id }) => id === otherId) ?? null;
  const was = techniqueFigures(array.technique, settings.units);
  const found = overheadPositions({ form, anchor, other, ...numbers });
  const result = found.ok ? found.value : null;
  const kind = lengthKind('positionM', settings.units);
  const field = (name: keyof typeof numbers, label: string) => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('overheads', '', name)}
      kind={kind}
      value={numbers[name]}
      onCommit={(value) => value !== null && set({ numbers: { ...numbers, [name]: value } })}
    />
  );
  const players = sources.map(({ id, name }) => ({ value: id, label: name }));
  return (
    <section aria-label="Overheads">
      <div className="flex flex-wrap gap-10">
        <div className="w-80">
          <ChoiceField
            label="Form"
            value={form}
            options={[
              { value: 'mirrored', label: 'mirrored pair' },
              { value: 'over-side', label: 'one over, one at the side' },
            ]}
            onChange={(chosen) => set({ form: chosen })}
          />
          <ChoiceField
            label="Anchor"
            value={anchor.id}
            options={players}
            onChange={(id) => set({ anchorId: id })}
          />
          <ChoiceField
            label="Second anchor"
            value={other?.id ?? ''}
            options={[
              { value: '', label: form === 'mirrored' ? 'none: straight upstage' : 'none' },
              ...players,
            ]}
            onChange={(id) => set({ otherId: id })}
          />
          <h2 className="pt-3 text-[14px]">First microphone, from the anchor</h2>
          {field('right', 'Right of it')}
          {field('back', 'Upstage of it')}
          {field('up', 'Above it')}
          {other && array.technique.kind === 'pair' && (
            <button
              className="btn btn-sm mt-2"
              onClick={() => putOver(array, was, anchor, other, numbers.up)}
            >
              Put the pair over their line, {lengthText(numbers.up, settings.units)} up
            </button>
          )}
          {form === 'over-side' && (
            <>
              <h2 className="pt-3 text-[14px]">
                {other ? 'Second, as far from both anchors' : 'Second, on a line across'}
              </h2>
              {field('sideUp', 'Above the anchor')}
              {!other && field('sideBack', 'Upstage of the anchor')}
            </>
          )}
        </div>
        <div className="min-w-[460px] flex-1">
          <AnchorPlan
            sources={sources}
            anchorId={anchor.id}
            otherId={other?.id ?? null}
            microphones={result}
            onChoose={(id, second) => {
              if (!second) set({ anchorId: id });
              else set({ otherId: id === otherId ? '' : id });
            }}
          />
          <p className="text-muted pb-2 text-[12.5px]">
            A click on a player makes the anchor, a click with Shift the second one.
          </p>
          <Found array={array} found={found} put={(result) => put(array, was, result, anchor)} />
        </div>
      </div>
      <OverStrings />
    </section>
  );
}
