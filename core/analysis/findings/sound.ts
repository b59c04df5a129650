import { mean } from 'd3-array';
import { clamp } from '../../units/numbers';
import { ROOM_DB } from '../criteria';
import { capsulesInFrame, microphoneName } from '../../arrays/capsules';
import { patternAOf } from '../../acoustics/patterns';
import { proximityBoostDb } from '../../acoustics/proximity';
import { placeWords } from '../../ensembles/surfaces';
import type { MicArray } from '../../session/schema';
import { formatNumber, formatSigned, lengthText } from '../../units/format';
import { speedOfSound } from '../../units/sound';
import { clashes, clearingRise } from '../../rig/mechanics/clashes';
import { heardArrays, mixFigures } from '../mix';
import { heardLevel } from '../source-figures';
import { threeToOne } from '../spill';
import { arrayName, namesOf, type Found, type Rule } from './finding';

/** 3 : 1 is kept where a tape says so. */
const KEPT_RATIO = 2.995;

/** A miss of less is not worth a step, dB. */
const HARDLY_DB = 1;

const LOUD_APART_DB = 8;

/** Players far louder or softer than the middle one, at their own levels, and the move that mends. */
/** What levels them: only what some of them need. */
function levelling(all: readonly Found[]): string {
  const [loud, soft] = [1, -1].map((sign) =>
    all.some((of) => (of.figures['offDb'] ?? 0) * sign > 0),
  );
  if (!soft) return 'Move them back.';
  return loud
    ? 'Move the loud ones back and the soft ones nearer, or give the soft ones a spot.'
    : 'Move them nearer, or give them a spot.';
}

/** What levels one player, so far off that nobody moves a chair that far. */
function levelledBy({ atNull }: { atNull: boolean }, offDb: number): string {
  if (atNull) return 'Turn the array, or move the player.';
  return offDb > 0
    ? 'Distance alone does not level that: ask for less, or seat it off the axis.'
    : 'Distance alone does not level that: a spot would.';
}

const levelBalance: Rule = {
  code: 'level-balance',
  evidence: 'levels',
  basis: 'preference',
  severities: ['note'],
  reason: 'Direct level at the array from the level at 1 m, distance and pattern.',
  of: 'array',
  roles: ['main'],
  check: ({ session, array, figures }) => {
    const byId = new Map(session.sources.map((source) => [source.id, source]));
    const known = figures.own.flatMap((of) => {
      const source = byId.get(of.id);
      const heard = source ? heardLevel(of, source) : null;
      return heard ? [{ ...heard, id: of.id, distanceM: of.distanceM }] : [];
    });
    const levels = known.map(({ levelDb }) => levelDb).sort((a, b) => a - b);
    const middle = levels[Math.floor(levels.length / 2)];
    if (middle === undefined || levels.length < 3) return [];
    return known.flatMap((source): Found[] | Found => {
      const offDb = source.levelDb - middle;
      if (Math.abs(offDb) <= LOUD_APART_DB) return [];
      return {
        severity: 'note' as const,
        message: `${namesOf(session, [source])} is ${formatNumber(Math.abs(offDb), 1)} dB ${offDb > 0 ? 'louder' : 'softer'} at ${array.name} than the middle of the ensemble${source.atNull ? ': it lies in a null, and counts as 25 dB down' : ''}. ${levelledBy(source, offDb)}`,
        sources: [source],
        figures: { offDb, distanceM: source.distanceM },
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
              .join(', ')}. ${levelling(all)}`,
        },
      };
    });
  },
};

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
      const values = figures.own.flatMap(
        ({ directToReverberantDb }) => directToReverberantDb ?? [],
      );
      const meanDb = mean(values);
      if (meanDb === undefined) return [];
      const { min, max } = ROOM_DB[room];
      if (meanDb >= min - HARDLY_DB && meanDb <= max + HARDLY_DB) return [];
      const far = meanDb < min;
      const factor = 10 ** (Math.abs(meanDb - (far ? min : max)) / 20);
      const distance = mean(figures.own, ({ distanceM }) => distanceM) ?? 0;
      const target = far ? distance / factor : distance * factor;
      return [
        {
          severity: 'note',
          message: `${array.name}: ${formatNumber(meanDb, 1)} dB direct to room on average; ${room} wants ${formatNumber(min, 0)} to ${formatNumber(max, 0)} dB. About ${formatNumber(target, 1)} m from ${figures.own.length === 1 ? namesOf(session, figures.own) : 'the players'} would do, instead of ${formatNumber(distance, 1)} m; when in doubt the closer position.`,
          figures: { meanDb, wantedFromDb: min, wantedToDb: max, distanceM: target },
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
      const place = placeWords(session, array, session.settings.units);
      const stands = place ? ` It stands ${place}.` : '';
      return [
        {
          severity: 'note',
          message: `${namesOf(session, near)}: ${formatNumber(boostDb, 1)} dB more at 100 Hz at ${array.name} from closeness.${stands} Stand back, take a pattern nearer to omni, or plan a low cut.`,
          sources: near,
          figures: { boostDb, distanceM: closest },
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
          message: `${arrayName(session, firstArrayId)} and ${arrayName(session, secondArrayId)}: ${formatNumber(ratio, 1)} : 1 apart, spill ${formatNumber(spillDb, 1)} dB, ripple up to ${formatNumber(rippleDb, 0)} dB. Move them closer to their players or apart.`,
          arrays: [{ id: firstArrayId }, { id: secondArrayId }],
          figures: { ratio, spillDb, rippleDb },
          cause: {
            key: 'all',
            weight: rippleDb,
            words: (all) =>
              `${all.length} pairs of microphones are closer together than 3 : 1, the worst ${arrayName(session, firstArrayId)} and ${arrayName(session, secondArrayId)}: ${formatNumber(ratio, 1)} : 1, ripple up to ${formatNumber(rippleDb, 0)} dB. Move them closer to their players or apart.`,
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
        message: `${arrayName(session, arrayId)} brings ${namesOf(session, sources)} up to ${formatNumber(ms, 0)} ms late and loud enough for an echo. Lower its fader, move it in, or delay the others.`,
        sources,
        arrays: [{ id: arrayId }],
        figures: { afterFirstMs: ms },
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
      const rises = new Map<string, number | null>();
      const riseOf = (array: MicArray): number | null => {
        const known = rises.get(array.id);
        if (known !== undefined) return known;
        const rise = clearingRise(session, array);
        rises.set(array.id, rise);
        return rise;
      };
      return clashes(session).map((clash): Found => {
        const array = session.arrays.find(({ id }) => id === clash.arrayId);
        const rise = array ? riseOf(array) : null;
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
            ...(array &&
              rise !== null && { fixLabel: `Raise ${array.name} by ${lengthText(rise, units)}` }),
          },
          fix:
            array && rise !== null
              ? {
                  label: `Raise ${array.name} by ${lengthText(rise, units)}`,
                  changes: [{ kind: 'array' as const, id: array.id, set: { z: array.z + rise } }],
                }
              : null,
        };
      });
    },
  },
];
