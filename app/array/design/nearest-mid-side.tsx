import { useMemo } from 'react';
import { arraySummary, nearestMidSide } from '../../../core/analysis';
import { speakingModel } from '../../../core/localisation';
import type { MicArray } from '../../../core/session';
import { angleText, formatNumber, formatSigned, speedOfSound } from '../../../core/units';
import { setTechnique } from '../../document/edits';
import { useSession } from '../../document/use-session';
import { patternWords } from '../../parts/technique-text';

/** What the nearest mid-side would change, for an array that has no exact equivalent. */
export function Nearest({ array }: { array: MicArray }) {
  const session = useSession();
  const { settings, venue } = session;
  const model = speakingModel(settings, false);
  const speed = speedOfSound(venue.temperatureC);
  const nearest = useMemo(
    () => nearestMidSide({ technique: array.technique }, model, speed),
    [array.technique, model, speed],
  );
  const rows = useMemo(() => {
    const other = { ...array, technique: nearest.technique, mix: { ...array.mix, capsules: [] } };
    const [now, then] = [array, other].map((one) => arraySummary(session, one));
    return now && then ? comparedSummaries(now, then) : [];
  }, [session, array, nearest]);
  const { midPattern, sideGainDb } = nearest.technique;
  return (
    <>
      <p className="max-w-2xl pb-2">
        The channels of {array.name} differ in time, so no mid-side is the same. The nearest by its
        recording angle: mid {patternWords(midPattern)}, side at {formatSigned(sideGainDb, 1)} dB
        {nearest.wantedDeg === null || nearest.halfDeg === null
          ? '; one of the two never reaches a loudspeaker.'
          : `, ±${angleText(nearest.halfDeg)} beside ±${angleText(nearest.wantedDeg)} for distant sources.`}
      </p>
      <table className="ledger-table" aria-label="What would change">
        <thead>
          <tr>
            <th>Where it stands</th>
            <th className="num">Now</th>
            <th className="num">Mid-side</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, now, then]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td className="num">{now}</td>
              <td className="num">{then}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-muted max-w-2xl py-2 text-[12.5px]">
        Level alone then makes the places: sharper, and safe in mono.
      </p>
      <button
        className="btn btn-sm btn-primary"
        onClick={() => setTechnique(array, nearest.technique)}
      >
        Make it this mid-side
      </button>
    </>
  );
}

type Summary = ReturnType<typeof arraySummary>;

function comparedSummaries(now: Summary, then: Summary): [string, string, string][] {
  const row = (name: string, text: (of: Summary) => string): [string, string, string] => [
    name,
    text(now),
    text(then),
  ];
  const dash = (value: number | null, words: (value: number) => string) =>
    value === null ? '—' : words(value);
  return [
    row('Recording angle in place', ({ halfDeg }) =>
      halfDeg === null ? 'not reached' : `±${angleText(halfDeg)}`,
    ),
    row('Picture, of the base', ({ imageWidthPct }) =>
      dash(imageWidthPct, (value) => `${formatNumber(value, 0)} %`),
    ),
    row('Largest gap', ({ largestGapPct }) =>
      dash(largestGapPct, (value) => `${formatNumber(value, 0)} %`),
    ),
    row('Worst mono sum', ({ worstMonoDb }) =>
      dash(worstMonoDb, (value) => `${formatSigned(value, 1)} dB`),
    ),
    row('Correlation at 125 Hz', ({ lowCorrelation }) =>
      dash(lowCorrelation, (value) => formatNumber(value, 2)),
    ),
    row('Direct to room', ({ directToReverberantDb }) =>
      directToReverberantDb === null
        ? 'hall not known'
        : `${formatSigned(directToReverberantDb, 1)} dB`,
    ),
  ];
}
