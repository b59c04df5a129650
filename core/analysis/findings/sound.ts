import { mean } from 'd3-array';
import { clamp } from '../../units/numbers';
import { ROOM_DB } from '../criteria';
import { capsulesInFrame, microphoneName } from '../../arrays/capsules';
import { patternAOf } from '../../acoustics/patterns';
import { proximityBoostDb } from '../../acoustics/proximity';
import { placeWords } from '../../ensembles/surfaces';
import type { MicArray, Session } from '../../session/schema';
import { formatNumber, formatSigned, lengthText } from '../../units/format';
import { speedOfSound } from '../../units/sound';
import { clashes, clashFree } from '../../mechanics/clashes';
import { heardArrays, mixFigures } from '../mix';
import { heardLevel } from '../source-figures';
import { threeToOne } from '../spill';
import type { ArrayFigures } from '../array-figures';
import { ownedSource } from '../arrivals';
import { withOwnSpot } from '../spread';
import { cosDeg, sinDeg } from '../../units/guard';
import { arrayName, namesOf, type ArrayView, type Fix, type Found, type Rule } from './finding';
import { arrayGauge } from './gauges';
import {
  aimed,
  back,
  closer,
  farther,
  faders,
  isPossible,
  lowered,
  narrowerPatterns,
  nearer,
  raised,
  widerPatterns,
} from './levers';
import { seatAlong } from './seat-levers';

/** 3 : 1 is kept where a tape says so. */
const KEPT_RATIO = 2.995;

/** A miss of less is not worth a step, dB. */
const HARDLY_DB = 1;

const LOUD_APART_DB = 8;
/** A spot keeps so far from what it is for, m. */
const CLOSE_M = 0.3;

interface HeardAt {
  id: string;
  offDb: number;
  atNull: boolean;
  distanceM: number;
}

/**
 * Players of an array against the middle of its ensemble, dB; of two against each other. Who has a
 * spot of his own is levelled by that.
 */
function offMiddle({ session, figures }: Pick<ArrayView, 'session' | 'figures'>): HeardAt[] {
  const byId = new Map(session.sources.map((source) => [source.id, source]));
  const spotted = withOwnSpot(session);
  const known = figures.own.flatMap((of) => {
    const source = byId.get(of.id);
    const heard = source ? heardLevel(of, source) : null;
    return heard ? [{ ...heard, id: of.id, distanceM: of.distanceM }] : [];
  });
  const levels = known.map(({ levelDb }) => levelDb).sort((a, b) => a - b);
  const middle = levels.length === 2 ? levels[1] : levels[Math.floor(levels.length / 2)];
  if (middle === undefined || levels.length < 2) return [];
  return known
    .map(({ id, levelDb, atNull, distanceM }) => ({
      id,
      atNull,
      distanceM,
      offDb: levelDb - middle,
    }))
    .filter(({ id, offDb }) => !(offDb < 0 && spotted.has(id)));
}

function levelBalanceOf(view: ArrayView): Found[] {
  const { session, array } = view;
  const two = view.figures.own.length === 2;
  return offMiddle(view).flatMap((player): Found[] | Found => {
    const { id, offDb, atNull, distanceM } = player;
    if (Math.abs(offDb) <= LOUD_APART_DB) return [];
    const source = session.sources.find((one) => one.id === id);
    const other = two ? view.figures.own.find((one) => one.id !== id) : undefined;
    const against = other ? namesOf(session, [other]) : 'the middle of the ensemble';
    const nul = atNull ? ': it lies in a null, and counts as 25 dB down' : '';
    return {
      severity: 'note',
      message: `${namesOf(session, [player])} is ${formatNumber(Math.abs(offDb), 1)} dB ${offDb > 0 ? 'louder' : 'softer'} at ${array.name} than ${against}${nul}.`,
      sources: [player],
      figures: { offDb, distanceM },
      size: Math.abs(offDb),
      gauge: arrayGauge(
        array.id,
        `${namesOf(session, [player])} off`,
        'dB',
        1,
        (figures, there) =>
          offMiddle({ session: there, figures }).find((one) => one.id === id)?.offDb,
      ),
      levers: () => [
        ...(source ? [seatAlong(session, array, source, offDb > 0 ? -1 : 1)] : []),
        ...(atNull ? [aimed(session, array), widerPatterns(session, array)] : []),
        back(session, array),
        raised(session, array),
      ],
      instead:
        offDb > 0
          ? 'Distance alone does not level that: ask for less, or seat it off the axis.'
          : 'Distance alone does not level that: a spot would.',
      cause: {
        key: array.id,
        weight: Math.abs(offDb),
        words: (all) =>
          `${all.length} players are far louder or softer at ${array.name} than the middle of the ensemble: ${[
            ...all,
          ]
            .reverse()
            .map(
              ({ sources, figures: of }) =>
                `${namesOf(session, sources ?? [])} ${formatSigned(of['offDb'], 0)} dB`,
            )
            .join(', ')}.`,
      },
    };
  });
}

