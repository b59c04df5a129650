import { mean } from 'd3-array';
import { stripsOf } from '../../arrays/routing';
import { inequality } from '../../arrays/equal-distance';
import { nearCues } from '../../localisation/cues';
import { isHeight } from '../../arrays/layouts';
import { remembered } from '../../units/remember';
import { arrivalsAt, readyArray, realGainOf } from '../../prepare/arrays';
import { contextOf } from '../../prepare/context';
import { playersOf } from '../../prepare/for-whom';
import { BOUNDS } from '../../session/bounds';
import type { MicArray, Session } from '../../session/schema';
import { powerDb, wrapDeg } from '../../units/guard';
import { formatNumber, lengthText } from '../../units/format';
import { add, dot, length, scale, subtract } from '../../units/vector';
import { interchannelCorrelation } from '../correlation';
import { pointsAt } from '../edges-at';
import { LOW_HZ } from '../criteria';
import { rippleDb } from '../spill';
import { against, FIRST_WAVE, LEAD_MS, leadingMain } from './beside-main';
import { namesOf, type ArrayView, type Fix, type Found, type Rule } from './finding';
import { arrayGauge } from './gauges';
import { angles, back, delayed, faders, raised, scaled, sideLevels, spacings } from './levers';

/** What microphones beside the main array are judged by: each for its own job. */

/** Outriggers at least so loud against the main array, dB, pull those whom they hear first. */
const PULLS_DB = -6;

/** Every player of an outrigger array against the main one; once for all that is judged by it. */
const blendsOf = remembered(({ session, array }: ArrayView) => {
  const main = leadingMain(session);
  if (!main || array.mix.mute) return null;
  const { speed } = contextOf(session);
  const blends = playersOf(array, session.sources, speed).flatMap((source) => {
    const to = against(session, array, main, source);
    return to ? [{ id: source.id, ...to }] : [];
  });
  const led = blends.filter(({ leadMs, levelDb }) => leadMs > LEAD_MS && levelDb > PULLS_DB);
  return { main, blends, led };
});

function outriggersLead(view: ArrayView): Found[] {
  const { session, array } = view;
  const known = blendsOf(view);
  if (!known) return [];
  const { main, led } = known;
  const [worst] = [...led].sort((a, b) => b.leadMs - a.leadMs);
  if (!worst) return [];
  const { leadMs, levelDb } = worst;
  const level =
    levelDb >= 0.5
      ? `${formatNumber(levelDb, 0)} dB louder`
      : levelDb <= -0.5
        ? `${formatNumber(-levelDb, 0)} dB softer`
        : 'as loud';
  return [
    {
      severity: 'note',
      message: `${array.name}: ${namesOf(session, led)} arrive up to ${formatNumber(leadMs, 1)} ms before ${main.name}, ${level}, and are pulled to the edges.`,
      sources: led,
      figures: { leadMs, levelDb },
      size: leadMs,
      levers: () => [
        delayed(array, leadMs, `Delay ${array.name} by ${formatNumber(leadMs, 1)} ms`),
        faders(array, -1),
      ],
    },
  ];
}

/** Ripple of two blended arrays beyond which the sound is coloured, dB peak to dip. */
const COLOURED_DB = 7;
const FUSED_MS = 1;
const ECHO_MS = 30;

/** Ripple that an array and the main one make of the players on average, dB; null without any. */
function blendRipple(session: Session, array: MicArray): number | null {
  const main = leadingMain(session);
  if (!main) return null;
  const apart = playersOf(array, session.sources, contextOf(session).speed).flatMap((source) => {
    const to = against(session, array, main, source);
    return to && Math.abs(to.leadMs) > FUSED_MS && Math.abs(to.leadMs) <= ECHO_MS ? [to] : [];
  });
  const levelDb = mean(apart, (blend) => blend.levelDb);
  return levelDb === undefined ? null : rippleDb(levelDb);
}

