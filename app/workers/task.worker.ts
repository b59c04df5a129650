import { findingsIn } from '../../core/analysis/findings/engine';
import { waysOutInSteps } from '../../core/analysis/findings/trials';
import { focusRows } from '../../core/analysis/focus';
import { judgeArray } from '../../core/analysis/judge';
import { mixFigures } from '../../core/analysis/mix';
import { movesFor } from '../../core/soundcheck/moves';
import { symptomById } from '../../core/soundcheck/symptoms';
import { monoRows } from '../../core/analysis/mono-table';
import { recommendInSteps } from '../../core/analysis/recommend/recommend';
import { setUpTolerance } from '../../core/analysis/tolerance';
import { createAnalyser } from '../../core/analysis/analyser';
import { solvedAndRanked } from '../../core/analysis/solved';
import { pairFields } from '../../core/analysis/pair-fields';
import { tradeMap } from '../../core/localisation/trade-map';
import { settledOn } from '../../core/prepare/settle';
import type { Session } from '../../core/session/schema';
import { serving, type Help } from './serve';
import type { Reply, Request, TaskName, Tasks } from './tasks';

/** The one worker script; see serve.ts. */
type Work<T extends TaskName> = (
  ask: Tasks[T]['ask'],
  help: Help,
) =>
  | Tasks[T]['answer']
  | Generator<number, Tasks[T]['answer'], undefined>
  | Promise<Tasks[T]['answer']>;

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
  *moves({ session, symptom, focus }) {
    const known = symptomById(symptom);
    return known ? yield* movesFor(settled(session), known, focus) : null;
  },
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
    const [{ unpackArchive }, { scratchFile, sweepScratch }] = await Promise.all([
      import('../contents/zip'),
      import('../contents/scratch'),
    ]);
    await sweepScratch();
    return unpackArchive(file, help.step, scratchFile);
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
  async effects({ before, after }, { progress, breathe, signal }) {
    const { differencesWithEffects } = await import('../../core/recall/effects');
    return differencesWithEffects(before, after, { progress, breathe, signal });
  },
  async earQuestion(ask, help) {
    const { earQuestionMade } = await import('./drill');
    return earQuestionMade(ask, help);
  },
  async earAgain(ask, help) {
    const { earHeardAgain } = await import('./drill');
    return earHeardAgain(ask, help);
  },
  async ownSound(ask) {
    const { ownSoundMade } = await import('./drill');
    return ownSoundMade(ask);
  },
  async ownFit(ask) {
    const { ownFitted } = await import('./drill');
    return ownFitted(ask);
  },
  async plansHeard(ask, help) {
    const { plansAsHeard } = await import('./drill');
    return plansAsHeard(ask, help);
  },
  async libraryTaken(ask, help) {
    const { libraryTaken } = await import('./library');
    return libraryTaken(ask, help);
  },
  async librarySearch(ask) {
    const { librarySearch } = await import('./library');
    return librarySearch(ask);
  },
  async opened({ file }) {
    const { openedRecording } = await import('./recordings');
    return openedRecording(file);
  },
  async overview(ask, help) {
    const { overviewOfRecording } = await import('./recordings');
    return overviewOfRecording(ask, help);
  },
  async columns({ file, ...drawn }) {
    const { columnsOfRecording } = await import('./recordings');
    return columnsOfRecording(file, drawn);
  },
  async measured({ file, options, channels }, help) {
    const { measuredRecording } = await import('./recordings');
    return measuredRecording(file, options, help, channels);
  },
  async heard(ask, help) {
    const { heardOfRecording } = await import('./recordings');
    return heardOfRecording(ask, help);
  },
  async loudness(ask, help) {
    const { loudnessOfRecording } = await import('./recordings');
    return loudnessOfRecording(ask, help);
  },
  async passages(ask, help) {
    const { passagesOfRecording } = await import('./recordings');
    return passagesOfRecording(ask, help);
  },
  async cues(ask, help) {
    const { cuesOfRecording } = await import('./recordings');
    return cuesOfRecording(ask, help);
  },
  async claps(ask, help) {
    const { clapsOfRecording } = await import('./recordings');
    return clapsOfRecording(ask, help);
  },
  async leads(ask, help) {
    const { leadsOfRecording } = await import('./recordings');
    return leadsOfRecording(ask, help);
  },
  async againstPlan(ask, help) {
    const { againstPlanOfRecording } = await import('./recordings');
    return againstPlanOfRecording(ask, help);
  },
  async checked({ file }, help) {
    const { checkedRecording } = await import('./recordings');
    return checkedRecording(file, help);
  },
  async stereo(ask, help) {
    const { stereoOfRecording } = await import('./recordings');
    return stereoOfRecording(ask, help);
  },
  async points(ask) {
    const { pointsOfRecording } = await import('./recordings');
    return pointsOfRecording(ask);
  },
  async pair(ask, help) {
    const { pairOfRecording } = await import('./recordings');
    return pairOfRecording(ask, help);
  },
  async taps(ask, help) {
    const { tapsOfRecording } = await import('./recordings');
    return tapsOfRecording(ask, help);
  },
  async exported(ask, help) {
    const { exportedRecording } = await import('./recordings');
    return exportedRecording(ask, help);
  },
  async matched(ask, help) {
    const { matchOfRecording } = await import('./recordings');
    return matchOfRecording(ask, help);
  },
  async symmetric(ask, help) {
    const { symmetryOfRecording } = await import('./recordings');
    return symmetryOfRecording(ask, help);
  },
  async audited(ask, help) {
    const { auditOfRecording } = await import('./recordings');
    return auditOfRecording(ask, help);
  },
};

/** Answers that are nobody's after they were sent. */
const GIVEN: readonly TaskName[] = ['tradeMap', 'overview', 'columns', 'points'];

const take = serving(WORK, GIVEN, (reply: Reply, transfer) => postMessage(reply, { transfer }));
addEventListener('message', ({ data }: MessageEvent<Request>) => take(data));
