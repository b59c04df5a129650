import type { MicArray, Session } from '../../session/schema';
import { formatNumber } from '../../units/format';
import { remembered } from '../../units/remember';
import { summaryOf } from '../summary';
import { arrayFigures } from '../array-figures';
import { contextOf } from '../../prepare/context';
import { everythingRaised, gravityOf, raisedIn, type Raised } from './engine';
import {
  applyFix,
  isAllowed,
  type Finding,
  type Fix,
  type Found,
  type Gauge,
  type Lever,
  type WayOut,
} from './finding';

/**
 * Remedies are tried on a copy before they are offered. One stands where its finding goes or
 * shrinks, nothing graver comes, and it can be built: through nobody, inside the hall, on stands of
 * the kit. What it costs is said with it.
 */

/** The ways out of one finding. */
export interface WaysOut {
  /** of the finding */
  key: string;
  ways: WayOut[];
  /** something was tried, and nothing helped */
  nothingHelps: boolean;
  /** what would have to change then; null where that is not known */
  instead: string | null;
}

/** A finding with the ways out that were tried. */
export interface MendableFinding extends Finding {
  fix: WayOut | null;
  others: WayOut[];
  ways: WayOut[];
  nothingHelps: boolean;
  instead: string | null;
}

/** What a way out must leave of its finding at the most. */
const SHRUNK = 0.8;
/** An old finding that grows by more than this has come anew. */
const GROWN = 1.25;
/** What cannot be put up like that is no way out. */
const NOT_BUILT = new Set([
  'flown',
  'among-seats',
  'stand-short',
  'outside-hall',
  'clash',
  'at-capsule',
  'kit-short',
  'inputs-short',
  'channels-short',
  'lid-closed',
]);

const raisedOf = remembered((session: Session) => everythingRaised(session));

interface Outcome {
  /** null where it is gone */
  left: Finding | null;
  brings: Finding[];
}

/** What a change of the session makes of one finding, and of the others. */
function outcomeOf(before: readonly Raised[], after: readonly Raised[], key: string): Outcome {
  const known = new Map(before.map(({ finding }) => [finding.key, finding]));
  const left = after.find(({ finding }) => finding.key === key)?.finding ?? null;
  const brings = after.flatMap(({ finding }) => {
    if (finding.key === key) return [];
    const old = known.get(finding.key);
    const worse =
      !old || gravityOf(finding) < gravityOf(old) || finding.size > GROWN * old.size + 1e-9;
    return worse ? [finding] : [];
  });
  return { left, brings };
}

type Verdict = 'clean' | 'with others' | 'no';

function verdictOn({ left, brings }: Outcome, target: Finding): Verdict {
  if (left && left.size > SHRUNK * target.size + 1e-9) {
    // A part of several that is gone is a step.
    const fewer = target.members.length > 1 && left.members.length < target.members.length;
    if (!fewer) return 'no';
  }
  if (left && gravityOf(left) < gravityOf(target)) return 'no';
  if (brings.some(({ code }) => NOT_BUILT.has(code))) return 'no';
  if (brings.some((finding) => gravityOf(finding) < gravityOf(target))) return 'no';
  return brings.some(
    (finding) => gravityOf(finding) === gravityOf(target) && target.severity !== 'note',
  )
    ? 'with others'
    : 'clean';
}

/** A copy with a fix; null where nothing changes or what it sets is not allowed. */
function copyWith(session: Session, fix: Fix): Session | null {
  if (fix.changes.length === 0 || !isAllowed(fix)) return null;
  return applyFix(session, fix);
}

/** So many steps of a lever at the most; and so many trials by all rules, a lever and a finding. */
const MOST_STEPS = 400;
const MOST_TRIALS = 3;
const MOST_TRIALS_IN_ALL = 14;

interface Tried {
  fix: Fix;
  copy: Session;
  outcome: Outcome;
}

/** Trials that are left for one finding. */
interface Budget {
  trials: number;
}