function outriggersColour(view: ArrayView): Found[] {
  const { array } = view;
  const known = blendsOf(view);
  // Where they lead, that is what is wrong with them.
  if (!known || known.led.length > 0) return [];
  const { main, blends } = known;
  const apart = blends.filter(
    ({ leadMs }) => Math.abs(leadMs) > FUSED_MS && Math.abs(leadMs) <= ECHO_MS,
  );
  const levelDb = mean(apart, (blend) => blend.levelDb);
  const apartMs = mean(apart, ({ leadMs }) => Math.abs(leadMs));
  if (levelDb === undefined || apartMs === undefined || apart.length * 2 < blends.length) return [];
  const ripple = rippleDb(levelDb);
  if (ripple <= COLOURED_DB) return [];
  return [
    {
      severity: 'note',
      message: `${array.name}: ${formatNumber(apartMs, 1)} ms from ${main.name} and ${formatNumber(Math.abs(levelDb), 1)} dB ${levelDb > 0 ? 'above' : 'below'} it on average, which colours both by a ripple of up to ${formatNumber(ripple, 0)} dB.`,
      figures: { apartMs, levelDb, rippleDb: ripple },
      size: ripple - COLOURED_DB + 1,
      gauge: {
        words: 'ripple',
        unit: 'dB',
        digits: 1,
        of: (there) => {
          const again = there.arrays.find(({ id }) => id === array.id);
          return again ? blendRipple(there, again) : null;
        },
      },
      levers: () => [faders(array, -1)],
    },
  ];
}

/** Overheads are set to a centimetre or two; what is more is heard. */
const UNEQUAL_M = 0.03;

function overheadDistance({ session, array }: ArrayView): Found[] {
  const { speed } = contextOf(session);
  const [player, more] = playersOf(array, session.sources, speed);
  const [first, second, third] = readyArray(array).capsules;
  if (!player || more || !first || !second || third) return [];
  const line = subtract(second.position, first.position);
  const spacingM = length(line);
  const { differenceMm, differenceMs, firstNotchHz } = inequality(
    player,
    first.position,
    second.position,
    speed,
  );
  if (spacingM < UNEQUAL_M || Math.abs(differenceMm) <= UNEQUAL_M * 1000) return [];
  const { units } = session.settings;
  const unit = scale(line, 1 / spacingM);
  const centre = add(first.position, scale(line, 0.5));
  const along = dot(subtract(player, centre), unit);
  const place = (value: number, by: number): number => Math.round((value + by) * 1000) / 1000;
  const nearer = differenceMm > 0 ? first.label : second.label;
  const by = lengthText(Math.abs(along), units);
  return [
    {
      severity: 'caution',
      message: `${array.name}: the middle of ${player.name} is ${lengthText(Math.abs(differenceMm) / 1000, units)} nearer to ${nearer}, ${formatNumber(Math.abs(differenceMs), 2)} ms: it pulls that way, and in mono a comb begins at ${formatNumber(firstNotchHz, 0)} Hz.`,
      sources: [player],
      figures: { differenceMm, differenceMs, firstNotchHz },
      size: Math.abs(differenceMm),
      levers: () => [
        [
          {
            label: `Move ${array.name} ${by} along its line`,
            changes: [
              {
                kind: 'array',
                id: array.id,
                set: {
                  x: place(array.x, along * unit.x),
                  y: place(array.y, along * unit.y),
                  z: place(array.z, along * unit.z),
                },
              },
            ],
          },
        ],
      ],
    },
  ];
}

/** Both ends and the middle of an instrument within this, or it is not covered, dB. */
const COVERED_DB = 6;

function overheadCoverage({ session, array }: ArrayView): Found[] {
  const { speed } = contextOf(session);
  return playersOf(array, session.sources, speed).flatMap((player): Found[] | Found => {
    if (player.widthM === 0) return [];
    const levels = pointsAt(readyArray(array), player).flatMap((point) => {
      const cues = nearCues(readyArray(array), point, speed);
      return cues ? [powerDb(cues.left ** 2 + cues.right ** 2)] : [];
    });
    const spreadDb = Math.max(...levels) - Math.min(...levels);
    if (levels.length < 3 || spreadDb <= COVERED_DB) return [];
    return {
      severity: 'caution',
      message: `${array.name}: one part of ${player.name} is ${formatNumber(spreadDb, 1)} dB louder than another.`,
      sources: [player],
      figures: { spreadDb },
      size: spreadDb,
      subject: player.id,
      levers: () => [
        raised(session, array),
        [
          {
            label: `Centre it over ${player.name}`,
            changes: [{ kind: 'array', id: array.id, set: { x: player.x, y: player.y } }],
          },
        ],
        spacings(session, array, 1),
      ],
      instead: `One pair does not cover all of ${player.name} from here: a second one, or more height.`,
    };
  });
}

