import { askedOf, type Asked } from '../../core/stage';
import { useSession } from '../document/use-session';
import { noteTap, takeBackAsked } from './asking';

const timeOf = (iso: string): string =>
  new Date(iso).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', second: '2-digit' });

const CAME = {
  ...{ done: 'done', cannot: 'cannot', words: 'says' },
  ...{ heard: 'heard here', 'not heard': 'not heard here' },
} as const;

function Row({ asked: { entry, state, heard, answers } }: { asked: Asked }) {
  const { id, text, to, tap, at } = entry;
  const words = tap === null ? text : `Tap microphone ${tap}: ${text}`;
  const sign = { open: '○', done: '●', cannot: '✕' }[state];
  return (
    <li className="border-hairline border-b py-1.5">
      <div className="flex flex-wrap items-baseline gap-2">
        <span aria-hidden="true" className={state === 'cannot' ? 'text-error' : ''}>
          {sign}
        </span>
        <span className="min-w-0 flex-1">
          {words}
          <span className="text-muted text-[12.5px]">
            {' '}
            {timeOf(at)}
            {to !== '' && `, to ${to}`}
            {state === 'open' && ', not answered yet'}
          </span>
        </span>
        {tap !== null && state === 'done' && heard === null && (
          <>
            <button className="btn btn-xs btn-primary" onClick={() => noteTap(id, true, '')}>
              Heard on {tap}
            </button>
            <button className="btn btn-xs" onClick={() => noteTap(id, false, '')}>
              Not heard on {tap}
            </button>
          </>
        )}
        {state === 'open' && (
          <button
            className="btn btn-xs btn-ghost font-normal"
            aria-label={`Take back: ${words}`}
            onClick={() => takeBackAsked(id)}
          >
            Take back
          </button>
        )}
      </div>
      {answers.map((answer) => (
        <p key={answer.id} className={`pl-5 ${answer.came === 'cannot' ? 'text-error' : ''}`}>
          {answer.by === '' ? '' : `${answer.by}: `}
          {CAME[answer.came]}
          {answer.text !== '' && `: ${answer.text}`}
          <span className="text-muted text-[12.5px]"> {timeOf(answer.at)}</span>
        </p>
      ))}
    </li>
  );
}

/** What was asked, the newest first, with what came of it and when. */
export function AskedList() {
  const { log } = useSession();
  const asked = askedOf(log).reverse();
  const open = asked.filter(({ state }) => state === 'open').length;
  if (asked.length === 0) return null;
  return (
    <section aria-label="Asked">
      <h2 className="text-[16px]">
        Asked{open > 0 ? `, ${open} not answered yet` : ', all answered'}
      </h2>
      <ul>
        {asked.map((one) => (
          <Row key={one.entry.id} asked={one} />
        ))}
      </ul>
    </section>
  );
}
