import { added } from './added';
import type { School, SchoolId } from './school';
import { tangent } from './tangent';
import { traded } from './traded';
import { twoSlope } from './two-slope';

export type { School, SchoolId } from './school';
export { levelForAngle, timeForAngle } from './traded';

export const SCHOOLS: readonly School[] = [traded, added, twoSlope, tangent];
export const SCHOOL_IDS: readonly SchoolId[] = SCHOOLS.map(({ id }) => id);

const BY_ID: Readonly<Record<SchoolId, School>> = { traded, added, 'two-slope': twoSlope, tangent };

export function schoolById(id: SchoolId): School {
  return BY_ID[id];
}

/** The schools that may speak for an array: all for a coincident one, else those that know time. */
export function schoolsFor(coincident: boolean): readonly School[] {
  return coincident ? SCHOOLS : SCHOOLS.filter(({ levelOnly }) => !levelOnly);
}
