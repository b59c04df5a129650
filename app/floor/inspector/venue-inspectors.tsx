import { planCorners } from '../../../core/hall';
import { lengthText, planDistance } from '../../../core/units';
import { CornerFields } from './corner-fields';
import { newId } from '../../document/new-id';
import { select } from '../../view/choice';
import { fieldKey } from '../../view/validity';
import type { DatumPoint, Obstacle, SeatBlock, Underlay } from '../../../core/session';
import { ChoiceField, TextField } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { angleKind, countKind, lengthKind, percentKind } from '../../parts/quantity-kinds';
import { edit } from '../../document/session-store';
import { changeUnderlay, removeUnderlay, scaledUnderlay } from '../../document/underlay';
import { chooseTool, toolStore } from '../../view/floor-tools';
import { useSession } from '../../document/use-session';
import { useStore } from 'zustand';

function changeIn(list: 'obstacles' | 'seats' | 'datumPoints', id: string, change: object): void {
  edit((draft) => {
    const entries: { id: string }[] = draft.venue[list];
    const entry = entries.find((known) => known.id === id);
    if (entry) Object.assign(entry, change);
  });
}

/** A column, riser or piece of furniture. */
export function ObstacleInspector({ obstacle }: { obstacle: Obstacle }) {
  const { units } = useSession().settings;
  const change = (part: Partial<Obstacle>) => changeIn('obstacles', obstacle.id, part);
  const length = (
    name: 'x' | 'y' | 'widthM' | 'depthM' | 'heightM' | 'baseM',
    label: string,
    bounds: 'positionM' | 'widthM',
  ) => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('obstacle', obstacle.id, name)}
      kind={lengthKind(bounds, units)}
      value={obstacle[name]}
      onCommit={(value) => value !== null && change({ [name]: value })}
    />
  );
  return (
    <>
      <h2 className="pb-2 text-[17px]">{obstacle.name}</h2>
      <TextField
        label="Name"
        value={obstacle.name}
        most={200}
        required
        onCommit={(name) => change({ name })}
      />
      <ChoiceField
        label="Kind"
        value={obstacle.kind}
        options={[
          { value: 'column', label: 'column' },
          { value: 'wall', label: 'wall' },
          { value: 'riser', label: 'riser' },
          { value: 'balcony', label: 'balcony' },
          { value: 'organ case', label: 'organ case' },
          { value: 'furniture', label: 'furniture' },
        ]}
        onChange={(kind) => change({ kind })}
      />
      {length('x', 'Right of centre', 'positionM')}
      {length('y', 'Upstage of edge', 'positionM')}
      {length('widthM', 'Width', 'widthM')}
      {length('depthM', 'Depth', 'widthM')}
      {length(
        'heightM',
        obstacle.kind === 'balcony' ? 'From underside to top' : 'Height',
        'widthM',
      )}
      {(obstacle.kind === 'balcony' || obstacle.baseM > 0) &&
        length('baseM', 'Underside above the floor', 'widthM')}
      <QuantityField
        label="Turned by"
        fieldKey={fieldKey('obstacle', obstacle.id, 'turn')}
        kind={angleKind('azimuthDeg')}
        value={obstacle.turnDeg}
        onCommit={(value) => value !== null && change({ turnDeg: value })}
      />
    </>
  );
}

/** A block of seats. */
export function SeatsInspector({ seats }: { seats: SeatBlock }) {
  const { units } = useSession().settings;
  const change = (part: Partial<SeatBlock>) => changeIn('seats', seats.id, part);
  const field = (
    name: 'x' | 'y' | 'columns' | 'rows' | 'pitchM' | 'rowPitchM' | 'riseM',
    label: string,
    kind: Parameters<typeof QuantityField>[0]['kind'],
  ) => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('seats', seats.id, name)}
      kind={kind}
      value={seats[name]}
      onCommit={(value) => value !== null && change({ [name]: value })}
    />
  );
  return (
    <>
      <h2 className="pb-2 text-[17px]">{seats.name}</h2>
      <TextField
        label="Name"
        value={seats.name}
        most={200}
        required
        onCommit={(name) => change({ name })}
      />
      {field('x', 'Middle, right of centre', lengthKind('positionM', units))}
      {field('y', 'First row, upstage of edge', lengthKind('positionM', units))}
      {field('rows', 'Rows', countKind)}
      {field('columns', 'Seats in a row', countKind)}
      {field('pitchM', 'From seat to seat', lengthKind('widthM', units))}
      {field('rowPitchM', 'From row to row', lengthKind('widthM', units))}
      {field('riseM', 'Each row higher by', lengthKind('riseM', units))}
    </>
  );
}

