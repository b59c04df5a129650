import { useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import {
  LETTERS,
  trialsOf,
  UNKNOWN,
  type Answer,
  type BlindTest,
  type Trial,
} from '../../core/soundcheck';
import { setHearing, withEngine } from '../audio/actions';
import { listeningStore } from '../audio/listening';
import { amend, enter } from '../document/journals';
import { dismissAll, notify } from '../view/notices';
import { panelStore } from '../view/panels';
import { HeardNotes } from './heard-notes';
import { useLetterKeys } from '../view/letter-keys';
import type { AtEngine } from './use-heard';

/** A blind test under way. Its key is in the memory of this page and nowhere else until it is finished. */
export interface Running {
  /** the first entry of the comparison */
  round: string;
  test: BlindTest;
  by: string;
  ids: readonly string[];
  /** what they are called: said only of an identification, where all but X are known */
  names: readonly string[];
  trials: number;
}

/** Trials come from chance that nobody can foresee. */
function chance(): number {
  const [value = 0] = crypto.getRandomValues(new Uint32Array(1));
  return value / 2 ** 32;
}

const idAt = ({ among, hidden }: Trial, letter: string): string | null =>
  letter === UNKNOWN ? hidden : (among[LETTERS.indexOf(letter)] ?? null);

interface Props {
  running: Running;
  at: AtEngine;
  /** finished: it came to the end that was fixed beforehand */
  end: (finished: boolean) => void;
}

/** The entry of the vote while it grows: each answer as its letter, the key with the last one. */
function useVote({ round, by, ids }: Running) {
  const entry = useRef('');
  const said = (letters: readonly string[]) => ({
    ...{ kind: 'vote' as const, by, round, among: [...ids], blind: true },
    ...{ choice: '', text: '', letters: [...letters], answers: [], finished: false },
  });
  const begin = (): void => {
    if (entry.current === '') entry.current = enter('log', said([]));
  };
  const answer = (letters: readonly string[]): void => {
    entry.current = amend('log', entry.current, { letters: [...letters] }) || entry.current;
  };
  const remark = (text: string): void => {
    if (text !== '') amend('log', entry.current, { text });
  };
  const finish = (letters: readonly string[], answers: readonly Answer[]): void => {
    const id = amend('log', entry.current, {
      letters: [...letters],
      answers: answers.map(({ among, hidden, said: one }) => ({
        among: [...among],
        hidden: hidden ?? '',
        said: one,
      })),
      finished: true,
    });
    entry.current = id || entry.current;
  };
  return { begin, answer, finish, remark };
}

interface TrialNote {
  entry: string;
  trial: number;
  letter: string;
}

/** Notes of trials: what they are of is said with the key, in the end. */
function useTrialNotes() {
  const notes = useRef<readonly TrialNote[]>([]);
  const add = (note: TrialNote): void => {
    notes.current = [...notes.current, note];
    notify('Noted; which it was of is said in the end.');
  };
  const tell = (trials: readonly Trial[]): void => {
    for (const { entry, trial, letter } of notes.current) {
      const of = trials[trial];
      const id = of && idAt(of, letter);
      if (id) amend('log', entry, { about: [id] });
    }
  };
  return { add, tell };
}

interface NotedProps {
  running: Running;
  letter: string;
  trial: number;
  add: (note: TrialNote) => void;
}

/** What is heard of the letter that sounds, without knowing which it is. */
const Noted = ({ running, letter, trial, add }: NotedProps) => (
  <HeardNotes
    key={`${trial} ${letter}`}
    of={running.round}
    name={letter}
    blind={{ by: running.by, said: (entry) => add({ entry, trial, letter }) }}
  />
);

interface AskedProps {
  running: Running;
  letters: readonly string[];
  letter: string;
  unheard: readonly string[];
  silent: boolean;
  play: (letter: string) => void;
  answer: (said: string) => void;
}

/** One trial: its letters, and what can be said of them once all were heard. */
function Asked(props: AskedProps) {
  const { running, letters, letter, unheard, silent, play, answer } = props;
  const { test, names } = running;
  return (
    <>
      <div role="group" aria-label="Hear" className="flex flex-wrap gap-2 pb-3">
        {letters.map((name, i) => (
          <button
            key={name}
            className={`btn min-w-20 ${letter === name ? 'btn-neutral' : ''}`}
            aria-pressed={letter === name}
            onClick={() => play(name)}
          >
            {name}
            {test === 'identification' && name !== UNKNOWN && (
              <span className="max-w-40 truncate font-normal">{names[i]}</span>
            )}
          </button>
        ))}
        {silent && (
          <button className="btn" onClick={() => play(letter)}>
            Play
          </button>
        )}
      </div>
      <div role="group" aria-label="Answer" className="flex flex-wrap gap-2">
        {letters
          .filter((name) => name !== UNKNOWN)
          .map((name) => (
            <button
              key={name}
              className="btn btn-sm btn-primary"
              disabled={unheard.length > 0}
              onClick={() => answer(name)}
            >
              {test === 'identification' ? `${UNKNOWN} is ${name}` : `${name} is better`}
            </button>
          ))}
        {test === 'preference' && (
          <button className="btn btn-sm" disabled={unheard.length > 0} onClick={() => answer('')}>
            No difference
          </button>
        )}
      </div>
      <p className="text-muted pt-1 text-[12.5px]">
        {unheard.length > 0
          ? `Hear ${unheard.join(' and ')} as well, then answer.`
          : 'Go to and fro as often as you like.'}
      </p>
    </>
  );
}

/** One trial after another: letters that mean something else each time, and one answer to each. */
export function BlindRun({ running, at, end }: Props) {
  const { test, ids, by } = running;
  const [trials] = useState(() => trialsOf(test, ids, running.trials, chance));
  const [answers, setAnswers] = useState<readonly string[]>([]);
  const [letter, setLetter] = useState('A');
  const [heardLetters, setHeardLetters] = useState<ReadonlySet<string>>(() => new Set(['A']));
  const [remark, setRemark] = useState('');
  const [silent, problem] = [
    useStore(listeningStore, ({ state }) => state === 'silent'),
    useStore(listeningStore, (state) => state.problem),
  ];
  const vote = useVote(running);
  const notes = useTrialNotes();
  const trial = trials[answers.length];
  const over = answers.length === trials.length;
  const letters = useMemo(() => {
    const known = [...LETTERS.slice(0, trial?.among.length ?? 0)];
    return test === 'identification' ? [...known, UNKNOWN] : known;
  }, [trial, test]);
  useEffect(() => {
    vote.begin();
    panelStore.setState({ blind: true });
    // What was said before may tell which letter was which.
    dismissAll();
    setHearing({ mono: false, swap: false });
    return () => {
      panelStore.setState({ blind: false });
      // What sounds on would be seen under its open letter.
      void withEngine((engine) => engine.stop());
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once a listener
  }, []);
  const play = (name: string): void => {
    const id = trial && idAt(trial, name);
    if (!id || over) return;
    setLetter(name);
    setHeardLetters((heard) => new Set([...heard, name]));
    at.hear(id);
  };
  // Each trial begins with its A, whatever that is.
  const first = trial && idAt(trial, 'A');
  const { sides } = at;
  useEffect(() => {
    if (first) at.hear(first);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a new trial, or everything given anew
  }, [answers.length, sides]);
  useLetterKeys(letters, play);
  const answer = (said: string): void => {
    const now = [...answers, said];
    setAnswers(now);
    setLetter('A');
    setHeardLetters(new Set(['A']));
    if (now.length < trials.length) return vote.answer(now);
    const whole = trials.map((one, i): Answer => {
      const letterOf = now[i] ?? '';
      return { ...one, said: letterOf === '' ? '' : (idAt(one, letterOf) ?? '') };
    });
    vote.finish(now, whole);
    notes.tell(trials);
    void withEngine((engine) => engine.stop());
  };
  const finish = (): void => {
    vote.remark(remark.trim());
    notify(`${by || 'The listener'} is done. What came of it is said once nobody else listens.`);
    end(true);
  };
  const unheard = letters.filter((name) => !heardLetters.has(name));
  return (
    <section aria-label="Blind test" className="max-w-[80ch]">
      <p role="status" aria-label="Trial" className="pb-2 text-[17px]">
        {over
          ? `That was the last of ${trials.length}.`
          : `Trial ${answers.length + 1} of ${trials.length}: ${test === 'identification' ? `which of them is ${UNKNOWN}?` : 'which is better?'}`}
      </p>
      {problem !== null && (
        <p role="alert" className="text-error pb-2">
          {problem}
        </p>
      )}
      {over ? (
        <label className="flex flex-col pb-2">
          <span className="text-muted">A remark, if there is one</span>
          <input
            className="input input-sm w-full"
            maxLength={2000}
            value={remark}
            onChange={(event) => setRemark(event.currentTarget.value)}
          />
        </label>
      ) : (
        <Asked {...{ running, letters, letter, unheard, silent, play, answer }} />
      )}
      {!over && <Noted {...{ running, letter }} trial={answers.length} add={notes.add} />}
      <div className="flex flex-wrap gap-2 pt-4">
        {over && (
          <button className="btn btn-sm btn-primary" onClick={finish}>
            Done
          </button>
        )}
        {!over && (
          <button className="btn btn-sm btn-ghost" onClick={() => end(false)}>
            Break it off
          </button>
        )}
      </div>
      {!over && (
        <p className="text-muted pt-1 text-[12.5px]">
          Broken off, its answers say nothing and what they were of is never shown: the number of
          trials was fixed beforehand.
        </p>
      )}
    </section>
  );
}
