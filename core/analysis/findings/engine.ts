import type { MicArray, Session } from '../../session/schema';
import type { ArrayFigures } from '../array-figures';
import { isAllowed, type Finding, type Found, type Rule, type Severity } from './finding';
import { EQUIPMENT_RULES } from './equipment';
import { PICTURE_RULES } from './picture';
import { SAFETY_RULES } from './safety';
import { HALL_RULES } from './hall';
import { MONO_RULES } from './mono-sum';
import { PICTURE_SIDE_RULES } from './picture-side';
import { REFLECTION_RULES } from './reflection';
import { SET_UP_RULES } from './set-up';
import { SOUND_RULES } from './sound';
import { SPOT_RULES } from './spots';
import { SUPPORT_RULES } from './supports';

/** Every rule, as data: code, what it stands on, its reason, and how it looks. */
export const RULES: readonly Rule[] = [
  ...PICTURE_RULES,
  ...PICTURE_SIDE_RULES,
  ...MONO_RULES,
  ...SOUND_RULES,
  ...SPOT_RULES,
  ...SUPPORT_RULES,
  ...REFLECTION_RULES,
  ...HALL_RULES,
  ...SET_UP_RULES,
  ...EQUIPMENT_RULES,
  ...SAFETY_RULES,
];

const ORDER: readonly Severity[] = ['fault', 'caution', 'note'];

const bySeverity = (a: Finding, b: Finding): number =>
  Number(b.blocking) - Number(a.blocking) || ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity);

const idsOf = (sources: Found['sources']): string[] => (sources ?? []).map(({ id }) => id);

/** Several of one cause as one, with all of them inside, and one action where each has its own. */
function together(all: readonly Found[]): Found & Partial<Pick<Finding, 'members'>> {
  const members = [...all].sort((a, b) => (a.cause?.weight ?? 0) - (b.cause?.weight ?? 0));
  const worst = members[members.length - 1];
  if (!worst?.cause) throw new RangeError('no cause in common; allowed: findings of one');
  const { words, fixLabel } = worst.cause;
  const fixes = members.flatMap(({ fix }) => fix ?? []);
  const severity = ORDER.find((of) => members.some((member) => member.severity === of));
  const ids = new Set(members.flatMap(({ sources }) => idsOf(sources)));
  const arrayIds = new Set(members.flatMap(({ arrays }) => idsOf(arrays)));
  return {
    ...worst,
    severity: severity ?? worst.severity,
    blocking: members.some(({ blocking }) => blocking),
    message: words(members),
    sources: [...ids].map((id) => ({ id })),
    arrays: [...arrayIds].map((id) => ({ id })),
    fix:
      fixLabel !== undefined && fixes.length === members.length
        ? { label: fixLabel, changes: fixes.flatMap(({ changes }) => changes) }
        : null,
    members: members.map(({ message, sources, figures, fix }) => ({
      message,
      sourceIds: idsOf(sources),
      figures,
      fix: fix ?? null,
    })),
  };
}

/** A way out that leads out of what a session may hold is none. */
const withAllowed = (found: Found): Found => ({
  ...found,
  fix: found.fix && isAllowed(found.fix) ? found.fix : null,
  others: (found.others ?? []).filter(isAllowed),
});

/** One finding for one cause: what has none in common with another stands alone. */
function findingsBy(rule: Rule, list: readonly Found[], arrayId: string | null): Finding[] {
  const groups = new Map<string, Found[]>();
  for (const [i, found] of list.map(withAllowed).entries()) {
    const key = found.cause ? `cause ${found.cause.key}` : `${i}`;
    groups.set(key, [...(groups.get(key) ?? []), found]);
  }
  return [...groups.values()].flatMap((all) => {
    const [first] = all;
    if (!first) return [];
    const one = all.length > 1 && first.cause ? together(all) : first;
    return finding(rule, one, arrayId);
  });
}

function finding(
  rule: Rule,
  found: Found & Partial<Pick<Finding, 'members'>>,
  arrayId: string | null,
): Finding {
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
    arrayIds: arrayId === null ? idsOf(found.arrays) : [arrayId],
    sourceIds: idsOf(found.sources),
    figures,
    todo: found.todo ?? null,
    fix: found.fix ?? null,
    others: [...(found.others ?? [])],
    members: found.members ?? [],
  };
}

/** Rules in force: preferences that the session switched off are left out, nothing else can be. */
function rulesFor({ settings }: Session): Rule[] {
  const off = new Set(settings.preferencesOff.map(({ code }) => code));
  return RULES.filter(({ basis, code }) => basis !== 'preference' || !off.has(code));
}

/** Findings about one array by the rules for its role, worst first. */
export function findingsOf(session: Session, array: MicArray, figures: ArrayFigures): Finding[] {
  const view = { session, array, figures };
  return rulesFor(session)
    .flatMap((rule) =>
      rule.of === 'array' && rule.roles.includes(array.role)
        ? findingsBy(rule, rule.check(view), array.id)
        : [],
    )
    .sort(bySeverity);
}

/** What the rules about a whole session find in it, worst first; rules about arrays say nothing. */
export function findingsFrom(rules: readonly Rule[], session: Session): Finding[] {
  return rules
    .flatMap((rule) => (rule.of === 'session' ? findingsBy(rule, rule.check(session), null) : []))
    .sort(bySeverity);
}

/** Findings about the session as a whole, worst first. */
export const sessionFindings = (session: Session): Finding[] =>
  findingsFrom(rulesFor(session), session);

/** Both kinds in one list, worst first. */
export function mergeFindings(...lists: readonly Finding[][]): Finding[] {
  return lists.flat().sort(bySeverity);
}
