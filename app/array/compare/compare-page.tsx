import { techniqueName } from '../../../core/arrays';
import {
  byJudgement,
  PART_WORDS,
  wantedOf,
  type Judgement,
  type Wanted,
} from '../../../core/analysis';
import type { MicArray, Session } from '../../../core/session';
import {
  angleText,
  formatNumber,
  formatSigned,
  lengthText,
  type UnitSystem,
} from '../../../core/units';
import { TECHNIQUE_WORDS, techniqueFigures, patternWords } from '../../parts/technique-text';
import { changeArray, keepCandidate, editSaying } from '../../document/edits';
import { edit } from '../../document/session-store';
import { exportSheet } from '../../keeping/exports';
import { ChoiceField } from '../../parts/fields';
import { choiceStore } from '../../view/choice';
import { notifyFailure } from '../../view/notices';
import { useSession } from '../../document/use-session';
import { useMemo, useState } from 'react';
import { useTask } from '../../workers/use-task';

interface Entry {
  /** the array that is worked on, another of its role, or one that was kept */
  kind: 'now' | 'own' | 'candidate';
  id: string | null;
  /** "Main pair", "Candidate A" */
  name: string;
  array: MicArray;
}

interface Row {
  name: string;
  /** text for each entry */
  texts: string[];
  /** index of the best by the intent, null where none is better */
  best: number | null;
}

interface Measured {
  entry: Entry;
  judgement: Judgement;
  values: Record<string, { text: string; merit: number | null }>;
}

const DECISIVE_WORDS = {
  spacingM: 'spacing',
  angleDeg: 'angle',
  sensitivityDb: 'sensitivity',
  temperatureC: 'temperature',
} as const;

const percent = (value: number | null): string =>
  value === null ? '—' : `${formatNumber(value, 0)} %`;

function measured(
  units: UnitSystem,
  entry: Entry,
  judgement: Judgement,
  players: number,
): Measured {
  const { summary, measures, parts, lacks, tolerancePct, decisive } = judgement;
  const { worstMonoDb, directToReverberantDb, lowCorrelation } = summary;
  const { technique, y, z } = entry.array;
  const pattern = technique.kind === 'pair' ? `, ${patternWords(technique.pattern)}` : '';
  const plain = (text: string) => ({ text, merit: null });
  const values: Measured['values'] = {
    technique: plain(`${TECHNIQUE_WORDS[techniqueName(technique)]}${pattern}`),
    figures: plain(techniqueFigures(technique, units)),
    place: plain(
      `${lengthText(Math.abs(y), units)} ${y < 0 ? 'before the stage edge' : 'upstage of it'}, ${lengthText(z, units)} up`,
    ),
    'recording angle': plain(
      summary.halfDeg === null ? 'not reached' : `±${angleText(summary.halfDeg)}`,
    ),
    'picture, of the base': { text: percent(summary.imageWidthPct), merit: parts.fill },
    'largest gap': {
      text: percent(summary.largestGapPct),
      // Two or three players are far apart by necessity.
      merit: players > 3 ? parts.gap : null,
    },
    'at a loudspeaker': { text: percent(summary.atSpeakersPct), merit: parts.speakers },
    'wanted places met': {
      text: summary.bands === 0 ? 'none wanted' : `${summary.bandsMet} of ${summary.bands}`,
      merit: summary.bands === 0 ? null : parts.bands,
    },
    'worst mono sum': {
      text: worstMonoDb === null ? '—' : `${formatSigned(measures.worstMonoDb, 1)} dB`,
      merit: measures.worstMonoDb,
    },
    'worst third octave in mono': {
      text: `${formatSigned(measures.worstMonoBandDb, 0)} dB`,
      merit: parts.mono,
    },
    'direct to room': {
      text:
        directToReverberantDb === null
          ? 'hall not known'
          : `${formatSigned(directToReverberantDb, 1)} dB`,
      merit: directToReverberantDb === null ? null : parts.room,
    },
    'correlation at 125 Hz': {
      text: lowCorrelation === null ? '—' : formatNumber(lowCorrelation, 2),
      merit: parts.space,
    },
    microphones: {
      text: `${summary.microphones}${lacks === null ? '' : `, kit lacks ${lacks}`}`,
      merit: lacks === null ? 0 : -1,
    },
    tolerance: {
      text:
        tolerancePct === null || technique.kind === 'single'
          ? '—'
          : `images ±${formatNumber(tolerancePct, 0)} %, most by ${DECISIVE_WORDS[decisive]}`,
      merit: tolerancePct === null ? null : -tolerancePct,
    },
  };
  return { entry, judgement, values };
}

