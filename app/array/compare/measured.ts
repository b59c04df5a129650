import { techniqueName } from '../../../core/arrays';
import type { Judgement } from '../../../core/analysis';
import type { MicArray } from '../../../core/session';
import {
  angleText,
  formatNumber,
  formatSigned,
  lengthText,
  type UnitSystem,
} from '../../../core/units';
import { TECHNIQUE_WORDS, techniqueFigures, patternWords } from '../../parts/technique-text';

export interface Entry {
  /** the array that is worked on, another of its role, or one that was kept */
  kind: 'now' | 'own' | 'candidate';
  id: string | null;
  /** "Main pair", "Candidate A" */
  name: string;
  /** of a whole set-up the one that leads */
  array: MicArray;
  /** all arrays of a whole set-up; empty where it is one array */
  setUp: readonly MicArray[];
}

interface Row {
  name: string;
  /** text for each entry */
  texts: string[];
  /** index of the best by the intent, null where none is better */
  best: number | null;
}

export interface Measured {
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

export function measured(
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
export function differences(list: readonly Measured[]): Row[] {
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
