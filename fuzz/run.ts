import { writeSessionText } from '../core/session';
import { analysesOf, commandsOf, longAnalysesOf, notFinite, type Call } from './everything';
import { validContent, validSession } from './valid-sessions';

/** What a session must never do: throw, give a figure that is none, or hold a core for long. */
export interface Trouble {
  seed: number;
  call: string;
  what: string;
}

const MOST_CPU_S = 2;

const cpuSeconds = (): number => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1e6;
};

export function tryCall(seed: number, [name, run]: Call): Trouble | null {
  const before = cpuSeconds();
  try {
    const wrong = notFinite(run());
    if (wrong !== null) return { seed, call: name, what: wrong };
  } catch (error) {
    const what = error instanceof Error ? (error.stack ?? error.message) : String(error);
    return { seed, call: name, what: what.split('\n').slice(0, 4).join(' | ') };
  }
  const took = cpuSeconds() - before;
  return took > MOST_CPU_S ? { seed, call: name, what: `${took.toFixed(1)} s of CPU` } : null;
}

/** Runs every analysis and command on one made session. */
export function tryEverything(seed: number, long: boolean): Trouble[] {
  const session = validSession(seed);
  const calls = [
    ...analysesOf(session),
    ...(long ? longAnalysesOf(session) : []),
    ...(seed % 4 === 0 ? commandsOf(writeSessionText(session)) : []),
  ];
  return calls.flatMap((call) => tryCall(seed, call) ?? []);
}

export { validContent };
