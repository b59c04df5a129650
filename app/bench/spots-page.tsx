import { useMemo, useState } from 'react';
import { stripsOf } from '../../core/arrays/routing';
import type { ChannelDelay } from '../../core/audio/measure/delay';
import type { TakeFigures } from '../../core/audio/measure/take';
import {
  layersOf,
  layerShares,
  placed,
  plannedLevelDb,
  spotOptions,
  type Layer,
  type Layers,
  type SpotOption,
  type SpotTrack,
} from '../../core/recorded';
import { BOUNDS } from '../../core/session';
import { clamp, formatNumber, formatSigned, shiftText } from '../../core/units';
import { changeArray, editSaying } from '../document/edits';
import { usePlan } from '../document/use-session';
import { downloadTable } from '../keeping/tables';
import { useTask } from '../workers/use-task';
import { askedStretch, stretchText, Working, type TreatingProps } from './asked';
import { Blends } from './blends';
import { Combs } from './combs';

const BEHIND_MS = [5, 10, 15, 20] as const;
/** A spot may be off by so much, ms. */
const MOST_MS = 200;
const LOOKED_S = 120;
const SURE = { certain: 'sure', likely: 'likely', 'cannot be told': 'cannot be told' } as const;

type Props = TreatingProps & { figures: TakeFigures | null };

/** How a spot stands against the earliest of the main array, as it was recorded. */
interface Found {
  laterMs: number;
  verdict: ChannelDelay['verdict'];
}

/** The later one against both channels of the main array is against its earlier one. */
function foundOf(answers: readonly (TakeFigures | null)[], place: number): Found | null {
  const told = answers.flatMap((figures) => {
    const whole = figures?.delays?.find(({ channel }) => channel === place)?.whole;
    return whole?.delayMs == null ? [] : [{ laterMs: whole.delayMs, verdict: whole.verdict }];
  });
  return told.sort((a, b) => b.laterMs - a.laterMs)[0] ?? null;
}

/** Every spot against the main array's channels. */
function useFound(props: Props, { main, spots }: Layers) {
  const { source } = props.recording;
  const { fromS, toS } = askedStretch(props, LOOKED_S);
  const [given, setGiven] = useState(false);
  const mains = main?.channels.slice(0, 2).join(' ') ?? '';
  const others = spots.map(({ channels }) => channels[0]).join(' ');
  const asks = useMemo(() => {
    const wanted = mains === '' ? [] : mains.split(' ').map(Number);
    const channels = [...wanted, ...(others === '' ? [] : others.split(' ').map(Number))];
    const ask = (against: number) =>
      given || channels.length === wanted.length || against >= wanted.length
        ? null
        : {
            file: source,
            channels,
            options: { what: ['delays' as const], against, mostMs: MOST_MS, fromS, toS },
          };
    return [ask(0), ask(1)] as const;
  }, [source, mains, others, fromS, toS, given]);
  const [first, second] = [useTask('measured', asks[0]), useTask('measured', asks[1])];
  const answers = [first.busy ? null : first.value, second.busy ? null : second.value];
  const count = main ? Math.min(2, main.channels.length) : 0;
  return {
    state: first.busy || first.error !== null ? first : second,
    found: spots.map((_, i) => foundOf(answers, count + i)),
    giveUp: () => setGiven(true),
    given,
  };
}

const WORDS: Readonly<Record<SpotOption['kind'], string>> = {
  keep: 'leave it',
  align: 'with the main array',
  behind: 'behind it',
};

const placeWords = ({ image }: SpotOption): string =>
  image ? `${shiftText(image.shift)}, ${formatNumber(image.pullPct, 0)} % by the spot` : '—';

function sentence(
  { array, player }: SpotTrack,
  main: string,
  found: Found,
  keep: SpotOption,
): string {
  const { laterMs, verdict } = found;
  const size = formatNumber(Math.abs(laterMs), 2);
  const stands =
    Math.abs(laterMs) < 0.02
      ? `${array.name} comes with ${main}`
      : `${array.name} is ${size} ms ${laterMs < 0 ? 'ahead of' : 'behind'} ${main}`;
  const pulls =
    player && keep.image
      ? ` Left so, ${player.name} is at ${shiftText(keep.image.shift)}, ${formatNumber(keep.image.pullPct, 0)} % of it by the spot.`
      : '';
  const todo =
    laterMs <= -0.02
      ? ` Delay it by ${size} ms, or by ${formatNumber(5 - laterMs, 1)} to ${formatNumber(20 - laterMs, 1)} ms to keep the main array first; or leave it.`
      : '';
  return `${stands}, ${SURE[verdict]}.${todo}${pulls}`;
}

