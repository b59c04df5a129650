import {
  bestSpotText,
  completenessOf,
  completenessText,
  differencesWithEffects,
  listeningSpots,
  marksOf,
  markTitle,
  measuredText,
  offersFor,
} from '../core/recall';
import { csvText } from '../paper/csv';
import { failed, succeeded, Usage, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

function filesIn(args: readonly string[], command: string): string[] {
  const strange = args.find((arg) => arg.startsWith('-') && arg !== '--csv');
  if (strange !== undefined) throw new Usage(`${command}: unknown option ${strange}`);
  return args.filter((arg) => arg !== '--csv');
}

/**
 * `recall FILE [OTHER…]`: what is missing for it to be put up again, its marks and listening spots, and what
 * of the other sessions is offered for it.
 */
export async function recallCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const [file, ...others] = filesIn(args, 'recall');
  if (file === undefined || args.includes('--csv')) {
    throw new Usage('recall takes one FILE, and others whose marks are offered for it');
  }
  const loaded = await loadSession(file, machine);
  if ('errors' in loaded) return failed(loaded.errors);
  const { session } = loaded;
  const known = [];
  for (const other of others) {
    const read = await loadSession(other, machine);
    if ('errors' in read) return failed(read.errors);
    known.push(...marksOf(read.session));
  }
  const { units } = session.settings;
  const complete = completenessOf(session);
  const marks = marksOf(session);
  const spots = listeningSpots(marks);
  return succeeded({
    complete: completenessText(complete),
    missing: complete.missing,
    marks: marks
      .filter(({ mark }) => mark.use === 'microphones')
      .map((one) => ({
        name: markTitle(one),
        hall: one.mark.hall,
        instrument: one.mark.instrument,
        rating: one.mark.rating,
        measured: measuredText(one.mark, units),
      })),
    listening: {
      best: bestSpotText(spots),
      spots: spots.map(({ marks: _marks, ...spot }) => spot),
    },
    offered: offersFor(session, known, new Date().toISOString()).map(
      ({ known: one, words, same, poor, placed }) => ({
        name: markTitle(one),
        from: one.session.title,
        words,
        same,
        poor,
        placed,
      }),
    ),
  });
}

/** `difference FROM TO [--csv]`: what is other in the second session, with what each change does. */
export async function differenceCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const [from, to, more] = filesIn(args, 'difference');
  if (from === undefined || to === undefined || more !== undefined) {
    throw new Usage('difference takes two files');
  }
  const [before, after] = [await loadSession(from, machine), await loadSession(to, machine)];
  if ('errors' in before) return failed(before.errors);
  if ('errors' in after) return failed(after.errors);
  const { effects } = await differencesWithEffects(before.session, after.session, {
    progress: (fraction) => machine.progress('difference', fraction),
  });
  if (args.includes('--csv')) {
    const rows = effects.steps.map(({ subject, words, sounds, players, whole }) => [
      subject,
      words,
      sounds ? 'yes' : 'no',
      players.join('; '),
      whole.join('; '),
    ]);
    const head = ['Of', 'What changed', 'Heard', 'What it does', 'To the whole'];
    return { status: 0, out: csvText(head, rows), errors: [] };
  }
  return succeeded({ changes: effects.steps, together: effects.together, model: effects.model });
}
