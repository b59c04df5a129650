import { capsulesInFrame } from '../../../arrays/capsules';
import { stripsOf, usualPans, type ChannelStrip } from '../../../arrays/routing';
import type { MicArray, Session } from '../../../session/schema';
import { toDeg, wrapDeg } from '../../../units/guard';
import { formatNumber, formatSigned, lengthText } from '../../../units/format';
import { roomOf } from '../../../hall';
import { isInside } from '../../../acoustics/reflections';
import { looksSteeply } from '../../../localisation/prepared-array';
import { agreement, middleOfPlayers, offAim, type Standing } from './picture';

/** What is wrong with an array as a whole, each with its undoing. */

export type CauseCode =
  | 'pan-contradicts'
  | 'channel-polarity'
  | 'channel-level'
  | 'channel-late'
  | 'side-lobe'
  | 'faces-away'
  | 'aimed-past'
  | 'stands-behind';

/** One thing that is not as usual, and the array without it. */
export interface Undo {
  code: CauseCode;
  /** what is so, after the array's name: "the right channel is inverted" */
  words: string;
  /** the action that undoes it */
  label: string;
  set: Partial<MicArray>;
}

type Strips = readonly ChannelStrip[];

const withStrips = ({ mix }: MicArray, capsules: Strips): Partial<MicArray> => ({
  mix: { ...mix, capsules: capsules.map((strip) => ({ ...strip })) },
});

/** What a capsule's channel is called: "the left channel", "S", "C". */
function channelName(array: MicArray, index: number): string {
  const { technique } = array;
  if (technique.kind === 'pair') return index === 0 ? 'the left channel' : 'the right channel';
  if (technique.kind === 'mid-side') return index === 0 ? 'M' : 'S';
  const label = capsulesInFrame(technique)[index]?.label;
  return label ? label : `channel ${index + 1}`;
}

