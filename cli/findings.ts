import { mendable, type Finding, type MendableFinding } from '../core/analysis';
import type { Session } from '../core/session';
import type { Machine } from './session-file';

/** Leaves the ways out untried. */
export const NO_WAYS = 'no-ways';

/** Findings with the ways out that were tried on a copy: it takes a moment for each of them. */
export function withWays(
  session: Session,
  findings: readonly Finding[],
  machine: Machine,
  command: string,
): MendableFinding[] {
  return findings.map((finding, i) => {
    machine.progress(command, i / findings.length);
    return mendable(session, finding);
  });
}