/** Places in a list, close together first and farther apart later, the last one among them. */
function* growingPlaces(count: number, from: number): Generator<number> {
  let [at, step] = [from, 1];
  while (at < count - 1) {
    yield at;
    at += Math.floor(step);
    step *= 1.4;
  }
  if (from < count) yield count - 1;
}

function stepsOf(lever: Lever): Fix[] {
  const steps: Fix[] = [];
  for (const fix of lever) {
    steps.push(fix);
    if (steps.length >= MOST_STEPS) break;
  }
  return steps;
}

/**
 * The gentlest step of a lever that stands; null where none does. Its own rule looks at few steps,
 * and between the last that does not help and the first that does at the middle, again and again;
 * all rules look at what is left.
 * @param at what it yields between its trials
 */
function* firstThatStands(
  session: Session,
  raised: Raised,
  lever: Lever,
  budget: Budget,
  at: number,
): Generator<number, Tried | null, undefined> {
  const { rule, finding } = raised;
  const before = raisedOf(session);
  const steps = stepsOf(lever);
  const sizes = new Map<number, number>();
  /** What is left of the finding by its own rule; infinite where the step is not allowed. */
  const sizeAt = (i: number): number => {
    const known = sizes.get(i);
    if (known !== undefined) return known;
    const fix = steps[i];
    const copy = fix && copyWith(session, fix);
    const size = copy
      ? (raisedIn(rule, copy, finding.arrayId).find((one) => one.finding.key === finding.key)
          ?.finding.size ?? 0)
      : Infinity;
    sizes.set(i, size);
    return size;
  };
  let trials = 0;
  let fallback: Tried | null = null;
  const tryOut = (i: number): Tried | null => {
    const fix = steps[i];
    const copy = fix && copyWith(session, fix);
    if (!fix || !copy || trials >= MOST_TRIALS || budget.trials <= 0) return null;
    trials += 1;
    budget.trials -= 1;
    const outcome = outcomeOf(before, raisedOf(copy), finding.key);
    const verdict = verdictOn(outcome, finding);
    if (verdict === 'clean') return { fix, copy, outcome };
    if (verdict === 'with others') fallback ??= { fix, copy, outcome };
    return null;
  };
  let last = -1;
  for (const i of growingPlaces(steps.length, 0)) {
    yield at;
    if (sizeAt(i) === 0) {
      let [no, yes] = [last, i];
      while (yes - no > 1) {
        const middle = (no + yes) >> 1;
        yield at;
        if (sizeAt(middle) === 0) yes = middle;
        else no = middle;
      }
      for (const place of yes === i ? [yes] : [yes, i]) {
        yield at;
        const stands = tryOut(place);
        if (stands) return stands;
      }
      if (trials >= MOST_TRIALS) break;
    }
    last = i;
  }
  if (fallback) return fallback;
  // Of several places one that is gone is a step.
  const share = raised.parts.length > 1 ? 1 - 1e-6 : SHRUNK;
  const [best] = [...sizes]
    .filter(([, size]) => size > 0)
    .sort((a, b) => a[1] - b[1] || a[0] - b[0]);
  if (!best || best[1] > share * finding.size) return null;
  yield at;
  return tryOut(best[0]) ?? fallback;
}

/** Differences that somebody would hear or see. */
const HEARD_DB = 1;
const HEARD_CORRELATION = 0.1;
const SEEN_PCT = 8;
const ALL_BUT_GONE_DB = -30;

/** So much direct sound less against the room is a set-up of another kind, dB. */
const DROWNED_DB = 9;

/** Whether a way out takes an array so far off that its players drown in the room. */
function drowns(session: Session, { copy, fix }: Tried): boolean {
  const ratio = (of: Session, id: string): number | null => {
    const array = of.arrays.find((one) => one.id === id);
    return array?.enabled && array.role === 'main' ? ratioOf(of, array) : null;
  };
  return fix.changes.some(({ kind, id }) => {
    if (kind !== 'array') return false;
    const [before, after] = [ratio(session, id), ratio(copy, id)];
    return before !== null && after !== null && after < 0 && before - after > DROWNED_DB;
  });
}

