import type { Face } from '../acoustics/faced-room';
import type { BoxSurface, Room } from '../acoustics/reflections';

/** As the hall's own page calls them: nobody need know which wall is the front one. */
const BOX_WORDS: Readonly<Record<BoxSurface, string>> = {
  left: 'left wall',
  right: 'right wall',
  front: 'wall behind the audience',
  back: 'wall behind the stage',
  floor: 'floor',
  ceiling: 'ceiling',
};

/** A wall looks to a side where its normal has so much of that direction. */
const TOWARDS = 0.38;

/** Where in the hall a wall is, e.g. "right, behind the stage". */
export function whereOf({ normal }: Pick<Face, 'normal'>): string {
  const [x, y] = [-normal.x, -normal.y];
  const words: string[] = [];
  if (Math.abs(x) > TOWARDS) words.push(x < 0 ? 'left' : 'right');
  if (Math.abs(y) > TOWARDS) words.push(y < 0 ? 'behind the audience' : 'behind the stage');
  return words.join(', ');
}

/** Whether a face is one that somebody stands or sits on: the floor, the stage, seats. */
export const isFloorLike = ({ normal }: Pick<Face, 'normal'>): boolean => normal.z > 0.7;

/** A surface for people, without an article: "left wall", "wall 3 (right, behind the stage)". */
export function surfaceWords(room: Room | null, id: string): string {
  if (id in BOX_WORDS && !(room && 'faces' in room && room.faces.some((face) => face.id === id))) {
    return BOX_WORDS[id as BoxSurface];
  }
  const face = room && 'faces' in room ? room.faces.find((each) => each.id === id) : undefined;
  if (!face || !/^wall \d+$/.test(id)) return id;
  return `${id} (${whereOf(face)})`;
}

/** The same with its article, as a sentence has it: "the left wall", but "wall 3 (…)". */
export function theSurface(room: Room | null, id: string): string {
  const words = surfaceWords(room, id);
  return /^(wall|ceiling|seats|.*) \d/.test(words) ? words : `the ${words}`;
}
