import { SYMPTOMS, saidOf, symptomById } from '../core/soundcheck';
import { movesFor } from '../core/soundcheck/moves';
import { csvText } from '../paper/csv';
import { SOUNDCHECK_HEAD, soundcheckReport, soundcheckRows } from '../paper/soundcheck-report';
import { readOptions } from './options';
import { failed, succeeded, Usage, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

const NAMES = ['symptom', 'player'] as const;

/**
 * `soundcheck FILE`: the report of a soundcheck as JSON or CSV; `--symptom ID [--player NAME]`: moves for
 * what somebody hears, each tried on a copy.
 */
export async function soundcheckCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const [file, ...rest] = args;
  if (file === undefined || file.startsWith('-')) throw new Usage('soundcheck takes one FILE');
  const csv = rest.includes('--csv');
  const { symptom, player } = readOptions(
    rest.filter((arg) => arg !== '--csv'),
    NAMES,
  );
  const loaded = await loadSession(file, machine);
  if ('errors' in loaded) return failed(loaded.errors);
  const { session } = loaded;
  if (symptom === undefined) {
    if (player !== undefined) throw new Usage('--player goes with --symptom');
    const rows = soundcheckRows(session);
    if (csv) return { status: 0, out: csvText(SOUNDCHECK_HEAD, rows), errors: [] };
    return succeeded({ ...soundcheckReport(session), rows });
  }
  const known = symptomById(symptom);
  if (!known) {
    throw new Usage(`--symptom ${symptom}; allowed: ${SYMPTOMS.map(({ id }) => id).join(', ')}`);
  }
  const source = session.sources.find(({ id, name }) => name === player || id === player);
  if (known.ofPlayer && !source) {
    throw new Usage(
      `--player ${player ?? 'is missing'}; allowed: ${session.sources.map(({ name }) => name).join(', ') || 'nobody, as there are no players'}`,
    );
  }
  const steps = movesFor(session, known, known.ofPlayer ? (source?.id ?? null) : null);
  for (let step = steps.next(); ; step = steps.next()) {
    if (!step.done) {
      machine.progress('soundcheck', step.value);
      continue;
    }
    const { now, nowText, isUsual, causes, moves } = step.value;
    return succeeded({
      heard: saidOf(known, source?.name ?? ''),
      now,
      inThePlan: nowText,
      isUsual,
      firstOfAll: causes,
      moves: moves.map(({ plan: _plan, ...move }) => move),
    });
  }
}
