import type { MicArray, Session } from '../session/schema';
import { formatNumber } from '../units/format';
import { angleText, lengthText, type UnitSystem } from '../units';
import { fitted, promises, squares, type Fit, type Freedom } from './fit';
import { hot, late, open, seat, shift, spread, turn, warmth } from './freedoms';
import type { MeasuredAt } from './measured';
import { cuesAt, type Stand } from './stand';
import { usualFreedoms } from './usual';

/** What can be wrong with a rig. */
export type CauseKind =
  | 'turned'
  | 'moved'
  | 'wider'
  | 'angle'
  | 'hot'
  | 'swapped'
  | 'inverted'
  | 'late'
  | 'seat'
  | 'temperature';

/** One thing that would explain what was measured. */
export interface Cause {
  kind: CauseKind;
  /** "the Main pair is turned by 4° to the right" */
  words: string;
  /** the array it is about; empty where it is about none */
  arrayId: string;
  /** who was alone, where it is about a place; empty otherwise */
  placeId: string;
  /** channel of the recording, where it is about one; null otherwise */
  channel: number | null;
  /** by how much, in the units of its kind (degrees, m, dB, ms, °C), with a standard deviation */
  values: number[];
  within: number[];
  /** how much better it explains what was measured than the plan does, in squares of a deviation */
  better: number;
}

/** Why a take is as it is. */
export interface Causes {
  /** none: as planned; one: named; two: either */
  found: Cause[];
  /** what would tell two apart; empty where there are not two, or nothing easy would */
  wouldTell: string;
  /** squares of deviations that the plan leaves, with all that is usual of a rig set by tape */
  leaves: number;
  /** and what the best explanation leaves */
  left: number;
  /** how many figures were measured */
  measured: number;
}

/** A cause must explain so much, and of each further number half of it, before it is better than the plan; worth naming; as good as another. */
const [COSTS, WORTH, AS_GOOD] = [4, 5, 6];

/** What is wrong can be as large as this without costing much: degrees, m, dB, ms, °C. */
const ANY = { deg: 60, m: 3, db: 30, ms: 200, c: 30 } as const;

interface Hypothesis {
  kind: CauseKind;
  arrayId?: string;
  placeId?: string;
  channel?: number;
  freedoms?: Freedom[];
  alter?: (stand: Stand) => Stand;
  words: (values: readonly number[], units: UnitSystem) => string;
}

const side = (value: number): string => (value > 0 ? 'to the right' : 'to the left');
const metres = (m: number, units: UnitSystem): string => lengthText(Math.abs(m), units);

function movedWords([x = 0, y = 0]: readonly number[], units: UnitSystem): string {
  const parts = [
    ...(Math.abs(x) < 0.01 ? [] : [`${metres(x, units)} ${side(x)}`]),
    ...(Math.abs(y) < 0.01 ? [] : [`${metres(y, units)} ${y > 0 ? 'upstage' : 'downstage'}`]),
  ];
  return parts.join(' and ') || 'by nothing';
}

