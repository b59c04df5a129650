import { modelOf } from '../../core/localisation';
import { useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { createStore } from 'zustand/vanilla';
import { useStore } from 'zustand';
import { mixesOf, type Mixes } from '../../core/recorded';
import type { LogEntry, MicArray } from '../../core/session';
import { expectedOf, layerFigures } from '../../core/soundcheck';
import { formatNumber, formatSigned } from '../../core/units';
import { Blends } from '../bench/blends';
import { changeMix, editSaying } from '../document/edits';
import { edit, editOn, sessionStore } from '../document/session-store';
import { logIndex } from '../document/journals';
import { usePlan, useSession } from '../document/use-session';
import { QuantityField } from '../parts/quantity-field';
import { levelKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';
import { chooseCompared } from './compared';

type Blend = Extract<LogEntry, { kind: 'blend' }>;

/** The strips of a plan before anything was blended here, by session. */
const before = createStore<{ of: Readonly<Record<string, Mixes>> }>(() => ({ of: {} }));

const faderKind = levelKind('gainDb');
const LOWEST_DB = -40;
const SLIDER_MOST_DB = 12;
const SAME_HAND_MS = 1000;

interface RowProps {
  array: MicArray;
  figures: ReturnType<typeof layerFigures>[number] | null;
  send: Blend['sends'][number] | null;
  setSend: (send: { name?: string; sendDb?: number | null }) => void;
}

const figure = (value: number | null | undefined, digits: number, unit: string): string =>
  value === null || value === undefined ? '—' : `${formatNumber(value, digits)}${unit}`;

/** One layer: its fader under the hand, and what it does in the whole. */
function Layer({ array, figures, send, setSend }: RowProps) {
  const { faderDb, mute } = array.mix;
  const set = (db: number): void => {
    editOn(`blend ${array.id}`, changeMix(array.id, { faderDb: db }), SAME_HAND_MS);
  };
  return (
    <tr>
      <th scope="row">{array.name}</th>
      <td>
        <input
          type="range"
          className="volume w-44 max-md:w-24"
          aria-label={`Fader of ${array.name}`}
          aria-valuetext={`${formatSigned(faderDb, 1)} dB`}
          min={LOWEST_DB}
          max={SLIDER_MOST_DB}
          step={0.5}
          value={Math.max(LOWEST_DB, faderDb)}
          onChange={(event) => set(Number(event.currentTarget.value))}
        />
      </td>
      <td className="w-24">
        <QuantityField
          bare
          label={`Level of ${array.name}`}
          fieldKey={fieldKey('array', array.id, 'blend')}
          kind={faderKind}
          value={faderDb}
          onCommit={(value) => value !== null && edit(changeMix(array.id, { faderDb: value }))}
        />
      </td>
      <td>
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          aria-label={`Mute ${array.name}`}
          checked={mute}
          onChange={(event) => edit(changeMix(array.id, { mute: event.currentTarget.checked }))}
        />
      </td>
      <td className="num">{figure(figures?.sharePct, 0, ' %')}</td>
      <td className="num">{figure(figures?.pullPct, 0, ' %')}</td>
      <td className="num">{figure(figures?.directDb, 1, ' dB')}</td>
      <td className="num">{figure(figures?.lowCorrelation, 2, '')}</td>
      <td className="num">{figure(figures?.monoDb, 1, ' dB')}</td>
      <td>
        <input
          className="input input-xs w-28"
          aria-label={`Reverberation of ${array.name}`}
          maxLength={200}
          placeholder="none"
          value={send?.name ?? ''}
          onChange={(event) => setSend({ name: event.currentTarget.value })}
        />
      </td>
      <td className="w-24">
        <QuantityField
          bare
          optional
          label={`Send of ${array.name}`}
          fieldKey={fieldKey('blend', array.id, 'send')}
          kind={faderKind}
          value={send?.sendDb ?? null}
          onCommit={(sendDb) => setSend({ sendDb })}
        />
      </td>
    </tr>
  );
}

/** Back to the strips as they were before anything was blended here. */
function backTo(mixes: Mixes): void {
  editSaying('The strips are those of the plan again.', (draft) => {
    for (const array of draft.arrays) {
      const mix = mixes[array.id];
      if (mix) array.mix = structuredClone(mix);
    }
  });
}

/** What of the strips is other than it was. */
const areOther = (arrays: readonly MicArray[], mixes: Mixes): boolean =>
  arrays.some(({ id, mix }) => {
    const was = mixes[id];
    return was !== undefined && JSON.stringify(was) !== JSON.stringify(mix);
  });

/** The level of each array in the whole, live: heard, seen on the line, and in figures. */
export function BlendPage() {
  const session = useSession();
  const plan = usePlan();
  const [, setParams] = useSearchParams();
  const [own, setOwn] = useState<Blend['sends'] | null>(null);
  const kept = useStore(before, ({ of }) => of[session.id]);
  useEffect(() => {
    const { session: now } = sessionStore.getState();
    if (now && !before.getState().of[now.id]) {
      before.setState(({ of }) => ({ of: { ...of, [now.id]: mixesOf(now) } }));
    }
  }, [session.id]);
  const figures = useMemo(() => layerFigures(plan), [plan]);
  const whole = useMemo(() => expectedOf(plan), [plan]);
  const blends = logIndex(session.log)
    .of('blend')
    .flatMap(({ standing }) => standing ?? []);
  const sends = own ?? blends[0]?.sends ?? [];
  const arrays = session.arrays.filter(({ enabled }) => enabled);
  const setSend = (arrayId: string, change: { name?: string; sendDb?: number | null }): void => {
    const known = sends.find((one) => one.arrayId === arrayId);
    const next = { arrayId, name: '', sendDb: null, ...known, ...change };
    const others = sends.filter((one) => one.arrayId !== arrayId);
    setOwn(next.name === '' && next.sendDb === null ? others : [...others, next]);
  };
  if (arrays.length === 0) {
    return (
      <p className="text-muted">
        No array is in use: add one on Array, and its level in the whole is set here.
      </p>
    );
  }
  return (
    <>
      <div className="overflow-x-auto">
        <table className="ledger-table w-full" aria-label="Layers">
          <thead>
            <tr>
              <th rowSpan={2}>Layer</th>
              <th rowSpan={2} colSpan={2}>
                Fader
              </th>
              <th rowSpan={2}>Mute</th>
              <th colSpan={2}>In the whole</th>
              <th colSpan={3}>By itself</th>
              <th colSpan={2}>Reverberation</th>
            </tr>
            <tr>
              <th className="num">Direct sound</th>
              <th className="num">Pull</th>
              <th className="num">Direct to room</th>
              <th className="num">Bass correlation</th>
              <th className="num">Mono, worst</th>
              <th>Which</th>
              <th>Send</th>
            </tr>
          </thead>
          <tbody>
            {arrays.map((array) => (
              <Layer
                key={array.id}
                array={array}
                figures={figures.find(({ arrayId }) => arrayId === array.id) ?? null}
                send={sends.find(({ arrayId }) => arrayId === array.id) ?? null}
                setSend={(change) => setSend(array.id, change)}
              />
            ))}
          </tbody>
        </table>
      </div>
      <p role="status" aria-label="The whole" className="pt-2">
        The whole: picture {figure(whole.widthPct, 0, ' % of the base')}, direct to room{' '}
        {figure(whole.directDb, 1, ' dB')}, bass correlation {figure(whole.lowCorrelation, 2, '')},
        mono of the worst player {figure(whole.monoDb, 1, ' dB')}.
      </p>
      <div className="flex flex-wrap gap-2 pt-2">
        <button
          className="btn btn-sm"
          disabled={!kept || !areOther(session.arrays, kept)}
          onClick={() => kept && backTo(kept)}
        >
          Back to the plan’s strips
        </button>
        <button
          className="btn btn-sm"
          disabled={blends.length < 2}
          title={blends.length < 2 ? 'Keep two blends or more first' : undefined}
          onClick={() => {
            chooseCompared(
              session.id,
              blends.slice(0, 8).map(({ id }) => id),
            );
            setParams({ page: 'compare' });
          }}
        >
          Compare the kept blends
        </button>
      </div>
      <p className="text-muted max-w-[80ch] pt-1 text-[12.5px]">
        Faders are heard at once (Space) and move the line below. What a layer pulls is the mean
        over the players, by {modelOf(session.settings).name}.
      </p>
      <Blends sends={sends} />
    </>
  );
}
