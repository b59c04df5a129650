import { findingsIn } from '../../core/analysis/findings/engine';
import { waysOutInSteps } from '../../core/analysis/findings/trials';
import { focusRows } from '../../core/analysis/focus';
import { judgeArray } from '../../core/analysis/judge';
import { mixFigures } from '../../core/analysis/mix';
import { monoRows } from '../../core/analysis/mono-table';
import { recommendInSteps } from '../../core/analysis/recommend/recommend';
import { setUpTolerance } from '../../core/analysis/tolerance';
import { createAnalyser } from '../../core/analysis/analyser';
import { solvedAndRanked } from '../../core/analysis/solved';
import { pairFields } from '../../core/analysis/pair-fields';
import { tradeMap } from '../../core/localisation/trade-map';
import { settledOn } from '../../core/prepare/settle';
import type { Session } from '../../core/session/schema';
import type { Reply, Request, TaskName, Tasks } from './tasks';

/**
 * The one worker script. A task is a function, or a generator that yields the fraction done: between
 * its steps the worker hears whether the task was given up.
 */
type Work<T extends TaskName> = (
  ask: Tasks[T]['ask'],
  help: Help,
) =>
  | Tasks[T]['answer']
  | Generator<number, Tasks[T]['answer'], undefined>
  | Promise<Tasks[T]['answer']>;

/** For tasks that wait themselves. */
interface Help {
  progress(fraction: number): void;
  /** lets the worker hear what was said to it; rejects where the task was given up */
  breathe(): Promise<void>;
  /** both */
  step: (fraction: number) => Promise<void>;
}

const analyser = createAnalyser();
/** The session that was asked about last; what was prepared for its players and arrays holds on. */
let known: Session | null = null;
const settled = (session: Session): Session => (known = settledOn(known, session));

function without(session: Session, ids: readonly string[]): Session {
  if (ids.length === 0) return session;
  const left = <T extends { id: string }>(list: readonly T[]): T[] =>
    list.filter(({ id }) => !ids.includes(id));
  return { ...session, sources: left(session.sources), arrays: left(session.arrays) };
}

const WORK: { [T in TaskName]: Work<T> } = {
  tradeMap: ({ pattern, spacingsM, anglesDeg, speed }) =>
    tradeMap(pattern, spacingsM, anglesDeg, speed),
  pairFields: ({ session, array, pair, mostM, anglesDeg }) =>
    pairFields(session, array, pair, mostM, anglesDeg),
  *solve({ session: copy, arrayId, wanted }) {
    const session = settled(copy);
    const array = session.arrays.find(({ id }) => id === arrayId);
    return array ? yield* solvedAndRanked(session, array, wanted) : [];
  },
  tolerance: ({ session, arrayId }) => {
    const array = session.arrays.find(({ id }) => id === arrayId);
    return array ? setUpTolerance(settled(session), array) : null;
  },
  findings: ({ session: copy, withoutIds }) => {
    const session = without(settled(copy), withoutIds);
    return findingsIn(session, (array) => analyser.array(session, array));
  },
  ways: ({ session: copy, withoutIds, key }) =>
    waysOutInSteps(without(settled(copy), withoutIds), key),
  mono: ({ session, arrayId }) => monoRows(settled(session), arrayId),
  focus: ({ session, arrayId }) => focusRows(settled(session), arrayId),
  *mix(copy) {
    const session = settled(copy);
    const rows = [];
    for (const [index, source] of session.sources.entries()) {
      rows.push(mixFigures(session, source));
      if (index % 50 === 49) yield index / session.sources.length;
    }
    return rows;
  },
  *judge({ session: copy, arrays }) {
    const session = settled(copy);
    const judged = [];
    for (const [index, array] of arrays.entries()) {
      judged.push(judgeArray(session, array));
      yield (index + 1) / arrays.length;
    }
    return judged;
  },
  recommend: recommendInSteps,
  async render({ session, options }, help) {
    // Brings the players and the transforms, which no figure needs.
    const { bestEngine, planTake, takeFile } = await import('../../core/audio/render');
    const engine = await bestEngine();
    const plan = planTake(session, options, undefined, engine);
    if (!plan.ok) throw new Error(plan.message);
    const parts: Blob[] = [];
    for await (const part of takeFile(session, plan.value, { engine, ...help })) {
      parts.push(new Blob([part as Uint8Array<ArrayBuffer>]));
    }
    const file = new Blob(parts, { type: 'audio/wav' });
    return { file, path: engine.kind, notes: plan.value.notes, turns: plan.value.turns };
  },
  async hash(content, help) {
    const { hashOfBlob } = await import('../contents/hashing');
    return hashOfBlob(content, help.step);
  },
  async unpack(file, help) {
    const [{ unpackSession }, { scratchFile, sweepScratch }] = await Promise.all([
      import('../contents/zip'),
      import('../contents/scratch'),
    ]);
    await sweepScratch();
    return unpackSession(file, help.step, scratchFile);
  },
  async pack(files, help) {
    const [{ packFiles }, { scratchFile, sweepScratch }] = await Promise.all([
      import('../contents/zip'),
      import('../contents/scratch'),
    ]);
    await sweepScratch();
    const scratch = await scratchFile();
    const packed = await packFiles(files, scratch?.stream ?? null, help.step);
    return packed ?? (await scratch?.file()) ?? new Blob();
  },
};

/** What is going on and was not given up. */
const going = new Set<number>();
const reply = (message: Reply, transfer: Transferable[] = []): void =>
  postMessage(message, { transfer });

/** Large figures go over to the page instead of being copied. */
function buffersIn(answer: unknown): Transferable[] {
  if (typeof answer !== 'object' || answer === null) return [];
  return Object.values(answer).flatMap((value): Transferable[] => {
    if (ArrayBuffer.isView(value)) return [value.buffer as ArrayBuffer];
    return value !== null && typeof value === 'object' && !Array.isArray(value)
      ? buffersIn(value)
      : [];
  });
}

const isGenerator = (value: unknown): value is Generator<number, unknown, undefined> =>
  typeof value === 'object' && value !== null && Symbol.iterator in value && 'return' in value;

async function run(id: number, task: TaskName, ask: unknown): Promise<void> {
  going.add(id);
  try {
    const help: Help = {
      progress: (fraction) => reply({ kind: 'progress', id, fraction }),
      async breathe() {
        await new Promise((resolve) => setTimeout(resolve));
        if (!going.has(id)) throw new Error('given up');
      },
      step(fraction) {
        help.progress(fraction);
        return help.breathe();
      },
    };
    let answer: unknown = (WORK[task] as (ask: unknown, help: Help) => unknown)(ask, help);
    if (answer instanceof Promise) answer = await answer;
    if (isGenerator(answer)) {
      const steps = answer;
      for (let step = steps.next(); ; step = steps.next()) {
        if (step.done) {
          answer = step.value;
          break;
        }
        reply({ kind: 'progress', id, fraction: step.value });
        await new Promise((resolve) => setTimeout(resolve));
        if (!going.has(id)) return;
      }
    }
    reply({ kind: 'answer', id, answer }, task === 'tradeMap' ? buffersIn(answer) : []);
  } catch (error) {
    if (!going.has(id)) return;
    const message = error instanceof Error ? error.message : String(error);
    reply({ kind: 'failed', id, message });
  } finally {
    going.delete(id);
  }
}

addEventListener('message', ({ data }: MessageEvent<Request>) => {
  if (data.kind === 'abort') going.delete(data.id);
  else void run(data.id, data.task, data.ask);
});
