import { sum } from 'd3-array';
import { useEffect, useMemo, useRef, useState } from 'react';
import { PART_WORDS, type Recommendation, type RecommendationResult } from '../../../core/analysis';
import type { MicArray, Plan } from '../../../core/session';
import { formatNumber, lengthText, type UnitSystem } from '../../../core/units';
import { Offered } from '../../parts/offered';
import { patternWords, TECHNIQUE_WORDS, techniqueFigures } from '../../parts/technique-text';
import { SmallLine } from '../../image-line/small-line';
import { editSaying, rebuilt } from '../../document/edits';
import { usePlan } from '../../document/use-session';
import { useSettled } from '../../figures/use-settled';
import { useTask } from '../../workers/use-task';

/** Base and depth of a tree, from its places. */
function treeFigures({ technique }: Recommendation, units: UnitSystem): string {
  if (technique.kind !== 'custom') return '';
  const across = technique.capsules.map(({ dx }) => dx);
  const ahead = Math.max(...technique.capsules.map(({ dy }) => dy));
  const base = Math.max(...across) - Math.min(...across);
  return `${lengthText(base, units, 'bar')} wide, centre ${lengthText(ahead, units, 'bar')} ahead`;
}

function titleOf(entry: Recommendation, units: UnitSystem): string {
  const { technique, name, family } = entry;
  if (entry.standard !== null)
    return `${entry.standard}: ${TECHNIQUE_WORDS[name]}, ${techniqueFigures(technique, units)}`;
  if (family === 'tree') return `Tree of three omnis, ${treeFigures(entry, units)}`;
  const spoken = technique.kind === 'pair' && name !== 'figure-eights';
  const pattern = spoken ? `, ${patternWords(technique.pattern)}` : '';
  return `${TECHNIQUE_WORDS[name]}${pattern}, ${techniqueFigures(technique, units)}`;
}

/** The same picture with other microphones: a mid-side and its crossed pair. */
function equalText({ equal }: Recommendation, units: UnitSystem): string | null {
  if (!equal) return null;
  const words =
    equal.kind === 'mid-side'
      ? TECHNIQUE_WORDS['mid-side']
      : equal.kind === 'pair'
        ? `${TECHNIQUE_WORDS.coincident}, ${patternWords(equal.pattern)}`
        : '';
  return `The same picture from: ${words}, ${techniqueFigures(equal, units)}.`;
}

const placeText = ({ beforeM, z }: Recommendation, units: UnitSystem): string =>
  `${lengthText(beforeM, units)} before the front row, ${lengthText(z, units)} up`;

const placed = (array: MicArray, entry: Recommendation): MicArray => {
  const { technique, x, y, z, aimDeg, tiltDeg } = entry;
  return { ...array, technique, x, y, z, aimDeg, tiltDeg, mix: { ...array.mix, capsules: [] } };
};

/** What each wish gave and could have given, points of 100. */
function Account({ entry }: { entry: Recommendation }) {
  const keys = (Object.keys(PART_WORDS) as (keyof typeof PART_WORDS)[]).filter(
    (k) => entry.weights[k] > 0,
  );
  const total = sum(keys, (key) => entry.weights[key]);
  return (
    <details>
      <summary className="text-muted cursor-pointer">How the points come about</summary>
      <table className="ledger-table" aria-label={`Points of number ${entry.rank}`}>
        <tbody>
          {keys.map((key) => (
            <tr key={key}>
              <td>{PART_WORDS[key]}</td>
              <td className="num">
                {formatNumber((entry.weights[key] / total) * entry.parts[key] * 100, 0)}
              </td>
              <td className="text-muted">
                of {formatNumber((entry.weights[key] / total) * 100, 0)}
              </td>
            </tr>
          ))}
          {entry.measures.broken > 0 && (
            <tr>
              <td>players without a stable image</td>
              <td className="num">−{entry.measures.broken * 100}</td>
              <td className="text-muted">physics: no taste outweighs it</td>
            </tr>
          )}
        </tbody>
      </table>
    </details>
  );
}

/** In which wishes one proposal is better than another, in points. */
function versus(a: Recommendation, b: Recommendation): { better: string[]; worse: string[] } {
  const keys = Object.keys(PART_WORDS) as (keyof typeof PART_WORDS)[];
  const total = sum(keys, (key) => a.weights[key]);
  const differences = keys.map((key) => ({
    name: PART_WORDS[key],
    points: (a.weights[key] * (a.parts[key] - b.parts[key]) * 100) / total,
  }));
  const said = (sign: 1 | -1) =>
    differences
      .filter(({ points }) => points * sign >= 1)
      .sort((p, q) => (q.points - p.points) * sign)
      .map(({ name, points }) => `${name} ${formatNumber(Math.abs(points), 0)}`);
  return { better: said(1), worse: said(-1) };
}

