import { channelMap } from '../../core/channels';
import { askedOf } from '../../core/stage';
import { useSession } from '../document/use-session';
import { askTap } from './asking';

/** Every input tapped in turn: one is asked for at a time, and ticked where it is heard. */
export function LineCheck() {
  const session = useSession();
  const { inputs } = channelMap(session);
  if (inputs.length === 0) return null;
  const taps = askedOf(session.log).filter(({ entry }) => entry.tap !== null);
  // The newest tap of an input counts.
  const last = new Map(taps.map((one) => [`${one.entry.tap} ${one.entry.text}`, one]));
  const stateOf = (number: number, name: string): string => {
    const one = last.get(`${number} ${name}`);
    if (!one) return '';
    if (one.state === 'open') return 'asked';
    if (one.state === 'cannot') return 'cannot be tapped';
    return one.heard === null ? 'tapped: heard?' : one.heard ? 'heard' : 'not heard';
  };
  const states = inputs.map(({ number, name }) => ({ number, name, state: stateOf(number, name) }));
  const next = states.find(({ state }) => state === '');
  const waits = states.some(({ state }) => state === 'asked' || state === 'tapped: heard?');
  const heard = states.filter(({ state }) => state === 'heard').length;
  return (
    <section aria-label="Line check" className="flex flex-col gap-2">
      <h2 className="text-[16px]">Line check</h2>
      <p role="status">
        {heard} of {inputs.length} microphones heard where the channel list has them.
      </p>
      <p className="text-muted text-[12.5px]">
        Pull the monitors down before somebody taps: a tap at recording gain is loud.
      </p>
      <p>
        <button
          className="btn btn-sm"
          disabled={!next || waits}
          onClick={() => next && askTap(next.number, next.name, '')}
        >
          {next ? `Ask for ${next.number}: ${next.name}` : 'Every input was asked for'}
        </button>
      </p>
      <ul className="columns-2 gap-6 max-sm:columns-1">
        {states.map(({ number, name, state }) => (
          <li key={number} className="flex items-baseline gap-2 py-0.5">
            <span className="num text-muted w-7 text-right">{number}</span>
            <span className="min-w-0 flex-1">{name}</span>
            <span
              className={`text-[12.5px] ${state === 'heard' ? 'font-semibold' : state.startsWith('not') || state.startsWith('cannot') ? 'text-error' : 'text-muted'}`}
            >
              {state}
            </span>
            <button
              className="btn btn-ghost btn-xs font-normal"
              aria-label={`Ask to tap ${number}, ${name}`}
              onClick={() => askTap(number, name, '')}
            >
              Ask
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
