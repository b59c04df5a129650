import { oneFile } from './options';
import { failed, type CommandResult } from './result';
import { loadSession, type ReadText } from './session-file';

/** `validate FILE`: nothing but the exit status when all is well. */
export function validateCommand(args: readonly string[], readText: ReadText): CommandResult {
  const loaded = loadSession(oneFile('validate', args), readText);
  return 'errors' in loaded ? failed(loaded.errors) : { status: 0, out: '', errors: [] };
}
