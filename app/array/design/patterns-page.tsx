import { useMemo, useState } from 'react';
import { nullAngleDeg, PATTERN_NAMES, patternAOf, type Pattern } from '../../../core/acoustics';
import { patternWhatIf, type PatternWhatIf } from '../../../core/analysis';
import { capsulesInFrame } from '../../../core/arrays';
import { assignKit } from '../../../core/kit';
import type { MicArray, Session } from '../../../core/session';
import { angleText, formatNumber, formatSigned, lengthText } from '../../../core/units';
import { ChoiceField } from '../../parts/fields';
import { FormulaLink } from '../../parts/formula-link';
import { patternWords } from '../../parts/technique-text';
import { SmallLine } from '../../image-line/small-line';
import { changeArray, editSaying } from '../../document/edits';
import { downloadTable } from '../../keeping/tables';
import { useSession } from '../../document/use-session';

const ANY = '';

/** The entry of the kit that serves the array's first capsule, if it can be switched. */
function switchableOf(session: Session, array: MicArray): string {
  const [first] = assignKit(session).capsules.filter(({ arrayId }) => arrayId === array.id);
  const entry = session.kit.microphones.find(({ id }) => id === first?.microphoneId);
  return entry && entry.patterns.length > 1 ? entry.id : ANY;
}

/** The pattern that all microphones of the array have now; null where they differ. */
function presentA(array: MicArray): number | null {
  const { technique } = array;
  if (technique.kind === 'mid-side') return patternAOf(technique.midPattern);
  const patternAs = new Set(capsulesInFrame(technique).map(({ pattern }) => patternAOf(pattern)));
  const [only] = patternAs;
  return patternAs.size === 1 && only !== undefined ? only : null;
}

const percent = (value: number | null) => (value === null ? '—' : `${formatNumber(value, 0)} %`);

const HEADER = [
  'Pattern',
  'Recording angle',
  'Width',
  'Largest gap',
  'Direct to room',
  'Reach',
  'Null at',
  'Worst mono',
] as const;

const nullWords = (offAxisDeg: number | null): string =>
  offAxisDeg === null ? 'none' : angleText(offAxisDeg);

/** The figures of one pattern as they are read, in the order of the header. */
function useCells() {
  const { settings, sources } = useSession();
  return ({ pattern, summary, distanceFactor }: PatternWhatIf): string[] => {
    const { halfDeg, directToReverberantDb, reachM, worstMonoDb, worstMonoId } = summary;
    const worst = sources.find(({ id }) => id === worstMonoId)?.name;
    return [
      patternWords(pattern),
      halfDeg === null ? 'not reached' : `±${angleText(halfDeg)}`,
      percent(summary.widthPct) + (summary.broken > 0 ? `, ${summary.broken} broken` : ''),
      percent(summary.largestGapPct),
      directToReverberantDb === null
        ? 'hall not known'
        : `${formatSigned(directToReverberantDb, 1)} dB`,
      `${formatNumber(distanceFactor, 2)} ×` +
        (reachM === null ? '' : `, ${lengthText(reachM, settings.units)}`),
      nullWords(nullAngleDeg(patternAOf(pattern))),
      worstMonoDb === null ? '—' : `${formatSigned(worstMonoDb, 1)} dB, ${worst ?? ''}`,
    ];
  };
}

/** Every pattern of a switchable microphone at the same bar: width, room and reach of each. */
export function PatternsPage({ array }: { array: MicArray }) {
  const session = useSession();
  const switchable = session.kit.microphones.filter(({ patterns }) => patterns.length > 1);
  const [microphone, setMicrophone] = useState(() => switchableOf(session, array));
  const entry = switchable.find(({ id }) => id === microphone);
  const list = useMemo(() => {
    const chosen = session.kit.microphones.find(({ id }) => id === microphone);
    const patterns: readonly Pattern[] = chosen?.patterns ?? PATTERN_NAMES;
    const ordered = [...patterns].sort((a, b) => patternAOf(b) - patternAOf(a));
    return patternWhatIf(session, array, ordered);
  }, [session, array, microphone]);
  const cellsOf = useCells();
  const present = presentA(array);
  const rows = list.map(cellsOf);
  return (
    <section aria-labelledby="patterns-heading">
      <div className="flex items-baseline gap-4">
        <h2 id="patterns-heading" className="flex-1 text-[16px]">
          The same array in every pattern
        </h2>
        <button
          className="btn btn-sm"
          onClick={() => void downloadTable(`${array.name} patterns`, HEADER, rows)}
        >
          CSV
        </button>
      </div>
      <div className="w-96">
        <ChoiceField
          label="Microphone"
          value={entry?.id ?? ANY}
          options={[
            { value: ANY, label: 'any: all named patterns' },
            ...switchable.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChange={setMicrophone}
        />
      </div>
      <p className="text-muted py-2 text-[12.5px]">
        Spacing, angle, place and players as they are now.
        {array.technique.kind === 'mid-side' ? ' Only the mid is switched.' : ''} Reach: how much
        farther than an omni for the same amount of room
        {list[0]?.summary.reachM === null
          ? '; the Brief does not know the hall yet, so that there are no metres'
          : ', and where direct and room are equal for a source that radiates all round'}
        . Broken: in antiphase or on the wrong side.{' '}
        <FormulaLink to="microphone-patterns">Formula</FormulaLink>
      </p>
      <div className="overflow-x-auto">
        <table className="ledger-table w-full" aria-label="Patterns">
          <thead>
            <tr>
              {HEADER.map((name, i) => (
                <th key={name} className={i === 0 ? '' : 'num'}>
                  {name}
                </th>
              ))}
              <th className="max-xl:hidden">Stereo image</th>
              <th>
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.map((item, index) => {
              const [name = '', ...cells] = rows[index] ?? [];
              const own = present === patternAOf(item.pattern);
              return (
                <tr key={name} aria-current={own || undefined} className={own ? 'bg-base-200' : ''}>
                  <th scope="row" className="whitespace-nowrap">
                    {name}
                  </th>
                  {cells.map((text, i) => (
                    <td key={HEADER[i + 1]} className="num xl:whitespace-nowrap">
                      {text}
                    </td>
                  ))}
                  <td className="max-xl:hidden">
                    <SmallLine session={session} array={item.array} wide={150} />
                  </td>
                  <td className="whitespace-nowrap">
                    {own ? (
                      <span className="text-muted">as it is</span>
                    ) : (
                      <button
                        className="btn btn-xs font-normal"
                        onClick={() => {
                          // The routes of the microphones stay: only their patterns change.
                          editSaying(
                            `${array.name}: ${name}.`,
                            changeArray(array.id, { technique: item.array.technique }),
                          );
                        }}
                      >
                        Use it<span className="sr-only">: {name}</span>
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
