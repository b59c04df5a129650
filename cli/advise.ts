import { recommendInSteps } from '../core/analysis';
import { oneFile } from './options';
import { failed, succeeded, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

/** `advise FILE`: ranked arrays for the session's players, intent, hall and kit. */
export async function adviseCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const loaded = await loadSession(oneFile('advise', args), machine);
  if ('errors' in loaded) return failed(loaded.errors);
  const steps = recommendInSteps(loaded.session);
  for (let step = steps.next(); ; step = steps.next()) {
    if (step.done) return succeeded(step.value);
    machine.progress('advise', step.value);
  }
}