function hallHearsDirect({ session, array, figures }: ArrayView): Found[] {
  const ratioDb = mean(figures.own, ({ directToReverberantDb }) => directToReverberantDb);
  const distanceM = figures.ensemble?.distanceM;
  if (ratioDb === undefined || distanceM === undefined || ratioDb <= 0) return [];
  const targetM = distanceM * 10 ** (ratioDb / 20);
  const { units } = session.settings;
  return [
    {
      severity: 'note',
      message: `${array.name}: ${formatNumber(ratioDb, 1)} dB more direct sound than room, so it works as a second main array. The hall itself leads from about ${lengthText(targetM, units)} on.`,
      figures: { ratioDb, distanceM: targetM },
      size: ratioDb + 0.5,
      gauge: arrayGauge(array.id, 'direct to room', 'dB', 1, (of) =>
        mean(of.own, ({ directToReverberantDb }) => directToReverberantDb),
      ),
      levers: () => [back(session, array), turnedToHall(array), raised(session, array)],
      instead: 'Nowhere in this hall is there more room than direct sound.',
    },
  ];
}

/** Looking away from the players, its left and right kept. */
function turnedToHall(array: MicArray): Fix[] {
  const { technique, mix } = array;
  if (technique.kind !== 'pair' && technique.kind !== 'single') return [];
  const capsules = stripsOf(technique, mix.capsules).map((strip) => ({
    ...strip,
    pan: strip.pan === 0 ? 0 : -strip.pan,
  }));
  const aimDeg = wrapDeg(array.aimDeg + 180) || 0;
  return [
    {
      label: 'Turn it to the hall, left and right swapped',
      changes: [{ kind: 'array', id: array.id, set: { aimDeg, mix: { ...mix, capsules } } }],
    },
  ];
}

/** Above this two microphones in the hall are one in the bass. */
const NARROW_CORRELATION = 0.7;

function hallNarrow({ session, array }: ArrayView): Found[] {
  const { speed } = contextOf(session);
  const correlation = interchannelCorrelation(readyArray(array), LOW_HZ, speed)?.real ?? null;
  if (correlation === null || correlation <= NARROW_CORRELATION) return [];
  return [
    {
      severity: 'note',
      message: `${array.name}: its channels agree by ${formatNumber(correlation, 2)} at ${LOW_HZ} Hz in the hall, so the room is narrow in the bass.`,
      figures: { correlation },
      size: correlation,
      gauge: arrayGauge(array.id, 'correlation in the bass', '', 2, (_, there) => {
        const again = there.arrays.find(({ id }) => id === array.id);
        return again && interchannelCorrelation(readyArray(again), LOW_HZ, speed)?.real;
      }),
      levers: () => [
        spacings(session, array, 1),
        scaled(array, 1),
        angles(array, 1),
        sideLevels(array, 1),
      ],
      instead: `Two omnis ${lengthText(speed / (2 * LOW_HZ), session.settings.units)} apart do not agree there at all.`,
    },
  ];
}

/** From about here on the height layer pulls the picture up, dB against the ring. */
const LAYERS_APART_DB = -7;

/** Direct sound of the players in the height layer against the layer at their ears. */
function layerSpill({ session, array }: ArrayView): Found[] {
  const { technique, mix } = array;
  if (technique.kind !== 'custom' || !technique.capsules.some(({ label }) => isHeight(label))) {
    return [];
  }
  const { speed } = contextOf(session);
  const strips = stripsOf(technique, mix.capsules);
  let [high, low] = [0, 0];
  for (const source of playersOf(array, session.sources, speed)) {
    arrivalsAt(array, source, speed)?.forEach((arrival, i) => {
      const levelDb = source.levelDb + (strips[i]?.gainDb ?? 0);
      const energy = 10 ** (levelDb / 10) * realGainOf(arrival, speed) ** 2;
      if (isHeight(technique.capsules[i]?.label ?? '')) high += energy;
      else low += energy;
    });
  }
  if (!(high > 0 && low > 0)) return [];
  const spillDb = powerDb(high / low);
  if (spillDb <= LAYERS_APART_DB) return [];
  return [
    {
      severity: 'note',
      message: `${array.name}: the height layer has the players ${formatNumber(Math.abs(spillDb), 1)} dB ${spillDb > 0 ? 'above' : 'below'} the ring, so the picture rises.`,
      figures: { spillDb },
      size: spillDb - LAYERS_APART_DB + 0.5,
      levers: () => [facedUp(array), softerHeights(array)],
    },
  ];
}

