import { createStore } from 'zustand/vanilla';
import { roundOf, type Answered, type Round } from '../../core/drill';
import type { HeardImage } from '../../core/drill/own/images';
import type { OwnModelData, Piece } from '../../core/session';
import { keepPiece, keptPieces, removePiece } from './library-store';

/** What was practised, and the localisation models of listeners: in the library of this browser. */

export type ModelPiece = Extract<Piece, { kind: 'model'; points: OwnModelData }>;

/** A run for a model of one's own that is under way or was broken off. */
export interface ModelRun {
  id: string;
  at: string;
  name: string;
  by: string;
  through: OwnModelData['through'];
  /** of the order in which images are asked */
  seed: number;
  answers: readonly HeardImage[];
}

interface DrillState {
  /** null until they were read */
  rounds: readonly Round[] | null;
  models: readonly ModelPiece[];
  runs: readonly ModelRun[];
}

export const drillStore = createStore<DrillState>(() => ({ rounds: null, models: [], runs: [] }));

const OWN_RUN = 'own model';
const isModel = (piece: Piece): piece is ModelPiece => piece.kind === 'model' && 'points' in piece;

const figure = (value: unknown): number => (typeof value === 'number' ? value : 0);
const words = (value: unknown): string => (typeof value === 'string' ? value : '');

function runOf(piece: Piece): ModelRun | null {
  if (piece.kind !== 'drill') return null;
  const { results } = piece as { results?: Record<string, unknown> };
  if (results?.['exercise'] !== OWN_RUN || !Array.isArray(results['images'])) return null;
  return {
    id: piece.id,
    at: piece.at,
    name: piece.name,
    by: words(results['by']),
    through: results['through'] === 'headphones' ? 'headphones' : 'loudspeakers',
    seed: figure(results['seed']),
    answers: results['images'].map((one: unknown): HeardImage => {
      const from = (one ?? {}) as Record<string, unknown>;
      return {
        icldDb: figure(from['icldDb']),
        ictdMs: figure(from['ictdMs']),
        at: Math.min(1, Math.max(-1, figure(from['at']))),
      };
    }),
  };
}

/** Reads them from the library. */
export async function readDrill(): Promise<void> {
  const pieces = await keptPieces();
  drillStore.setState({
    rounds: pieces.flatMap((piece) => roundOf(piece) ?? []),
    models: pieces.filter(isModel),
    runs: pieces.flatMap((piece) => runOf(piece) ?? []),
  });
}

const NOWHERE = { session: '', title: '', version: '' };

async function kept(piece: Piece): Promise<void> {
  const problem = await keepPiece(piece);
  if (problem !== null) throw new Error(`It is not kept. ${problem}`);
}

/**
 * Keeps a round as far as it has come.
 * @throws where it cannot be kept, with the reason
 */
export async function keepRound(round: Round): Promise<void> {
  const { id, at, exercise, answers } = round;
  drillStore.setState(({ rounds }) => ({
    rounds: [round, ...(rounds ?? []).filter((one) => one.id !== id)],
  }));
  const results = { exercise, answers: answers.map((answer: Answered) => ({ ...answer })) };
  await kept({ kind: 'drill', id, at, name: exercise, from: NOWHERE, results });
}

/** Keeps a run as far as it has come. @throws where it cannot be kept, with the reason */
export async function keepRun(run: ModelRun): Promise<void> {
  const { id, at, name, by, through, seed, answers } = run;
  drillStore.setState(({ runs }) => ({ runs: [run, ...runs.filter((one) => one.id !== id)] }));
  const images = answers.map((answer) => ({ ...answer }));
  const results = { exercise: OWN_RUN, by, through, seed, images };
  await kept({ kind: 'drill', id, at, name, from: NOWHERE, results });
}

/** Keeps a model, under the id of its run. @throws where it cannot be kept, with the reason */
export async function keepModel(id: string, points: OwnModelData): Promise<void> {
  await kept({
    kind: 'model',
    id: `model-${id}`,
    at: points.at,
    name: points.name,
    from: NOWHERE,
    points,
  });
  await readDrill();
}

/** Takes pieces out of the library. */
export async function forgetDrill(ids: readonly string[]): Promise<void> {
  await Promise.all(ids.map(removePiece));
  await readDrill();
}
