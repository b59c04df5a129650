import { done, refused, type Outcome } from '../units/outcome';
import { CURRENT_VERSION, FORMAT } from './schema';

/** Turns the raw content of a file of one version into that of the next. */
export type Migration = (raw: Record<string, unknown>) => Record<string, unknown>;

/** Keyed by the version a migration starts from. Version 1 is the first, so there are none yet. */
export const MIGRATIONS: Readonly<Record<number, Migration>> = {};

export interface MigrationPlan {
  steps: Readonly<Record<number, Migration>>;
  current: number;
}

const PLAN: MigrationPlan = { steps: MIGRATIONS, current: CURRENT_VERSION };

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** Brings raw file content to the current version, or says why it cannot be read. */
export function migrate(
  raw: unknown,
  plan: MigrationPlan = PLAN,
): Outcome<Record<string, unknown>> {
  if (!isRecord(raw) || raw.format !== FORMAT) {
    return refused(`format: not a Rotunda session; allowed: an object with format "${FORMAT}"`);
  }
  let version = raw.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    return refused(`version: missing or not a whole number; allowed: 1 to ${plan.current}`);
  }
  if (version > plan.current) {
    return refused(
      `version: ${version} was written by a newer Rotunda; allowed: 1 to ${plan.current}`,
    );
  }
  let content = raw;
  while (version < plan.current) {
    const step = plan.steps[version];
    if (!step) return refused(`version: no way from version ${version} to ${plan.current}`);
    content = { ...step(content), version: version + 1 };
    version += 1;
  }
  return done(content);
}