function ofArray(array: MicArray, stand: Stand): Hypothesis[] {
  const { id: arrayId, name, technique } = array;
  const its = stand.channels.flatMap((one, i) => (one.arrayId === arrayId ? [i] : []));
  const about = { arrayId };
  const [one, other] = its;
  const found: Hypothesis[] = [
    {
      ...about,
      kind: 'turned',
      freedoms: [turn(arrayId, ANY.deg)],
      words: ([deg = 0]) => `${name} is turned by ${angleText(Math.abs(deg))} ${side(deg)}`,
    },
    {
      ...about,
      kind: 'moved',
      freedoms: [shift(arrayId, 'x', ANY.m), shift(arrayId, 'y', ANY.m)],
      words: (values, units) => `${name} stands ${movedWords(values, units)} of the plan`,
    },
  ];
  if (technique.kind === 'pair') {
    found.push(
      {
        ...about,
        kind: 'wider',
        freedoms: [spread(arrayId, ANY.m)],
        words: ([m = 0], units) =>
          `the capsules of ${name} are ${lengthText(Math.abs(m), units, 'bar')} ${m > 0 ? 'farther apart' : 'closer together'}`,
      },
      {
        ...about,
        kind: 'angle',
        freedoms: [open(arrayId, ANY.deg)],
        words: ([deg = 0]) =>
          `the capsules of ${name} are turned ${angleText(Math.abs(deg))} ${deg > 0 ? 'farther apart' : 'closer together'}`,
      },
    );
  }
  if (one === undefined || other === undefined) return found;
  for (const i of its.slice(1)) {
    const { name: called = '', channel = 0 } = stand.channels[i] ?? {};
    found.push({
      ...about,
      channel,
      kind: 'hot',
      freedoms: [hot([i], ANY.db)],
      words: ([db = 0]) =>
        `${called} is ${formatNumber(Math.abs(db), 1)} dB too ${db > 0 ? 'loud' : 'soft'}`,
    });
  }
  if (its.length === 2) {
    const swap = { [one]: other, [other]: one };
    found.push({
      ...about,
      kind: 'swapped',
      alter: (so) => ({ ...so, hears: so.hears.map((now, i) => swap[i] ?? now) }),
      words: () => `left and right of ${name} are swapped`,
    });
  }
  return found;
}

function hypotheses(stand: Stand): Hypothesis[] {
  const heard = new Set(stand.channels.map(({ arrayId }) => arrayId));
  const arrays = stand.arrays.filter(({ id }) => heard.has(id));
  const ofChannels = stand.channels.flatMap(({ name, channel, arrayId }, i): Hypothesis[] => {
    // Of two channels, the one that is early is the other late.
    if (i === 0 && stand.channels.length === 2) return [];
    return [
      {
        kind: 'late',
        channel,
        arrayId,
        freedoms: [late(i, ANY.ms)],
        words: ([ms = 0]) =>
          `${name} is ${formatNumber(Math.abs(ms), 2)} ms ${ms > 0 ? 'late' : 'early'}`,
      },
      {
        kind: 'inverted',
        channel,
        arrayId,
        alter: (so) => ({ ...so, inverted: so.inverted.map((now, k) => (k === i ? !now : now)) }),
        words: () => `the polarity of ${name} is turned over`,
      },
    ];
  });
  const ofPlaces = stand.places.map(({ id, name }, place): Hypothesis => ({
    kind: 'seat',
    placeId: id,
    freedoms: [seat(place, 'x', ANY.m), seat(place, 'y', ANY.m)],
    words: (values, units) => `${name} sits ${movedWords(values, units)} of the plan`,
  }));
  return [
    ...arrays.flatMap((array) => ofArray(array, stand)),
    ...ofChannels,
    ...(stand.places.length > 2 ? ofPlaces : []),
    {
      kind: 'temperature',
      freedoms: [warmth(ANY.c)],
      words: ([deg = 0]) =>
        `the air is ${formatNumber(Math.abs(deg), 0)} °C ${deg > 0 ? 'warmer' : 'colder'}`,
    },
  ];
}

/** Claps that are easily made: named, and where they are as the array looks, m. */
const CLAPS = [
  ['in the middle, 1.5 m in front', 0, 1.5],
  ['4 m away at 45° to the left', -2.83, 2.83],
  ['4 m away at 45° to the right', 2.83, 2.83],
  ['3 m behind', 0, -3],
] as const;
/** Of a clap, deviations; and what is worth clapping for, squares of them. */
const [CLAP_MS, CLAP_DB, TELLS] = [0.004, 0.3, 16];

