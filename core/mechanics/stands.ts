import { remembered } from '../units/remember';
import { enabledArrays } from '../session/lists';
import { capsulesInFrame } from '../arrays/capsules';
import type { Kit, Session, Source } from '../session/schema';
import { lengthText, type UnitSystem } from '../units/format';
import { outsideOf } from '../units/geometry';
import { cosDeg, sinDeg } from '../units/guard';

import { standsOnM } from '../hall/solids';
import { mountsOf, type Mount } from './mounts';

type Stand = Kit['stands'][number];

/** What an array's stand must do, and which one of the kit does it. */
export interface StandPlan {
  arrayId: string;
  /** of the array, with the microphones where it has several stands */
  arrayName: string;
  /** above what it stands on */
  heightM: number;
  /** sideways from a free spot on the floor to below the array, m; null where there is none near */
  reachM: number | null;
  stand: Stand | null;
  /** why the kit has none; empty when it has */
  lacks: string;
  /** load on the boom's end, kg: as typed, else assumed */
  loadKg: number;
  /** turning moment of load and boom about the edge of the base, N·m */
  momentNm: number;
  /** what the stand's own weight holds, N·m; null without a stand */
  holdsNm: number | null;
  /** weight to be laid on the base so that it holds twice over, kg; 0 when it does already */
  ballastKg: number;
}

const GRAVITY = 9.81;
/** Assumed: a microphone with mount and its share of cable, and a bar. */
const MICROPHONE_KG = 0.35;
const BAR_KG = 0.5;
/** Assumed: boom arm by its length, kg/m, its middle half-way out. */
const BOOM_KG_PER_M = 0.6;
/** A tripod turns over the line between two feet, which is half its base radius from the column. */
const EDGE = 0.5;
/** Clear of a player's elbow, m. */
const CLEAR_M = 0.7;
/** What is so far above the floor is in no foot's way, m. */
const HEADROOM_M = 1.8;
/** Half of the room that a foot takes, m. */
const FOOT_M = 0.2;
const MOST_REACH_M = 3;
const SAFETY = 2;

interface Crowd {
  sources: readonly Source[];
  obstacles: Session['venue']['obstacles'];
}

const apart = (a: { x: number; y: number }, x: number, y: number): number =>
  Math.sqrt((a.x - x) * (a.x - x) + (a.y - y) * (a.y - y));

function isFree({ sources, obstacles }: Crowd, x: number, y: number): boolean {
  const crowded = sources.some((source) => apart(source, x, y) < CLEAR_M + source.widthM / 2);
  return (
    !crowded &&
    !obstacles.some((obstacle) => {
      // A stand stands on a riser, and below a balcony.
      if (obstacle.kind === 'riser' || obstacle.baseM >= HEADROOM_M) return false;
      const { x: across, y: along } = outsideOf(obstacle, { x, y });
      return across < FOOT_M && along < FOOT_M;
    })
  );
}

/**
 * Distance on the plan from below an array to the nearest spot where a stand may be, m.
 * @returns null where no spot within the longest boom is free
 */
export function neededReach(session: Session, { x, y }: { x: number; y: number }): number | null {
  const known = reachesIn(session);
  const key = `${x} ${y}`;
  const before = known.get(key);
  if (before !== undefined) return before;
  const reach = findReach(session, { x, y });
  known.set(key, reach);
  return reach;
}

/** Plans of stands and cautions ask about the same places. */
const reachesIn = remembered((_session: Session) => new Map<string, number | null>());

function findReach(session: Session, { x, y }: { x: number; y: number }): number | null {
  const crowd = {
    // Nobody farther away can be in the way.
    sources: session.sources.filter(
      (source) => apart(source, x, y) < MOST_REACH_M + CLEAR_M + 0.1 + source.widthM / 2,
    ),
    obstacles: session.venue.obstacles,
  };
  for (let reach = 0; reach <= MOST_REACH_M + 1e-9; reach += 0.1) {
    const steps = reach === 0 ? 1 : 24;
    for (let i = 0; i < steps; i++) {
      const turn = (i * 360) / steps;
      if (isFree(crowd, x + reach * sinDeg(turn), y + reach * cosDeg(turn))) {
        return Math.round(reach * 10) / 10;
      }
    }
  }
  return null;
}

