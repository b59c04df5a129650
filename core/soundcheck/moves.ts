import { measuresOf } from '../analysis/judge';
import { arrayFigures } from '../analysis/array-figures';
import { partScores, scoreOf, wantedOf } from '../analysis/criteria';
import { everythingRaised, gravityOf } from '../analysis/findings/engine';
import { summaryOf } from '../analysis/summary';
import { contextOf } from '../prepare/context';
import { leadingArray } from '../session/lists';
import type { Session } from '../session/schema';
import { formatNumber, formatSigned } from '../units/format';
import { clamp } from '../units/numbers';
import { remembered } from '../units/remember';
import { expectedOf, expectedText, wholeChanges } from './expected';
import { LEVERS, type Try } from './levers';
import { mainDirectDb, SENSES, type Focus, type Sense } from './senses';
import type { Symptom } from './symptoms';

/**
 * From a symptom to moves: every lever that the field turns is tried on a copy, step by step, and each
 * ranks by what it does for the symptom against what it costs elsewhere.
 */

export interface Move {
  label: string;
  /** the plan with it */
  plan: Session;
  /** how much of what was asked for it does, 0 … 1 */
  share: number;
  /** "direct to room −1.9 → 1.2 dB" */
  becomes: string;
  /** what the players are expected to sound like then, in a line */
  expected: string;
  /** what of the whole changes with it */
  whole: string[];
  /** findings that come with it or grow, in words; such a move stands last */
  worsens: string[];
  /** findings that go with it */
  mends: string[];
}

export interface Moves {
  /** the figure as it is; null where the plan has none */
  now: number | null;
  nowText: string;
  /** nobody would say it of the plan by its figure */
  isUsual: boolean;
  /** what is wrong as a whole already, and comes before any symptom */
  causes: string[];
  moves: Move[];
}

/** More steps of one lever than these are not looked at; those that are lie farther apart later. */
const MOST_LOOKED_AT = 14;
/** Less than this of what was asked for is no move. */
const LEAST_SHARE = 0.15;
/** A finding that grows by more than this has come anew. */
const GROWN = 1.25;

const figureText = ({ unit, digits, isSize }: Sense, value: number | null): string =>
  value === null
    ? 'not known'
    : `${unit === 'dB' && !isSize ? formatSigned(value, digits) : formatNumber(value, digits)}${unit === '' ? '' : ` ${unit}`}`;

function wayText(sense: Sense, before: number | null, after: number | null): string {
  const { words, unit } = sense;
  const [was, is] = [figureText(sense, before), figureText(sense, after)];
  const short = unit !== '' && was.endsWith(` ${unit}`) ? was.slice(0, -unit.length - 1) : was;
  return `${words} ${short} → ${is}`;
}

/** How much of what was asked for a figure brings, against what it was: below 0 it is worse. */
function shareOf(
  { better, enough, usualTo }: Sense,
  before: number | null,
  after: number | null,
): number {
  if (before === null || after === null) return 0;
  const gained = better === 'more' ? after - before : before - after;
  // What is as good as nothing is not halved.
  const asked = enough ?? Math.max(Math.abs(before), usualTo ?? 0);
  return asked < 1e-9 ? 0 : clamp(gained / asked, -1, 1);
}

/** So much more room or less is another sound altogether, dB. */
const ANOTHER_SOUND_DB = 3;
function drowns(before: Session, after: Session): boolean {
  const [was, is] = [mainDirectDb(before), mainDirectDb(after)];
  return was !== null && is !== null && was - is > ANOTHER_SOUND_DB;
}

/** Close together at first, farther apart later. */
function* lookedAt(lever: Iterable<Try>): Generator<Try> {
  let [skip, place, looked] = [0, 0, 0];
  for (const step of lever) {
    place += 1;
    if (place <= skip) continue;
    yield step;
    looked += 1;
    if (looked >= MOST_LOOKED_AT) return;
    skip = place + Math.floor(looked / 3);
  }
}

interface Found {
  step: Try;
  value: number;
  share: number;
}

/** Steps that do more and more, up to the gentlest that is enough or the best there is. */
function betterAndBetter(
  session: Session,
  lever: Iterable<Try>,
  sense: Sense,
  focus: Focus,
  before: number,
): Found[] {
  const found: Found[] = [];
  for (const step of lookedAt(lever)) {
    const value = sense.of(step.plan, focus);
    if (value === null) continue;
    // What is asked for is no other distance: a hole is not filled with the room.
    if (!sense.isOfRoom && drowns(session, step.plan)) break;
    const share = shareOf(sense, before, value);
    const best = found[found.length - 1]?.share ?? LEAST_SHARE - 1e-6;
    if (share > best + 1e-6) found.push({ step, value, share });
    if (share >= 1 - 1e-9) break;
  }
  return found;
}

/**
 * What of a lever is offered: the step that does most, and where that makes a finding worse, the one
 * before it that does not.
 */
function offeredOf(session: Session, found: readonly Found[]): Found | null {
  const best = found[found.length - 1];
  if (!best) return null;
  const isClean = ({ step }: Found): boolean => findingsOf(session, step.plan).worsens.length === 0;
  if (isClean(best)) return best;
  let [clean, worse] = [-1, found.length - 1];
  while (worse - clean > 1) {
    const middle = (clean + worse) >> 1;
    if (isClean(found[middle] as Found)) clean = middle;
    else worse = middle;
  }
  return found[clean] ?? best;
}

