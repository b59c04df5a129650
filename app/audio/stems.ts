import type { Levels, Scene } from '../../core/audio/listen';
import type { Listening } from './listening';

/** Mean power of every player as heard, who sounds alone or with a section. */
export const powerByPlayer = (scene: Scene | undefined, levels: Levels): Map<string, number> =>
  new Map(
    scene?.stems.flatMap((stem) =>
      stem.sourceIds.map((id): [string, number] => [id, levels.stems[stem.id] ?? 0]),
    ),
  );

/** Which stems are heard: 1 or 0 by their ids. */
export function stemGains(
  scene: Scene,
  { soloIds, mutedIds, hoveredId }: Pick<Listening, 'soloIds' | 'mutedIds' | 'hoveredId'>,
): Map<string, number> {
  const alone = hoveredId === null ? soloIds : [hoveredId];
  return new Map(
    scene.stems.map(({ id: stem, sourceIds }) => {
      const heard = alone === null || sourceIds.some((id) => alone.includes(id));
      const muted = hoveredId === null && sourceIds.every((id) => mutedIds.includes(id));
      return [stem, heard && !muted ? 1 : 0];
    }),
  );
}
