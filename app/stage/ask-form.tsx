import { useState } from 'react';
import { useStore } from 'zustand';
import { capsulesInFrame } from '../../core/arrays';
import { builtFigures, FIELD_WORDS } from '../../core/rig';
import { BUILT_FIELDS, enabledArrays } from '../../core/session';
import {
  amountText,
  figureText,
  heightFrom,
  readFigure,
  settingAsPlanned,
  settingBy,
  waysOf,
  type BuiltField,
} from '../../core/stage';
import { capitalised } from '../../core/units';
import { useSession } from '../document/use-session';
import { askSetting, askWords } from './asking';
import { boothStore } from './booth';

/** Of one microphone alone only where it is and looks can be asked. */
const OF_ONE: ReadonlySet<BuiltField> = new Set(['x', 'y', 'z', 'aimDeg', 'tiltDeg']);
const PAIRS_ONLY: ReadonlySet<BuiltField> = new Set(['spacingM', 'includedAngleDeg', 'rightDb']);
const USUAL = { metric: '2 cm', imperial: '1 in' } as const;

/** Who is meant: everybody, or one device. */
function Whom({ to, setTo }: { to: string; setTo: (name: string) => void }) {
  const devices = useStore(boothStore, (state) => state.devices);
  return (
    <label className="flex items-center gap-2">
      <span className="text-muted">To</span>
      <select
        aria-label="To whom"
        className="select select-sm w-auto"
        value={devices.some(({ name }) => name === to) ? to : ''}
        onChange={(event) => setTo(event.currentTarget.value)}
      >
        <option value="">everybody</option>
        {devices.map(({ id, name }) => (
          <option key={id}>{name}</option>
        ))}
      </select>
    </label>
  );
}

/** What stands otherwise than planned by more than it may: asked with one click. */
function Off({ to }: { to: string }) {
  const session = useSession();
  const { units } = session.settings;
  const off = builtFigures(session).filter(({ outside, field }) => outside && field !== 'rightDb');
  if (off.length === 0) return null;
  return (
    <ul aria-label="Not as planned" className="flex flex-col gap-1">
      {off.map(({ arrayId, arrayName, field, planned, built }) => {
        const { fromM } = field === 'z' ? heightFrom(session, arrayId) : { fromM: 0 };
        return (
          <li key={`${arrayId} ${field}`} className="flex flex-wrap items-center gap-2">
            <span>
              {arrayName}, {FIELD_WORDS[field]}: {figureText(field, (built ?? 0) - fromM, units)}{' '}
              built, {figureText(field, planned - fromM, units)} planned
            </span>
            <button
              className="btn btn-xs"
              onClick={() => askSetting(settingAsPlanned(arrayId, field, planned, built), to)}
            >
              Ask for it as planned
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** Whatever has no figure. */
function Words({ to }: { to: string }) {
  const [text, setText] = useState('');
  return (
    <form
      className="flex flex-wrap gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() === '') return;
        askWords(text.trim(), to);
        setText('');
      }}
    >
      <input
        aria-label="In words"
        placeholder="Or in words: lid on the half stick, please"
        className="input input-sm min-w-64 flex-1"
        maxLength={500}
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <button className="btn btn-sm" disabled={text.trim() === ''}>
        Ask
      </button>
    </form>
  );
}

/** Something to be moved, by how much; or words. */
export function AskForm() {
  const session = useSession();
  const { units } = session.settings;
  const arrays = enabledArrays(session);
  const [to, setTo] = useState('');
  const [arrayId, setArrayId] = useState('');
  const [microphone, setMicrophone] = useState('');
  const [field, setField] = useState<BuiltField>('z');
  const [amount, setAmount] = useState<string>(USUAL[units]);
  const [wrong, setWrong] = useState('');
  const array = arrays.find(({ id }) => id === arrayId) ?? arrays[0];
  const labels = array ? capsulesInFrame(array.technique).map(({ label }) => label) : [];
  const one = labels.length > 1 && labels.includes(microphone) ? microphone : '';
  const isPair = array?.technique.kind === 'pair';
  const fields = BUILT_FIELDS.filter(
    (name) => (isPair || !PAIRS_ONLY.has(name)) && (one === '' || OF_ONE.has(name)),
  );
  const shown = fields.includes(field) ? field : 'z';
  const read = readFigure(shown, amount, units, true);
  const move = (sign: 1 | -1): void => {
    if (!array) return;
    if (!read.ok) return setWrong(`By how much: ${read.message}`);
    const set = settingBy(session, array, shown, sign * Math.abs(read.value), one);
    if (!set.ok) return setWrong(`${capitalised(FIELD_WORDS[shown])}: ${set.message}`);
    setWrong('');
    askSetting(set.value, to);
  };
  return (
    <section aria-label="Ask the stage" className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="text-[16px]">Ask</h2>
        <Whom to={to} setTo={setTo} />
      </div>
      {array ? (
        <div className="flex flex-wrap items-end gap-2">
          <select
            aria-label="Array"
            className="select select-sm w-auto"
            value={array.id}
            onChange={(event) => setArrayId(event.currentTarget.value)}
          >
            {arrays.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          {labels.length > 1 && (
            <select
              aria-label="Microphone"
              className="select select-sm w-auto"
              value={one}
              onChange={(event) => setMicrophone(event.currentTarget.value)}
            >
              <option value="">the whole</option>
              {labels.map((label) => (
                <option key={label} value={label}>
                  {label} alone
                </option>
              ))}
            </select>
          )}
          <select
            aria-label="What of it"
            className="select select-sm w-auto"
            value={shown}
            onChange={(event) => setField(event.currentTarget.value as BuiltField)}
          >
            {fields.map((name) => (
              <option key={name} value={name}>
                {FIELD_WORDS[name]}
              </option>
            ))}
          </select>
          <input
            aria-label="By how much"
            className="input input-sm w-24"
            value={amount}
            onChange={(event) => setAmount(event.currentTarget.value)}
          />
          {([1, -1] as const).map((sign) => (
            <button key={sign} className="btn btn-sm btn-primary" onClick={() => move(sign)}>
              {capitalised(waysOf(shown)[sign === 1 ? 0 : 1])}
              {read.ok && ` ${amountText(shown, read.value, units, true)}`}
            </button>
          ))}
        </div>
      ) : (
        <p className="text-muted">There is no array in use: words can be asked all the same.</p>
      )}
      {one !== '' && (
        <p className="text-muted text-[12.5px]">
          One microphone alone is noted in the log; As built has figures of the whole array.
        </p>
      )}
      <Words to={to} />
      {wrong !== '' && (
        <p role="alert" className="text-error">
          {wrong}
        </p>
      )}
      <Off to={to} />
    </section>
  );
}
