import { added } from './added';
import { inRange } from '../../units/guard';
import { checkCues, type School, type SchoolId } from './school';
import { tangent } from './tangent';
import { traded } from './traded';
import { twoSlope } from './two-slope';

export type { School, SchoolId } from './school';
export { levelForAngle, timeForAngle } from './traded';

/** The same school with its arguments checked, so that nothing but a shift comes out of it. */
function guarded(school: School): School {
  const { shift, margin, timeNeeded } = school;
  return {
    ...school,
    shift: (icldDb, ictdMs) => {
      checkCues(icldDb, ictdMs);
      return shift(icldDb, ictdMs);
    },
    margin: (icldDb, ictdMs, level) => {
      checkCues(icldDb, ictdMs);
      inRange('level', level, 0.01, 1);
      return margin(icldDb, ictdMs, level);
    },
    timeNeeded: (icldDb, level) => {
      checkCues(icldDb, 0);
      inRange('level', level, 0.01, 1);
      return timeNeeded(icldDb, level);
    },
  };
}

/** For cues that the core itself computed, which need no check. */
const PLAIN: readonly School[] = [traded, added, twoSlope, tangent];
const PLAIN_KNOWING_TIME = PLAIN.filter(({ levelOnly }) => !levelOnly);

export const SCHOOLS: readonly School[] = PLAIN.map(guarded);
export const SCHOOL_IDS: readonly SchoolId[] = SCHOOLS.map(({ id }) => id);

const BY_ID = Object.fromEntries(SCHOOLS.map((school) => [school.id, school])) as Readonly<
  Record<SchoolId, School>
>;

export function schoolById(id: SchoolId): School {
  return BY_ID[id];
}

/**
 * The schools that may speak for an array: all for a coincident one, else those that know time.
 * Their functions take cues as the core computes them, without checking each.
 */
export function schoolsFor(coincident: boolean): readonly School[] {
  return coincident ? PLAIN : PLAIN_KNOWING_TIME;
}
