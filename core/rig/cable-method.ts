import { placeCapsules } from '../arrays/capsules';
import { ownedSource } from '../analysis/arrivals';
import type { Session } from '../session/schema';
import { length, subtract } from '../units/vector';

/** A distance found with a cable instead of a tape. */
export interface CableUse {
  /** both ends by id, so that a wish stays with it */
  key: string;
  what: string;
  /** cable from point to point, m */
  cableM: number;
  /** how often it is folded for the second figure; 1 not at all */
  folds: number;
  /** cable / folds, m */
  foldedM: number;
  how: string;
}

/** Equal distances within this are one length of cable, m. */
const EQUAL_M = 0.005;

/**
 * Equal distances: one length of cable from the player to either microphone. Multiples: the 3:1
 * distance between two spots, folded in three, is the farthest that each may be from its player.
 */
export function cableUses(session: Session): CableUse[] {
  const uses: CableUse[] = [];
  const enabled = session.arrays.filter((array) => array.enabled);
  for (const array of enabled) {
    const [first, second, more] = placeCapsules(array);
    if (!first || !second || more) continue;
    for (const source of session.sources) {
      const a = length(subtract(first.position, source));
      const b = length(subtract(second.position, source));
      if (Math.abs(a - b) > EQUAL_M) continue;
      uses.push({
        key: `${array.id}>${source.id}`,
        what: `${array.name} to ${source.name}`,
        cableM: a,
        folds: 1,
        foldedM: a,
        how: `Hold a cable of this length at ${source.name}: both capsules must meet its other end.`,
      });
    }
  }
  const spots = enabled.filter(({ role }) => role === 'spot');
  spots.forEach((spot, i) => {
    for (const other of spots.slice(i + 1)) {
      const apart = length(subtract(spot, other));
      const [own, theirs] = [ownedSource(session, spot.id), ownedSource(session, other.id)];
      if (!own || !theirs || own === theirs) continue;
      uses.push({
        key: `${spot.id}>${other.id}`,
        what: `${spot.name} to ${other.name}`,
        cableM: apart,
        folds: 3,
        foldedM: apart / 3,
        how: 'Fold it in three: neither microphone may be farther than that from its own player.',
      });
    }
  });
  return uses;
}

/** Those that somebody asked for, in the order of the plan. */
export function cablesAsked(session: Session): CableUse[] {
  const asked = new Set(session.rig.cablesAsked);
  return asked.size === 0 ? [] : cableUses(session).filter(({ key }) => asked.has(key));
}
