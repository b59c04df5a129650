import {
  analyseSession,
  applyFix,
  gravityOf,
  mendable,
  type Finding,
  type Fix,
} from '../core/analysis';
import type { Session } from '../core/session';
import { seededRandom } from '../core/units/random';
import type { Trouble } from './run';
import { validSession } from './valid-sessions';

/** Larger sessions take minutes each; how many there are changes nothing of what is tried. */
const MOST_SOURCES = 80;
const MOST_ARRAYS = 14;
/** Findings tried of one session, drawn from all of it. */
const MOST_FINDINGS = 8;
/** A way out takes at least a fifth of its finding away; another finding may grow by a quarter. */
const LEFT_AT_MOST = 0.8;
const GROWTH = 1.26;

const byKey = (findings: readonly Finding[]) => new Map(findings.map((one) => [one.key, one]));

function helped(before: Finding, after: Finding | undefined): boolean {
  if (!after) return true;
  return (
    after.size <= before.size * LEFT_AT_MOST + 1e-6 || after.members.length < before.members.length
  );
}

/** What a way out brought that is graver than what it was to remove. */
function brought(
  removed: Finding,
  before: ReadonlyMap<string, Finding>,
  after: readonly Finding[],
): Finding[] {
  return after.filter((one) => {
    if (one.key === removed.key || gravityOf(one) >= gravityOf(removed)) return false;
    const was = before.get(one.key);
    return !was || was.severity !== one.severity || one.size > was.size * GROWTH;
  });
}

function tryWay(session: Session, finding: Finding, way: Fix, before: Map<string, Finding>) {
  const after = analyseSession(applyFix(session, way)).findings;
  const wrong: string[] = [];
  if (!helped(finding, byKey(after).get(finding.key))) wrong.push('does not help');
  for (const one of brought(finding, before, after)) wrong.push(`brings: ${one.message}`);
  return wrong.map((what) => `${finding.message} | ${way.label}: ${what}`);
}

/** The findings of a session, at most so many, spread over their list by the seed. */
function drawn(findings: readonly Finding[], seed: number): Finding[] {
  const random = seededRandom(seed);
  const list = findings.filter((one) => one.basis !== 'safety');
  while (list.length > MOST_FINDINGS) list.splice(Math.floor(random() * list.length), 1);
  return list;
}

export interface RemedyRun {
  /** Ways out that were tried. */
  ways: number;
  troubles: Trouble[];
}

/** Tries every way out that a made session's findings offer. */
export function tryRemedies(seed: number): RemedyRun {
  const session = validSession(seed);
  const run: RemedyRun = { ways: 0, troubles: [] };
  if (session.sources.length > MOST_SOURCES || session.arrays.length > MOST_ARRAYS) return run;
  const { findings } = analyseSession(session);
  const before = byKey(findings);
  const call = 'ways out';
  if (before.size !== findings.length) {
    run.troubles.push({ seed, call, what: 'two findings share one key' });
  }
  for (const finding of drawn(findings, seed)) {
    for (const way of mendable(session, finding).ways) {
      run.ways += 1;
      for (const what of tryWay(session, finding, way, before)) {
        run.troubles.push({ seed, call, what });
      }
    }
  }
  return run;
}
