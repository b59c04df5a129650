import { useEffect, useMemo, useState } from 'react';
import { movedQuestion, PLAN_EXERCISE, type MovedQuestion } from '../../core/drill';
import { leadingArray, type Plan } from '../../core/session';
import { capitalised } from '../../core/units';
import { usePlan } from '../document/use-session';
import { SmallLine } from '../image-line/small-line';
import { useLetterKeys } from '../view/letter-keys';
import { useTask } from '../workers/use-task';
import { After, Strokes } from './after';
import { useClips } from './clips';
import { HearLetters } from './hear-letters';
import { RoundEnd } from './round-end';
import { useRound, useSeeds } from './rounds';
import { Caution, useSoftStart, Volume } from './soft-start';

const IN_ROUND = 5;
const KEYS = ['A', 'B', 'C'] as const;
/** So many numbers are tried until something can be asked. */
const TRIES = 6;

/** Something moves on a copy of the session: what it does is said first, then heard and seen. */
export function PlanRun({ end }: { end: () => void }) {
  const session = usePlan();
  const round = useRound(PLAN_EXERCISE, IN_ROUND);
  const seeds = useSeeds();
  useSoftStart();
  // The plan as it is when the question is put: what is changed meanwhile is another question.
  const make = (): MovedQuestion | null => {
    for (let i = 0; i < TRIES; i++) {
      const question = movedQuestion(session, seeds());
      if (question) return question;
    }
    return null;
  };
  const [asked, setAsked] = useState(() => ({ before: session, question: make() }));
  const [said, setSaid] = useState<string | null>(null);
  const { question } = asked;
  const give = (id: string): void => {
    if (!question || said !== null) return;
    setSaid(id);
    const { seed, truth } = question;
    round.answer({ seed, size: 0, right: id === truth, said: id, truth, errorPct: null });
  };
  const keys = useMemo(() => (said === null && question ? [...KEYS] : []), [said, question]);
  useLetterKeys(keys, (key) => {
    const found = question?.answers[KEYS.findIndex((one) => one === key)];
    if (found) give(found.id);
  });
  const next = (): void => {
    setSaid(null);
    setAsked({ before: session, question: make() });
  };
  if (round.isOver && said === null) {
    return (
      <RoundEnd
        exercise={PLAN_EXERCISE}
        answers={round.answers}
        again={() => {
          round.again();
          next();
        }}
        end={end}
      />
    );
  }
  if (!question) {
    return (
      <section className="flex max-w-[60ch] flex-col gap-3">
        <h2 className="text-[18px]">What will this do?</h2>
        <p role="status">
          The plan has nothing to move yet: put at least one player and one array in use on the
          Floor, then come back.
        </p>
        <div>
          <button className="btn" onClick={end}>
            Something else
          </button>
        </div>
      </section>
    );
  }
  return (
    <div className="flex max-w-[80ch] flex-col gap-4">
      <Strokes
        of={IN_ROUND}
        right={round.answers.map(({ right }) => right)}
        isOpen={said === null}
      />
      <p className="text-[16px]">On your own plan: {question.move.replace(/\.$/, '')}.</p>
      <h2 className="text-[20px]">{question.text}</h2>
      {said === null ? (
        <>
          <div role="group" aria-label="Answer" className="flex flex-wrap gap-3">
            {question.answers.map(({ id, label }, i) => (
              <button key={id} className="btn btn-primary" onClick={() => give(id)}>
                <kbd className="font-semibold">{KEYS[i]}</kbd> {label}
              </button>
            ))}
          </div>
          <p className="text-muted text-[12.5px]">
            A, B and C answer. Nothing of it is done to the plan.
          </p>
        </>
      ) : (
        <After
          right={said === question.truth}
          said={`${capitalised(question.answers.find(({ id }) => id === question.truth)?.label ?? '')}: ${question.after}.`}
          formula="mix"
          next={next}
          nextName={round.isOver ? 'What came of it' : 'Next'}
        >
          {question.besides.length > 0 && (
            <p className="text-muted">Besides: {question.besides.join('; ')}.</p>
          )}
          <SeeAndHear before={asked.before} question={question} />
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

interface Props {
  before: ReturnType<typeof usePlan>;
  question: MovedQuestion;
}

const asPlan = (session: MovedQuestion['plan']): Plan => ({
  ...session,
  ...{ log: [], takes: [], marks: [], acknowledgements: [] },
});

const NAMES: Readonly<Record<string, string>> = { A: 'as it is', B: 'moved' };

/** The plan before and after: as small image lines, and by ear. */
function SeeAndHear({ before, question }: Props) {
  const [wanted, setWanted] = useState(false);
  const ask = useMemo(
    () => (wanted ? { before, after: asPlan(question.plan) } : null),
    [wanted, before, question],
  );
  const { value, error, progress } = useTask('plansHeard', ask);
  const sounds = useMemo(
    () =>
      value && [
        { letter: 'A', sound: value.before },
        { letter: 'B', sound: value.after },
      ],
    [value],
  );
  const heard = useClips(sounds);
  const { play } = heard;
  useEffect(() => {
    if (sounds) play(['A', 'B']);
  }, [sounds, play]);
  return (
    <div className="flex flex-col gap-2">
      {(
        [
          ['as it is', before],
          ['moved', question.plan],
        ] as const
      ).map(([name, plan]) => {
        const array = leadingArray(plan);
        return array ? (
          <div key={name} className="flex items-center gap-3">
            <span className="text-muted w-16">{name}</span>
            <SmallLine session={plan} array={array} wide={420} />
          </div>
        ) : null;
      })}
      <div className="flex flex-wrap items-center gap-3">
        {value ? (
          <HearLetters
            heard={heard}
            letters={Object.keys(NAMES)}
            name={(letter) => `Hear it ${NAMES[letter] ?? ''}`}
          />
        ) : (
          <button className="btn btn-sm" disabled={wanted} onClick={() => setWanted(true)}>
            {wanted && error === null
              ? `It is being made … ${Math.round(100 * progress)} %`
              : 'Hear both'}
          </button>
        )}
        <Volume />
      </div>
      <Caution />
      {error !== null && <p role="alert">It cannot be heard. {error}</p>}
    </div>
  );
}