/** What is worse with a copy than before, in words. */
function priceOf(session: Session, { copy, fix, outcome }: Tried): string[] {
  const said: string[] = [];
  for (const { kind, id } of fix.changes) {
    if (kind !== 'array') continue;
    const [from, to] = [session, copy].map((of) => of.arrays.find((array) => array.id === id));
    if (!from || !to || !from.enabled || !to.enabled) continue;
    said.push(...worse(session, from, copy, to));
  }
  for (const { message } of outcome.brings.slice(0, 2))
    said.push(`then: ${message.replace(/\.$/, '')}`);
  return [...new Set(said)];
}

const summary = (of: Session, array: MicArray) =>
  summaryOf(of, array, arrayFigures(array, of.sources, contextOf(of)));

const ratioOf = (of: Session, array: MicArray): number | null =>
  summary(of, array).directToReverberantDb;

function worse(session: Session, from: MicArray, copy: Session, to: MicArray): string[] {
  const [before, after] = [summary(session, from), summary(copy, to)];
  const said: string[] = [];
  const [roomBefore, roomAfter] = [before.directToReverberantDb, after.directToReverberantDb];
  if (roomBefore !== null && roomAfter !== null) {
    const lessDb = roomBefore - roomAfter;
    if (lessDb >= HEARD_DB) {
      said.push(`${formatNumber(lessDb, 1)} dB less direct sound against the room`);
    } else if (lessDb <= -HEARD_DB) {
      said.push(`${formatNumber(-lessDb, 1)} dB less room against the direct sound`);
    }
  }
  const [wideBefore, wideAfter] = [before.imageWidthPct, after.imageWidthPct];
  if (wideBefore !== null && wideAfter !== null && Math.abs(wideBefore - wideAfter) >= SEEN_PCT) {
    const word = wideAfter < wideBefore ? 'narrower' : 'wider';
    said.push(
      `a ${word} picture: ${formatNumber(wideAfter, 0)} instead of ${formatNumber(wideBefore, 0)} %`,
    );
  }
  const [monoBefore, monoAfter] = [before.worstMonoDb, after.worstMonoDb];
  if (monoBefore !== null && monoAfter !== null && monoBefore - monoAfter >= HEARD_DB) {
    said.push(
      monoAfter < ALL_BUT_GONE_DB
        ? 'mono: the worst player all but cancelled'
        : `mono ${formatNumber(monoBefore - monoAfter, 1)} dB weaker at the worst player`,
    );
  }
  const [bassBefore, bassAfter] = [before.lowCorrelation, after.lowCorrelation];
  if (bassBefore !== null && bassAfter !== null && bassAfter - bassBefore >= HEARD_CORRELATION) {
    said.push(
      `less spacious in the bass: correlation ${formatNumber(bassAfter, 2)} instead of ${formatNumber(bassBefore, 2)}`,
    );
  }
  return said;
}

/** What becomes of a finding, in words; null where nothing is to be seen of it. */
function becomesOf(
  session: Session,
  part: Found | undefined,
  { copy, outcome }: Tried,
  target: Finding,
): string | null {
  const { left } = outcome;
  const figure = part?.gauge ? gaugeText(part.gauge, session, copy) : null;
  const fewer = left ? fewerText(target, left) : null;
  // Where the figure counts players itself, they are not counted twice.
  if (figure !== null) return fewer !== null && part?.gauge?.unit ? `${fewer}, ${figure}` : figure;
  return left ? fewer : 'then it is gone';
}

/** "gap 84 → 39 %"; null where it is not known, or nobody would see the difference. */
function gaugeText({ words, unit, digits, of, say }: Gauge, from: Session, to: Session) {
  const [before, after] = [of(from), of(to)];
  if (before === null || after === null) return null;
  const text = say ?? ((value: number): string => formatNumber(value, digits));
  const [was, is] = [text(before), text(after)];
  if (was === is) return null;
  if (say) return `${words} ${was} → ${is}`;
  return `${words} ${was} → ${is}${unit === '' ? '' : ` ${unit}`}`;
}

