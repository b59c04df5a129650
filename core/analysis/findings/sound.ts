import { mean } from 'd3-array';
import { clamp } from '../../units/numbers';
import { MONO_LOSS_DB, ROOM_DB } from '../criteria';
import { mainArrays } from '../../session/lists';
import { capsulesInFrame } from '../../arrays/capsules';
import { patternAOf } from '../../acoustics/patterns';
import { proximityBoostDb } from '../../acoustics/proximity';
import type { Reflection } from '../../acoustics/reflections';
import { BOUNDS } from '../../session/bounds';
import type { MicArray, Session, Source } from '../../session/schema';
import { formatNumber, formatSigned, lengthText } from '../../units/format';
import { speedOfSound } from '../../units/sound';
import { clashes, clearingRise } from '../../rig/mechanics/clashes';
import { arrivalsOf, ECHO_MS, ownedSource, proposedStrips } from '../arrivals';
import { heardArrays } from '../mix';
import { threeToOne } from '../spill';
import { reflectionsAtArray } from '../room';
import { namesOf, type Found, type Rule } from './finding';

const nameOf = (session: Session, id: string): string =>
  session.arrays.find((array) => array.id === id)?.name ?? id;

/** Players of several findings, the worst first. */
const sourcesOf = (all: readonly Found[]): { id: string }[] =>
  [...all].reverse().flatMap(({ sources }) => [...(sources ?? [])]);

/** A figure of the worst. */
const firstOf = (all: readonly Found[], figure: string): number | null =>
  all[all.length - 1]?.figures[figure] ?? null;

const ANSWER_ADVICE = {
  ceiling: 'Stand closer to the players, or hang something absorbing above them.',
  wall: 'Move players and array away from it, or hang something absorbing there.',
};

const STRONG_REFLECTION_DB = -8;
const EARLY_MS = 15;

/** The strongest early answer of anything but the floor: only what a plan can change. */
function strongestAnswer(session: Session, array: MicArray, source: Source): Reflection | null {
  return (
    reflectionsAtArray(session, array, source, 1).find(
      ({ surfaces, delayMs }) =>
        surfaces.length === 1 && surfaces[0] !== 'floor' && delayMs < EARLY_MS,
    ) ?? null
  );
}

function strongReflection(session: Session): Found[] {
  const mains = mainArrays(session);
  return mains.flatMap((main) =>
    session.sources.flatMap((source): Found[] | Found => {
      const strongest = strongestAnswer(session, main, source);
      if (!strongest || strongest.levelDb < STRONG_REFLECTION_DB) return [];
      const [surface = 'ceiling'] = strongest.surfaces;
      const { levelDb, delayMs, firstNotchHz, atMost } = strongest;
      const wall = surface === 'ceiling' ? 'ceiling' : `${surface} wall`;
      const level = `${atMost ? 'up to ' : ''}${formatNumber(levelDb, 1)} dB after ${formatNumber(delayMs, 1)} ms`;
      return {
        severity: 'note' as const,
        message: `${source.name}: the ${wall} answers with ${level} at ${main.name}, a comb from ${formatNumber(firstNotchHz, 0)} Hz. ${ANSWER_ADVICE[surface === 'ceiling' ? 'ceiling' : 'wall']}`,
        sources: [source],
        figures: { levelDb, delayMs, firstNotchHz },
        cause: {
          key: `${main.id} ${surface}`,
          weight: levelDb,
          words: (all) =>
            `The ${wall} answers ${all.length} players strongly at ${main.name}: ${namesOf(session, sourcesOf(all))}, the worst with ${level}, a comb from ${formatNumber(firstOf(all, 'firstNotchHz'), 0)} Hz. ${ANSWER_ADVICE[surface === 'ceiling' ? 'ceiling' : 'wall']}`,
        },
      };
    }),
  );
}

/** Only a source that a spot is for can be pulled out of the picture by one. */
function sourcesWithSpots(session: Session): Session['sources'] {
  const owned = new Set(
    heardArrays(session)
      .filter(({ role }) => role === 'spot')
      .map(({ id }) => ownedSource(session, id)?.id),
  );
  return session.sources.filter(({ id }) => owned.has(id));
}

/** 3 : 1 is kept where a tape says so. */
const KEPT_RATIO = 2.995;

const LOUD_APART_DB = 8;

