import { useEffect, useMemo, useRef, useState } from 'react';
import {
  answerText,
  CLAIMS,
  EAR,
  headExercise,
  isRight,
  QUANTITIES,
  readAnswer,
  SUMS,
  sumOf,
  type Claim,
  type Round,
  type SumKind,
  type Verdict,
} from '../../core/drill';
import { seededRandom } from '../../core/units/random';
import { shuffled } from '../../core/units/shuffled';
import { useLetterKeys } from '../view/letter-keys';
import { useAnswer } from '../workers/use-task';
import { After, Strokes } from './after';
import { useClips } from './clips';
import { HearLetters } from './hear-letters';
import { questionMade } from './questions';
import { useRound, useSeeds } from './rounds';
import { RoundEnd } from './round-end';
import { Caution, useSoftStart, Volume } from './soft-start';

/** Questions to the head in one round. */
const IN_ROUND = 5;

interface SumProps {
  kind: SumKind;
  end: () => void;
}

/** Arithmetic with fresh numbers: an answer in any unit, the way to it afterwards. */
export function SumRun({ kind, end }: SumProps) {
  const exercise = headExercise(kind);
  const round = useRound(exercise, IN_ROUND);
  const seeds = useSeeds();
  const [seed, setSeed] = useState(() => seeds());
  const sum = useMemo(() => sumOf(kind, seed), [kind, seed]);
  const [typed, setTyped] = useState('');
  const [refused, setRefused] = useState<string | null>(null);
  const [said, setSaid] = useState<{ right: boolean; text: string } | null>(null);
  const unit = sum.quantity === 'length' ? 'm' : QUANTITIES[sum.quantity].unit;
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (said === null) input.current?.focus();
  }, [said, seed]);
  const give = (): void => {
    const read = readAnswer(sum.quantity, typed);
    if (!read.ok) return setRefused(read.message);
    setRefused(null);
    const right = isRight(sum, read.value);
    setSaid({ right, text: typed.trim() });
    const truth = `${Number(sum.answer.toPrecision(4))}`;
    round.answer({ seed, size: 0, right, said: typed.trim(), truth, errorPct: null });
  };
  if (round.isOver && said === null) {
    return <RoundEnd {...{ exercise, end }} answers={round.answers} again={round.again} />;
  }
  return (
    <div className="flex max-w-[76ch] flex-col gap-4">
      <Strokes
        of={IN_ROUND}
        right={round.answers.map(({ right }) => right)}
        isOpen={said === null}
      />
      <h2 className="text-[20px] leading-snug">{sum.text}</h2>
      <form
        className="flex flex-wrap items-center gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (said === null) give();
        }}
      >
        <label className="flex items-center gap-2">
          <span className="text-muted">Answer</span>
          <input
            ref={input}
            className="input w-48"
            aria-label="Answer"
            aria-invalid={refused !== null}
            aria-describedby={refused === null ? undefined : 'sum-refused'}
            autoComplete="off"
            maxLength={40}
            readOnly={said !== null}
            value={typed}
            onChange={(event) => setTyped(event.currentTarget.value)}
          />
        </label>
        <span className="text-muted text-[12.5px]">
          {unit === '' ? 'a number alone' : `in ${unit}, or with another unit`}
        </span>
        {said === null && (
          <button type="submit" className="btn btn-primary">
            Answer
          </button>
        )}
      </form>
      {refused !== null && (
        <p id="sum-refused" role="alert" className="text-error">
          {refused}
        </p>
      )}
      {said !== null && (
        <After
          right={said.right}
          said={`${said.text} was your answer; it is ${answerText(sum.quantity, sum.answer)}.`}
          formula={sum.formula}
          next={() => {
            setSaid(null);
            setTyped('');
            setSeed(seeds());
          }}
          nextName={round.isOver ? 'What came of it' : 'Next'}
        >
          <ol aria-label="The way to it" className="border-hairline border-l-2 pl-3 tabular-nums">
            {sum.worked.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
        </After>
      )}
      <div>
        <button className="btn btn-sm btn-ghost" onClick={end}>
          Leave it
        </button>
      </div>
      <p className="sr-only">{SUMS[kind].name}</p>
    </div>
  );
}

const VERDICTS: readonly { id: Verdict; key: string; label: string }[] = [
  { id: 'true', key: 'T', label: 'True' },
  { id: 'false', key: 'F', label: 'False' },
  { id: 'depends', key: 'D', label: 'It depends' },
];
const WORDS: Readonly<Record<Verdict, string>> = {
  true: 'It is true.',
  false: 'It is false.',
  depends: 'It depends.',
};

