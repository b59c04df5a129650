import { done, refused, type Outcome } from '../units/outcome';
import { CURRENT_VERSION, FORMAT } from './schema';

/** Turns the raw content of a file of one version into that of the next. */
export type Migration = (raw: Record<string, unknown>) => Record<string, unknown>;

/** A copy with one key renamed, in its place; a key that is already there by its new name wins. */
function renamed(value: unknown, from: string, to: string): unknown {
  if (!isRecord(value) || !(from in value) || to in value) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [key === from ? to : key, inner]),
  );
}

/** Rules that have another name since version 2. */
const RULE_NAMES: Readonly<Record<string, string>> = { hole: 'gap' };

function withRuleNames(settings: unknown): unknown {
  if (!isRecord(settings) || !Array.isArray(settings.preferencesOff)) return settings;
  const preferencesOff = settings.preferencesOff.map((entry: unknown) =>
    isRecord(entry) && typeof entry.code === 'string'
      ? { ...entry, code: RULE_NAMES[entry.code] ?? entry.code }
      : entry,
  );
  return { ...settings, preferencesOff };
}

/** Cautions that were read stood in the rig; they are a journal of their own. */
function withAcknowledgements({ rig, ...rest }: Record<string, unknown>): Record<string, unknown> {
  if (!isRecord(rig) || !('acknowledged' in rig))
    return rig === undefined ? rest : { ...rest, rig };
  const { acknowledged, ...others } = rig;
  return { ...rest, rig: others, acknowledgements: acknowledged };
}

/** Version 2 says model for school and image width for stage fill, and has journals. */
function toVersion2(raw: Record<string, unknown>): Record<string, unknown> {
  const { settings, brief } = raw;
  return {
    ...withAcknowledgements(raw),
    ...('settings' in raw ? { settings: withRuleNames(renamed(settings, 'school', 'model')) } : {}),
    ...(isRecord(brief) && 'intent' in brief
      ? {
          brief: { ...brief, intent: renamed(brief.intent, 'stageFillPct', 'imageWidthPct') },
        }
      : {}),
  };
}

/** Keyed by the version a migration starts from. */
const MIGRATIONS: Readonly<Record<number, Migration>> = { 1: toVersion2 };

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
