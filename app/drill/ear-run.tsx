import { useCallback, useEffect, useMemo, useState } from 'react';
import { EAR, earExercise, nextSize, trialsOf, type EarKindId, type Round } from '../../core/drill';
import { useLetterKeys } from '../view/letter-keys';
import { run } from '../workers/run';
import { useAnswer } from '../workers/use-task';
import type { Tasks } from '../workers/tasks';
import { After, Strokes } from './after';
import { AnswerLine } from './answer-line';
import { useClips, type Clips, type LetteredSound } from './clips';
import { HearLetters } from './hear-letters';
import { questionMade } from './questions';
import { useReplay } from './use-replay';
import { RoundEnd } from './round-end';
import { IN_ROUND, useRound, useSeeds } from './rounds';
import { SoftStart, useSoftStart, Volume } from './soft-start';

type Made = Tasks['earQuestion']['answer'];

/** Keys of the answers: their letters, or the first letter of what they say. */
const KEYS: Readonly<Record<string, string>> = { outriggers: 'O', spot: 'S', hall: 'H' };
const keyOf = (id: string): string => KEYS[id] ?? id;

interface Props {
  kind: EarKindId;
  rounds: readonly Round[];
  end: () => void;
}

/** One exercise of the ear: a soft beginning, a round of questions, what came of it. */
export function EarRun({ kind, rounds, end }: Props) {
  const [begun, setBegun] = useState(false);
  useSoftStart();
  const { name, short, scale } = EAR[kind];
  if (!begun) {
    return (
      <SoftStart
        name={name}
        about={
          <p>
            {IN_ROUND} questions: {short}.{' '}
            {scale === null
              ? 'What is measured is how far off you point.'
              : 'They grow harder until three of four are right.'}{' '}
            Everything but the thing asked is by chance
            {kind === 'level' ? '' : ', and all is brought to one loudness'}.
          </p>
        }
        begin={() => setBegun(true)}
      />
    );
  }
  return <Questions {...{ kind, rounds, end }} />;
}

const answering = (
  ask: Tasks['earQuestion']['ask'],
  { onProgress }: { onProgress?: (done: number) => void },
): Promise<Made> => questionMade(ask, onProgress);

function Questions({ kind, rounds, end }: Props) {
  const exercise = earExercise(kind);
  const round = useRound(exercise);
  const seeds = useSeeds();
  const { scale } = EAR[kind];
  // What was known when the round began; its own answers are added as they come.
  const [before, setBefore] = useState(() => trialsOf(rounds, exercise));
  const sizeAfter = (answers: typeof round.answers): number =>
    scale ? nextSize([...before.slice(-60), ...answers], scale) : 0;
  const [ask, setAsk] = useState(() => ({ kind, seed: seeds(), size: sizeAfter([]) }));
  const [said, setSaid] = useState<{ to: typeof ask; answer: string | number } | null>(null);
  const { value, busy, error, progress } = useAnswer(ask, answering);
  const made = busy ? null : value;
  const shown = said?.to === ask ? said.answer : null;
  const [next, setNext] = useState<typeof ask | null>(null);
  const give = (answer: string | number): void => {
    if (!made || shown !== null) return;
    const { question } = made;
    setSaid({ to: ask, answer });
    const error = typeof answer === 'number' ? 100 * (answer - Number(question.truth)) : null;
    const answered = {
      seed: ask.seed,
      size: ask.size,
      right: error === null ? answer === question.truth : Math.abs(error) <= 10,
      said: error === null ? `${answer}` : Number(answer).toFixed(3),
      truth: error === null ? `${question.truth}` : Number(question.truth).toFixed(3),
      errorPct: error,
    };
    round.answer(answered);
    if (round.answers.length + 1 >= IN_ROUND) return;
    const coming = { kind, seed: seeds(), size: sizeAfter([...round.answers, answered]) };
    setNext(coming);
    // Made while this one is still looked at.
    void questionMade(coming).catch(() => undefined);
  };
  if (round.isOver && said === null) {
    return (
      <RoundEnd
        {...{ exercise, end }}
        answers={round.answers}
        again={() => {
          const size = sizeAfter(round.answers);
          setBefore([...before, ...round.answers]);
          round.again();
          setAsk({ kind, seed: seeds(), size });
        }}
      />
    );
  }
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <Strokes
          of={IN_ROUND}
          right={round.answers.map(({ right }) => right)}
          isOpen={shown === null}
        />
        <Volume />
      </div>
      {error !== null && (
        <p role="alert" className="text-error">
          The question cannot be made. {error}
        </p>
      )}
      {made ? (
        <Asked
          key={ask.seed}
          {...{ made, give, answer: shown }}
          next={() => {
            setSaid(null);
            if (next && !round.isOver) setAsk(next);
          }}
          last={round.isOver}
        />
      ) : (
        error === null && (
          <p role="status" aria-label="Making" className="text-muted">
            The sound is being made … {Math.round(100 * progress)} %
          </p>
        )
      )}
      <div>
        <button className="btn btn-sm btn-ghost" onClick={end}>
          Leave it
        </button>
      </div>
    </div>
  );
}