/** A corner of the hall: its place, and the two walls that meet there. */
export function CornerInspector({ index }: { index: number }) {
  const { venue, settings } = useSession();
  const corners = planCorners(venue);
  const corner = corners?.[index];
  if (!corners || !corner) return null;
  const wall = (from: number) => {
    const [a, b] = [corners[from], corners[(from + 1) % corners.length]];
    return a && b ? lengthText(planDistance(a, b), settings.units) : '';
  };
  const before = (index + corners.length - 1) % corners.length;
  return (
    <>
      <h2 className="pb-2 text-[17px]">Corner {index + 1} of the hall</h2>
      <CornerFields index={index} labels={['Right of centre', 'Upstage of edge']} />
      <p className="text-muted py-2">
        Wall {before + 1} to it: {wall(before)}. Wall {index + 1} from it: {wall(index)}.
      </p>
      <div className="flex flex-wrap gap-1">
        <button
          className="btn btn-sm font-normal"
          onClick={() =>
            edit((draft) => {
              const number = draft.venue.datumPoints.length + 1;
              draft.venue.datumPoints.push({
                id: newId(),
                name: `corner ${index + 1}`.slice(0, 200) || `${number}`,
                x: corner.x,
                y: corner.y,
                z: 0,
              });
            })
          }
          disabled={venue.datumPoints.length >= 20}
        >
          Hold a tape to it
        </button>
        <button className="btn btn-sm font-normal" onClick={() => select(null)}>
          All walls
        </button>
      </div>
    </>
  );
}

/** A fixed point that tapes are held to. */
export function DatumInspector({ point }: { point: DatumPoint }) {
  const { units } = useSession().settings;
  const change = (part: Partial<DatumPoint>) => changeIn('datumPoints', point.id, part);
  return (
    <>
      <h2 className="pb-2 text-[17px]">Tape point {point.name}</h2>
      <TextField
        label="Name"
        value={point.name}
        most={200}
        required
        onCommit={(name) => change({ name })}
      />
      {(['x', 'y', 'z'] as const).map((axis) => (
        <QuantityField
          key={axis}
          label={{ x: 'Right of centre', y: 'Upstage of edge', z: 'Height' }[axis]}
          fieldKey={fieldKey('datum', point.id, axis)}
          kind={lengthKind('positionM', units)}
          value={point[axis]}
          onCommit={(value) => value !== null && change({ [axis]: value })}
        />
      ))}
      <p className="text-muted pt-2">
        A point that a rigger finds again: the foot of a post, a corner of the stage.
      </p>
    </>
  );
}

/** The distance that scales the picture, once two of its points are clicked. */
function ScaleField({ underlay }: { underlay: Underlay }) {
  const { units } = useSession().settings;
  const tool = useStore(toolStore, (state) => state.tool);
  const [a, b] = useStore(toolStore, (state) => state.measure);
  if (tool !== 'scale') return null;
  if (!a || !b || 'kind' in a || 'kind' in b) {
    return (
      <p role="status" className="text-primary py-1 font-semibold">
        {a ? 'Click the second point.' : 'Click two points of the picture whose distance you know.'}
      </p>
    );
  }
  const now = planDistance(a, b);
  return (
    <QuantityField
      label="Real distance between them"
      fieldKey={fieldKey('underlay', '', 'distance')}
      kind={lengthKind('roomM', units)}
      value={now}
      check={() => (now > 0.001 ? null : 'Allowed: two points apart. Click them again.')}
      onCommit={(distance) => {
        if (distance === null) return;
        changeUnderlay(scaledUnderlay(underlay, a, b, distance));
        chooseTool('select');
      }}
    />
  );
}

/** The picture under the plan: scale, place, strength. */
export function UnderlayInspector({ underlay }: { underlay: Underlay }) {
  const { units } = useSession().settings;
  const place = (axis: 'x' | 'y', label: string) => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('underlay', '', axis)}
      kind={lengthKind('positionM', units)}
      value={underlay[axis]}
      onCommit={(value) => value !== null && changeUnderlay({ [axis]: value })}
    />
  );
  return (
    <section aria-label="Picture under the plan">
      <h3 className="pt-4 pb-1 text-[14px]">Picture under the plan</h3>
      <ScaleField underlay={underlay} />
      {place('x', 'Left edge, right of centre')}
      {place('y', 'Upper edge, upstage')}
      <QuantityField
        label="Strength"
        fieldKey={fieldKey('underlay', '', 'opacity')}
        kind={percentKind}
        value={underlay.opacityPct}
        onCommit={(value) => value !== null && changeUnderlay({ opacityPct: value })}
      />
      <div className="flex flex-wrap gap-1 pt-2">
        <button className="btn btn-sm font-normal" onClick={() => chooseTool('scale')}>
          Set the scale
        </button>
        <button
          className="btn btn-sm font-normal"
          title="Click the point of the picture that is the datum"
          onClick={() => chooseTool('origin')}
        >
          Set the datum
        </button>
        <button className="btn btn-sm btn-ghost text-error font-normal" onClick={removeUnderlay}>
          Remove the picture
        </button>
      </div>
    </section>
  );
}
