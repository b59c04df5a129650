import type { Scene } from '../../core/audio/listen';
import { phraseKey } from '../../core/audio/render/plan';
import type { Side } from './listening';

/** One take that the output has, or is going to have. */
export interface Known {
  id: string;
  scene: Scene;
  trim: number;
  loudness: number | null;
  /** what its loops are made of, and what they were when all of them had come */
  made: string | null;
  whole: string | null;
}

/** What cannot be bent in a take: other players, other microphones or another room make another one. */
export const kindOf = (scene: Scene, side: Side, arrayId: string): string =>
  JSON.stringify([
    side,
    arrayId,
    scene.live,
    scene.stems.map(({ id }) => id),
    scene.points.map(({ plays, stem }) => `${phraseKey(plays)} ${stem}`),
    scene.capsules.map(({ live }) => live),
  ]);

export const contentOf = (scene: Scene): string =>
  JSON.stringify([scene.points, scene.capsules, scene.room, scene.hall, scene.speed]);
