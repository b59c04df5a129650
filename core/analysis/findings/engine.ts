import { contextOf } from '../../prepare/context';
import { knownArrays } from '../../session/lists';
import type { MicArray, Session } from '../../session/schema';
import { arrayFigures, type ArrayFigures } from '../array-figures';
import { applyFix, type Finding, type Found, type Rule, type Severity } from './finding';
import { RULES } from './rules';

export { RULES };

const ORDER: readonly Severity[] = ['fault', 'caution', 'note'];

/** 0 is the gravest. */
export const gravityOf = ({
  severity,
  blocking,
}: Pick<Finding, 'severity' | 'blocking'>): number => (blocking ? -1 : ORDER.indexOf(severity));

/** A finding with what its rule found: the parts of it, which know how it might be mended. */
export interface Raised {
  rule: Rule;
  finding: Finding;
  /** one, or what one cause makes in several places, the worst last */
  parts: readonly Found[];
}

/** The worst first, and of as grave ones the causes. */
const byGravity = (a: Raised, b: Raised): number =>
  gravityOf(a.finding) - gravityOf(b.finding) ||
  Number(b.rule.isCause ?? false) - Number(a.rule.isCause ?? false);

const idsOf = (list: Found['sources']): string[] => [...new Set((list ?? []).map(({ id }) => id))];

function sizeOf({ size, sources }: Found): number {
  return size ?? Math.max(1, sources?.length ?? 0);
}

/** What a finding is about, so that the same one is known again in a changed session. */
function keyOf(rule: Rule, arrayId: string | null, found: Found): string {
  const { cause, subject, arrays, sources } = found;
  if (arrayId !== null) return [rule.code, arrayId, subject ?? cause?.key ?? ''].join(' ');
  if (cause) return [rule.code, cause.key].join(' ');
  const about = idsOf(arrays).length > 0 ? idsOf(arrays) : idsOf(sources);
  return [rule.code, subject ?? about.sort().join()].join(' ');
}

/** Several of one cause as one, with all of them inside. */
function told(all: readonly Found[]): Found & Pick<Finding, 'members'> {
  const parts = inOrder(all);
  const worst = parts[parts.length - 1];
  if (!worst) throw new RangeError('nothing found; allowed: one part and more');
  if (parts.length === 1 || !worst.cause) return { ...worst, members: [] };
  const severity = ORDER.find((of) => parts.some((part) => part.severity === of));
  const all_ = <T extends { id: string }>(of: (part: Found) => readonly T[] | undefined) =>
    [...new Set(parts.flatMap((part) => idsOf(of(part))))].map((id) => ({ id }));
  return {
    ...worst,
    severity: severity ?? worst.severity,
    blocking: parts.some(({ blocking }) => blocking),
    message: worst.cause.words(parts),
    sources: all_(({ sources }) => sources),
    arrays: all_(({ arrays }) => arrays),
    surfaces: [...new Set(parts.flatMap(({ surfaces }) => surfaces ?? []))],
    size: parts.reduce((sum, part) => sum + sizeOf(part), 0),
    members: parts.map(({ message, sources, figures }) => ({
      message,
      sourceIds: idsOf(sources),
      figures,
    })),
  };
}

const inOrder = (all: readonly Found[]): Found[] =>
  [...all].sort((a, b) => (a.cause?.weight ?? 0) - (b.cause?.weight ?? 0));

/** One finding for one cause: what has none in common with another stands alone. */
export function raisedBy(rule: Rule, list: readonly Found[], arrayId: string | null): Raised[] {
  const groups = new Map<string, Found[]>();
  for (const [i, found] of list.entries()) {
    const key = found.cause ? `cause ${found.cause.key}` : `${i}`;
    groups.set(key, [...(groups.get(key) ?? []), found]);
  }
  return [...groups.values()].map((all) => {
    const one = told(all);
    return { rule, parts: inOrder(all), finding: finding(rule, one, arrayId) };
  });
}

