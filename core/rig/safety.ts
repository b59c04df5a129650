import { findingsFrom } from '../analysis/findings/engine';
import { SAFETY_RULES } from '../analysis/findings/safety';
import { standing } from '../session/journals';
import type { Acknowledgement, Session } from '../session/schema';

export { DEFERENCE } from '../analysis/findings/safety';

/** A caution that this set-up raises, to be read by a person. */
export interface SafetyCaution {
  code: string;
  what: string;
  todo: string;
}

/** Who has read which caution last, by its code; what was taken back is not read. */
export function cautionsRead(session: Session): Map<string, Acknowledgement> {
  return new Map(standing(session.acknowledgements).map((entry) => [entry.code, entry]));
}

/** Only what this plan really raises, as the findings say it. */
export function safetyCautions(session: Session): SafetyCaution[] {
  return findingsFrom(SAFETY_RULES, session).map(({ code, message, todo }) => ({
    code,
    what: message,
    todo: todo ?? '',
  }));
}
