import { Check } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { readFigure, type StageArray, type StageFigure } from '../../core/stage';
import { SheetDrawing } from '../parts/sheet-drawing';
import { SheetTableView } from '../parts/sheet-table';
import { deviceStore, say } from './device';

/** One figure: a tick where it is as planned, else what it is. */
function Figure({ array, figure }: { array: StageArray; figure: StageFigure }) {
  const { document: shown, pending } = useStore(deviceStore);
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState('');
  const { field, name, planned, plannedOther, built, outside } = figure;
  const [arrayId, units] = [array.id, shown?.units ?? 'metric'];
  const waits = pending.some(
    (one) => one.kind === 'built' && one.arrayId === arrayId && one.field === field,
  );
  const asPlanned = built === planned;
  const typed = (act: (value: number) => void): void => {
    const read = readFigure(field, text, units);
    if (!read.ok) return setWrong(`${name}: ${read.message}`);
    setWrong('');
    setOpen(false);
    setText('');
    act(read.value);
  };
  const isBuilt = { kind: 'built' as const, arrayId, field };
  return (
    <li className="border-hairline border-b py-2">
      <div className="flex items-center gap-2">
        <div className="min-w-0 flex-1">
          <p className="text-[14px]">{name}</p>
          <p className="text-2xl font-semibold">{planned}</p>
          {plannedOther !== '' && <p className="text-muted">{plannedOther}</p>}
          {built !== null && !asPlanned && (
            <p className={outside ? 'text-error' : ''}>
              as built {built}
              {outside && ', more than the tolerance off'}
            </p>
          )}
          {waits && <p role="status">Said. Waiting for the booth …</p>}
        </div>
        <button
          className={`btn btn-xl btn-square ${asPlanned ? 'btn-primary' : ''}`}
          aria-pressed={asPlanned}
          aria-label={`${array.name}, ${name}: as planned`}
          onClick={() => say({ ...isBuilt, value: null, asPlanned: !asPlanned })}
        >
          <Check size={26} />
        </button>
        <button
          className="btn btn-xl px-3 text-base font-normal"
          aria-expanded={open}
          aria-label={`${array.name}, ${name}: another figure`}
          onClick={() => setOpen(!open)}
        >
          Other
        </button>
      </div>
      {open && (
        <form
          className="flex flex-wrap items-end gap-2 pt-2"
          onSubmit={(event) => {
            event.preventDefault();
            typed((value) => say({ ...isBuilt, value, asPlanned: false }));
          }}
        >
          <label className="flex min-w-40 flex-1 flex-col gap-1">
            <span className="text-muted text-[14px]">{name} is</span>
            <input
              className="input input-lg w-full"
              value={text}
              onChange={(event) => setText(event.currentTarget.value)}
            />
          </label>
          <button className="btn btn-lg">As built</button>
          {shown?.mayEdit === true && (
            <button
              type="button"
              className="btn btn-lg"
              onClick={() => typed((value) => say({ kind: 'plan', arrayId, field, value }))}
            >
              Change the plan
            </button>
          )}
        </form>
      )}
      {wrong !== '' && (
        <p role="alert" className="text-error pt-1">
          {wrong}
        </p>
      )}
    </li>
  );
}

function OneArray({ array }: { array: StageArray }) {
  return (
    <>
      <ul aria-label={`Figures of ${array.name}`}>
        {array.figures.map((figure) => (
          <Figure key={figure.field} array={array} figure={figure} />
        ))}
      </ul>
      <div className="sheet stage-sheet">
        {array.lines.map((line) => (
          <p key={line}>{line}</p>
        ))}
        {array.detail.height > 0 && <SheetDrawing drawing={array.detail} />}
        <SheetTableView table={array.positions} label={`Positions of ${array.name}`} />
        <SheetTableView table={array.bar} label={`Bar of ${array.name}`} />
      </div>
    </>
  );
}

/** The sheet: one array at a time, big; below it what is of the whole. */
export function SheetPanel() {
  const shown = useStore(deviceStore, (state) => state.document);
  const [id, setId] = useState('');
  if (!shown) return null;
  const { arrays } = shown;
  const at = Math.max(
    0,
    arrays.findIndex((array) => array.id === id),
  );
  const array = arrays[at];
  const turn = (by: number): void => setId(arrays[at + by]?.id ?? '');
  return (
    <div className="flex flex-col gap-3">
      {array ? (
        <>
          <div className="flex items-center gap-2">
            <button
              className="btn btn-lg"
              disabled={at === 0}
              aria-label="Array before"
              onClick={() => turn(-1)}
            >
              ‹
            </button>
            <h2 className="min-w-0 flex-1 text-center text-xl">
              {array.name}
              <span className="text-muted block text-[13px] font-normal">
                {at + 1} of {arrays.length}
              </span>
            </h2>
            <button
              className="btn btn-lg"
              disabled={at + 1 >= arrays.length}
              aria-label="Next array"
              onClick={() => turn(1)}
            >
              ›
            </button>
          </div>
          <OneArray key={array.id} array={array} />
        </>
      ) : (
        <p>There is no array to rig yet.</p>
      )}
      <div className="sheet stage-sheet">
        <h3>{shown.title}</h3>
        <p>{shown.facts}</p>
        <p>{shown.datum}</p>
        {shown.heard !== '' && <p className="font-semibold">{shown.heard}</p>}
        <SheetDrawing drawing={shown.plan} />
        <SheetDrawing drawing={shown.section} />
        {shown.players.rows.length > 0 && <SheetTableView table={shown.players} label="Players" />}
        <h3>Cautions</h3>
        <ul>
          {shown.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
        <p>{shown.deference}</p>
      </div>
    </div>
  );
}