function finding(
  rule: Rule,
  found: Found & Pick<Finding, 'members'>,
  arrayId: string | null,
): Finding {
  const { severity, message, figures, members } = found;
  return {
    code: rule.code,
    key: keyOf(rule, arrayId, found),
    evidence: rule.evidence,
    severity,
    basis: rule.basis,
    message,
    blocking: found.blocking ?? false,
    reason: rule.reason,
    arrayId,
    arrayIds: arrayId === null ? idsOf(found.arrays) : [arrayId],
    sourceIds: idsOf(found.sources),
    surfaces: [...(found.surfaces ?? [])],
    figures,
    size: sizeOf(found),
    todo: found.todo ?? null,
    members,
    explains: [],
  };
}

/** Rules in force: preferences that the session switched off are left out, nothing else can be. */
function rulesFor({ settings }: Session): Rule[] {
  const off = new Set(settings.preferencesOff.map(({ code }) => code));
  return RULES.filter(({ basis, code }) => basis !== 'preference' || !off.has(code));
}

type FiguresOf = (array: MicArray) => ArrayFigures;

const figuresIn = (session: Session): FiguresOf => {
  const context = contextOf(session);
  return (array) => arrayFigures(array, session.sources, context);
};

/** What one rule finds in a session; a rule about arrays in all of its roles, or in one array. */
export function raisedIn(
  rule: Rule,
  session: Session,
  arrayId: string | null = null,
  figuresOf: FiguresOf = figuresIn(session),
): Raised[] {
  if (rule.of === 'session') return raisedBy(rule, rule.check(session), null);
  return knownArrays(session).flatMap((array) =>
    rule.roles.includes(array.role) && (arrayId === null || array.id === arrayId)
      ? raisedBy(rule, rule.check({ session, array, figures: figuresOf(array) }), array.id)
      : [],
  );
}

const allRaised = (session: Session, figuresOf: FiguresOf): Raised[] =>
  rulesFor(session).flatMap((rule) => raisedIn(rule, session, null, figuresOf));

/**
 * All that is found in a session. What a cause makes is told with it: that is what is no longer
 * found where the causes are undone.
 * @param figuresOf the figures of an array of the session
 */
export function everythingRaised(
  session: Session,
  figuresOf: FiguresOf = figuresIn(session),
): Raised[] {
  const all = allRaised(session, figuresOf).sort(byGravity);
  const causes = all.filter(({ rule }) => rule.isCause);
  if (causes.length === 0) return all;
  const undone = undoing(session, causes);
  const stays = new Set(allRaised(undone, figuresIn(undone)).map(({ finding: { key } }) => key));
  const explained = new Map<Raised, Finding['explains']>();
  const left = all.filter((raised) => {
    const { rule, finding } = raised;
    if (rule.isCause || rule.basis === 'safety' || stays.has(finding.key)) return true;
    const by =
      causes.find(({ finding: { arrayIds } }) =>
        arrayIds.some((id) => finding.arrayIds.includes(id)),
      ) ?? causes[0];
    if (!by) return true;
    const { code, message } = finding;
    explained.set(by, [...(explained.get(by) ?? []), { code, message }]);
    return false;
  });
  return left.map((raised) => ({
    ...raised,
    finding: { ...raised.finding, explains: explained.get(raised) ?? [] },
  }));
}

/** A session without its causes: each undone by its own action. */
function undoing(session: Session, causes: readonly Raised[]): Session {
  return causes
    .flatMap(({ parts }) => parts)
    .reduce((changed, { levers }) => {
      const [lever] = levers?.() ?? [];
      const [fix] = lever ?? [];
      return fix ? applyFix(changed, fix) : changed;
    }, session);
}

/** What some rules about a whole session find in it, worst first; rules about arrays say nothing. */
export const findingsFrom = (rules: readonly Rule[], session: Session): Finding[] =>
  rules
    .filter(({ of }) => of === 'session')
    .flatMap((rule) => raisedIn(rule, session))
    .sort(byGravity)
    .map(({ finding: found }) => found);

/** Everything that is found in a session, causes first, then the worst. */
export const findingsIn = (session: Session, figuresOf?: FiguresOf): Finding[] =>
  everythingRaised(session, figuresOf).map(({ finding: found }) => found);
