import { enabledArrays } from '../session/lists';
import type { Session, Take } from '../session/schema';
import { builtSession } from './as-built';
import { gainPlan } from '../analysis/gain';
import { formatTemperature } from '../units/format';

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
    panels: session.sources
      .filter(({ openPanels }) => openPanels.length > 0)
      .map(({ id, openPanels }) => ({ sourceId: id, open: [...openPanels] })),
    felt: session.sources.filter(({ felt }) => felt).map(({ id }) => id),
    people: session.brief.people
      .map(({ name, role }) => (role === '' ? name : `${name} (${role})`))
      .join(', ')
      .slice(0, 2000),
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

type State = Take['state'];

const MOVED_M = 0.005;
const TURNED_DEG = 0.5;

interface Place {
  x: number;
  y: number;
  z: number;
}
const isMoved = (a: Place, b: Place): boolean =>
  Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z) > MOVED_M;

/** The names of those in a list, or how many there are. */
function called(ids: readonly string[], names: ReadonlyMap<string, string>, many: string): string {
  if (ids.length > 3) return `${ids.length} ${many}`;
  return ids.map((id) => names.get(id) ?? 'somebody who is gone').join(', ');
}

const differing = <T extends { id: string }>(
  before: readonly T[],
  after: readonly T[],
  other: (a: T, b: T) => boolean,
): string[] => {
  const was = new Map(before.map((one) => [one.id, one]));
  return after.flatMap((one) => {
    const old = was.get(one.id);
    return !old || other(old, one) ? [one.id] : [];
  });
};

const gone = (before: readonly { id: string }[], after: readonly { id: string }[]): string[] => {
  const here = new Set(after.map(({ id }) => id));
  return before.flatMap(({ id }) => (here.has(id) ? [] : [id]));
};

/**
 * What is other in the state of one take than in that of another, in words. What was not noted of the
 * first is not told.
 * @param session of whom names are taken
 * @returns nothing where they are alike
 */
export function stateChanges(before: State, after: State, session: Session): string[] {
  const names = new Map([...session.sources, ...session.arrays].map(({ id, name }) => [id, name]));
  const said: string[] = [];
  const noted = before.sources.length > 0 || before.arrays.length > 0;
  if (!noted) return said;
  const seats = differing(before.sources, after.sources, isMoved);
  if (seats.length > 0) said.push(`${called(seats, names, 'players')} moved`);
  const left = gone(before.sources, after.sources);
  if (left.length > 0) said.push(`without ${called(left, names, 'players')}`);
  const arrays = differing(
    before.arrays,
    after.arrays,
    (a, b) =>
      isMoved(a, b) ||
      Math.abs(a.aimDeg - b.aimDeg) > TURNED_DEG ||
      Math.abs(a.tiltDeg - b.tiltDeg) > TURNED_DEG,
  );
  if (arrays.length > 0) said.push(`${called(arrays, names, 'arrays')} moved or new`);
  const out = gone(before.arrays, after.arrays);
  if (out.length > 0) said.push(`${called(out, names, 'arrays')} out of use`);
  const keyed = (list: readonly { sourceId: string; lid: string }[]) =>
    list.map(({ sourceId, lid }) => ({ id: sourceId, lid }));
  for (const id of differing(keyed(before.lids), keyed(after.lids), (a, b) => a.lid !== b.lid)) {
    const lid = after.lids.find(({ sourceId }) => sourceId === id)?.lid ?? '';
    said.push(`${called([id], names, '')}: lid ${lid.replace('-', ' ')}`);
  }
  if (JSON.stringify(before.panels) !== JSON.stringify(after.panels)) said.push('panels changed');
  if (JSON.stringify(before.felt) !== JSON.stringify(after.felt)) said.push('felt changed');
  if (JSON.stringify(before.gainsDb) !== JSON.stringify(after.gainsDb)) {
    said.push('gains changed');
  }
  const [was, is] = [before.temperatureC, after.temperatureC];
  if (was !== null && is !== null && Math.abs(is - was) >= 0.5) {
    const { units } = session.settings;
    const [from, to] = [formatTemperature(was, units), formatTemperature(is, units)];
    said.push(`${from.number} → ${to.number} ${to.unit}`);
  }
  if (before.people !== after.people) said.push('other people');
  return said;
}
