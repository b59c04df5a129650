import { oneFile } from './options';
import { failed, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

/** `validate FILE`: nothing but the exit status when all is well. */
export async function validateCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const loaded = await loadSession(oneFile('validate', args), machine);
  return 'errors' in loaded ? failed(loaded.errors) : { status: 0, out: '', errors: [] };
}
