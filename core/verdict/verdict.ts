import type { OctaveDecay } from '../audio/measure/decay';
import type { Session } from '../session/schema';
import { mean } from 'd3-array';
import { formatNumber } from '../units/format';
import { causesOf, type Causes } from './causes';
import { figuresOf, isOfRoom, roomFigures, type Figure } from './figures';
import type { MeasuredAt } from './measured';
import type { Stand } from './stand';

/** What a take says of its plan. */
export interface TakeVerdict {
  /** the whole of it in one sentence */
  sentence: string;
  /** why it can be so, and what would tell; empty where nothing departs */
  why: string;
  causes: Causes;
  /** of places, images first, then of the room */
  figures: Figure[];
}

/** So many places are named, those that are farthest off first. */
const NAMED = 3;
/** From fewer places an array that is turned, moved or louder on one side can look as planned. */
const ENOUGH_PLACES = 3;
/** Squares of a deviation a figure that no single explanation leaves. */
const STRANGE = 6;
/** The room by the octaves that are heard most, Hz. */
const MIDDLE_HZ = ['500 Hz', '1000 Hz'];

const off = ({ planned, measured }: Figure): number => measured - planned;

function standWords(
  session: Session,
  stand: Stand,
  causes: Causes,
  figures: readonly Figure[],
): string {
  const [first] = stand.channels;
  const name = session.arrays.find(({ id }) => id === first?.arrayId)?.name ?? 'The array';
  if (causes.left > STRANGE * Math.max(1, causes.measured)) {
    return 'No single thing explains this take: is it of this plan, and in this order?';
  }
  const [one, other] = causes.found;
  const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
  if (one && other) return `Not as planned: either ${one.words}, or ${other.words}`;
  if (one) return `Not as planned: ${one.words}`;
  const told = figures.filter(({ agreement }) => agreement !== 'cannot be told');
  if (told.length === 0) return `Whether ${name} stands as planned cannot be told from this take`;
  const departs = figures.some(
    (figure) => figure.agreement === 'departs' && !figure.usual && !isOfRoom(figure),
  );
  return departs
    ? `${capital(name)} stands nearly as planned, and not all of it is usual`
    : stand.places.length < ENOUGH_PLACES
      ? `Nothing departs, and from so few places little of how ${name} stands can be told`
      : `${capital(name)} stands as planned`;
}

function imageWords(figures: readonly Figure[]): string[] {
  return figures
    .filter(({ what, agreement }) => what === 'image' && agreement === 'departs')
    .sort((a, b) => Math.abs(off(b)) - Math.abs(off(a)))
    .slice(0, NAMED)
    .map((figure) => {
      const pct = 100 * off(figure);
      return `${figure.placeName} is ${formatNumber(Math.abs(pct), 0)} % further ${pct > 0 ? 'right' : 'left'}`;
    });
}

function roomWords(figures: readonly Figure[]): string[] {
  const middle = figures.filter(({ what, of }) => what === 'decay' && MIDDLE_HZ.includes(of));
  if (!middle.some(({ agreement }) => agreement === 'departs')) return [];
  const longer = mean(middle, off) ?? 0;
  return [
    `the room is ${formatNumber(Math.abs(longer), 1)} s ${longer > 0 ? 'longer' : 'shorter'}`,
  ];
}

function headroomWords(figures: readonly Figure[]): string[] {
  const [least] = figures
    .filter(({ what, agreement }) => what === 'headroom' && agreement === 'departs')
    .sort((a, b) => a.measured - b.measured);
  if (!least) return [];
  const [left, wanted] = [
    formatNumber(Math.abs(least.measured), 1),
    formatNumber(least.planned, 0),
  ];
  return [
    least.measured < 0
      ? `${least.of} goes ${left} dB over full scale, planned was ${wanted} dB below it`
      : `${least.of} has ${left} dB of headroom left, planned were ${wanted} dB`,
  ];
}

function whyWords({ found, wouldTell }: Causes, figures: readonly Figure[]): string {
  if (found.length === 0) {
    const departs = figures.filter((figure) => figure.agreement === 'departs' && !isOfRoom(figure));
    if (departs.length === 0) return '';
    return departs.every(({ usual }) => usual)
      ? 'What departs is no more than is usual of a rig set by tape.'
      : 'No single thing explains it better than many small ones: look at the figures.';
  }
  if (found.length === 1) return '';
  return wouldTell === ''
    ? 'This take does not tell which.'
    : `This take does not tell which; ${wouldTell}.`;
}

/**
 * The verdict of a take on its plan.
 * @param planned the rig and the places as they were planned, As built where it is known
 * @param measured by place, in the order of the stand's places
 * @param decays by channel; empty where none were heard
 * @param room other figures of the room
 */
export function verdictOf(
  session: Session,
  planned: Stand,
  measured: readonly MeasuredAt[],
  decays: readonly (readonly OctaveDecay[])[] = [],
  room: readonly Figure[] = [],
): TakeVerdict {
  const causes = causesOf(session, planned, measured);
  const figures = [
    ...figuresOf(session, planned, measured),
    ...roomFigures(session, decays),
    ...room,
  ];
  const parts = [
    standWords(session, planned, causes, figures),
    ...imageWords(figures),
    ...roomWords(figures),
    ...headroomWords(figures),
  ];
  const text = parts.join('; ');
  return {
    sentence: /[.?]$/.test(text) ? text : `${text}.`,
    why: whyWords(causes, figures),
    causes,
    figures,
  };
}
