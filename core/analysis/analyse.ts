import { knownArrays } from '../session/lists';
import type { Session } from '../session/schema';
import { arrayFigures, type ArrayFigures } from './array-figures';
import { contextOf } from '../prepare/context';
import { findingsIn } from './findings/engine';
import type { Finding } from './findings/finding';

export interface SessionFigures {
  arrays: ArrayFigures[];
  findings: Finding[];
}

/** All figures of the enabled arrays whose numbers are known over all sources, without judging them. */
export function sessionFigures(session: Session): ArrayFigures[] {
  const context = contextOf(session);
  const arrays = knownArrays(session);
  return arrays.map((array) => arrayFigures(array, session.sources, context));
}

/** A session in, all its figures and findings out; pure, from scratch, over the enabled arrays. */
export function analyseSession(session: Session): SessionFigures {
  const context = contextOf(session);
  const arrays = sessionFigures(session);
  const findings = findingsIn(session, (array) => arrayFigures(array, session.sources, context));
  return { arrays, findings };
}