const levelBalance: Rule = {
  code: 'level-balance',
  evidence: 'levels',
  basis: 'preference',
  severities: ['note'],
  reason: 'Direct level at the array from the level at 1 m, distance and pattern.',
  of: 'array',
  roles: ['main'],
  check: levelBalanceOf,
};

const meanRatio = (figures: ArrayFigures): number | undefined =>
  mean(figures.own, ({ directToReverberantDb }) => directToReverberantDb);

/** The nearest free place about, on the plan. */
function* movedClear(session: Session, array: MicArray): Generator<Fix> {
  const { units } = session.settings;
  for (let byM = 0.05; byM <= 1.5; byM += byM < 0.3 ? 0.05 : 0.15) {
    for (let turn = 0; turn < 360; turn += 45) {
      const at = {
        x: Math.round((array.x + byM * sinDeg(turn)) * 1000) / 1000 || 0,
        y: Math.round((array.y + byM * cosDeg(turn)) * 1000) / 1000 || 0,
      };
      const clear = clashFree(session, { ...array, ...at });
      if (!isPossible(session, { ...at, z: array.z }) || !clear) continue;
      yield {
        label: `Move ${array.name} by ${lengthText(byM, units)}`,
        changes: [{ kind: 'array', id: array.id, set: at }],
      };
    }
  }
}

