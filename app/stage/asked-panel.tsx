import { useState } from 'react';
import { useStore } from 'zustand';
import { readFigure, type StageAsked } from '../../core/stage';
import { deviceStore, say } from './device';

const CAME = {
  ...{ done: 'done', cannot: 'cannot', words: 'said' },
  ...{ heard: 'heard in the booth', 'not heard': 'not heard in the booth' },
} as const;

const timeOf = (iso: string): string => {
  const at = new Date(iso);
  return Number.isNaN(at.getTime())
    ? ''
    : at.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
};

/** Another figure than was asked for, or words. */
function Otherwise({ asked }: { asked: StageAsked }) {
  const units = useStore(deviceStore, (state) => state.document?.units ?? 'metric');
  const [text, setText] = useState('');
  const [figure, setFigure] = useState('');
  const [wrong, setWrong] = useState('');
  const { id, field } = asked;
  return (
    <>
      {field !== null && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            const read = readFigure(field, figure, units);
            if (!read.ok) return setWrong(read.message);
            setWrong('');
            say({ kind: 'answer', to: id, came: 'done', text: '', value: read.value });
          }}
        >
          <label className="flex min-w-40 flex-1 flex-col gap-1">
            <span className="text-muted text-[14px]">Done, but it is now</span>
            <input
              className="input input-lg w-full"
              value={figure}
              onChange={(event) => setFigure(event.currentTarget.value)}
            />
          </label>
          <button className="btn btn-lg">Say it</button>
        </form>
      )}
      {wrong !== '' && (
        <p role="alert" className="text-error">
          {wrong}
        </p>
      )}
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() === '') return;
          say({ kind: 'answer', to: id, came: 'words', text: text.trim(), value: null });
          setText('');
        }}
      >
        <label className="flex min-w-40 flex-1 flex-col gap-1">
          <span className="text-muted text-[14px]">Answer in words</span>
          <input
            className="input input-lg w-full"
            maxLength={500}
            value={text}
            onChange={(event) => setText(event.currentTarget.value)}
          />
        </label>
        <button className="btn btn-lg" disabled={text.trim() === ''}>
          Answer
        </button>
      </form>
    </>
  );
}

function Answers({ asked }: { asked: StageAsked }) {
  return asked.answers.map(({ by, text, came, at }, i) => (
    <p key={i} className="text-muted text-[14px]">
      {by}, {timeOf(at)}: {CAME[came]}
      {text !== '' && `: ${text}`}
    </p>
  ));
}

/** The one thing that is to be done now, to be read at arm's length. */
function Now({ asked }: { asked: StageAsked }) {
  const sent = useStore(deviceStore, (state) =>
    state.pending.some(
      (one) => one.kind === 'answer' && one.to === asked.id && one.came !== 'words',
    ),
  );
  const { id, lead, figure, other, then, tap } = asked;
  const answer = (came: 'done' | 'cannot'): void =>
    void say({ kind: 'answer', to: id, came, text: '', value: null });
  return (
    <article aria-label="Now" className="flex flex-col gap-3">
      {tap === null ? (
        <div>
          <p className={figure === '' ? 'text-3xl' : 'text-2xl'}>{lead}</p>
          {figure !== '' && <p className="text-5xl leading-tight font-semibold">{figure}</p>}
          {other !== '' && <p className="text-muted text-2xl">{other}</p>}
          {then !== '' && <p className="text-2xl">then {then}</p>}
        </div>
      ) : (
        <div>
          <p className="text-2xl">Tap microphone</p>
          <p className="text-7xl leading-tight font-semibold">{tap}</p>
          <p className="text-2xl">{lead}</p>
          <p className="text-muted">Lightly, on the body or the clip: never on the grille.</p>
        </div>
      )}
      <Answers asked={asked} />
      {sent ? (
        <p role="status" className="text-xl">
          Said. Waiting for the booth …
        </p>
      ) : (
        <div className="grid grid-cols-2 gap-3">
          <button className="btn btn-primary h-24 text-2xl" onClick={() => answer('done')}>
            {tap === null ? 'Done' : 'Tapped'}
          </button>
          <button className="btn h-24 text-2xl" onClick={() => answer('cannot')}>
            Cannot
          </button>
        </div>
      )}
      {!sent && <Otherwise asked={asked} />}
    </article>
  );
}

const oneLine = ({ lead, figure, tap }: StageAsked): string =>
  tap === null ? [lead, figure].filter(Boolean).join(': ') : `Tap ${tap}: ${lead}`;

/** What is asked: the oldest that is open, big; the others below. */
export function AskedPanel() {
  const asked = useStore(deviceStore, (state) => state.document?.asked) ?? [];
  const [now, ...next] = asked.filter(({ state }) => state === 'open');
  const before = asked.filter(({ state }) => state !== 'open').reverse();
  return (
    <div className="flex flex-col gap-5">
      {now ? (
        <Now key={now.id} asked={now} />
      ) : (
        <p className="text-2xl">Nothing is asked just now.</p>
      )}
      {next.length > 0 && (
        <section aria-label="Next">
          <h2 className="text-[16px]">Next</h2>
          <ul>
            {next.map((one) => (
              <li key={one.id} className="border-hairline border-b py-2">
                {oneLine(one)}
              </li>
            ))}
          </ul>
        </section>
      )}
      {before.length > 0 && (
        <section aria-label="Answered">
          <h2 className="text-[16px]">Answered</h2>
          <ul>
            {before.map((one) => (
              <li key={one.id} className="border-hairline border-b py-2">
                {oneLine(one)}
                <Answers asked={one} />
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
