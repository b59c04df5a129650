import type { Session } from '../session';
import { arrayFigures, type ArrayFigures } from './array-figures';
import { contextOf } from './context';
import { findingsOf, mergeFindings, sessionFindings, type Finding } from './findings';

export interface SessionFigures {
  arrays: ArrayFigures[];
  findings: Finding[];
}

/** A session in, all its figures out; pure, from scratch, over the enabled arrays. */
export function analyseSession(session: Session): SessionFigures {
  const context = contextOf(session);
  const arrays = session.arrays.filter(({ enabled }) => enabled);
  const figures = arrays.map((array) => arrayFigures(array, session.sources, context));
  const findings = arrays.flatMap((array, index) => {
    const of = figures[index];
    return of ? findingsOf(session, array, of) : [];
  });
  return { arrays: figures, findings: mergeFindings(findings, sessionFindings(session)) };
}
