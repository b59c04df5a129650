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
/** A machine is believed to be so much slower at most. */
const SLOWEST = 4;

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

const isSteps = (value: unknown): value is Generator<unknown, unknown, undefined> =>
  typeof value === 'object' && value !== null && Symbol.iterator in value && 'return' in value;

/** What a call gives, and the longest that it held the core at once, s of CPU. */
async function timed(run: () => unknown): Promise<{ given: unknown; heldS: number }> {
  let before = cpuSeconds();
  let heldS = 0;
  const lap = (): void => {
    const now = cpuSeconds();
    heldS = Math.max(heldS, now - before);
    before = now;
  };
  const result = await run();
  if (!isSteps(result)) {
    lap();
    return { given: result, heldS };
  }
  for (let step = result.next(); ; step = result.next()) {
    lap();
    if (step.done) return { given: step.value, heldS };
  }
}

export async function tryCall(seed: number, [call, run]: Call): Promise<Trouble | null> {
  let took = 0;
  // Once more where it was too long: others share this process's collector of garbage.
  for (let attempt = 0; attempt < 2; attempt++) {
    try {
      const { given, heldS } = await timed(run);
      const wrong = notFinite(given);
      if (wrong !== null) return { seed, call, what: wrong };
      if (heldS <= MOST_CPU_S) return null;
      took = heldS / slowness();
      if (took <= MOST_CPU_S) return null;
    } catch (error) {
      const what = error instanceof Error ? (error.stack ?? error.message) : String(error);
      return { seed, call, what: what.split('\n').slice(0, 4).join(' | ') };
    }
  }
  return { seed, call, what: `${took.toFixed(1)} s of CPU at once` };
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