/** "6 → 4 players"; null where they are as many. */
function fewerText(target: Finding, left: Finding): string | null {
  if (target.members.length > Math.max(1, left.members.length)) {
    const players = target.members.every(({ sourceIds }) => sourceIds.length === 1);
    return `${target.members.length} → ${Math.max(1, left.members.length)} ${players ? 'players' : 'places'}`;
  }
  return target.sourceIds.length > left.sourceIds.length
    ? `${target.sourceIds.length} → ${left.sourceIds.length} players`
    : null;
}

/** So many members, the worst, have ways of their own worked out; all of them the common one. */
const MOST_MEMBERS = 4;
const MOST_WAYS = 5;

/**
 * The ways out of a finding that stand, each tried on a copy of the session; yields the fraction
 * done between them.
 * @returns nothing where the session has no such finding
 */
export function* waysOutInSteps(
  session: Session,
  key: string,
): Generator<number, WaysOut, undefined> {
  const raised = raisedOf(session).find(({ finding }) => finding.key === key);
  yield 0;
  if (!raised) return { key, ways: [], nothingHelps: false, instead: null };
  const { parts, finding } = raised;
  const several = parts.length > 1;
  const first = Math.max(0, parts.length - MOST_MEMBERS);
  const ways: WayOut[] = [];
  const ofParts: (Fix | null)[] = [];
  let asked = false;
  const budget: Budget = { trials: MOST_TRIALS_IN_ALL };
  const offered = new Set<string>();
  const left = new Map<WayOut, Finding | null>();
  const offer = (tried: Tried, part: Found | undefined, place: number | null, label?: string) => {
    const same = JSON.stringify(tried.fix.changes);
    if (offered.has(same)) return;
    offered.add(same);
    const becomes = becomesOf(session, part, tried, finding);
    if (becomes === null || drowns(session, tried)) return;
    // What mends one place and all others with it is a way out of the whole.
    const member = tried.outcome.left === null ? null : place;
    const way: WayOut = {
      label: label ?? tried.fix.label,
      changes: tried.fix.changes,
      becomes,
      price: priceOf(session, tried),
      member,
    };
    left.set(way, tried.outcome.left);
    ways.push(way);
  };
  for (const [i, part] of parts.entries()) {
    const levers = part.levers?.() ?? [];
    asked ||= levers.length > 0;
    if (several && i < first) {
      const [lever] = levers;
      ofParts.push([...(lever ?? [])][0] ?? null);
      continue;
    }
    let mine: Fix | null = null;
    for (const lever of levers) {
      if (ways.filter(({ member }) => member === (several ? i : null)).length >= MOST_WAYS) break;
      const at = (i + 0.5) / parts.length;
      const tried = yield* firstThatStands(session, raised, lever, budget, at);
      yield at;
      if (!tried) continue;
      mine ??= tried.fix;
      offer(tried, part, several ? i : null);
      if (several) break;
    }
    ofParts.push(mine);
  }
  const label = parts[parts.length - 1]?.cause?.fixLabel;
  if (several && label !== undefined) {
    const fix: Fix = { label, changes: ofParts.flatMap((one) => one?.changes ?? []) };
    const tried = yield* firstThatStands(session, raised, [fix], { trials: 1 }, 1);
    if (tried) {
      offer(tried, undefined, null, label);
      ways.unshift(...ways.splice(-1));
    }
  }
  // What removes it altogether leads; else the gentlest first, as they were tried.
  ways.sort((a, b) => Number(left.get(b) === null) - Number(left.get(a) === null));
  const instead = ways.length > 0 ? null : (parts[parts.length - 1]?.instead ?? null);
  return { key, ways, nothingHelps: asked && ways.length === 0, instead };
}

/** The same at once. */
export function waysOut(session: Session, key: string): WaysOut {
  const steps = waysOutInSteps(session, key);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** A finding with its ways out: the first for the whole of it leads. */
export function mendable(session: Session, finding: Finding): MendableFinding {
  const { ways, nothingHelps, instead } = waysOut(session, finding.key);
  const whole = ways.filter(({ member }) => member === null);
  const [fix = null, ...others] = whole;
  return { ...finding, fix, others, ways, nothingHelps, instead };
}