function channelNames(array: MicArray, indexes: readonly number[], count: number): string {
  if (indexes.length === count) return count === 2 ? 'both channels' : 'all channels';
  const names = indexes.map((index) => channelName(array, index));
  return names.length < 2
    ? names.join('')
    : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1] ?? ''}`;
}

const indexesWhere = (strips: Strips, test: (strip: ChannelStrip) => boolean): number[] =>
  strips.flatMap((strip, i) => (test(strip) ? [i] : []));

function polarity(array: MicArray, strips: Strips): Undo[] {
  const inverted = indexesWhere(strips, (strip) => strip.polarity === -1);
  if (inverted.length === 0) return [];
  const names = channelNames(array, inverted, strips.length);
  const plain = strips.map((strip) => ({ ...strip, polarity: 1 as const }));
  return [
    {
      code: 'channel-polarity',
      words: `${strips.length === 1 ? 'its channel' : names} ${inverted.length === 1 ? 'is' : 'are'} inverted`,
      label: inverted.length === 1 ? 'Set its polarity to normal' : 'Set the polarities to normal',
      set: withStrips(array, plain),
    },
  ];
}

/** Off by less than this a pan is a matter of taste. */
const PAN_OFF = 0.05;

function pansWords(strips: Strips, usual: readonly number[]): string {
  const pans = strips.map(({ pan }) => pan);
  const [least, most] = [Math.min(...pans), Math.max(...pans)];
  if (most - least < PAN_OFF) {
    const [pan = 0] = pans;
    if (Math.abs(pan) < PAN_OFF) return 'all its channels are panned to the middle';
    return `all its channels are panned ${pan < 0 ? 'left' : 'right'}`;
  }
  if (most <= 0 || least >= 0)
    return `its channels are all panned to the ${most <= 0 ? 'left' : 'right'}`;
  const sense = pans.reduce((total, pan, i) => total + pan * (usual[i] ?? 0), 0);
  return sense < 0 ? 'its left and right are panned to the other side' : 'its pans are mixed up';
}

function pans(array: MicArray, strips: Strips, turn: 1 | -1): Undo[] {
  if (array.technique.kind === 'mid-side' || strips.length < 2) return [];
  const wanted = usualPans(array.technique).map((pan) => pan * turn);
  if (strips.every(({ pan }, i) => Math.abs(pan - (wanted[i] ?? 0)) < PAN_OFF)) return [];
  const panned = strips.map((strip, i) => ({ ...strip, pan: wanted[i] ?? 0 }));
  const swapped = strips.every(({ pan }, i) => Math.abs(pan + (wanted[i] ?? 0)) < PAN_OFF);
  return [
    {
      code: 'pan-contradicts',
      words: pansWords(strips, wanted),
      label: swapped ? 'Swap the pans' : 'Pan each to its own side',
      set: withStrips(array, panned),
    },
  ];
}

/** Channels of one array further apart than this are not a matter of balance, dB. */
const LEVELS_APART_DB = 10;

function levels(array: MicArray, strips: Strips): Undo[] {
  const gains = strips.map(({ gainDb }) => gainDb);
  const [least, most] = [Math.min(...gains), Math.max(...gains)];
  if (strips.length < 2 || most - least < LEVELS_APART_DB) return [];
  // What most of them have, or of two the one nearer to 0 dB, is as it was meant.
  const counts = gains.map((gain) => gains.filter((other) => Math.abs(other - gain) < 1).length);
  const [usual = 0] = [...gains].sort(
    (a, b) =>
      (counts[gains.indexOf(b)] ?? 0) - (counts[gains.indexOf(a)] ?? 0) ||
      Math.abs(a) - Math.abs(b),
  );
  const odd = indexesWhere(strips, ({ gainDb }) => Math.abs(gainDb - usual) >= LEVELS_APART_DB);
  const [first = 0] = odd;
  const off = (gains[first] ?? 0) - usual;
  return [
    {
      code: 'channel-level',
      words: `${channelNames(array, odd, strips.length)} ${odd.length === 1 ? 'stands' : 'stand'} ${formatNumber(Math.abs(off), 0)} dB ${off < 0 ? 'below' : 'above'} the rest`,
      label: `Set ${odd.length === 1 ? 'it' : 'them'} to ${formatNumber(usual, 1)} dB`,
      set: withStrips(
        array,
        strips.map((strip, i) => (odd.includes(i) ? { ...strip, gainDb: usual } : strip)),
      ),
    },
  ];
}

/** Channels of one array further apart than this in time are not one picture, ms. */
const LATE_MS = 0.05;

function late(array: MicArray, strips: Strips): Undo[] {
  const delays = strips.map(({ delayMs }) => delayMs);
  const [least, most] = [Math.min(...delays), Math.max(...delays)];
  if (strips.length < 2 || most - least < LATE_MS) return [];
  const counts = delays.map(
    (ms) => delays.filter((other) => Math.abs(other - ms) < LATE_MS).length,
  );
  const [usual = 0] = [...delays].sort(
    (a, b) => (counts[delays.indexOf(b)] ?? 0) - (counts[delays.indexOf(a)] ?? 0) || a - b,
  );
  const odd = indexesWhere(strips, ({ delayMs }) => Math.abs(delayMs - usual) >= LATE_MS);
  const [first = 0] = odd;
  const off = (delays[first] ?? 0) - usual;
  return [
    {
      code: 'channel-late',
      words: `${channelNames(array, odd, strips.length)} ${odd.length === 1 ? 'is' : 'are'} ${formatNumber(Math.abs(off), 2)} ms ${off > 0 ? 'late' : 'early'} against the rest`,
      label: `Set ${odd.length === 1 ? 'its delay' : 'their delays'} to ${formatNumber(usual, 2)} ms`,
      set: withStrips(
        array,
        strips.map((strip, i) => (odd.includes(i) ? { ...strip, delayMs: usual } : strip)),
      ),
    },
  ];
}

function lobe(array: MicArray, turn: 1 | -1): Undo[] {
  const { technique } = array;
  if (technique.kind !== 'mid-side') return [];
  const wanted = turn > 0 ? ('left' as const) : ('right' as const);
  if (technique.sidePositive === wanted) return [];
  return [
    {
      code: 'side-lobe',
      words: `the positive lobe of its side faces ${technique.sidePositive}`,
      label: `Turn the lobe to the ${wanted}`,
      set: { technique: { ...technique, sidePositive: wanted } },
    },
  ];
}

/** Farther than this off the aim its players are not what an array looks at, degrees. */
const PAST_DEG = 35;
/** … and from here on it turns its back to them. */
const BACK_DEG = 120;

const sideWord = (deg: number): string => (deg < 0 ? 'left' : 'right');

function aim(array: MicArray, standing: Standing): Undo[] {
  if (looksSteeply(array)) {
    if (agreement(array, standing) > 0.5) return [];
    const { right } = standing;
    const aimDeg = Math.round(wrapDeg(toDeg(Math.atan2(-right.y, right.x)))) || 0;
    return [
      {
        code: 'aimed-past',
        words: `hanging as it does, its left and right are turned by ${formatNumber(Math.abs(wrapDeg(aimDeg - array.aimDeg)), 0)}° against theirs`,
        label: `Turn it to ${formatSigned(aimDeg, 0)}°`,
        set: { aimDeg },
      },
    ];
  }
  const off = offAim(array, standing);
  if (off === null || Math.abs(off) < PAST_DEG) return [];
  const aimDeg = Math.round(wrapDeg(array.aimDeg + off)) || 0;
  const back = Math.abs(off) > BACK_DEG;
  return [
    {
      code: back ? 'faces-away' : 'aimed-past',
      words: back
        ? 'it turns its back to the players it is for'
        : `it is aimed past the players it is for, who are ${formatNumber(Math.abs(off), 0)}° to its ${sideWord(off)}`,
      label: back ? 'Turn it round' : `Aim it at them: ${formatSigned(aimDeg, 0)}°`,
      set: { aimDeg },
    },
  ];
}

/** A microphone for the hall is customarily turned to it: then its channels change sides. */
function swapFor(array: MicArray, strips: Strips, standing: Standing): Undo[] {
  const off = offAim(array, standing);
  if (off === null || Math.abs(off) < 90) return [];
  const words = 'it faces the hall, so its left hears their right';
  const { technique } = array;
  if (technique.kind === 'mid-side') {
    const sidePositive = technique.sidePositive === 'left' ? ('right' as const) : ('left' as const);
    const set = { technique: { ...technique, sidePositive } };
    return [{ code: 'faces-away', words, label: 'Swap its left and right', set }];
  }
  const swapped = strips.map((strip) => ({ ...strip, pan: strip.pan === 0 ? 0 : -strip.pan }));
  return [
    {
      code: 'faces-away',
      words,
      label: 'Swap its left and right',
      set: withStrips(array, swapped),
    },
  ];
}

function place(session: Session, array: MicArray, { players, behind }: Standing): Undo[] {
  if (!behind) return [];
  const middle = middleOfPlayers(players);
  const there = {
    x: Math.round((2 * middle.x - array.x) * 1000) / 1000,
    y: Math.round((2 * middle.y - array.y) * 1000) / 1000,
  };
  const room = roomOf(session);
  if (room && !isInside(room, { ...there, z: array.z })) return [];
  const aimDeg = Math.round(toDeg(Math.atan2(middle.x - there.x, middle.y - there.y))) || 0;
  const farM = Math.hypot(middle.x - there.x, middle.y - there.y);
  return [
    {
      code: 'stands-behind',
      words: 'it stands behind the players it is for, their left on its right',
      label: `Stand it before them, ${lengthText(farM, session.settings.units)} from their middle`,
      set: { ...there, aimDeg },
    },
  ];
}

/** Everything about an array that is not as usual, each with its undoing, the simplest first. */
export function undoingsOf(session: Session, array: MicArray, standing: Standing): Undo[] {
  const strips = stripsOf(array.technique, array.mix.capsules);
  const turn = session.settings.perspective === 'audience' ? 1 : -1;
  const forHall = array.role === 'ambience' || array.role === 'surround';
  return [
    ...polarity(array, strips),
    ...lobe(array, turn),
    ...pans(array, strips, turn),
    ...late(array, strips),
    ...levels(array, strips),
    ...(forHall ? swapFor(array, strips, standing) : aim(array, standing)),
    ...(forHall ? [] : place(session, array, standing)),
  ];
}
