import { useId, useState } from 'react';
import {
  MOST_TRIALS_EACH,
  preferencesNeeded,
  rightNeeded,
  trialsIn,
  type BlindTest,
} from '../../core/soundcheck';
import { enter } from '../document/journals';
import { useSession } from '../document/use-session';
import type { Running } from './blind-run';
import type { Comparable } from './compared';
import { roundsOf } from '../../core/soundcheck';
import { MOST_RESIDUAL_LU, type Matching, type Passage } from './use-sounds';

interface Props {
  chosen: readonly Comparable[];
  matching: Matching;
  passage: Passage;
  alike: boolean;
  begin: (running: Running) => void;
}

const TESTS: Readonly<Record<BlindTest, string>> = {
  preference: 'which is better',
  identification: 'can one tell which is which',
};

/** What so many trials can say, before they are begun. */
function powerText(test: BlindTest, among: number, trials: number): string {
  const [needed, of] =
    test === 'identification'
      ? [rightNeeded(trials, among), 'right']
      : [preferencesNeeded(trials), 'for one of them, of one listener'];
  return needed === null
    ? `${trials} ${trials === 1 ? 'trial is' : 'trials are'} too few to be sure of anything, whatever is answered.`
    : `Sure from ${needed} of ${trials} ${of}.`;
}

interface FixedProps {
  test: BlindTest;
  setTest: (test: BlindTest) => void;
  text: string;
  setText: (text: string) => void;
  isWhole: boolean;
  several: boolean;
}

/** The question, and how many trials. */
function Fixed({ test, setTest, text, setText, isWhole, several }: FixedProps) {
  return (
    <>
      <label className="flex flex-col">
        <span className="text-muted">The question</span>
        <select
          className="select select-sm w-full"
          value={test}
          onChange={(event) =>
            setTest(
              event.currentTarget.value === 'identification' ? 'identification' : 'preference',
            )
          }
        >
          {Object.entries(TESTS).map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col">
        <span className="text-muted">
          Trials{test === 'preference' && several ? ' of every pair' : ''}
        </span>
        <input
          className="input input-sm w-24"
          inputMode="numeric"
          aria-invalid={!isWhole}
          value={text}
          onChange={(event) => setText(event.currentTarget.value)}
        />
      </label>
      {!isWhole && (
        <p role="alert" className="text-error text-[12.5px]">
          Trials: {text.trim() === '' ? 'empty' : text}; allowed: a whole number from 1 to{' '}
          {MOST_TRIALS_EACH}
        </p>
      )}
    </>
  );
}

/** Fixed beforehand: the test, how many trials, who listens. */
export function BlindSetUp({ chosen, matching, passage, alike, begin }: Props) {
  const session = useSession();
  const ids = chosen.map(({ id }) => id);
  const rounds = roundsOf(session);
  const going = rounds.find(
    ({ entry }) =>
      !entry.closed &&
      entry.among.join('\n') === ids.join('\n') &&
      // Of another passage it is another test.
      Math.abs(entry.fromS - passage.fromS) < 1e-3 &&
      Math.abs((entry.toS ?? 0) - passage.toS) < 1e-3,
  );
  const [test, setTest] = useState<BlindTest>('preference');
  const [text, setText] = useState('10');
  const [by, setBy] = useState('');
  const list = useId();
  const trials = Number(text);
  const isWhole = /^\s*\d+\s*$/.test(text) && trials >= 1 && trials <= MOST_TRIALS_EACH;
  const fixed = going ? going.entry : { test, trials };
  const known = [...new Set(rounds.flatMap(({ finished }) => finished.map((vote) => vote.by)))];
  const already = going?.finished.some((vote) => vote.by === by.trim()) ?? false;
  const { residualLu } = matching;
  const uneven = residualLu === null || residualLu > MOST_RESIDUAL_LU;
  const start = (): void => {
    if (!going && !isWhole) return;
    const round =
      going?.key ??
      enter('log', {
        ...{ kind: 'comparison' as const, by: '', name: '', closed: false },
        ...{ test, trials, alike, fromS: passage.fromS, toS: passage.toS },
        among: ids,
        names: chosen.map(({ name }) => name.slice(0, 500)),
        trimsDb: matching.of.map(({ trimDb }) => trimDb),
      });
    if (round === '') return;
    begin({
      ...{ round, test: fixed.test, trials: fixed.trials, by: by.trim(), ids },
      names: chosen.map(({ name }) => name),
    });
  };
  const all = trialsIn(fixed.test, ids.length, fixed.trials);
  return (
    <div role="form" aria-label="Blind" className="flex flex-col gap-2">
      <h2 className="text-[15px]">Blind</h2>
      {going ? (
        <p className="text-muted text-[12.5px]">
          A test of these is under way, {TESTS[going.entry.test]}, {going.entry.trials}{' '}
          {going.entry.trials === 1 ? 'trial' : 'trials'}: the next listener takes the same.
        </p>
      ) : (
        <Fixed {...{ test, setTest, text, setText, isWhole }} several={ids.length > 2} />
      )}
      <label className="flex flex-col">
        <span className="text-muted">Who listens</span>
        <input
          className="input input-sm w-full"
          maxLength={200}
          list={list}
          value={by}
          placeholder="a name, or none"
          onChange={(event) => setBy(event.currentTarget.value)}
        />
        <datalist id={list}>
          {known
            .filter((name) => name !== '')
            .map((name) => (
              <option key={name} value={name} />
            ))}
        </datalist>
      </label>
      {(going || isWhole) && (
        <p className="text-muted text-[12.5px]">
          {all} answers of each listener. {powerText(fixed.test, ids.length, fixed.trials)}{' '}
          {fixed.test === 'preference' && 'Of several listeners each has one voice.'}
        </p>
      )}
      {already && (
        <p role="note" className="text-warning text-[12.5px]">
          {by.trim() === '' ? 'Somebody without a name' : by.trim()} has listened to these already:
          a second time counts as another listener only if it is one. Give another name.
        </p>
      )}
      {uneven && (
        <p role="alert" className="text-error text-[12.5px]">
          {residualLu === null
            ? 'One of them is silent in this passage: choose another one.'
            : 'They cannot be brought to one loudness here: one would be told by its level.'}
        </p>
      )}
      <button
        className="btn btn-sm btn-primary self-start"
        disabled={uneven || (!going && !isWhole) || (already && by.trim() !== '')}
        onClick={start}
      >
        Listen blind
      </button>
    </div>
  );
}