function reasonAgainst(
  stand: Stand,
  heightM: number,
  reachM: number,
  units: UnitSystem,
): string | null {
  if (heightM > stand.maxHeightM) return `reaches ${lengthText(stand.maxHeightM, units)} up`;
  if (heightM < stand.minHeightM) return `begins at ${lengthText(stand.minHeightM, units)}`;
  if (reachM > stand.reachM) return `has a boom of ${lengthText(stand.reachM, units)}`;
  return null;
}

/** Arrays that stand on the floor; what hangs from the venue's points takes none of the stands. */
const standing = (session: Session) => enabledArrays(session).filter(({ hung }) => !hung);

/** What lies on the floor needs no stand. */
const standsOnFloor = ({ z }: Mount): boolean => z > 0.05;

/**
 * A stand for every enabled array, several for one that is wider than a bar, the shortest that does it first, highest arrays first. Moment of
 * load and boom about the line between two feet of a tripod, half its base radius from the column,
 * against the weight of the rest; a rule of thumb for level floors and still air, no certificate.
 */
export const standPlans: (session: Session) => readonly StandPlan[] = remembered((session) => {
  const { units } = session.settings;
  const left = new Map(session.kit.stands.map(({ id, count }) => [id, count]));
  const sorted = [...session.kit.stands].sort((a, b) => a.maxHeightM - b.maxHeightM);
  const mounts = standing(session).flatMap((array) =>
    mountsOf(array)
      .filter(standsOnFloor)
      .map((mount) => ({ array, mount })),
  );
  const plans = new Map<Mount, StandPlan>();
  [...mounts]
    .sort((a, b) => b.mount.z - a.mount.z)
    .forEach(({ array, mount }) => {
      const reachM = neededReach(session, mount);
      const count = mount.capsules.length;
      const assumedKg = count * MICROPHONE_KG + (count > 1 ? BAR_KG : 0);
      // What was weighed is the whole array; each stand carries its share of microphones.
      const all = capsulesInFrame(array.technique).length;
      const typedKg = array.equipment.loadKg;
      const loadKg = typedKg === null ? assumedKg : typedKg * (all === 0 ? 1 : count / all);
      const wanted = reachM ?? MOST_REACH_M;
      // It stands on the stage, or on the hall's floor before it.
      const upM = mount.z - standsOnM(session.venue, mount);
      const fits = sorted.filter((stand) => reasonAgainst(stand, upM, wanted, units) === null);
      const stand =
        reachM === null ? null : (fits.find(({ id }) => (left.get(id) ?? 0) > 0) ?? null);
      if (stand) left.set(stand.id, (left.get(stand.id) ?? 0) - 1);
      const edgeM = (stand?.baseM ?? 0) * EDGE;
      const boomKg = stand ? Math.min(stand.massKg, wanted * BOOM_KG_PER_M) : 0;
      const turningKgM = loadKg * (wanted - edgeM) + boomKg * (wanted / 2 - edgeM);
      const momentNm = GRAVITY * Math.max(0, turningKgM);
      const holdsNm = stand ? (stand.massKg - boomKg) * GRAVITY * edgeM : null;
      const short = holdsNm === null ? 0 : momentNm * SAFETY - holdsNm;
      plans.set(mount, {
        arrayId: array.id,
        arrayName: mount.name,
        heightM: upM,
        reachM,
        stand,
        lacks:
          stand || session.kit.stands.length === 0 ? '' : lackOf(sorted, fits, upM, reachM, units),
        loadKg,
        momentNm: stand ? momentNm : 0,
        holdsNm,
        ballastKg: stand && short > 0 ? Math.ceil(short / (GRAVITY * edgeM)) : 0,
      });
    });
  return mounts.flatMap(({ mount }) => plans.get(mount) ?? []);
});

function lackOf(
  stands: readonly Stand[],
  fits: readonly Stand[],
  upM: number,
  reachM: number | null,
  units: UnitSystem,
): string {
  if (reachM === null) return `no free spot for a stand within ${lengthText(MOST_REACH_M, units)}`;
  if (fits.length > 0) return 'all that would do it are taken';
  const reasons = stands.map(
    (stand) => `${stand.name} ${reasonAgainst(stand, upM, reachM, units) ?? ''}`,
  );
  const sideways = reachM > 0 ? ` and ${lengthText(reachM, units)} sideways` : '';
  return `needs ${lengthText(upM, units)} up${sideways}; ${reasons.join(', ')}`;
}