/** The height capsules faced farther up, step by step. */
function* facedUp(array: MicArray): Generator<Fix> {
  const { technique } = array;
  if (technique.kind !== 'custom') return;
  for (let deg = 10; deg <= 90; deg += 10) {
    const capsules = technique.capsules.map((capsule) =>
      isHeight(capsule.label) && capsule.elevationDeg < deg
        ? { ...capsule, elevationDeg: deg }
        : capsule,
    );
    yield {
      label: `Face the height layer ${deg}° up`,
      changes: [{ kind: 'array', id: array.id, set: { technique: { ...technique, capsules } } }],
    };
  }
}

/** The height layer's channels lower, decibel by decibel. */
function* softerHeights({ id, technique, mix }: MicArray): Generator<Fix> {
  if (technique.kind !== 'custom') return;
  for (let db = 1; db <= 24; db += 1) {
    const capsules = stripsOf(technique, mix.capsules).map((strip, i) =>
      isHeight(technique.capsules[i]?.label ?? '')
        ? { ...strip, gainDb: Math.max(BOUNDS.gainDb.min, strip.gainDb - db) }
        : { ...strip },
    );
    yield {
      label: `Lower the height layer by ${db} dB`,
      changes: [{ kind: 'array', id, set: { mix: { ...mix, capsules } } }],
    };
  }
}

export const SUPPORT_RULES: readonly Rule[] = [
  {
    code: 'outrigger-leads',
    evidence: 'arrivals',
    basis: 'physics',
    severities: ['note'],
    reason: `${FIRST_WAVE}; outriggers widen, the main array should say where.`,
    of: 'array',
    roles: ['outrigger'],
    check: outriggersLead,
  },
  {
    code: 'outrigger-blend',
    evidence: 'arrivals',
    basis: 'preference',
    severities: ['note'],
    reason:
      'Within 1 ms two arrays fuse, up to 30 ms they colour each other by their ripple, later it is an echo.',
    of: 'array',
    roles: ['outrigger'],
    check: outriggersColour,
  },
  {
    code: 'overhead-distance',
    evidence: 'pair',
    basis: 'physics',
    severities: ['caution'],
    reason: 'Unequal ways to two microphones are a time difference.',
    of: 'array',
    roles: ['overhead'],
    check: overheadDistance,
  },
  {
    code: 'overhead-coverage',
    evidence: 'levels',
    basis: 'preference',
    severities: ['caution'],
    reason: 'Energy of both channels from the ends and the middle of the instrument.',
    of: 'array',
    roles: ['overhead'],
    check: overheadCoverage,
  },
  {
    code: 'hall-direct',
    evidence: 'levels',
    basis: 'preference',
    severities: ['note'],
    reason: 'Direct to reverberant 10·lg(Q·s²/REE·r_c²/r²), the mean over the players.',
    of: 'array',
    roles: ['ambience'],
    check: hallHearsDirect,
  },
  {
    code: 'hall-narrow',
    evidence: 'pair',
    basis: 'preference',
    severities: ['note'],
    reason: 'Correlation of both channels in the diffuse field; low is spacious.',
    of: 'array',
    roles: ['ambience'],
    check: hallNarrow,
  },
  {
    code: 'layers-spill',
    evidence: 'spill',
    basis: 'physics',
    severities: ['note'],
    reason:
      'Between layers 7 dB and more keep the picture down; nearer the height layer is heard with it.',
    of: 'array',
    roles: ['main', 'surround'],
    check: layerSpill,
  },
];
