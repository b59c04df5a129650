import {
  EAR_KINDS,
  earExercise,
  headExercise,
  SUM_KINDS,
  type Exercise,
  type Round,
} from '../../core/drill';
import { EarRun } from './ear-run';
import { ClaimRun, SumRun } from './head-run';
import { PlanRun } from './plan-run';

interface Props {
  exercise: Exercise;
  rounds: readonly Round[];
  end: () => void;
}

/** Any exercise, by its name. */
export function ExerciseRun({ exercise, rounds, end }: Props) {
  const ear = EAR_KINDS.find((kind) => earExercise(kind) === exercise.id);
  if (ear) return <EarRun kind={ear} {...{ rounds, end }} />;
  const sum = SUM_KINDS.find((kind) => headExercise(kind) === exercise.id);
  if (sum) return <SumRun kind={sum} end={end} />;
  return exercise.page === 'plan' ? <PlanRun end={end} /> : <ClaimRun {...{ rounds, end }} />;
}
