import { useMemo, useState } from 'react';
import { MODELS } from '../../core/localisation';
import type { Plan } from '../../core/session';
import {
  expectedText,
  optionName,
  playerChanges,
  readExpected,
  wholeChanges,
  type Expected,
  type Option,
} from '../../core/soundcheck';
import { capitalised, formatNumber, formatSigned, shiftText } from '../../core/units';
import { strike } from '../document/journals';
import { whenText } from '../bench/when';
import { messageOf } from '../bench/recordings';
import { notify, notifyFailure } from '../view/notices';
import { adopt, makeBetween, sayOption, soundingChanges } from './data';
import { SaidField } from '../parts/said-field';
import { simulateOption } from './simulating';

const STATES = ['open', 'shortlisted', 'kept', 'dropped'] as const;

const modelName = (id: string): string => MODELS.find((model) => model.id === id)?.name ?? id;

/** What every player is expected to do, against the option before. */
function ExpectedTable({ now, before }: { now: Expected; before: Expected | null }) {
  const changes = useMemo(
    () => new Map((before ? playerChanges(before, now) : []).map((one) => [one.id, one])),
    [now, before],
  );
  const signed = (value: number | null | undefined, digits: number): string =>
    value === null || value === undefined ? '—' : formatSigned(value, digits);
  return (
    <table className="ledger-table w-auto" aria-label="What is expected">
      <thead>
        <tr>
          <th>Player</th>
          <th className="num">Image</th>
          <th className="num">Direct to room, dB</th>
          <th className="num">Level, dB</th>
          {before && (
            <>
              <th className="num">Image moves, %</th>
              <th className="num">Less room, dB</th>
              <th className="num">Louder, dB</th>
            </>
          )}
        </tr>
      </thead>
      <tbody>
        {now.players.map((player) => {
          const change = changes.get(player.id);
          return (
            <tr key={player.id}>
              <th scope="row">{player.name}</th>
              <td className="num">
                {player.shift === null ? 'no stable place' : shiftText(player.shift)}
              </td>
              <td className="num">{signed(player.directDb, 1)}</td>
              <td className="num">{signed(player.levelDb, 1)}</td>
              {before && (
                <>
                  <td className="num">{signed(change?.shiftPct, 0)}</td>
                  <td className="num">{signed(change?.directDb, 1)}</td>
                  <td className="num">{signed(change?.levelDb, 1)}</td>
                </>
              )}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Makes a simulated take of it, in its own place. */
function Simulate({ option, plan }: { option: Option; plan: Plan }) {
  const [stop, setStop] = useState<AbortController | null>(null);
  const [done, setDone] = useState(0);
  const begin = (): void => {
    const own = new AbortController();
    setStop(own);
    setDone(0);
    simulateOption(option, plan, { signal: own.signal, onProgress: setDone })
      .then(() => notify(`Option ${option.letter} is simulated: it can be heard on Compare.`))
      .catch((error: unknown) => {
        if (!own.signal.aborted) notifyFailure(new Error(`Not simulated: ${messageOf(error)}`));
      })
      .finally(() => setStop(null));
  };
  if (!stop) {
    return (
      <button className="btn btn-sm" onClick={begin}>
        Simulate<span className="sr-only"> option {option.letter}</span>
      </button>
    );
  }
  return (
    <span role="status" className="text-muted inline-flex items-center gap-2">
      being made: {Math.round(100 * done)} %
      <button className="btn btn-xs" onClick={() => stop.abort()}>
        Cancel
      </button>
    </span>
  );
}

/** What is said of it, and what is expected of whom. */
function Said({
  option,
  now,
  was,
}: {
  option: Option;
  now: Expected | null;
  was: Expected | null;
}) {
  const { entry } = option;
  return (
    <div className="max-w-[80ch] pt-2">
      <SaidField
        label="Called"
        value={entry.name}
        most={200}
        onSay={(name) => sayOption(option, { name })}
      />
      <SaidField
        label="Why"
        value={entry.why}
        most={2000}
        onSay={(why) => sayOption(option, { why })}
      />
      <SaidField
        label="Heard"
        value={entry.heard}
        most={5000}
        multiline
        onSay={(heard) => sayOption(option, { heard })}
      />
      {entry.state !== 'open' && (
        <SaidField
          label="Reason"
          value={entry.reason}
          most={2000}
          placeholder={`why it is ${entry.state}`}
          onSay={(reason) => sayOption(option, { reason })}
        />
      )}
      {was && now && wholeChanges(was, now).length > 0 && (
        <p className="pt-1">
          <span className="text-muted">The whole: </span>
          {wholeChanges(was, now).join(', ')}.
        </p>
      )}
      {now && now.players.length > 0 && (
        <details className="pt-1">
          <summary className="cursor-pointer">Player by player</summary>
          <ExpectedTable now={now} before={was} />
          <p className="text-muted text-[12.5px]">
            Of the whole mix, by {modelName(now.model)}, as it was expected then.
          </p>
        </details>
      )}
    </div>
  );
}

interface Props {
  option: Option;
  plan: Plan | null;
  /** the option before, and its plan; null for the first */
  before: Option | null;
  beforePlan: Plan | null;
  /** that one stands right above it */
  isNext: boolean;
  open: boolean;
  /** its version is being read */
  busy: boolean;
  takes: readonly string[];
  /** what was heard of it where it was compared, in words */
  notes: readonly string[];
  compare: () => void;
}

/** What can be done with it. */
function Actions({ option, plan, before, busy, compare }: Props) {
  const { letter, entry } = option;
  return (
    <div className="flex flex-wrap gap-2 pt-2">
      {plan ? (
        <>
          <Simulate option={option} plan={plan} />
          {before && (
            <button className="btn btn-sm" onClick={compare}>
              Compare {before.letter} and {letter}
            </button>
          )}
          <button className="btn btn-sm" onClick={() => void adopt(option).catch(notifyFailure)}>
            Adopt as the plan<span className="sr-only">: option {letter}</span>
          </button>
        </>
      ) : (
        !busy && (
          <p className="text-muted">
            Its version of the plan is not in this browser: open the archive that it came with.
          </p>
        )
      )}
      <button
        className="btn btn-sm btn-ghost font-normal"
        onClick={() => {
          if (strike('log', entry.id) !== '') notify(`${optionName(option)} is struck.`);
        }}
      >
        Strike<span className="sr-only"> option {letter}</span>
      </button>
    </div>
  );
}

/** One option of the diary: what changed and why, what is expected, what was heard, what became of it. */
export function OptionCard(props: Props) {
  const { option, plan, before, beforePlan, takes } = props;
  const [open, setOpen] = useState(props.open);
  const { entry, letter, history } = option;
  const now = useMemo(() => readExpected(entry.expected), [entry.expected]);
  const was = useMemo(() => (before ? readExpected(before.entry.expected) : null), [before]);
  const changes = useMemo(
    () => (plan && beforePlan ? soundingChanges(beforePlan, plan).length : entry.changed.length),
    [plan, beforePlan, entry.changed.length],
  );
  const line =
    now && was
      ? expectedText(was, now)
      : now
        ? `The first: ${now.players.length} ${now.players.length === 1 ? 'player' : 'players'}, picture ${formatNumber(now.widthPct, 0)} % of the base, direct to room ${formatSigned(now.directDb, 1)} dB.`
        : 'What was expected of it was not kept.';
  return (
    <article
      aria-label={`Option ${letter}`}
      className={`border-hairline border-b py-3 ${entry.state === 'dropped' ? 'text-muted' : ''}`}
    >
      <div className="flex flex-wrap items-baseline gap-x-3">
        <button
          className="text-left"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          title={open ? 'Fold it' : 'Open it'}
        >
          <span className="text-[17px] font-semibold">{letter}</span>{' '}
          <span className="text-[15px]">{entry.name || 'without a name'}</span>
        </button>
        <span className="text-muted text-[12.5px]">{whenText(history[0]?.at ?? entry.at)}</span>
        <span className="flex-1" />
        <label className="flex items-center gap-2">
          <span className="sr-only">State of option {letter}</span>
          <select
            className="select select-sm w-auto"
            value={entry.state}
            onChange={(event) => {
              const found = STATES.find((state) => state === event.currentTarget.value);
              if (found) sayOption(option, { state: found });
            }}
          >
            {STATES.map((state) => (
              <option key={state}>{state}</option>
            ))}
          </select>
        </label>
      </div>
      {before && !props.isNext && (
        <p className="text-muted pt-1">Against option {before.letter}:</p>
      )}
      {entry.changed.length > 0 && (
        <ul aria-label="What changed" className="pt-1">
          {entry.changed.slice(0, open ? undefined : 3).map((words) => (
            <li key={words}>{words}</li>
          ))}
          {!open && entry.changed.length > 3 && <li>and {entry.changed.length - 3} more</li>}
        </ul>
      )}
      {entry.changed.length === 0 && before && (
        <p className="text-muted pt-1">
          Nothing that could be heard is other than in option {before.letter}.
        </p>
      )}
      <p className="max-w-[80ch] pt-1">
        <span className="text-muted">Expected: </span>
        {line}
      </p>
      {changes > 1 && before && (
        <p role="note" className="text-warning flex flex-wrap items-center gap-3 pt-1">
          {changes === 2 ? 'Two changes' : `${changes} changes`} in one step: what of it is heard
          cannot be told apart.
          {plan && beforePlan && (
            <button
              className="btn btn-xs"
              onClick={() => {
                if (makeBetween({ option: before, plan: beforePlan }, option, plan) !== '') {
                  notify('The step between is the last of the diary: one of the changes alone.');
                }
              }}
            >
              Make the step between
            </button>
          )}
        </p>
      )}
      {takes.length > 0 && <p className="text-muted pt-1 text-[12.5px]">{takes.join(' · ')}</p>}
      {props.notes.length > 0 && (
        <ul aria-label="What was heard of it" className="pt-1">
          {props.notes.map((words, i) => (
            <li key={`${i} ${words}`}>{words}</li>
          ))}
        </ul>
      )}
      {!open && entry.heard !== '' && <p className="pt-1">Heard: {entry.heard}</p>}
      {!open && entry.reason !== '' && (
        <p className="pt-1">
          {capitalised(entry.state)}: {entry.reason}
        </p>
      )}
      {open && <Said option={option} now={now} was={was} />}
      <Actions {...props} />
    </article>
  );
}
