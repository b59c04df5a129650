import { analyseSession } from '../core/analysis';
import { oneFile } from './options';
import { failed, succeeded, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

/** `check FILE`: all findings; exit status 1 where one of them is blocking. */
export async function checkCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const loaded = await loadSession(oneFile('check', args), machine);
  if ('errors' in loaded) return failed(loaded.errors);
  const { findings } = analyseSession(loaded.session);
  const blocking = findings.filter((finding) => finding.blocking);
  return {
    status: blocking.length > 0 ? 1 : 0,
    out: succeeded({ blocking: blocking.length, findings }).out,
    errors: blocking.map(({ code, message }) => `blocking: ${code}: ${message}`),
  };
}
