import { enabledArrays } from '../session/lists';
import type { MicArray, Session } from '../session/schema';
import { arrayFigures, type ArrayFigures } from './array-figures';
import { contextOf } from '../prepare/context';
import { findingsOf, mergeFindings, sessionFindings } from './findings/engine';
import type { Finding } from './findings/finding';

export interface SessionFigures {
  arrays: ArrayFigures[];
  findings: Finding[];
}

/** All figures of the enabled arrays over all sources, without judging them. */
export function sessionFigures(session: Session): ArrayFigures[] {
  const context = contextOf(session);
  const arrays = enabledArrays(session);
  return arrays.map((array) => arrayFigures(array, session.sources, context));
}

/**
 * What is found in a session: about each enabled array by its role, and about all of them.
 * @param figuresOf the figures of an array of the session
 */
export function findingsIn(
  session: Session,
  figuresOf: (array: MicArray) => ArrayFigures,
): Finding[] {
  const each = enabledArrays(session).map((array) => findingsOf(session, array, figuresOf(array)));
  return mergeFindings(...each, sessionFindings(session));
}

/** A session in, all its figures and findings out; pure, from scratch, over the enabled arrays. */
export function analyseSession(session: Session): SessionFigures {
  const context = contextOf(session);
  const arrays = sessionFigures(session);
  const findings = findingsIn(session, (array) => arrayFigures(array, session.sources, context));
  return { arrays, findings };
}