export const SOUND_RULES: readonly Rule[] = [
  levelBalance,
  {
    code: 'room-balance',
    evidence: 'levels',
    basis: 'preference',
    severities: ['note'],
    reason:
      'Direct to reverberant 10·lg(Q·s²/REE·r_c²/r²); room can be added later, never taken away.',
    of: 'array',
    roles: ['main'],
    check: ({ session, array, figures }) => {
      const { room } = session.brief.intent;
      if (room === null) return [];
      const meanDb = meanRatio(figures);
      if (meanDb === undefined) return [];
      const { min, max } = ROOM_DB[room];
      if (meanDb >= min - HARDLY_DB && meanDb <= max + HARDLY_DB) return [];
      const far = meanDb < min;
      return [
        {
          severity: 'note',
          message: `${array.name}: ${formatNumber(meanDb, 1)} dB direct to room on average; ${room} wants ${formatNumber(min, 0)} to ${formatNumber(max, 0)} dB.`,
          figures: { meanDb, wantedFromDb: min, wantedToDb: max },
          size: far ? min - meanDb : meanDb - max,
          gauge: arrayGauge(array.id, 'direct to room', 'dB', 1, meanRatio),
          levers: () => [
            far ? closer(session, array) : back(session, array),
            far ? narrowerPatterns(session, array) : widerPatterns(session, array),
          ],
          instead: far
            ? 'It cannot stand closer without losing the picture: spots bring them nearer, or less room is wanted.'
            : 'It cannot stand farther away: a pair for the hall brings the room, which can also be added later.',
        },
      ];
    },
  },
  {
    code: 'proximity',
    evidence: 'levels',
    basis: 'physics',
    severities: ['note'],
    reason: 'Close to a gradient microphone the bass rises: 10·lg(1 + ((1 − A)·c/2πfr)²).',
    of: 'array',
    roles: ['main', 'spot', 'overhead'],
    check: ({ session, array, figures }) => {
      const speed = speedOfSound(session.venue.temperatureC);
      const patternA = Math.min(
        ...capsulesInFrame(array.technique).map(({ pattern }) => patternAOf(pattern)),
        1,
      );
      const near = figures.own.filter(
        ({ distanceM }) => proximityBoostDb(patternA, 100, clamp(distanceM, 0.01, 200), speed) > 3,
      );
      if (near.length === 0) return [];
      const closest = Math.max(0.01, Math.min(...near.map(({ distanceM }) => distanceM)));
      const boostDb = proximityBoostDb(patternA, 100, closest, speed);
      const nearestId = [...near].sort((a, b) => a.distanceM - b.distanceM)[0]?.id;
      const place = placeWords(session, array, session.settings.units);
      const stands = place ? ` It stands ${place}.` : '';
      return [
        {
          severity: 'note',
          message: `${namesOf(session, near)}: ${formatNumber(boostDb, 1)} dB more at 100 Hz at ${array.name} from closeness.${stands}`,
          sources: near,
          figures: { boostDb, distanceM: closest },
          size: boostDb,
          todo: 'Or plan a low cut.',
          levers: () => {
            const nearest = session.sources.find(({ id }) => id === nearestId);
            return [
              ...(nearest ? [farther(session, array, nearest)] : []),
              widerPatterns(session, array),
            ];
          },
        },
      ];
    },
  },
  {
    code: 'three-to-one',
    evidence: 'spill',
    basis: 'rule',
    severities: ['caution'],
    reason:
      'For separate microphones that are mixed: three times the working distance apart, the spill is about 9.5 dB down. It is not a rule for a stereo pair.',
    of: 'session',
    check: (session) =>
      threeToOne(session)
        .filter(({ ratio, spillDb }) => ratio < KEPT_RATIO && spillDb > -9.5)
        .map(({ firstArrayId, secondArrayId, ratio, spillDb, rippleDb }): Found => ({
          severity: 'caution' as const,
          message: `${arrayName(session, firstArrayId)} and ${arrayName(session, secondArrayId)}: ${formatNumber(ratio, 1)} : 1 apart, spill ${formatNumber(spillDb, 1)} dB, ripple up to ${formatNumber(rippleDb, 0)} dB.`,
          arrays: [{ id: firstArrayId }, { id: secondArrayId }],
          figures: { ratio, spillDb, rippleDb },
          size: Math.max(1, 9.5 + spillDb),
          levers: () =>
            [firstArrayId, secondArrayId].flatMap((id) => {
              const array = session.arrays.find((one) => one.id === id);
              const own = ownedSource(session, id);
              return array && own
                ? [nearer(session, array, own, CLOSE_M), narrowerPatterns(session, array)]
                : [];
            }),
          instead:
            'Their players sit too close together: one microphone for both, or another seating.',
          cause: {
            key: 'all',
            weight: rippleDb,
            words: (all) =>
              `${all.length} pairs of microphones are closer together than 3 : 1, the worst ${arrayName(session, firstArrayId)} and ${arrayName(session, secondArrayId)}: ${formatNumber(ratio, 1)} : 1, ripple up to ${formatNumber(rippleDb, 0)} dB.`,
          },
        })),
  },
  {
    code: 'echo',
    evidence: 'arrivals',
    basis: 'physics',
    severities: ['caution'],
    reason:
      'Less than 10 dB down, it is heard as an echo later than 30 ms on what is struck or plucked, 50 ms on voices, 80 ms on what is bowed or blown.',
    of: 'session',
    check: (session) => {
      if (heardArrays(session).length < 2) return [];
      const late = new Map<string, { sources: { id: string }[]; ms: number }>();
      for (const source of session.sources) {
        for (const { arrayId, delayMs } of mixFigures(session, source)?.echoes ?? []) {
          const known = late.get(arrayId) ?? { sources: [], ms: 0 };
          known.sources.push(source);
          late.set(arrayId, { ...known, ms: Math.max(known.ms, delayMs) });
        }
      }
      return [...late].map(([arrayId, { sources, ms }]) => ({
        severity: 'caution' as const,
        message: `${arrayName(session, arrayId)} brings ${namesOf(session, sources)} up to ${formatNumber(ms, 0)} ms late and loud enough for an echo.`,
        sources,
        arrays: [{ id: arrayId }],
        figures: { afterFirstMs: ms },
        size: sources.length,
        levers: () => {
          const array = session.arrays.find(({ id }) => id === arrayId);
          return array ? [faders(array, -1), closer(session, array)] : [];
        },
      }));
    },
  },
  {
    code: 'clash',
    evidence: 'stands',
    basis: 'physics',
    severities: ['caution'],
    reason: 'What comes too close touches stands, bows, elbows or another microphone.',
    of: 'session',
    check: (session) => {
      const { units } = session.settings;
      return clashes(session).map((clash): Found => {
        const array = session.arrays.find(({ id }) => id === clash.arrayId);
        const { distanceM, leastM } = clash;
        return {
          severity: 'caution' as const,
          message: `${microphoneName(clash.arrayName, clash.label)}: ${lengthText(distanceM, units)} from ${clash.name}${clash.with === 'microphone' ? '’s microphone' : ''}. Keep ${lengthText(leastM, units)} at least.`,
          sources: clash.with === 'player' ? [{ id: clash.id }] : [],
          arrays: [{ id: clash.arrayId }],
          figures: { distanceM, leastM },
          cause: {
            key: clash.arrayId,
            weight: -distanceM,
            words: (all) =>
              `${clash.arrayName} is too close in ${all.length} places, the worst ${lengthText(distanceM, units)} from ${clash.name}${clash.with === 'microphone' ? '’s microphone' : ''}. Keep ${lengthText(leastM, units)} at least.`,
          },
          size: 1 + (leastM - distanceM),
          levers: () =>
            array
              ? [raised(session, array), movedClear(session, array), lowered(session, array)]
              : [],
        };
      });
    },
  },
];