interface AskedProps {
  made: Made;
  /** given; null while it is asked */
  answer: string | number | null;
  give: (answer: string | number) => void;
  next: () => void;
  last: boolean;
}

const DIFFERS = 'D';
const YOURS = 'Y';

function Asked({ made, answer, give, next, last }: AskedProps) {
  const { question, clips, difference } = made;
  const isOpen = answer === null;
  const [own, setOwn] = useState<LetteredSound | null>(null);
  const sounds = useMemo(
    () => [
      ...clips,
      ...(difference && !isOpen ? [{ letter: DIFFERS, sound: difference }] : []),
      ...(own ? [own] : []),
    ],
    [clips, difference, isOpen, own],
  );
  const heard = useClips(sounds);
  const letters = useMemo(() => clips.map(({ letter }) => letter), [clips]);
  const { play } = heard;
  const replay = useCallback(() => play(letters), [play, letters]);
  useReplay(replay);
  // Each question begins to sound by itself, once.
  useEffect(() => {
    if (isOpen) replay();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once a question
  }, [question]);
  const keys = useMemo(
    () => (isOpen ? question.answers.map(({ id }) => keyOf(id)) : []),
    [question, isOpen],
  );
  useLetterKeys(keys, (key) => {
    const found = question.answers.find(({ id }) => keyOf(id) === key);
    if (found) give(found.id);
  });
  const where = question.kind === 'place';
  const placed = question.placed;
  const error =
    typeof answer === 'number' ? Math.round(100 * Math.abs(answer - Number(question.truth))) : 0;
  return (
    <>
      <h2 className="text-[20px]">{question.text}</h2>
      <Hear {...{ heard, letters, replay, name: where ? 'Hear it again' : 'Hear all again' }} />
      {where && (
        <AnswerLine
          answer={typeof answer === 'number' ? answer : null}
          truth={isOpen ? null : placed}
          onAnswer={give}
          label="Where it is"
        />
      )}
      {isOpen && !where && (
        <div role="group" aria-label="Answer" className="flex flex-wrap gap-3">
          {question.answers.map(({ id, label }) => (
            <button key={id} className="btn btn-primary min-w-24" onClick={() => give(id)}>
              {label.length > 1 && <kbd className="font-semibold">{keyOf(id)}</kbd>}
              {label}
            </button>
          ))}
        </div>
      )}
      {isOpen && (
        <p className="text-muted text-[12.5px]">
          {where
            ? 'Click on the line, or move along it with the arrows and press Enter. Space plays it again.'
            : `${keys.join(', ')} answer${keys.length === 1 ? 's' : ''}; Space plays all again.`}
        </p>
      )}
      {!isOpen && (
        <After
          right={where ? null : answer === question.truth}
          said={where ? `${error} % off. ${question.after}` : question.after}
          formula={EAR[question.kind].formula}
          next={next}
          nextName={last ? 'What came of it' : 'Next'}
        >
          <p className="text-muted">{EAR[question.kind].listen}</p>
          <HearAfter {...{ heard, made, answer, own, setOwn }} />
        </After>
      )}
    </>
  );
}

function Hear(props: {
  heard: Clips;
  letters: readonly string[];
  replay: () => void;
  name: string;
}) {
  const { heard, letters, replay, name } = props;
  return (
    <div role="group" aria-label="Hear" className="flex flex-wrap items-center gap-2">
      {letters.length > 1 && <HearLetters {...{ heard, letters }} />}
      <button className="btn btn-sm" onClick={replay}>
        {name}
      </button>
      <button
        className="btn btn-sm btn-ghost"
        disabled={heard.sounding === null}
        onClick={heard.stop}
      >
        Stop
      </button>
    </div>
  );
}

interface HearAfterProps {
  heard: Clips;
  made: Made;
  answer: string | number | null;
  own: LetteredSound | null;
  setOwn: (sound: LetteredSound) => void;
}

/** Both in turn once the answer is given: what differs alone, or the player where he was said to be. */
function HearAfter({ heard, made, answer, own, setOwn }: HearAfterProps) {
  const { question, difference } = made;
  const [waits, setWaits] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  // What was asked for is heard as soon as it is there.
  const { play } = heard;
  useEffect(() => {
    if (own) play(['A', YOURS]);
  }, [own, play]);
  if (question.kind === 'place') {
    const hear = (): void => {
      if (own) return play(['A', YOURS]);
      setWaits(true);
      run('earAgain', { seed: question.seed, shift: Number(answer) }).then(
        (sound) => setOwn({ letter: YOURS, sound }),
        (error: unknown) => {
          setWaits(false);
          setProblem(error instanceof Error ? error.message : String(error));
        },
      );
    };
    return (
      <p>
        <button className="btn btn-sm" disabled={waits && !own} onClick={hear}>
          {waits && !own ? 'It is being made …' : 'Hear it where it was, then where you said'}
        </button>
        {problem !== null && <span role="alert"> {problem}</span>}
      </p>
    );
  }
  return difference ? (
    <p>
      <button className="btn btn-sm" onClick={() => play([DIFFERS])}>
        Hear only what differs
      </button>
    </p>
  ) : null;
}
