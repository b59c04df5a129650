import { OUTLINES, type OutlineName } from '../../core/units';
import { takeOutline } from '../document/hall-shape';
import { useSession } from '../document/use-session';

/** Customary floors as people call them. */
const OUTLINE_WORDS: Readonly<Record<OutlineName, string>> = {
  rectangle: 'rectangle',
  octagon: 'octagon',
  L: 'L',
  apse: 'with an apse',
  cross: 'cross',
  alcove: 'with an alcove',
  fan: 'fan',
  horseshoe: 'horseshoe',
};

/** A customary shape, chosen. */
export function OutlineChoice() {
  const { venue } = useSession();
  return (
    <label className="flex items-baseline justify-between gap-2 py-1">
      <span>Shape</span>
      <select
        aria-label="Shape of the floor"
        className="select select-xs w-44"
        value={venue.shape === null && venue.widthM !== null ? 'rectangle' : ''}
        onChange={(event) => {
          const name = OUTLINES.find((each) => each === event.currentTarget.value);
          if (name) takeOutline(name);
        }}
      >
        <option value="" disabled>
          {venue.widthM === null ? 'not said' : 'of its own'}
        </option>
        {OUTLINES.map((name: OutlineName) => (
          <option key={name} value={name}>
            {OUTLINE_WORDS[name]}
          </option>
        ))}
      </select>
    </label>
  );
}
