import { enabledArrays } from '../session/lists';
import type { Session, Take } from '../session/schema';
import { builtSession } from './as-built';
import { gainPlan } from '../analysis/gain';

/**
 * Everything about the hall and the rig that makes one take different from another, as it stands:
 * what was really set counts where it was noted.
 */
export function takeState(session: Session): Take['state'] {
  const built = builtSession(session);
  return {
    temperatureC: session.venue.temperatureC,
    lids: session.sources
      .filter(({ lid }) => lid !== 'none')
      .map(({ id, lid }) => ({ sourceId: id, lid })),
    sources: session.sources.map(({ id, x, y, z }) => ({ id, x, y, z })),
    arrays: enabledArrays(built).map(({ id, x, y, z, aimDeg, tiltDeg }) => ({
      id,
      x,
      y,
      z,
      aimDeg,
      tiltDeg,
    })),
    gainsDb: gainPlan(session).map(({ gainDb }) => gainDb),
  };
}