/** Rows in which the entries differ; what is the same for all says nothing. */
function differences(list: readonly Measured[]): Row[] {
  const names = Object.keys(list[0]?.values ?? {});
  return names.flatMap((name) => {
    const cells = list.map(({ values }) => values[name]);
    const texts = cells.map((cell) => cell?.text ?? '—');
    if (new Set(texts).size < 2) return [];
    const merits = cells.map((cell) => cell?.merit ?? null);
    const known = merits.filter((merit) => merit !== null);
    const top = known.length > 0 ? Math.max(...known) : null;
    const winners = merits.filter((merit) => merit !== null && merit === top).length;
    return [{ name, texts, best: winners === 1 ? merits.indexOf(top) : null }];
  });
}

function adopt(array: MicArray, kept: MicArray, name: string): void {
  const { technique, x, y, z, aimDeg, tiltDeg, mix } = structuredClone(kept);
  const change = changeArray(array.id, { technique, x, y, z, aimDeg, tiltDeg, mix });
  editSaying(`${name} adopted.`, change);
}

/** In which wishes of the brief the first is ahead of the second, the largest first. */
function aheadIn(
  weights: Wanted['weights'],
  first: Measured | undefined,
  second: Measured | undefined,
): string {
  if (!first || !second) return '';
  const { parts } = first.judgement;
  const gains = (Object.keys(PART_WORDS) as (keyof typeof PART_WORDS)[])
    .map((key) => ({
      name: PART_WORDS[key],
      points: weights[key] * (parts[key] - second.judgement.parts[key]),
    }))
    .filter(({ points }) => points > 0)
    .sort((a, b) => b.points - a.points)
    .slice(0, 2)
    .map(({ name }) => name);
  return gains.length > 0 ? `, most of it by ${gains.join(', then ')}` : '';
}

