import { useRef, useState } from 'react';
import { useStore } from 'zustand';
import { hallMeasures, planCorners } from '../../../core/hall';
import { formatNumber, lengthText, MOST_CORNERS, planDistance } from '../../../core/units';
import {
  addCornerAfter,
  beginTrace,
  closeTrace,
  removeCorner,
  sizeHall,
  traceProblem,
  traceTo,
  untrace,
} from '../../document/hall-shape';
import { useSession } from '../../document/use-session';
import { Readout } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { lengthKind } from '../../parts/quantity-kinds';
import { OutlineChoice } from '../../parts/outline-choice';
import { select } from '../../view/choice';
import { chooseTool, toolStore } from '../../view/floor-tools';
import { CornerFields } from './corner-fields';
import { fieldKey } from '../../view/validity';

/** What is traced: by clicks on the plan, or corner by corner typed here. */
function Tracing() {
  const { units } = useSession().settings;
  const trace = useStore(toolStore, (state) => state.trace);
  const [next, setNext] = useState<{ x: number | null; y: number | null }>({ x: null, y: null });
  const [missing, setMissing] = useState(false);
  const fields = useRef<HTMLDivElement>(null);
  const problem = traceProblem(trace);
  const full = trace.length >= MOST_CORNERS;
  const field = (axis: 'x' | 'y', label: string) => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('trace', '', axis)}
      kind={lengthKind('positionM', units)}
      value={next[axis]}
      optional
      onCommit={(value) => setNext((known) => ({ ...known, [axis]: value }))}
    />
  );
  return (
    <section aria-label="Trace the walls">
      <h2 className="pb-2 text-[17px]">Trace the walls</h2>
      <p role="status" className="text-primary py-1 font-semibold">
        {trace.length === 0
          ? 'Click the first corner of the hall on the plan.'
          : trace.length < 3
            ? `${trace.length} of at least 3 corners. Click the next one.`
            : full
              ? `${trace.length} corners, as many as a hall may have. Close it.`
              : `${trace.length} corners. Click the first one again to close, or the next.`}
      </p>
      {trace.length >= 3 && problem !== null && (
        <p role="alert" className="text-warning-ink py-1">
          Cannot be closed yet: {problem}.
        </p>
      )}
      <h3 className="pt-2 pb-1 text-[14px]">Or type the next corner</h3>
      <div ref={fields}>
        {field('x', 'Right of centre')}
        {field('y', 'Upstage of edge')}
      </div>
      {missing && (next.x === null || next.y === null) && (
        <p role="alert" className="text-warning-ink py-1">
          A corner has two figures: type both.
        </p>
      )}
      <div className="flex flex-wrap gap-1 pt-2">
        <button
          className="btn btn-sm font-normal"
          disabled={full}
          onClick={() => {
            const { x, y } = next;
            setMissing(x === null || y === null);
            if (x === null || y === null) return;
            traceTo({ x, y });
            setNext({ x: null, y: null });
            // The next one is typed where this one was.
            fields.current?.querySelector('input')?.focus();
          }}
        >
          Add corner
        </button>
        <button className="btn btn-sm font-normal" disabled={trace.length === 0} onClick={untrace}>
          Take the last back
        </button>
        <button
          className="btn btn-sm btn-primary"
          disabled={trace.length < 3 || problem !== null}
          onClick={closeTrace}
        >
          Close
        </button>
        <button className="btn btn-sm btn-ghost font-normal" onClick={() => chooseTool('corners')}>
          Cancel
        </button>
      </div>
      <p className="text-muted pt-3 text-[12.5px]">
        Enter closes, Backspace takes the last corner back, Escape gives up. With Snap on, a wall
        that is nearly upright or level on the plan becomes so.
      </p>
    </section>
  );
}

/** The corners of the hall as numbers; each of them can be typed. */
export function CornerTable() {
  const { venue, settings } = useSession();
  const corners = planCorners(venue);
  if (!corners) {
    return (
      <p className="text-muted py-2 text-[12.5px]">
        Choose a shape, or trace the walls over a picture of the floor plan: the corners appear
        here. They are measured as everything on the plan: right of centre, upstage of the edge.
      </p>
    );
  }
  return (
    <ol aria-label="Corners of the hall" className="pt-1">
      {corners.map((corner, index) => {
        const to = corners[(index + 1) % corners.length] ?? corner;
        return (
          <li key={index} className="border-hairline border-t py-1">
            <div className="flex items-baseline justify-between gap-1">
              <button
                className="font-semibold"
                onClick={() => select({ kind: 'corner', id: `${index}` })}
              >
                Corner {index + 1}
              </button>
              <span className="flex gap-1">
                <button
                  className="btn btn-xs btn-ghost font-normal"
                  disabled={corners.length >= MOST_CORNERS}
                  onClick={() => addCornerAfter(index)}
                >
                  Add after
                </button>
                <button
                  className="btn btn-xs btn-ghost font-normal"
                  disabled={corners.length <= 3}
                  onClick={() => removeCorner(index)}
                >
                  Remove
                </button>
              </span>
            </div>
            <CornerFields
              index={index}
              labels={[`Corner ${index + 1}, right`, `Corner ${index + 1}, upstage`]}
            />
            <p className="text-muted text-[12.5px]">
              Wall {index + 1}, to corner {((index + 1) % corners.length) + 1}:{' '}
              {lengthText(planDistance(corner, to), settings.units)}
            </p>
          </li>
        );
      })}
    </ol>
  );
}

/** The walls: shape, size, corners. */
export function HallInspector() {
  const { venue, settings } = useSession();
  const tool = useStore(toolStore, (state) => state.tool);
  if (tool === 'trace') return <Tracing />;
  const measures = hallMeasures(venue);
  const room = lengthKind('roomM', settings.units);
  return (
    <section aria-label="Walls of the hall">
      <h2 className="pb-2 text-[17px]">Walls of the hall</h2>
      <OutlineChoice />
      {(['widthM', 'depthM'] as const).map((name) => (
        <QuantityField
          key={name}
          label={name === 'widthM' ? 'Width of all' : 'Depth of all'}
          fieldKey={fieldKey('walls', '', name)}
          kind={room}
          value={venue[name]}
          optional
          onCommit={(value) => sizeHall(name, value)}
        />
      ))}
      {measures && (
        <>
          <Readout label="Volume" number={formatNumber(measures.volumeM3, 0)} unit="m³" />
          <Readout label="Surface" number={formatNumber(measures.surfaceM2, 0)} unit="m²" />
        </>
      )}
      <div className="flex flex-wrap gap-1 py-2">
        <button className="btn btn-sm font-normal" onClick={beginTrace}>
          Trace the walls
        </button>
        <button className="btn btn-sm btn-primary" onClick={() => chooseTool('select')}>
          Done
        </button>
      </div>
      <CornerTable />
    </section>
  );
}
