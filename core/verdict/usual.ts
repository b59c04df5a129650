import { usualTolerances } from '../analysis/tolerance';
import type { Session } from '../session/schema';
import type { Freedom } from './fit';
import { hot, open, seat, shift, spread, turn, warmth } from './freedoms';
import type { Stand } from './stand';

/** What is known of where sound came from, m: taped, and a chair. */
const [TAPED_M, CHAIR_M] = [0.03, 0.1];
/** A rig set by tape: deviations of aim, place and temperature; degrees, m, °C. */
const [AIM_DEG, PLACE_M, WARMTH_C] = [1.2, 0.02, 2];
/** Gains of another array are whatever they were set to, dB. */
const GAIN_DB = 10;
/** An evenly spread deviation is so much of its limit. */
const EVEN = 1 / Math.sqrt(3);
/** Everything that is usual of a rig set by tape and of chairs. */
export function usualFreedoms(session: Session, stand: Stand): Freedom[] {
  const heard = new Set(stand.channels.map(({ arrayId }) => arrayId));
  const [first] = stand.channels;
  const arrays = stand.arrays.filter(({ id }) => heard.has(id));
  const ofArrays = arrays.flatMap((array) => {
    const { id, technique } = array;
    const { spacingM, angleDeg, sensitivityDb } = usualTolerances(session, array);
    const its = stand.channels.flatMap(({ arrayId }, i) => (arrayId === id ? [i] : []));
    return [
      turn(id, AIM_DEG),
      shift(id, 'x', PLACE_M),
      shift(id, 'y', PLACE_M),
      ...(technique.kind === 'pair'
        ? [spread(id, spacingM * EVEN), open(id, angleDeg * EVEN)]
        : []),
      ...its.slice(1).map((i) => hot([i], sensitivityDb * EVEN)),
      ...(id === first?.arrayId ? [] : [hot(its, GAIN_DB)]),
    ];
  });
  const ofPlaces = stand.places.flatMap(({ taped }, place) => {
    const usual = taped ? TAPED_M : CHAIR_M;
    return [seat(place, 'x', usual), seat(place, 'y', usual)];
  });
  return [...ofArrays, ...ofPlaces, warmth(WARMTH_C)];
}