/** Players far louder or softer than the middle one, at their own levels, and the move that mends. */
const levelBalance: Rule = {
  code: 'level-balance',
  evidence: 'levels',
  basis: 'preference',
  reason: 'Direct level at the array from the level at 1 m, distance and pattern.',
  of: 'array',
  check: ({ session, array, figures }) => {
    const known = figures.sources.filter(({ levelAtArrayDb }) => levelAtArrayDb !== null);
    const levels = known.map(({ levelAtArrayDb }) => levelAtArrayDb ?? 0).sort((a, b) => a - b);
    const middle = levels[Math.floor(levels.length / 2)];
    if (array.role !== 'main' || middle === undefined || levels.length < 3) return [];
    return known.flatMap((source): Found[] | Found => {
      const offDb = (source.levelAtArrayDb ?? 0) - middle;
      if (Math.abs(offDb) <= LOUD_APART_DB) return [];
      const targetM = source.distanceM * 10 ** (offDb / 20);
      return {
        severity: 'note' as const,
        message: `${namesOf(session, [source])} is ${formatNumber(Math.abs(offDb), 1)} dB ${offDb > 0 ? 'louder' : 'softer'} at ${array.name} than the middle of the ensemble. ${formatNumber(targetM, 1)} m instead of ${formatNumber(source.distanceM, 1)} m would level it, or a spot.`,
        sources: [source],
        figures: { offDb, distanceM: source.distanceM, levelAtM: targetM },
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
              .join(
                ', ',
              )}. Move the loud ones back and the soft ones nearer, or give the soft ones a spot.`,
        },
      };
    });
  },
};

export const SOUND_RULES: readonly Rule[] = [
  levelBalance,
  {
    code: 'mono-loss',
    evidence: 'mono',
    basis: 'physics',
    reason:
      'The mono sum adds both channels with their time difference: |H|² = g_L² + g_R² + 2·g_L·g_R·cos 2πfτ.',
    of: 'array',
    check: ({ session, array, figures }) => {
      const weight = session.brief.intent.mono;
      if (weight === 'may-be-lost') return [];
      const lost = figures.sources.filter(({ mono }) => mono !== null && mono.sumDb < MONO_LOSS_DB);
      if (lost.length === 0) return [];
      const worst = Math.min(...lost.map(({ mono }) => mono?.sumDb ?? 0));
      return [
        {
          severity: weight === 'must-survive' ? 'fault' : 'caution',
          message: `${namesOf(session, lost)}: up to ${formatNumber(Math.abs(worst), 1)} dB weaker in the mono sum of ${array.name}. Take a smaller spacing or angle, or move in.`,
          sources: lost,
          figures: { worstSumDb: worst },
        },
      ];
    },
  },
  {
    code: 'mono-comb',
    evidence: 'mono',
    basis: 'physics',
    reason: 'Equal levels with a time difference notch at 1/(2τ) when summed.',
    of: 'array',
    check: ({ session, array, figures }) => {
      if (session.brief.intent.mono !== 'must-survive') return [];
      const combed = figures.sources.filter(
        ({ mono }) => mono !== null && mono.combDb > 12 && (mono.firstNotchHz ?? 1e9) < 2000,
      );
      if (combed.length === 0) return [];
      const lowest = Math.min(...combed.map(({ mono }) => mono?.firstNotchHz ?? Infinity));
      return [
        {
          severity: 'caution',
          message: `${namesOf(session, combed)}: combed in mono from ${formatNumber(lowest, 0)} Hz at ${array.name}. A coincident array has no comb.`,
          sources: combed,
          figures: { firstNotchHz: lowest },
        },
      ];
    },
  },
  {
    code: 'room-balance',
    evidence: 'levels',
    basis: 'preference',
    reason:
      'Direct to reverberant 10·lg(Q·s²/REE·r_c²/r²); room can be added later, never taken away.',
    of: 'array',
    check: ({ session, array, figures }) => {
      const { room } = session.brief.intent;
      if (array.role !== 'main' || room === null) return [];
      const values = figures.sources.flatMap(
        ({ directToReverberantDb }) => directToReverberantDb ?? [],
      );
      const meanDb = mean(values);
      if (meanDb === undefined) return [];
      const { min, max } = ROOM_DB[room];
      if (meanDb >= min && meanDb <= max) return [];
      const far = meanDb < min;
      const factor = 10 ** (Math.abs(meanDb - (far ? min : max)) / 20);
      const distance = figures.ensemble?.distanceM ?? 0;
      const target = far ? distance / factor : distance * factor;
      return [
        {
          severity: 'note',
          message: `${array.name} hears ${formatNumber(meanDb, 1)} dB direct to room on average; ${room} wants ${min} to ${max} dB. About ${formatNumber(target, 1)} m from the ensemble would do; when in doubt the closer position.`,
          figures: { meanDb, wantedFromDb: min, wantedToDb: max, distanceM: target },
        },
      ];
    },
  },
  {
    code: 'proximity',
    evidence: 'levels',
    basis: 'physics',
    reason: 'Close to a gradient microphone the bass rises: 10·lg(1 + ((1 − A)·c/2πfr)²).',
    of: 'array',
    check: ({ session, array, figures }) => {
      const speed = speedOfSound(session.venue.temperatureC);
      const patternA = Math.min(
        ...capsulesInFrame(array.technique).map(({ pattern }) => patternAOf(pattern)),
        1,
      );
      const near = figures.sources.filter(
        ({ distanceM }) => proximityBoostDb(patternA, 100, clamp(distanceM, 0.01, 200), speed) > 3,
      );
      if (near.length === 0) return [];
      const closest = Math.max(0.01, Math.min(...near.map(({ distanceM }) => distanceM)));
      const boostDb = proximityBoostDb(patternA, 100, closest, speed);
      return [
        {
          severity: 'note',
          message: `${namesOf(session, near)}: ${formatNumber(boostDb, 1)} dB more at 100 Hz at ${array.name} from closeness. Stand back, take a pattern nearer to omni, or plan a low cut.`,
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
    reason:
      'For separate microphones that are mixed: three times the working distance apart, the spill is about 9.5 dB down. It is not a rule for a stereo pair.',
    of: 'session',
    check: (session) =>
      threeToOne(session)
        .filter(({ ratio, spillDb }) => ratio < KEPT_RATIO && spillDb > -9.5)
        .map(({ firstArrayId, secondArrayId, ratio, spillDb, rippleDb }): Found => ({
          severity: 'caution' as const,
          message: `${nameOf(session, firstArrayId)} and ${nameOf(session, secondArrayId)}: ${formatNumber(ratio, 1)} : 1 apart, spill ${formatNumber(spillDb, 1)} dB, ripple up to ${formatNumber(rippleDb, 0)} dB. Move them closer to their players or apart.`,
          figures: { ratio, spillDb, rippleDb },
          cause: {
            key: 'all',
            weight: rippleDb,
            words: (all) =>
              `${all.length} pairs of microphones are closer together than 3 : 1, the worst ${nameOf(session, firstArrayId)} and ${nameOf(session, secondArrayId)}: ${formatNumber(ratio, 1)} : 1, ripple up to ${formatNumber(rippleDb, 0)} dB. Move them closer to their players or apart.`,
          },
        })),
  },
  {
    code: 'spot-leads',
    evidence: 'arrivals',
    basis: 'physics',
    reason:
      'The earliest loud arrival pulls the image (precedence); a spot belongs with the main array or 5 to 20 ms behind it.',
    of: 'session',
    check: (session) =>
      sourcesWithSpots(session).flatMap((source) =>
        arrivalsOf(session, source)
          .proposals.filter(({ leadsByMs }) => leadsByMs > 1)
          .map(({ arrayId, leadsByMs, delayMs }): Found => {
            const spot = session.arrays.find(({ id }) => id === arrayId);
            // Its pans stay as they are: only the delay is what is wrong.
            const capsules = spot
              ? proposedStrips(spot, { arrayId, leadsByMs, delayMs, pan: null }).map((strip) => ({
                  ...strip,
                }))
              : [];
            return {
              severity: 'caution' as const,
              message: `${nameOf(session, arrayId)} hears ${source.name} ${formatNumber(leadsByMs, 1)} ms before the main array and pulls it out of the picture. Delay it by ${formatNumber(delayMs, 2)} ms.`,
              sources: [source],
              figures: { leadsByMs, delayMs },
              cause: {
                key: 'all',
                weight: delayMs,
                words: (all) =>
                  `${all.length} spots lead the main array, by up to ${formatNumber(leadsByMs, 1)} ms, and pull their players out of the picture: ${namesOf(session, sourcesOf(all))}. Delay each of them.`,
                fixLabel: 'Delay them all',
              },
              fix:
                spot && delayMs <= BOUNDS.delayMs.max
                  ? {
                      label: `Delay ${spot.name} by ${formatNumber(delayMs, 2)} ms`,
                      changes: [
                        {
                          kind: 'array' as const,
                          id: arrayId,
                          set: { mix: { ...spot.mix, capsules } },
                        },
                      ],
                    }
                  : null,
            };
          }),
      ),
  },
  {
    code: 'echo',
    evidence: 'arrivals',
    basis: 'physics',
    reason: `Later than ${ECHO_MS} ms and less than 10 dB down is heard as an echo on percussive sounds.`,
    of: 'session',
    check: (session) => {
      if (heardArrays(session).length < 2) return [];
      const late = new Map<string, { sources: { id: string }[]; ms: number }>();
      for (const source of session.sources) {
        for (const arrival of arrivalsOf(session, source).arrivals) {
          if (!arrival.echo) continue;
          const known = late.get(arrival.arrayId) ?? { sources: [], ms: 0 };
          if (!known.sources.some(({ id }) => id === source.id)) known.sources.push(source);
          late.set(arrival.arrayId, { ...known, ms: Math.max(known.ms, arrival.afterFirstMs) });
        }
      }
      return [...late].map(([arrayId, { sources, ms }]) => ({
        severity: 'caution' as const,
        message: `${nameOf(session, arrayId)} hears ${namesOf(session, sources)} up to ${formatNumber(ms, 0)} ms late and loud enough for an echo. Lower its fader, move it in, or delay the others.`,
        sources,
        figures: { afterFirstMs: ms },
      }));
    },
  },
  {
    code: 'strong-reflection',
    evidence: 'reflections',
    basis: 'physics',
    reason: 'A strong early reflection makes a comb with the direct sound (image sources).',
    of: 'session',
    check: strongReflection,
  },
  {
    code: 'clash',
    evidence: 'stands',
    basis: 'physics',
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
          message: `${clash.arrayName}, ${clash.label}: ${lengthText(distanceM, units)} from ${clash.name}${clash.with === 'microphone' ? '’s microphone' : ''}. Keep ${lengthText(leastM, units)} at least.`,
          sources: clash.with === 'player' ? [{ id: clash.id }] : [],
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
