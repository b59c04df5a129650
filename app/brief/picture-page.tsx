import { leadingOf } from '../../core/localisation';
import { fieldKey } from '../view/validity';
import { CircleCheck, CircleX } from 'lucide-react';
import { bandResults, type BandResult } from '../../core/analysis';
import { coverageAdvice, type CoverageAdvice } from '../../core/planning';
import type { Source } from '../../core/session';
import { formatNumber, shiftText, clamp } from '../../core/units';
import { QuantityField } from '../parts/quantity-field';
import { signedPercentKind } from '../parts/quantity-kinds';
import { changeSource } from '../document/edits';
import { useFigures } from '../figures/figures';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { Taste } from './taste';

function setBand(sourceId: string, part: { fromPct?: number | null; toPct?: number | null }): void {
  edit((draft) => {
    const { intent } = draft.brief;
    const known = intent.bands.find((band) => band.sourceId === sourceId);
    const from = part.fromPct === undefined ? (known?.fromPct ?? null) : part.fromPct;
    const to = part.toPct === undefined ? (known?.toPct ?? null) : part.toPct;
    intent.bands = intent.bands.filter((band) => band.sourceId !== sourceId);
    // One typed end makes a band of ±15 % around it; emptying either end drops the band.
    if (part.fromPct === null || part.toPct === null) return;
    const given = from ?? to;
    if (given === null) return;
    const near = (pct: number) => clamp(pct, -100, 100);
    intent.bands.push({
      sourceId,
      fromPct: from ?? near(given - 30),
      toPct: to ?? near(given + 30),
    });
  });
}

const BAND_HALF_PCT = 12;

/** Every player wanted where it now is, give or take: a beginning for a plan that already pleases. */
function bandsFromNow(results: ReadonlyMap<string, number>): void {
  edit((draft) => {
    const within = (pct: number) => Math.round(clamp(pct, -100, 100));
    draft.brief.intent.bands = [...results].map(([sourceId, pct]) => ({
      sourceId,
      fromPct: within(pct - BAND_HALF_PCT),
      toPct: within(pct + BAND_HALF_PCT),
    }));
  });
}

function Verdict({ result }: { result: BandResult | undefined }) {
  if (!result) return <span className="text-muted">no wish</span>;
  if (result.missPct === null) return <span className="text-muted">no image</span>;
  return result.met ? (
    <span className="inline-flex items-center gap-1">
      <CircleCheck size={14} className="text-primary" /> met
    </span>
  ) : (
    <span className="text-error inline-flex items-center gap-1">
      <CircleX size={14} /> {formatNumber(result.missPct, 0)} % off
    </span>
  );
}

interface RowProps {
  source: Source;
  result: BandResult | undefined;
  advice: CoverageAdvice | undefined;
}

function PlayerRow({ source, result, advice }: RowProps) {
  const { bySource } = useFigures();
  const { model } = useSession().settings;
  const image = bySource.get(source.id)?.image;
  const end = (name: 'fromPct' | 'toPct', label: string) => (
    <QuantityField
      bare
      optional
      label={`${source.name}, ${label}`}
      fieldKey={fieldKey('band', source.id, name)}
      kind={signedPercentKind}
      value={result?.[name] ?? null}
      onCommit={(value) => setBand(source.id, { [name]: value })}
    />
  );
  return (
    <tr>
      <th scope="row" className="text-base-content!">
        {source.name}
      </th>
      <td className="num">{end('fromPct', 'wanted from')}</td>
      <td className="num">{end('toPct', 'wanted to')}</td>
      <td className="num">{shiftText(leadingOf(image, model)?.shift)}</td>
      <td>
        <Verdict result={result} />
      </td>
      <td>
        <select
          aria-label={`${source.name}, one microphone or a pair`}
          className="select select-xs w-36"
          title={advice?.reason}
          value={source.coverage ?? 'advice'}
          onChange={(event) => {
            const { value } = event.currentTarget;
            const coverage = value === 'mono' || value === 'stereo' ? value : null;
            edit(changeSource(source.id, { coverage }));
          }}
        >
          <option value="advice">{advice?.advice} (advice)</option>
          <option value="mono">mono, decided</option>
          <option value="stereo">stereo, decided</option>
        </select>
      </td>
    </tr>
  );
}

/** The taste as data: the whole picture, and each player's wanted place. */
export function PicturePage() {
  const session = useSession();
  const { bySource } = useFigures();
  const { model } = session.settings;
  const results = new Map(
    bandResults(session, bySource, model).map((result) => [result.sourceId, result]),
  );
  const advice = new Map(coverageAdvice(session).map((entry) => [entry.sourceId, entry]));
  const now = new Map(
    session.sources.flatMap(({ id }) => {
      const image = bySource.get(id)?.image;
      const shift = leadingOf(image, model)?.shift;
      return shift === undefined ? [] : [[id, shift * 100] as const];
    }),
  );
  return (
    <div className="grid max-w-6xl grid-cols-1 gap-x-10 gap-y-6 lg:grid-cols-[330px_1fr]">
      <Taste />
      <section aria-labelledby="places-heading">
        <h2 id="places-heading" className="pb-1 text-[17px]">
          Wanted places
        </h2>
        <p className="text-muted pb-2 text-[12.5px]">
          In percent of the half base, negative to the left; they stand as light fields on the image
          line.
        </p>
        {session.sources.length === 0 ? (
          <p>Put the players on the Floor first; then each can be given a place.</p>
        ) : (
          <>
            <div className="flex gap-2 pb-2">
              <button className="btn btn-sm font-normal" onClick={() => bandsFromNow(now)}>
                Want everybody where they now are
              </button>
              {results.size > 0 && (
                <button
                  className="btn btn-sm btn-ghost font-normal"
                  onClick={() => edit((draft) => void (draft.brief.intent.bands = []))}
                >
                  Drop all wishes
                </button>
              )}
            </div>
            <table className="ledger-table w-full" aria-label="Wanted places">
              <thead>
                <tr>
                  <th>Player</th>
                  <th className="num">from</th>
                  <th className="num">to</th>
                  <th className="num">now</th>
                  <th>wish</th>
                  <th>if it gets its own</th>
                </tr>
              </thead>
              <tbody>
                {session.sources.map((source) => (
                  <PlayerRow
                    key={source.id}
                    source={source}
                    result={results.get(source.id)}
                    advice={advice.get(source.id)}
                  />
                ))}
              </tbody>
            </table>
          </>
        )}
      </section>
    </div>
  );
}
