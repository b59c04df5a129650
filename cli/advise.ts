import { recommend } from '../core/analysis';
import { oneFile } from './options';
import { failed, succeeded, type CommandResult } from './result';
import { loadSession, type ReadText } from './session-file';

/** `advise FILE`: ranked arrays for the session's players, intent, hall and kit. */
export function adviseCommand(args: readonly string[], readText: ReadText): CommandResult {
  const loaded = loadSession(oneFile('advise', args), readText);
  return 'errors' in loaded ? failed(loaded.errors) : succeeded(recommend(loaded.session));
}