/** What is different between two of the entries, figure by figure. */
function Between({ list }: { list: readonly Measured[] }) {
  const [from, setFrom] = useState(0);
  const [to, setTo] = useState(1);
  const [first, second] = [list[from] ?? list[0], list[to] ?? list[1]];
  if (!first || !second) return null;
  const options = list.map(({ entry }, i) => ({ value: `${i}`, label: entry.name }));
  const changed = Object.entries(first.values).flatMap(([name, { text }]) => {
    const other = second.values[name]?.text ?? '—';
    return other === text ? [] : [{ name, text, other }];
  });
  return (
    <section aria-label="Between two" className="pt-5">
      <h3 className="text-[14px]">Between two of them</h3>
      <div className="grid max-w-xl grid-cols-2 gap-x-6">
        <ChoiceField
          label="From"
          value={`${list.indexOf(first)}`}
          options={options}
          onChange={(value) => setFrom(Number(value))}
        />
        <ChoiceField
          label="to"
          value={`${list.indexOf(second)}`}
          options={options}
          onChange={(value) => setTo(Number(value))}
        />
      </div>
      {changed.length === 0 ? (
        <p className="text-muted py-1">Nothing changes.</p>
      ) : (
        <ul className="py-1" aria-label="What changes">
          {changed.map(({ name, text, other }) => (
            <li key={name} className="py-0.5">
              <span className="text-muted">{name}:</span> {text} → <strong>{other}</strong>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The session as it would be rigged with one entry alone, for a sheet of its own. */
function alone(session: Session, { name, array }: Entry): Session {
  return {
    ...session,
    title: `${session.title}: ${name}`,
    arrays: [{ ...array, name, enabled: true }],
  };
}

/** Candidates side by side: only what differs, the winner by the intent and its margin. */
export function ComparePage({ array }: { array: MicArray }) {
  const session = useSession();
  const entries = useMemo<Entry[]>(
    () => [
      { kind: 'now', id: null, name: array.name, array },
      ...session.arrays
        .filter(({ id, role, enabled }) => id !== array.id && enabled && role === array.role)
        .map((other) => ({ kind: 'own' as const, id: other.id, name: other.name, array: other })),
      ...session.candidates.map(({ id, name, array: kept }) => ({
        kind: 'candidate' as const,
        id,
        name: `Candidate ${name}`,
        array: kept,
      })),
    ],
    [session.candidates, session.arrays, array],
  );
  const ask = useMemo(
    () => (entries.length < 2 ? null : { session, arrays: entries.map(({ array: kept }) => kept) }),
    [session, entries],
  );
  const judged = useTask('judge', ask);
  const { units } = session.settings;
  const players = session.sources.length;
  const list = useMemo(
    () =>
      (judged.busy ? null : judged.value)?.flatMap((judgement, index) => {
        const entry = entries[index];
        return entry ? [measured(units, entry, judgement, players)] : [];
      }) ?? null,
    [judged.busy, judged.value, entries, units, players],
  );
  const keep = (
    <button
      className="btn btn-sm"
      onClick={() => choiceStore.setState({ ghostId: keepCandidate(array) })}
    >
      Keep the present one as a candidate
    </button>
  );
  if (entries.length < 2) {
    return (
      <section aria-label="Candidates">
        <h2 className="pb-1 text-[16px]">Nothing to compare with yet</h2>
        <p className="text-muted pb-3">
          Keep the array as it is, change it, and both stand here side by side; the kept one also
          appears as rings on the image line. Other arrays of the same role stand here by
          themselves.
        </p>
        {keep}
      </section>
    );
  }
  if (judged.error !== null) return <p role="alert">The comparison stopped: {judged.error}</p>;
  if (list === null) {
    return (
      <p className="text-muted" role="status">
        Comparing … {Math.round(judged.progress * 100)} %
      </p>
    );
  }
  const ranked = [...list].sort((a, b) => byJudgement(a.judgement, b.judgement));
  const [first, second] = ranked;
  const margin = first && second ? first.judgement.score - second.judgement.score : 0;
  const byKit = first?.judgement.lacks === null && second?.judgement.lacks !== null;
  const rows = differences(list);
  const { weights } = wantedOf(session, session.sources.length);
  return (
    <section aria-labelledby="compare-heading">
      <div className="flex items-center gap-4 pb-3">
        <h2 id="compare-heading" className="text-[16px]">
          Candidates
        </h2>
        {keep}
      </div>
      <p className="pb-2" role="status" aria-label="Winner">
        {byKit
          ? `Only ${first.entry.name} can be built with the kit.`
          : margin < 0.5
            ? 'By the brief they are level.'
            : `By the brief ${first?.entry.name} is ahead by ${formatNumber(margin, 0)} of 100${aheadIn(weights, first, second)}.`}{' '}
        <span className="text-muted">
          By the weights of the brief, as under Recommend; a broken image outweighs all, and what
          the kit cannot build comes last. Tolerance is shown, and not weighed.
        </span>
      </p>
      <table className="ledger-table" aria-label="Differences">
        <thead>
          <tr>
            <th>
              <span className="sr-only">Figure</span>
            </th>
            {list.map(({ entry }) => (
              <th key={entry.id ?? 'now'} className="min-w-40">
                {entry.name}
                {entry.kind === 'now' && <span className="text-muted font-normal"> (now)</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.length === 0 && (
            <tr>
              <td colSpan={list.length + 1}>Nothing differs.</td>
            </tr>
          )}
          {rows.map(({ name, texts, best }) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              {texts.map((text, i) => (
                <td key={i} className={i === best ? 'text-primary font-semibold' : ''}>
                  {text}
                  {i === best && <span className="sr-only"> (best)</span>}
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <th scope="row">do</th>
            {list.map(({ entry }) => (
              <td key={entry.id ?? 'now'}>
                <button
                  className="btn btn-xs mr-1 font-normal"
                  onClick={() => void exportSheet(alone(session, entry)).catch(notifyFailure)}
                >
                  Sheet<span className="sr-only"> of {entry.name}</span>
                </button>
                {entry.kind === 'own' && (
                  <button
                    className="btn btn-xs"
                    onClick={() => choiceStore.setState({ activeArrayId: entry.id })}
                  >
                    Work on it<span className="sr-only">: {entry.name}</span>
                  </button>
                )}
                {entry.kind === 'candidate' && (
                  <span className="inline-flex gap-1">
                    <button
                      className="btn btn-xs"
                      onClick={() => adopt(array, entry.array, entry.name)}
                    >
                      Adopt<span className="sr-only"> {entry.name}</span>
                    </button>
                    <button
                      className="btn btn-xs btn-ghost font-normal"
                      onClick={() => choiceStore.setState({ ghostId: entry.id })}
                    >
                      Show as rings
                    </button>
                    <button
                      className="btn btn-xs btn-ghost"
                      aria-label={`Drop ${entry.name}`}
                      onClick={() =>
                        edit((draft) => {
                          draft.candidates = draft.candidates.filter(({ id }) => id !== entry.id);
                        })
                      }
                    >
                      ×
                    </button>
                  </span>
                )}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <Between list={list} />
    </section>
  );
}
