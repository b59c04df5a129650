import {
  analyseSession,
  capsuleFigures,
  contextOf,
  type ArrayFigures,
  type SourceFigures,
} from '../core/analysis';
import { prepareArray } from '../core/localisation';
import type { Session } from '../core/session';
import { NO_WAYS, withWays } from './findings';
import { fileAnd } from './options';
import { failed, succeeded, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

function sourceOut({ atCapsule, ...figures }: SourceFigures) {
  return atCapsule ? { ...figures, missing: 'within 1 cm of a capsule' } : figures;
}

function arrayOut(session: Session, { capsules, ensemble, sources, ...figures }: ArrayFigures) {
  const array = session.arrays.find(({ id }) => id === figures.id);
  const ready = array && prepareArray(array, array.mix.capsules);
  const context = contextOf(session);
  return {
    ...figures,
    capsules: capsules.map(({ label, position, axis, patternA }) => ({
      label,
      ...position,
      axis,
      a: patternA,
    })),
    ensembleAngleDeg: ensemble?.angleDeg ?? null,
    ensemble,
    sources: sources.map((source) => {
      const placed = session.sources.find(({ id }) => id === source.id);
      const at = ready && placed ? capsuleFigures(ready, placed, context) : null;
      return { ...sourceOut(source), capsules: at };
    }),
  };
}

/** `analyse FILE`: every figure of every enabled array, and the findings. */
export async function analyseCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const { file, given } = fileAnd('analyse', args, NO_WAYS);
  const loaded = await loadSession(file, machine);
  if ('errors' in loaded) return failed(loaded.errors);
  const { arrays, findings } = analyseSession(loaded.session);
  return succeeded({
    session: { id: loaded.session.id, title: loaded.session.title },
    model: loaded.session.settings.model,
    ...(loaded.ownMissing && {
      modelNote:
        'the file is led by a listener’s own localisation model that it does not carry; the consensus leads instead',
    }),
    arrays: arrays.map((array) => arrayOut(loaded.session, array)),
    findings: given ? findings : withWays(loaded.session, findings, machine, 'analyse'),
  });
}