interface SpotProps {
  spot: SpotTrack;
  main: string;
  found: Found;
  behindMs: number;
  treatment: TreatingProps['treatment'];
  treat: TreatingProps['treat'];
  hear: () => void;
}

/** One spot: how it stands, what can be done, and what each makes of it. */
function Spot({ spot, main, found, behindMs, treatment, treat, hear }: SpotProps) {
  const plan = usePlan();
  const { array, channels, player } = spot;
  const planned = plannedLevelDb(plan, spot);
  const levelDb = planned ?? 0;
  const options = useMemo(
    () => spotOptions(plan, spot, found.laterMs, levelDb, behindMs),
    [plan, spot, found.laterMs, levelDb, behindMs],
  );
  const [keep] = options;
  const now = treatment.shiftMs[channels[0] ?? 0] ?? 0;
  const take = (laterMs: number): void => {
    treat({
      shiftMs: channels.reduce(
        (list, c) => placed(list, c, Math.round(laterMs * 1000) / 1000, 0),
        [...treatment.shiftMs],
      ),
    });
    hear();
  };
  const intoPlan = (laterMs: number): void => {
    const delayMs = Math.round(clamp(laterMs, 0, BOUNDS.delayMs.max) * 100) / 100;
    const capsules = stripsOf(array.technique, array.mix.capsules).map((strip) => ({
      ...strip,
      delayMs,
    }));
    editSaying(
      `${array.name}: ${formatNumber(delayMs, 2)} ms of delay in the plan.`,
      changeArray(array.id, { mix: { ...array.mix, capsules } }),
    );
  };
  return (
    <section aria-label={array.name} className="pb-6">
      {keep && <p className="max-w-[84ch] font-semibold">{sentence(spot, main, found, keep)}</p>}
      {planned === null && (
        <p className="text-muted max-w-[84ch]">
          Whose spot it is the plan does not tell, so its combs are the deepest there can be: as if
          both were equally loud.
        </p>
      )}
      <table className="ledger-table" aria-label={`What can be done with ${array.name}`}>
        <thead>
          <tr>
            <th>What</th>
            <th className="num">Later by ms</th>
            <th className="num">Then after it by ms</th>
            <th className="num">First dip Hz</th>
            <th className="num">Ripple dB</th>
            <th>{player ? `${player.name} by the plan` : 'Player'}</th>
            <th>
              <span className="sr-only">Take it</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {options.map((option) => {
            const { kind, laterMs, apartMs, comb } = option;
            const taken = Math.abs(now - laterMs) < 0.0015;
            return (
              <tr key={kind}>
                <th scope="row">{WORDS[kind]}</th>
                <td className="num">{formatSigned(laterMs, 2)}</td>
                <td className="num">{formatSigned(apartMs, 2)}</td>
                <td className="num">
                  {comb.firstDipHz === null ? 'none' : formatNumber(comb.firstDipHz, 0)}
                </td>
                <td className="num">{formatNumber(comb.rippleDb, 1)}</td>
                <td>{placeWords(option)}</td>
                <td className="whitespace-nowrap">
                  <button
                    className={`btn btn-xs ${taken ? 'btn-neutral' : ''}`}
                    aria-pressed={taken}
                    aria-label={`${array.name}: take ${WORDS[kind]}`}
                    onClick={() => take(laterMs)}
                  >
                    {taken ? 'Taken' : 'Take and hear'}
                  </button>{' '}
                  {laterMs > 0 && (
                    <button
                      className="btn btn-xs btn-ghost"
                      aria-label={`${array.name}: ${WORDS[kind]} into the plan`}
                      onClick={() => intoPlan(laterMs)}
                    >
                      Into the plan
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div className="max-w-3xl pt-2">
        <Combs options={options} levelDb={levelDb} name={array.name} />
      </div>
    </section>
  );
}

/** What every array brings to the mix. */
function Shares({ layers }: { layers: readonly Layer[] }) {
  if (layers.length === 0) return null;
  return (
    <section aria-label="Layers" className="max-w-2xl">
      <h2 className="pt-2 pb-1 text-[15px]">What each brings to the plan’s mix</h2>
      <table className="ledger-table" aria-label="Layers of the mix">
        <thead>
          <tr>
            <th>Array</th>
            <th className="num">Share of power %</th>
            <th className="num">Likeness</th>
            <th className="num">Mono dB</th>
          </tr>
        </thead>
        <tbody>
          {layers.map(({ arrayId, name, sharePct, correlation, monoDb }) => (
            <tr key={arrayId}>
              <th scope="row">{name}</th>
              <td className="num">{formatNumber(sharePct, 0)}</td>
              <td className="num">{correlation === null ? '—' : formatSigned(correlation, 2)}</td>
              <td className="num">{monoDb === null ? '—' : formatSigned(monoDb, 1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Spots and layers against the main array: left, aligned or behind, seen and heard before it is done. */
export function SpotsPage(props: Props) {
  const { recording, figures, treatment, treat, hear } = props;
  const plan = usePlan();
  const { binding } = recording;
  const layers = useMemo(() => layersOf(plan, binding), [plan, binding]);
  const shares = useMemo(
    () =>
      figures?.channels && figures.identity
        ? layerShares(plan, binding, {
            rmsDb: figures.channels.map(({ rmsDb }) => rmsDb),
            correlations: figures.identity.correlations,
          })
        : [],
    [plan, binding, figures],
  );
  const [behindMs, setBehindMs] = useState<number>(10);
  const { state, found, giveUp, given } = useFound(props, layers);
  const { main, spots } = layers;
  if (!main || spots.length === 0) {
    return (
      <section aria-label="Spots">
        <p className="max-w-[72ch]">
          {main ? 'No spot of the plan' : 'No main array of the plan'} is on this recording as far
          as its channels say. On Channels each is told which input of the channel list it is; a
          spot is an array whose role is spot.
        </p>
        <Shares layers={shares} />
        <Blends />
      </section>
    );
  }
  const rows = spots.flatMap(({ array, channels }, i) =>
    channels.map((c) => [
      array.name,
      c + 1,
      found[i]?.laterMs ?? null,
      found[i] ? SURE[found[i].verdict] : SURE['cannot be told'],
      treatment.shiftMs[c] ?? 0,
    ]),
  );
  return (
    <section aria-label="Spots">
      <div className="flex flex-wrap items-center gap-4 pb-2">
        <label className="flex items-center gap-2">
          <span className="text-muted">Behind by</span>
          <select
            className="select select-sm w-auto"
            value={behindMs}
            onChange={(event) => setBehindMs(Number(event.currentTarget.value))}
          >
            {BEHIND_MS.map((ms) => (
              <option key={ms} value={ms}>
                {ms} ms
              </option>
            ))}
          </select>
        </label>
        <button
          className="btn btn-sm"
          onClick={() =>
            void downloadTable(
              `${recording.title} offsets`,
              ['Array', 'Channel', 'After the main array ms', 'How sure', 'Made later by ms'],
              rows,
            )
          }
        >
          Offsets as CSV
        </button>
        <span className="text-muted text-[12.5px]">
          Shifted files are written on Export: the recording stays as it is.
        </span>
      </div>
      <Working
        state={state}
        what={`Looking at ${stretchText(askedStretch(props, LOOKED_S))}`}
        cancel={giveUp}
      >
        {given && <p className="text-muted">Not looked at.</p>}
        {spots.map((spot, i) => {
          const one = found[i];
          return one ? (
            <Spot
              key={spot.array.id}
              {...{ spot, behindMs, treatment, treat, hear }}
              main={main.array.name}
              found={one}
            />
          ) : (
            <p key={spot.array.id} className="pb-4">
              How {spot.array.name} stands against {main.array.name} cannot be told there. A stretch
              in which {spot.player?.name ?? 'its player'} is alone, or a clap at the place, would
              tell.
            </p>
          );
        })}
      </Working>
      <Shares layers={shares} />
      <Blends />
    </section>
  );
}