/** Others of the same family, each to be taken instead. */
function MoreLikeThis({ entry, onAdopt }: Pick<CardProps, 'entry' | 'onAdopt'>) {
  const { units } = usePlan().settings;
  if (entry.more.length === 0) return null;
  return (
    <details>
      <summary className="text-muted cursor-pointer">More like this</summary>
      <ul aria-label={`More like number ${entry.rank}`}>
        {entry.more.map((other) => (
          <li
            key={titleOf(other, units) + placeText(other, units)}
            className="border-hairline flex items-center gap-3 border-b py-1"
          >
            <span className="min-w-0 flex-1">
              {titleOf(other, units)}, {placeText(other, units)}
            </span>
            <span>{formatNumber(other.score, 0)} of 100</span>
            <button className="btn btn-xs" onClick={() => onAdopt(other)}>
              Adopt<span className="sr-only"> {titleOf(other, units)}</span>
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}

interface CardProps {
  entry: Recommendation;
  /** the best that has not been refused, when this one has */
  instead: Recommendation | null;
  array: MicArray;
  onAdopt: (entry: Recommendation) => void;
  onRefuse: () => void;
}

function Refused({ entry, instead, onRefuse }: Omit<CardProps, 'array' | 'onAdopt'>) {
  const { units } = usePlan().settings;
  const { better, worse } = instead ? versus(entry, instead) : { better: [], worse: [] };
  return (
    <li className="border-hairline text-muted border-b py-2">
      <span className="line-through">{titleOf(entry, units)}</span>{' '}
      <button className="btn btn-ghost btn-xs" onClick={onRefuse}>
        Take it back<span className="sr-only"> number {entry.rank}</span>
      </button>
      {instead && (
        <p>
          It falls; number {instead.rank} leads.{' '}
          {better.length + worse.length === 0
            ? 'In every wish the two differ by less than a point: nothing measured is lost.'
            : `Given up in points: ${better.join(', ') || 'nothing'}. Gained: ${worse.join(', ') || 'nothing'}.`}
        </p>
      )}
    </li>
  );
}

function Card({ entry, array, onAdopt, onRefuse }: CardProps) {
  const session = usePlan();
  const { units } = session.settings;
  return (
    <li className="border-hairline grid grid-cols-[30px_1fr_auto] gap-x-3 border-b py-3">
      <span className="mark text-[18px]">{entry.rank}</span>
      <div className="min-w-0">
        <p className="font-semibold">{titleOf(entry, units)}</p>
        <p>{placeText(entry, units)}</p>
        <SmallLine session={session} array={placed(array, entry)} />
        <p className="text-muted">For: {entry.reasonsFor.join('; ') || 'nothing in particular'}.</p>
        <p className="text-muted">
          Against: {entry.reasonsAgainst.join('; ') || 'nothing that is measured'}.
        </p>
        {entry.rank > 1 && (
          <p className="text-muted">
            Beside number 1: {entry.differs.join('; ') || 'nothing that one would hear'}.
          </p>
        )}
        {entry.equal && <p className="text-muted">{equalText(entry, units)}</p>}
        {entry.wins !== null && <p className="text-muted">{entry.wins}</p>}
        <MoreLikeThis entry={entry} onAdopt={onAdopt} />
        <Account entry={entry} />
      </div>
      <div className="flex flex-col items-end gap-1">
        <p className="font-semibold">{formatNumber(entry.score, 0)} of 100</p>
        <button className="btn btn-sm btn-primary" onClick={() => onAdopt(entry)}>
          Adopt<span className="sr-only"> number {entry.rank}</span>
        </button>
        <button className="btn btn-sm btn-ghost font-normal" onClick={onRefuse}>
          Refuse<span className="sr-only"> number {entry.rank}</span>
        </button>
      </div>
    </li>
  );
}

const REST_MS = 600;

/** All but the array itself: what is recommended is the same wherever it stands. */
function useOthers(array: MicArray): readonly MicArray[] {
  const { arrays } = usePlan();
  const others = arrays.filter(({ id }) => id !== array.id);
  const [known, setKnown] = useState(others);
  const same = known.length === others.length && known.every((entry, i) => entry === others[i]);
  if (!same) setKnown(others);
  return same ? known : others;
}

/** Asked anew whenever the plan has changed and the hand rests; null while it was stopped. */
function useRanking(array: MicArray) {
  const session = usePlan();
  const others = useOthers(array);
  const [stoppedAt, setStoppedAt] = useState<unknown>(null);
  const { sources, venue, kit, brief, settings } = session;
  const plan = useMemo(
    () => ({ sources, venue, kit, brief, settings, others }),
    [sources, venue, kit, brief, settings, others],
  );
  const rested = useSettled(plan, REST_MS);
  const latest = useRef(session);
  useEffect(() => {
    latest.current = session;
  });
  const [ask, setAsk] = useState<Plan | null>(null);
  useEffect(() => {
    if (stoppedAt !== rested) setAsk(latest.current);
  }, [rested, stoppedAt]);
  const stopped = stoppedAt === rested;
  const task = useTask('recommend', stopped ? null : ask);
  return {
    ...task,
    busy: task.busy || rested !== plan,
    stopped,
    stop: () => setStoppedAt(rested),
    start: () => setStoppedAt(null),
  };
}

function Ranking({ array, result }: { array: MicArray; result: RecommendationResult }) {
  const { sources, settings } = usePlan();
  const { units } = settings;
  const [refused, setRefused] = useState<ReadonlySet<number>>(new Set());
  const instead = result.recommendations.find(({ rank }) => !refused.has(rank)) ?? null;
  function adopt(entry: Recommendation) {
    const { technique, x, y, z, aimDeg, tiltDeg } = entry;
    editSaying('Adopted.', rebuilt(array.id, { technique, x, y, z, aimDeg, tiltDeg }, []));
  }
  const toggle = (rank: number) =>
    setRefused((known) => {
      const next = new Set(known);
      if (!next.delete(rank)) next.add(rank);
      return next;
    });
  return (
    <>
      <p className="text-muted">
        {result.measured.toLocaleString('en-GB')} arrays measured against the brief, the best of
        each family closely and in every model. A broken image outweighs every taste.
        {result.players < sources.length &&
          ` Measured with ${result.players} of ${sources.length} players, evenly from left to right.`}
      </p>
      {result.recommendations.length === 0 && <p className="py-4">{result.nothing}</p>}
      {result.outriggers && (
        <p className="py-2">
          In the narrowest model the picture stays {formatNumber(result.outriggers.narrowestPct, 0)}{' '}
          % wide, {formatNumber(result.outriggers.leastPct, 0)} % are{' '}
          {result.outriggers.wanted ? 'wanted' : 'customary at least'}: outriggers about{' '}
          {lengthText(result.outriggers.spacingM, units)} apart, well below the main array, would
          widen it.
        </p>
      )}
      <ol aria-label="Recommendations">
        {result.recommendations.map((entry) => {
          const props = {
            entry,
            instead,
            onRefuse: () => toggle(entry.rank),
          };
          return refused.has(entry.rank) ? (
            <Refused key={entry.rank} {...props} />
          ) : (
            <Card key={entry.rank} {...props} array={array} onAdopt={adopt} />
          );
        })}
      </ol>
      {result.leftOut.map(({ family, reason }) => (
        <p key={family} className="text-muted pt-3">
          Left out: {family.replace('-', ' ')}, because {reason}.
        </p>
      ))}
      {result.notBuildable.length > 0 && (
        <p className="text-muted pt-3">
          Not with this kit:{' '}
          {result.notBuildable
            .map(({ technique, needs }) => `${TECHNIQUE_WORDS[technique]} (needs ${needs})`)
            .join('; ')}
          .
        </p>
      )}
    </>
  );
}

/** A ranking of arrays for the session's brief, floor and kit, which accounts for itself. */
export function RecommendPage({ array }: { array: MicArray }) {
  const { value, busy, error, progress, stopped, stop, start } = useRanking(array);
  return (
    <section aria-label="Recommendation" className="max-w-3xl" aria-busy={busy}>
      <Offered />
      <div className="flex min-h-9 items-center gap-4 pb-2">
        {stopped ? (
          <button className="btn btn-sm btn-primary" onClick={start}>
            Recommend arrays
          </button>
        ) : busy ? (
          <>
            <progress className="progress w-64" value={progress} max={1} aria-label="Progress" />
            <button className="btn btn-sm" onClick={stop}>
              Cancel
            </button>
            {value && <span className="text-muted">Of the plan as it was; measured anew …</span>}
          </>
        ) : (
          <span className="text-muted">Of the plan as it is now.</span>
        )}
      </div>
      {(stopped || !value) && (
        <p className="text-muted">
          Measures many thousands of arrays against the picture that the Brief wants, over
          technique, pattern, spacing, angle, distance and height, with the kit, the hall and the
          players that are there, wherever the main array stands now. The best of every family comes
          first: what holds in every localisation model leads.
        </p>
      )}
      {error !== null && <p role="alert">It stopped: {error}</p>}
      {!stopped && value && (
        <div className={busy ? 'opacity-60' : ''}>
          <Ranking array={array} result={value} />
        </div>
      )}
    </section>
  );
}
