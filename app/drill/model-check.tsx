import { useMemo, useState } from 'react';
import { SET_UP_CHECKS } from '../../core/drill';
import { useLetterKeys } from '../view/letter-keys';
import { useOneSound } from './use-one-sound';
import { Volume } from './soft-start';

const KEYS = ['A', 'B', 'C'] as const;

/** Sides, level, balance, phase: nothing is asked before the set-up is right. */
export function SetUpCheckRun({ done, leave }: { done: () => void; leave: () => void }) {
  const [at, setAt] = useState(0);
  const [wrong, setWrong] = useState<string | null>(null);
  const check = SET_UP_CHECKS[at];
  const answer = (said: string): void => {
    if (!check) return;
    if (said !== check.truth) return setWrong(check.wrong);
    setWrong(null);
    if (at + 1 === SET_UP_CHECKS.length) done();
    else setAt(at + 1);
  };
  if (!check) return null;
  return (
    <section aria-label="Check of the set-up" className="flex max-w-[64ch] flex-col gap-4">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <p role="status" aria-label="Check" className="text-muted text-[12.5px]">
          Check {at + 1} of {SET_UP_CHECKS.length}: sides, level, balance, phase
        </p>
        <Volume />
      </div>
      <OneCheck key={check.id} check={check} onAnswer={answer} />
      {wrong !== null && (
        <p role="alert" className="border-warning border-l-2 pl-3">
          That is not where it was. {wrong} Then answer again.
        </p>
      )}
      <div>
        <button className="btn btn-sm btn-ghost" onClick={leave}>
          Leave it
        </button>
      </div>
    </section>
  );
}

interface Props {
  check: (typeof SET_UP_CHECKS)[number];
  onAnswer: (said: string) => void;
}

function OneCheck({ check, onAnswer }: Props) {
  const ask = useMemo(() => ({ check: check.id }), [check]);
  const { ready, error, replay } = useOneSound(ask);
  const keys = useMemo(() => KEYS.slice(0, check.answers.length), [check]);
  useLetterKeys(keys, (key) => {
    const said = check.answers[KEYS.findIndex((one) => one === key)];
    if (said) onAnswer(said);
  });
  return (
    <>
      <h2 className="text-[20px]">{check.text}</h2>
      {error !== null && <p role="alert">{error}</p>}
      <div role="group" aria-label="Answer" className="flex flex-wrap gap-3">
        {check.answers.map((said, i) => (
          <button
            key={said}
            className="btn btn-primary min-w-24"
            disabled={!ready}
            onClick={() => onAnswer(said)}
          >
            <kbd className="font-semibold">{KEYS[i]}</kbd> {said}
          </button>
        ))}
      </div>
      <div>
        <button className="btn btn-sm" disabled={!ready} onClick={replay}>
          Hear it again
        </button>
      </div>
    </>
  );
}
