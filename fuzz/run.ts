import { readSessionText, writeSessionText, type Session } from '../core/session';
import { analysesOf, commandsOf, longAnalysesOf, notFinite, type Call } from './everything';
import { damagedText } from './mutations';
import { validSession } from './valid-sessions';

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

/** What a fixed piece of work takes on the machine that the bound is meant for, s of CPU. */
const REFERENCE_S = 0.27;
/** Beside other tests, which share the processor and its memory, a call takes up to so many times longer. */
const BESIDE_OTHERS = 1.6;
/** A machine is believed to be so much slower at most. */
const SLOWEST = 2.5;

/** How much slower the machine is at this moment, 1 … SLOWEST. */
function slowness(): number {
  const before = cpuSeconds();
  const held = new Float64Array(4096);
  let sum = 0;
  for (let i = 0; i < 6_000_000; i++) {
    const k = i & 4095;
    held[k] = (held[k] as number) / 2 + Math.log(Math.exp(-k / 4096) + Math.sqrt(i));
    sum += held[(7 * k) & 4095] as number;
  }
  const took = Number.isFinite(sum) ? cpuSeconds() - before : 0;
  return Math.min(SLOWEST, Math.max(1, took / REFERENCE_S));
}

/** A machine in a slow moment must not condemn a call: what was too long is asked again, later and later. */
const ATTEMPTS = 6;
const LATER_MS = 1500;

export async function tryCall(seed: number, [call, run]: Call): Promise<Trouble | null> {
  let took = Infinity;
  for (let i = 0; i < ATTEMPTS && took > MOST_CPU_S; i++) {
    if (i > 1) await new Promise((resolve) => setTimeout(resolve, i * LATER_MS));
    const before = cpuSeconds();
    try {
      const wrong = notFinite(await run());
      if (wrong !== null) return { seed, call, what: wrong };
    } catch (error) {
      const what = error instanceof Error ? (error.stack ?? error.message) : String(error);
      return { seed, call, what: what.split('\n').slice(0, 4).join(' | ') };
    }
    const spent = cpuSeconds() - before;
    took = Math.min(took, spent > MOST_CPU_S ? spent / slowness() / BESIDE_OTHERS : spent);
  }
  return took > MOST_CPU_S ? { seed, call, what: `${took.toFixed(1)} s of CPU` } : null;
}

/** One session in so many has its long analyses and its command lines run as well. */
const LONG_EVERY = 15;
const COMMANDS_EVERY = 8;

/** Runs every analysis and command on one made session. */
export function tryEverything(seed: number): Promise<Trouble[]> {
  return tryAll(seed, validSession(seed));
}

async function tryAll(seed: number, session: Session): Promise<Trouble[]> {
  const calls = [
    ...analysesOf(session),
    ...(seed % LONG_EVERY === 0 ? longAnalysesOf(session) : []),
    ...(seed % COMMANDS_EVERY === 0 ? commandsOf(writeSessionText(session)) : []),
  ];
  const found: Trouble[] = [];
  for (const call of calls) {
    const trouble = await tryCall(seed, call);
    if (trouble) found.push(trouble);
  }
  return found;
}

/** Reads a damaged file: refused with reasons, or read and then good for everything. */
export async function tryDamaged(seed: number): Promise<Trouble[]> {
  const text = damagedText(seed);
  let session: Session | null = null;
  const trouble = await tryCall(seed, [
    'reading',
    () => {
      const read = readSessionText(text);
      if (read.ok) session = read.session;
      else for (const { message } of read.problems) mustSayWhatIsAllowed(message);
      return null;
    },
  ]);
  if (trouble) return [trouble];
  return session && seed % 40 === 0 ? tryAll(1, session) : [];
}

function mustSayWhatIsAllowed(message: string): void {
  if (!/allowed: |no way from version|is used twice/.test(message)) {
    throw new Error(`a refusal that does not say what is allowed: ${message}`);
  }
}