/** Claims least often answered rightly come first, in an order by chance. */
function claimsInTurn(rounds: readonly Round[], seed: number): Claim[] {
  const random = seededRandom(seed);
  const weight = new Map<string, number>();
  for (const { exercise, answers } of rounds) {
    if (exercise !== headExercise('claims')) continue;
    for (const { seed: index, right } of answers) {
      const claim = CLAIMS[index];
      if (claim) weight.set(claim.id, (weight.get(claim.id) ?? 0) + (right ? 1 : -1));
    }
  }
  return shuffled(CLAIMS, random).sort((a, b) => (weight.get(a.id) ?? 0) - (weight.get(b.id) ?? 0));
}

interface ClaimProps {
  rounds: readonly Round[];
  end: () => void;
}

/** Claims of the trade to be judged: true, false, or it depends. */
export function ClaimRun({ rounds, end }: ClaimProps) {
  const exercise = headExercise('claims');
  const round = useRound(exercise, IN_ROUND);
  const seeds = useSeeds();
  const [turn, setTurn] = useState(() => claimsInTurn(rounds, seeds()));
  const [at, setAt] = useState(0);
  const [said, setSaid] = useState<Verdict | null>(null);
  useSoftStart();
  const claim = turn[at % turn.length];
  const give = (verdict: Verdict): void => {
    if (!claim || said !== null) return;
    setSaid(verdict);
    round.answer({
      seed: CLAIMS.indexOf(claim),
      size: 0,
      right: verdict === claim.verdict,
      said: verdict,
      truth: claim.verdict,
      errorPct: null,
    });
  };
  const keys = useMemo(() => (said === null ? VERDICTS.map(({ key }) => key) : []), [said]);
  useLetterKeys(keys, (key) => {
    const found = VERDICTS.find((one) => one.key === key);
    if (found) give(found.id);
  });
  if (round.isOver && said === null) {
    const again = (): void => {
      round.again();
      setTurn(claimsInTurn(rounds, seeds()));
      setAt(0);
    };
    return <RoundEnd {...{ exercise, end, again }} answers={round.answers} />;
  }
  if (!claim) return null;
  return (
    <div className="flex max-w-[76ch] flex-col gap-4">
      <Strokes
        of={IN_ROUND}
        right={round.answers.map(({ right }) => right)}
        isOpen={said === null}
      />
      <h2 className="text-[22px] leading-snug">“{claim.claim}”</h2>
      {said === null ? (
        <>
          <div role="group" aria-label="Answer" className="flex flex-wrap gap-3">
            {VERDICTS.map(({ id, key, label }) => (
              <button key={id} className="btn btn-primary min-w-28" onClick={() => give(id)}>
                <kbd className="font-semibold">{key}</kbd> {label}
              </button>
            ))}
          </div>
          <p className="text-muted text-[12.5px]">T, F and D answer.</p>
        </>
      ) : (
        <After
          right={said === claim.verdict}
          said={`${WORDS[claim.verdict]} ${claim.why}`}
          formula={claim.formula}
          next={() => {
            setSaid(null);
            setAt(at + 1);
          }}
          nextName={round.isOver ? 'What came of it' : 'Next'}
        >
          <p className="border-hairline border-l-2 pl-3 tabular-nums">{claim.figure()}</p>
          <p className="text-muted text-[12.5px]">
            {claim.ground === 'physics'
              ? 'Physics decides this.'
              : 'Custom and taste decide this; physics only says what it costs.'}
          </p>
          {claim.sound && <Example key={claim.id} {...claim.sound} />}
        </After>
      )}
      <div>
        <button className="btn btn-sm btn-ghost" onClick={end}>
          Leave it
        </button>
      </div>
    </div>
  );
}

const asked = (
  ask: { kind: NonNullable<Claim['sound']>['kind']; seed: number; size: number },
  { onProgress }: { onProgress?: (done: number) => void },
) => questionMade(ask, onProgress);

/** A claim to the ear: both ways, and which is which. */
function Example({ kind, size }: NonNullable<Claim['sound']>) {
  const [wanted, setWanted] = useState(false);
  const ask = useMemo(() => (wanted ? { kind, size, seed: 17 } : null), [wanted, kind, size]);
  const { value, busy, error } = useAnswer(ask, asked);
  const heard = useClips(value?.clips ?? null);
  const { play } = heard;
  useEffect(() => {
    if (value) play(value.clips.map(({ letter }) => letter));
  }, [value, play]);
  return (
    <div className="flex flex-col gap-2" aria-label="An example to the ear" role="group">
      <div className="flex flex-wrap items-center gap-3">
        {!value && (
          <button className="btn btn-sm" disabled={busy && wanted} onClick={() => setWanted(true)}>
            {wanted && error === null ? 'It is being made …' : 'Hear an example'}
          </button>
        )}
        {value && <HearLetters heard={heard} letters={value.clips.map(({ letter }) => letter)} />}
        <Volume />
      </div>
      <Caution />
      {value && (
        <p className="text-muted text-[12.5px]">
          {EAR[kind].name}: {value.question.after}
        </p>
      )}
      {error !== null && <p role="alert">{error}</p>}
    </div>
  );
}
