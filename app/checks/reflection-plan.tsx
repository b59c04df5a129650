import { reflectionPath, type Room } from '../../core/acoustics';
import { theSurface } from '../../core/hall';
import type { HeardReflection } from '../../core/analysis';
import type { MicArray, Source } from '../../core/session';
import { HallDrawing, isLevel } from './hall-drawing';

interface Props {
  room: Room;
  array: MicArray;
  source: Source;
  reflections: readonly HeardReflection[];
}

/** The ways of some reflections: on a plan, or from the side where floor or ceiling has its part. */
export function ReflectionPlan({ room, array, source, reflections }: Props) {
  const surfaces = [...new Set(reflections.flatMap((one) => one.surfaces))];
  const fromSide = surfaces.some((surface) => isLevel(room, surface));
  const words = surfaces.map((surface) => theSurface(room, surface));
  const over = reflections.length > 1 ? words.join(', ') : words.join(', then ');
  return (
    <figure className="w-fit pb-2">
      <HallDrawing
        room={room}
        fromSide={fromSide}
        lit={surfaces}
        ways={reflections.map((one) => reflectionPath(room, source, array, one.surfaces))}
        sights={[[source, array]]}
        marks={[
          { ...source, kind: 'player' },
          { ...array, kind: 'bar' },
        ]}
        label={`Way of ${source.name} over ${over} to ${array.name}, ${fromSide ? 'from the side' : 'from above'}`}
      />
      <figcaption className="text-muted">
        {fromSide ? 'From the side, audience left' : 'From above'}: circle {source.name}, bar{' '}
        {array.name}; over {over}
      </figcaption>
    </figure>
  );
}