const raisedOf = remembered((session: Session) => everythingRaised(session));

/** What a move does to everything that Checks says. */
function findingsOf(before: Session, after: Session) {
  const was = new Map(raisedOf(before).map(({ finding }) => [finding.key, finding]));
  const is = new Map(raisedOf(after).map(({ finding }) => [finding.key, finding]));
  const worsens = [...is.values()].filter((finding) => {
    const old = was.get(finding.key);
    return (
      finding.severity !== 'note' &&
      (!old || gravityOf(finding) < gravityOf(old) || finding.size > GROWN * old.size + 1e-9)
    );
  });
  const mends = [...was.values()].filter(
    (finding) => finding.severity !== 'note' && !is.has(finding.key),
  );
  const [costs, gains] = [worsens, mends].map((list) =>
    list.reduce((sum, finding) => sum + (gravityOf(finding) <= 0 ? 2 : 1), 0),
  );
  const words = (list: typeof worsens): string[] =>
    [...new Set(list.map(({ message }) => message))].slice(0, 3);
  return {
    worsens: words(worsens),
    mends: words(mends),
    balance: (gains ?? 0) - (costs ?? 0),
  };
}

/** The main array against the brief, 0 … 100; null without one. */
function scoreIn(session: Session): number | null {
  const main = leadingArray(session);
  if (!main) return null;
  const figures = arrayFigures(main, session.sources, contextOf(session));
  const measures = {
    ...measuresOf(session, main, figures, summaryOf(session, main, figures)),
    tolerancePct: null,
  };
  const wanted = wantedOf(session, figures.own.length);
  return scoreOf(partScores(measures, wanted, figures.own.length), wanted, measures.broken);
}

/** What a finding and ten points of the main array's score count against the symptom itself. */
const FINDING_COUNTS = 0.12;
const SCORE_COUNTS = 0.02;

/**
 * The moves for a symptom, the best first; those that make a finding worse stand last. Yields the share
 * that is done, 0 … 1.
 * @param focus the id of the player whom it is about; null where it is about the whole
 */
export function* movesFor(
  session: Session,
  symptom: Symptom,
  focus: Focus,
): Generator<number, Moves, undefined> {
  const sense: Sense = SENSES[symptom.sense];
  const now = sense.of(session, focus);
  const causes = raisedOf(session)
    .filter(({ rule, finding }) => rule.isCause === true && finding.severity !== 'note')
    .map(({ finding }) => finding.message);
  const nowText = `${sense.words} ${figureText(sense, now)}`;
  const isUsual =
    now !== null && (now <= (sense.usualTo ?? -Infinity) || now >= (sense.usualFrom ?? Infinity));
  if (now === null) return { now, nowText, isUsual, causes, moves: [] };
  const score = scoreIn(session);
  const found: (Move & { rank: number })[] = [];
  const known = new Set<string>();
  const offer = (best: Found | null): void => {
    if (!best || known.has(best.step.label)) return;
    known.add(best.step.label);
    const { step, value, share } = best;
    // Nobody sees a difference that the figure does not show.
    if (figureText(sense, value) === figureText(sense, now)) return;
    const { worsens, mends, balance } = findingsOf(session, step.plan);
    const [before, after] = [expectedOf(session), expectedOf(step.plan)];
    const scored = scoreIn(step.plan);
    const gained = score === null || scored === null ? 0 : clamp(scored - score, -25, 25);
    found.push({
      label: step.label,
      plan: step.plan,
      share,
      becomes: wayText(sense, now, value),
      expected: expectedText(before, after),
      whole: wholeChanges(before, after),
      worsens,
      mends,
      rank: share + FINDING_COUNTS * balance + SCORE_COUNTS * gained,
    });
  };
  for (const [i, name] of symptom.levers.entries()) {
    for (const lever of severalIn(LEVERS[name](session, focus))) {
      offer(offeredOf(session, betterAndBetter(session, lever, sense, focus, now)));
    }
    yield (i + 1) / symptom.levers.length;
  }
  found.sort(
    (a, b) =>
      Number(a.worsens.length > 0) - Number(b.worsens.length > 0) ||
      b.rank - a.rank ||
      b.share - a.share,
  );
  return { now, nowText, isUsual, causes, moves: found.map(({ rank: _rank, ...move }) => move) };
}

/** Steps of one array after another are levers of their own: told by whom the label names. */
function severalIn(lever: Iterable<Try>): Iterable<Try>[] {
  const byName = new Map<string, Try[]>();
  let count = 0;
  for (const step of lever) {
    const subject = /^(.*?): |fader of (.*) to/.exec(step.label);
    const key = subject?.[1] ?? subject?.[2] ?? '';
    byName.set(key, [...(byName.get(key) ?? []), step]);
    count += 1;
    if (count > 400) break;
  }
  return [...byName.values()];
}

/** The same at once. */
export function movesNow(session: Session, symptom: Symptom, focus: Focus): Moves {
  const steps = movesFor(session, symptom, focus);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