/** The clap that would tell two explanations apart best; empty where none does. */
function tellingClap(one: Fit, other: Fit): string {
  const [first] = one.stand.channels;
  const array = one.stand.arrays.find(({ id }) => id === first?.arrayId);
  if (!array) return '';
  const aim = (array.aimDeg * Math.PI) / 180;
  const tried = CLAPS.map(([name, right, ahead]) => {
    const place = {
      id: '',
      name,
      x: array.x + right * Math.cos(aim) + ahead * Math.sin(aim),
      y: array.y + ahead * Math.cos(aim) - right * Math.sin(aim),
      z: 1.2,
      taped: true,
    };
    const [a, b] = [cuesAt(one.stand, place), cuesAt(other.stand, place)];
    const apart = a.reduce((sum, cue, k) => {
      const there = b[k];
      if (!cue || !there) return sum;
      const level = Math.abs(cue.levelDb) < 20 ? (cue.levelDb - there.levelDb) / CLAP_DB : 0;
      return sum + ((cue.delayMs - there.delayMs) / CLAP_MS) ** 2 + level ** 2;
    }, 0);
    return { name, apart };
  });
  const [best] = tried.sort((a, b) => b.apart - a.apart);
  return best && best.apart > TELLS ? `a clap ${best.name} would tell` : '';
}

/** What delays a channel delays it by more than this, ms. */
const LEAST_LATE_MS = 0.1;
/** So many explanations are looked at closely. */
const CLOSELY = 8;

/** The explanations that could be worth it: those that promise most, and what is crossed or turned over. */
function promising(
  planned: Stand,
  measured: readonly MeasuredAt[],
  usual: readonly Freedom[],
): Hypothesis[] {
  const all = hypotheses(planned);
  const asItIs = squares(planned, measured, [], []);
  const crossed = all.filter(
    ({ alter }) => alter && squares(alter(planned), measured, [], []) < asItIs,
  );
  const smooth = all.filter(({ freedoms }) => freedoms !== undefined);
  const gains = promises(
    planned,
    measured,
    usual,
    smooth.map(({ freedoms = [] }) => freedoms),
  );
  const ranked = smooth
    .map((one, i) => ({ one, gain: gains[i] ?? 0 }))
    .sort((a, b) => b.gain - a.gain)
    .slice(0, CLOSELY);
  return [...crossed, ...ranked.map(({ one }) => one)];
}

/**
 * Why a take is as it is: the one thing, or the two, that explain it much better than a rig that stands
 * as planned within what is usual of tape, chairs and gains.
 * @param measured by place, in the order of the stand's places
 */
export function causesOf(
  session: Session,
  planned: Stand,
  measured: readonly MeasuredAt[],
): Causes {
  const usual = usualFreedoms(session, planned);
  const plan = fitted(planned, measured, usual);
  const { units } = session.settings;
  const tried = promising(planned, measured, usual).map((one) => {
    const { freedoms = [], alter } = one;
    const all = [...freedoms, ...usual];
    const fit = fitted(alter ? alter(planned) : planned, measured, all, freedoms.length);
    const costs = COSTS * (1 + Math.max(0, freedoms.length - 1) / 2);
    const values = fit.values.slice(0, freedoms.length);
    const cause: Cause = {
      kind: one.kind,
      words: one.words(values, units),
      arrayId: one.arrayId ?? '',
      placeId: one.placeId ?? '',
      channel: one.channel ?? null,
      values,
      within: fit.within,
      better: plan.chi2 - fit.chi2 - costs,
    };
    return { cause, fit };
  });
  const likely = tried
    .filter(({ cause }) => cause.kind !== 'late' || Math.abs(cause.values[0] ?? 0) >= LEAST_LATE_MS)
    .sort((a, b) => b.cause.better - a.cause.better);
  const [best] = likely;
  const worth = best && best.cause.better >= WORTH;
  const found = worth
    ? likely.filter(({ cause }) => cause.better >= Math.max(WORTH, best.cause.better - AS_GOOD))
    : [];
  const [first, second] = found;
  return {
    found: found.slice(0, 2).map(({ cause }) => cause),
    wouldTell: first && second ? tellingClap(first.fit, second.fit) : '',
    leaves: plan.chi2,
    left: first ? first.fit.chi2 : plan.chi2,
    measured: measured.reduce(
      (sum, at) =>
        sum + at.reduce((all, cue) => all + (cue ? (cue.levelWithinDb === null ? 1 : 2) : 0), 0),
      0,
    ),
  };
}
