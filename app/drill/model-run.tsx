import { useMemo, useState } from 'react';
import { askedImages, type AskedImage } from '../../core/drill';
import { formatNumber } from '../../core/units';
import { keepRun, type ModelRun } from '../keeping/drill-store';
import { notifyFailure } from '../view/notices';
import { AnswerLine } from './answer-line';
import { useOneSound } from './use-one-sound';
import { Volume } from './soft-start';

/** One answer takes about so long, s. */
const EACH_S = 6;
/** A rest is offered after so many. */
const REST_EVERY = 30;

interface Props {
  run: ModelRun;
  /** all are answered, or it is broken off for now */
  end: () => void;
}

/** Images one after another, each a click on the line; kept with every click. */
export function ModelQuestions({ run, end }: Props) {
  const images = useMemo(() => askedImages(run.seed), [run.seed]);
  const [answers, setAnswers] = useState(run.answers);
  const [rested, setRested] = useState(answers.length);
  const image = images[answers.length];
  const answer = (at: number): void => {
    if (!image) return;
    const { icldDb, ictdMs } = image;
    const now = [...answers, { icldDb, ictdMs, at: Math.round(at * 1000) / 1000 }];
    setAnswers(now);
    keepRun({ ...run, answers: now }).catch(notifyFailure);
    if (now.length === images.length) end();
  };
  const left = images.length - answers.length;
  const rests =
    answers.length > 0 && answers.length % REST_EVERY === 0 && rested !== answers.length;
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <p role="status" aria-label="Images" className="text-muted text-[12.5px] tabular-nums">
          Image {Math.min(images.length, answers.length + 1)} of {images.length}, about{' '}
          {formatNumber(Math.max(1, (left * EACH_S) / 60), 0)} min left
        </p>
        <Volume />
      </div>
      <progress
        className="progress w-full"
        max={images.length}
        value={answers.length}
        aria-label="How far it has come"
      />
      {rests ? (
        <section aria-label="A rest" className="flex flex-col gap-3">
          <h2 className="text-[18px]">Rest your ears for a moment.</h2>
          <p>Everything so far is kept. Sit as you sat before, in the middle.</p>
          <div>
            <button className="btn btn-primary" autoFocus onClick={() => setRested(answers.length)}>
              Go on
            </button>
          </div>
        </section>
      ) : (
        image && <OneImage key={answers.length} image={image} onAnswer={answer} />
      )}
      <div>
        <button className="btn btn-sm btn-ghost" onClick={end}>
          Break it off for now
        </button>
      </div>
    </div>
  );
}

function OneImage({ image, onAnswer }: { image: AskedImage; onAnswer: (at: number) => void }) {
  const ask = useMemo(() => ({ image }), [image]);
  const { ready, error, replay } = useOneSound(ask);
  return (
    <>
      <h2 className="text-[20px]">Where do you hear it?</h2>
      {error !== null && <p role="alert">{error}</p>}
      <AnswerLine
        answer={null}
        truth={null}
        onAnswer={onAnswer}
        label="Where you hear it"
        disabled={!ready}
      />
      <div className="flex flex-wrap items-center gap-3">
        <button className="btn btn-sm" disabled={!ready} onClick={replay}>
          Hear it again
        </button>
        <span className="text-muted text-[12.5px]">
          One click, as you would point; arrows and Enter do it too, Space plays it again. What is
          beyond a loudspeaker belongs at the loudspeaker.
        </span>
      </div>
    </>
  );
}
