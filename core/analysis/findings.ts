import { techniqueName } from '../arrays';
import type { MicArray, Session } from '../session';
import type { ArrayFigures } from './array-figures';
import type { SourceFigures } from './source-figures';

export type Severity = 'fault' | 'caution' | 'note';

/** Something the plan should be told: what, how much, and what to do. */
export interface Finding {
  code: string;
  severity: Severity;
  message: string;
  arrayId: string;
  sourceIds: string[];
  /** the figures behind it */
  figures: Record<string, number | null>;
}

const nameOf = (session: Session, id: string): string =>
  session.sources.find((source) => source.id === id)?.name ?? id;

function namesOf(session: Session, figures: readonly SourceFigures[]): string {
  const names = figures.map(({ id }) => nameOf(session, id));
  return names.length <= 3
    ? names.join(', ')
    : `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;
}

interface About {
  session: Session;
  array: MicArray;
  figures: ArrayFigures;
}

function finding(
  { array }: About,
  code: string,
  severity: Severity,
  message: string,
  sources: readonly SourceFigures[],
  figures: Finding['figures'],
): Finding {
  const sourceIds = sources.map(({ id }) => id);
  return { code, severity, message, arrayId: array.id, sourceIds, figures };
}

/** Both capsules hear the same: one point, one direction. */
function sameSignal(about: About): Finding[] {
  const { array } = about;
  if (techniqueName(array.technique) === 'custom' || array.technique.kind !== 'pair') return [];
  const { spacingM, includedAngleDeg } = array.technique;
  if (spacingM > 0 || includedAngleDeg % 360 !== 0) return [];
  const message = `${array.name}: both capsules at one point and one direction, so both channels are the same. Give a spacing or an included angle above 0.`;
  return [finding(about, 'same-signal', 'fault', message, [], { spacingM, includedAngleDeg })];
}

function atCapsule(about: About): Finding[] {
  const at = about.figures.sources.filter((source) => source.atCapsule);
  if (at.length === 0) return [];
  const message = `${namesOf(about.session, at)}: within 1 cm of a capsule of ${about.array.name}. Move the player or the array.`;
  return [finding(about, 'at-capsule', 'fault', message, at, { nearestAllowedM: 0.01 })];
}

function antiphase(about: About): Finding[] {
  const out = about.figures.sources.filter((source) => source.antiphase);
  if (out.length === 0) return [];
  const message = `${namesOf(about.session, out)}: the channels of ${about.array.name} are in antiphase, so there is no stable image and mono loses level. Move in, or take another angle.`;
  return [finding(about, 'antiphase', 'fault', message, out, { players: out.length })];
}

function mirrored(about: About): Finding[] {
  const { array } = about;
  const out = about.figures.sources.filter((source) => source.mirrored);
  if (out.length === 0) return [];
  const lobe = array.technique.kind === 'mid-side' && array.technique.sidePositive === 'right';
  const cause = lobe
    ? 'the side’s positive lobe faces right, so left and right are swapped. Turn it to the left, or swap the channels.'
    : 'behind the array the picture is stable but turned left for right. Move them to the front.';
  const message = `${namesOf(about.session, out)}: ${cause}`;
  return [finding(about, 'mirrored', 'fault', message, out, { players: out.length })];
}

/** Players beyond the angle at which the image arrives at the loudspeaker. */
function outside(about: About): Finding[] {
  const { session, array, figures } = about;
  const school = session.settings.school;
  const half = (figures.inPlace ?? figures.farField)[school]?.halfDeg ?? null;
  if (half === null) return [];
  const out = figures.sources.filter((source) => {
    const shift = source.image?.[school]?.shift;
    return shift !== undefined && Math.abs(shift) >= 0.999 && Math.abs(source.azimuthDeg) > half;
  });
  const furthest = Math.max(...out.map(({ azimuthDeg }) => Math.abs(azimuthDeg)));
  if (out.length === 0) return [];
  const message = `${namesOf(session, out)}: outside the recording angle of ${array.name} by ${(furthest - half).toFixed(1)}°, so crowded at the loudspeaker. Move in, or take a smaller angle or spacing.`;
  return [
    finding(about, 'outside-recording-angle', 'caution', message, out, {
      halfDeg: half,
      furthestDeg: furthest,
      overDeg: furthest - half,
    }),
  ];
}

const RULES = [sameSignal, atCapsule, antiphase, mirrored, outside];

/** All findings of one array, worst first. */
export function findingsOf(session: Session, array: MicArray, figures: ArrayFigures): Finding[] {
  const about = { session, array, figures };
  const order: Severity[] = ['fault', 'caution', 'note'];
  return RULES.flatMap((rule) => rule(about)).sort(
    (a, b) => order.indexOf(a.severity) - order.indexOf(b.severity),
  );
}
