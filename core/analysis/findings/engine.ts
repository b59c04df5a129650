import type { MicArray, Session } from '../../session/schema';
import type { ArrayFigures } from '../array-figures';
import type { Finding, Found, Rule, Severity } from './finding';
import { EQUIPMENT_RULES } from './equipment';
import { PICTURE_RULES } from './picture';
import { SAFETY_RULES } from './safety';
import { SET_UP_RULES } from './set-up';
import { SOUND_RULES } from './sound';

/** Every rule, as data: code, what it stands on, its reason, and how it looks. */
export const RULES: readonly Rule[] = [
  ...PICTURE_RULES,
  ...SOUND_RULES,
  ...SET_UP_RULES,
  ...EQUIPMENT_RULES,
  ...SAFETY_RULES,
];

const ORDER: readonly Severity[] = ['fault', 'caution', 'note'];

const bySeverity = (a: Finding, b: Finding): number =>
  Number(b.blocking) - Number(a.blocking) || ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity);

function finding(rule: Rule, found: Found, arrayId: string | null): Finding {
  const { severity, message, figures } = found;
  return {
    code: rule.code,
    evidence: rule.evidence,
    severity,
    basis: rule.basis,
    message,
    blocking: found.blocking ?? false,
    reason: rule.reason,
    arrayId,
    sourceIds: (found.sources ?? []).map(({ id }) => id),
    figures,
    todo: found.todo ?? null,
    fix: found.fix ?? null,
  };
}

/** Rules in force: preferences that the session switched off are left out, nothing else can be. */
function rulesFor({ settings }: Session): Rule[] {
  const off = new Set(settings.preferencesOff.map(({ code }) => code));
  return RULES.filter(({ basis, code }) => basis !== 'preference' || !off.has(code));
}

/** Findings about one array, worst first. */
export function findingsOf(session: Session, array: MicArray, figures: ArrayFigures): Finding[] {
  const view = { session, array, figures };
  return rulesFor(session)
    .flatMap((rule) =>
      rule.of === 'array' ? rule.check(view).map((found) => finding(rule, found, array.id)) : [],
    )
    .sort(bySeverity);
}

/** What the rules about a whole session find in it, worst first; rules about arrays say nothing. */
export function findingsFrom(rules: readonly Rule[], session: Session): Finding[] {
  return rules
    .flatMap((rule) =>
      rule.of === 'session' ? rule.check(session).map((found) => finding(rule, found, null)) : [],
    )
    .sort(bySeverity);
}

/** Findings about the session as a whole, worst first. */
export const sessionFindings = (session: Session): Finding[] =>
  findingsFrom(rulesFor(session), session);

/** Both kinds in one list, worst first. */
export function mergeFindings(...lists: readonly Finding[][]): Finding[] {
  return lists.flat().sort(bySeverity);
}
