import { analyseSession } from '../core/analysis';
import { NO_WAYS, withWays } from './findings';
import { fileAnd } from './options';
import { failed, succeeded, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

/** `check FILE`: all findings with the ways out that were tried; exit status 1 where one is blocking. */
export async function checkCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const { file, given } = fileAnd('check', args, NO_WAYS);
  const loaded = await loadSession(file, machine);
  if ('errors' in loaded) return failed(loaded.errors);
  const { session } = loaded;
  const found = analyseSession(session).findings;
  const findings = given ? found : withWays(session, found, machine, 'check');
  const blocking = findings.filter((finding) => finding.blocking);
  return {
    status: blocking.length > 0 ? 1 : 0,
    out: succeeded({ blocking: blocking.length, findings }).out,
    errors: blocking.map(({ code, message }) => `blocking: ${code}: ${message}`),
  };
}
