import type { AsBuilt, Session } from '../session/schema';
import { BOUNDS } from '../session/bounds';
import { angleText, formatNumber, lengthText } from '../units/format';
import { clamp } from '../units/numbers';
import type { BarPhoto, PhotoBar } from './bar';
import type { Pixel } from './camera';

/** A picture of a bar as a session keeps it. */
export type Photograph = Session['rig']['photographs'][number];
export type MarkName = Photograph['marks'][number]['name'];

const CORNERS: readonly MarkName[] = ['corner 1', 'corner 2', 'corner 3', 'corner 4'];
const ENDS: readonly MarkName[] = ['end 1', 'end 2'];
const BODIES: readonly MarkName[] = ['left capsule', 'left rear', 'right capsule', 'right rear'];
const CAPSULES: readonly MarkName[] = ['left capsule', 'right capsule'];

/** What is to be marked on a picture, in order. */
export const wantedMarks = ({ scale, view }: Pick<Photograph, 'scale' | 'view'>): MarkName[] => [
  ...(scale === 'sheet' ? CORNERS : ENDS),
  ...(view === 'above' ? BODIES : CAPSULES),
];

/** What a mark is of, in words. */
export function markWords(name: MarkName, view: Photograph['view']): string {
  switch (name) {
    case 'left capsule':
      return 'left microphone, capsule';
    case 'right capsule':
      return 'right microphone, capsule';
    case 'left rear':
      return 'left microphone, end of its body';
    case 'right rear':
      return 'right microphone, end of its body';
    case 'end 1':
      return view === 'front' ? 'known length, left end' : 'known length, one end';
    case 'end 2':
      return view === 'front' ? 'known length, right end' : 'known length, other end';
    default:
      return `sheet, ${name}`;
  }
}

/** The marked picture as it is worked out. @returns null where a mark is missing */
export function photoOf(entry: Photograph): BarPhoto | null {
  const at = new Map(entry.marks.map(({ name, u, v }): [MarkName, Pixel] => [name, { u, v }]));
  const list = (names: readonly MarkName[]): Pixel[] => names.flatMap((name) => at.get(name) ?? []);
  const [left, right] = [at.get('left capsule'), at.get('right capsule')];
  if (list(wantedMarks(entry)).length < wantedMarks(entry).length || !left || !right) return null;
  const [end1, end2] = list(ENDS);
  const { view, widthPx, heightPx, tiltDeg, heightWithinM } = entry;
  const rear = (name: MarkName): Pixel | null => (view === 'above' ? (at.get(name) ?? null) : null);
  return {
    ...{ view, widthPx, heightPx, tiltDeg, heightWithinM },
    scale:
      entry.scale === 'sheet' || !end1 || !end2
        ? {
            kind: 'sheet',
            corners: list(CORNERS),
            ...{ widthM: entry.sheetWidthM, heightM: entry.sheetHeightM },
          }
        : { kind: 'length', ends: [end1, end2], lengthM: entry.lengthM },
    left: { capsule: left, rear: rear('left rear'), heightM: entry.leftHeightM },
    right: { capsule: right, rear: rear('right rear'), heightM: entry.rightHeightM },
  };
}

/** "17.2 ± 0.2 cm apart, 108 ± 1.1° between them, both turned by 1.2 ± 0.9° to the right." */
export function photoSentence(
  { spacingM, includedAngleDeg, skewDeg, levelM }: PhotoBar,
  units: Session['settings']['units'],
): string {
  const length = (metres: number): string => lengthText(metres, units, 'bar');
  const parts = [`the capsules are ${length(spacingM.value)} ± ${length(spacingM.within)} apart`];
  if (includedAngleDeg) {
    const { value, within } = includedAngleDeg;
    parts.push(`${angleText(value)} ± ${formatNumber(within, 1)}° are between the bodies`);
  }
  if (skewDeg) {
    const { value, within } = skewDeg;
    parts.push(
      Math.abs(value) <= within
        ? `they are square to their line, to ± ${formatNumber(within, 1)}°`
        : `both are turned by ${formatNumber(Math.abs(value), 1)} ± ${formatNumber(within, 1)}° to the ${value > 0 ? 'right' : 'left'}`,
    );
  }
  if (levelM) {
    const { value, within } = levelM;
    parts.push(
      Math.abs(value) <= within
        ? `they are level, to ± ${length(within)}`
        : `the ${value > 0 ? 'right' : 'left'} one is ${length(Math.abs(value))} ± ${length(within)} higher`,
    );
  }
  const text = parts.join('; ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}

/** What a picture says, as it is noted As built. */
export function builtByPhoto(arrayId: string, bar: PhotoBar): AsBuilt[] {
  const one = (field: 'spacingM' | 'includedAngleDeg', value: number, digits: number): AsBuilt => {
    const { min, max } = BOUNDS[field];
    return { arrayId, field, value: Number(clamp(value, min, max).toFixed(digits)) };
  };
  const { spacingM, includedAngleDeg } = bar;
  return [
    one('spacingM', spacingM.value, 4),
    ...(includedAngleDeg ? [one('includedAngleDeg', includedAngleDeg.value, 1)] : []),
  ];
}
