import { isAmong } from '../seats';
import { sum } from 'd3-array';
import { enabledArrays } from '../../session/lists';
import { mountsOf } from '../../mechanics/mounts';
import { neededReach, standPlans } from '../../mechanics/stands';
import { placeWords } from '../../ensembles/surfaces';
import type { MicArray, Session, Source } from '../../session/schema';
import { HIGH_STAND_M, OVER_PEOPLE_FROM_M, OVER_PEOPLE_M } from '../criteria';
import { gainPlan } from '../gain';
import { lengthText } from '../../units/format';
import type { Found, Rule, Severity } from './finding';

/** What stands beside every caution. */
export const DEFERENCE =
  'Follow the venue’s rules and local codes, and use a licensed rigger or electrician where they ask for one.';

const names = (list: readonly { name: string }[]): string =>
  list.map(({ name }) => name).join(', ');

interface Raised {
  message: string;
  /** instead of what usually stands beside the caution */
  todo?: string;
  arrays?: readonly { id: string }[];
  sources?: readonly Source[];
  figures?: Found['figures'];
}

/** A caution is raised once for a session, or not at all: nothing is said of what is not there. */
function caution(
  rule: { code: string; severity: Severity; evidence: Rule['evidence']; reason: string },
  todo: string,
  raise: (session: Session) => Raised | null,
): Rule {
  const { severity, ...rest } = rule;
  return {
    ...rest,
    basis: 'safety',
    severities: [severity],
    of: 'session',
    check: (session) => {
      const raised = raise(session);
      return raised ? [{ severity, todo, figures: {}, ...raised }] : [];
    },
  };
}

/** A keyboard whose lid stands open on a prop. */
const hasOpenLid = ({ lid }: Source): boolean => lid === 'full-stick' || lid === 'short-stick';

const MOVING_PARTS = /drum|percussion|piano|timpan|marimba|tom$|cymbal|hi-hat|tam-tam|strings$/;
const CLOSE_M = 0.6;
/** Higher than this no stand is raised by hand, m. */
const NO_STAND_M = 6;
const LOUD_DB = 110;
const HEAVY_KG = 15;

/** What can hurt somebody; each is also to be read by a person with a name. */
export const SAFETY_RULES: readonly Rule[] = [
  caution(
    {
      code: 'over-people',
      severity: 'caution',
      evidence: 'stands',
      reason: 'What stands or hangs over people must be held twice.',
    },
    'Counterweight or sandbag on the base, safety bond on everything overhead, nobody under it while it is raised.',
    (session) => {
      const under = ({ x, y, z }: Source, array: { x: number; y: number; z: number }) =>
        z < array.z && Math.hypot(x - array.x, y - array.y) < OVER_PEOPLE_M;
      const over = enabledArrays(session).filter(
        (array) => array.z >= OVER_PEOPLE_FROM_M && session.sources.some((s) => under(s, array)),
      );
      if (over.length === 0) return null;
      return {
        message: `Over people: ${names(over)}.`,
        arrays: over,
        sources: session.sources.filter((s) => over.some((array) => under(s, array))),
        figures: { heightM: Math.max(...over.map(({ z }) => z)) },
      };
    },
  ),
  caution(
    {
      code: 'high',
      severity: 'caution',
      evidence: 'stands',
      reason: 'The higher the load, the wider the base it needs.',
    },
    'Wide base and sandbags; two people to raise it; a ladder only with somebody at its foot.',
    (session) => {
      const high = enabledArrays(session).filter(({ z, hung }) => !hung && z > HIGH_STAND_M);
      if (high.length === 0) return null;
      const heightM = Math.max(...high.map(({ z }) => z));
      const { units } = session.settings;
      const beyond = heightM > NO_STAND_M;
      return {
        message: `Higher than ${lengthText(HIGH_STAND_M, units)}: ${names(high)}${high.length > 1 ? ', the highest at' : ', at'} ${lengthText(heightM, units)}.`,
        arrays: high,
        figures: { heightM },
        // So high up there are no stands: saying how to hold one would be wrong.
        ...(beyond && {
          todo: `Above ${lengthText(NO_STAND_M, units)} nothing is put up on a stand by hand: a lift or the venue’s points, by people licensed for it.`,
        }),
      };
    },
  ),
  caution(
    {
      code: 'flown',
      severity: 'caution',
      evidence: 'stands',
      reason: 'No stand of the usual reach finds a free spot on the floor below it.',
    },
    'Hanging is for a licensed rigger and the venue’s points only, with a second, independent bond.',
    (session) => {
      const hung = enabledArrays(session).filter(
        (array) =>
          array.hung ||
          mountsOf(array).some(
            ({ x, y, z }) => z > 0.05 && neededReach(session, { x, y }) === null,
          ),
      );
      if (hung.length === 0) return null;
      const planned = hung.every((array) => array.hung);
      return {
        message: planned
          ? `Hung from above: ${names(hung)}.`
          : `No spot for a stand below ${names(hung)}: ${hung.length === 1 ? 'it' : 'they'} would have to be hung.`,
        arrays: hung,
      };
    },
  ),
  caution(
    {
      code: 'among-seats',
      severity: 'caution',
      evidence: 'floor',
      reason: 'An aisle is a way out, and a stand among seats is in somebody’s way.',
    },
    'Ask the house which seats are taken out of sale; aisles and exits stay free of stands and cables.',
    (session) => {
      const among = enabledArrays(session).filter((array) =>
        session.venue.seats.some((block) => isAmong(block, array)),
      );
      return among.length === 0
        ? null
        : { message: `Among the seats or their aisles: ${names(among)}.`, arrays: among };
    },
  ),
  caution(
    {
      code: 'tip-over',
      severity: 'caution',
      evidence: 'stands',
      reason: 'Load times reach about the edge of the base against weight times base radius.',
    },
    'Weight on the base before the boom goes out; legs spread fully, one under the boom.',
    (session) => {
      const tipping = standPlans(session).filter(({ ballastKg }) => ballastKg > 0);
      if (tipping.length === 0) return null;
      const each = tipping.map(
        ({ arrayName, ballastKg }) => `${arrayName} wants ${ballastKg} kg on its base`,
      );
      const ballastKg = sum(tipping, (plan) => plan.ballastKg);
      return { message: `${each.join(', ')}.`, figures: { ballastKg } };
    },
  ),
  caution(
    {
      code: 'lid',
      severity: 'caution',
      evidence: 'floor',
      reason: 'A lid is heavy, stands on one prop, and comes down on what is under it.',
    },
    'Check the prop before reaching in; no hands under the lid while it moves; whoever looks after the instrument opens it.',
    (session) => {
      const lids = session.sources.filter(hasOpenLid);
      return lids.length === 0 ? null : { message: `Open lid: ${names(lids)}.`, sources: lids };
    },
  ),
  caution(
    {
      code: 'moving-parts',
      severity: 'caution',
      evidence: 'floor',
      reason: 'Sticks, hammers, pedals and cymbals move, and take a microphone in their way along.',
    },
    'Have it played once, loud and wide, before the stand is left; clear of the whole way of what moves.',
    (session) => {
      const arrays = enabledArrays(session);
      const close = (array: MicArray, { x, y, z }: Source): boolean =>
        Math.hypot(array.x - x, array.y - y, array.z - z) < CLOSE_M;
      const moving = session.sources.filter(
        (source) => MOVING_PARTS.test(source.kind) && arrays.some((array) => close(array, source)),
      );
      if (moving.length === 0) return null;
      const set = arrays.flatMap((array) => {
        const words = placeWords(session, array, session.settings.units);
        return words && moving.some((source) => close(array, source))
          ? [`${array.name} ${words}`]
          : [];
      });
      const where = set.length > 0 ? ` (${set.join('; ')})` : '';
      return {
        message: `Microphones close to moving parts: ${names(moving)}${where}.`,
        sources: moving,
      };
    },
  ),
  caution(
    {
      code: 'hearing',
      severity: 'caution',
      evidence: 'channels',
      reason:
        'Level at the capsule: all players together, direct by distance and pattern, and the room’s.',
    },
    'Headphones down before a line is opened; ear protection beside the loud players.',
    (session) => {
      const peakDb = Math.max(...gainPlan(session).map((row) => row.peakDb ?? -Infinity));
      return peakDb > LOUD_DB
        ? { message: `Peaks above ${LOUD_DB} dB at a microphone.`, figures: { peakDb } }
        : null;
    },
  ),
  caution(
    {
      code: 'cables',
      severity: 'note',
      evidence: null,
      reason: 'Whoever carries an instrument does not see the floor.',
    },
    'Keep walkways and exits free; tape down or bridge every crossing.',
    (session) =>
      enabledArrays(session).length > 0 ? { message: 'Cables across the floor.' } : null,
  ),
  caution(
    {
      code: 'phantom',
      severity: 'note',
      evidence: 'channels',
      reason: 'Its switching is a bang in every loudspeaker and headphone that is open.',
    },
    'Switch it with faders and monitors down; passive ribbons stay off any channel that has it.',
    (session) =>
      gainPlan(session).some(({ phantom }) => phantom === 'on')
        ? { message: 'Phantom power.' }
        : null,
  ),
  caution(
    {
      code: 'lifting',
      severity: 'note',
      evidence: 'kit',
      reason: 'The weights are those of the kit.',
    },
    'Two people to carry them.',
    ({ kit }) =>
      kit.stands.some(({ massKg }) => massKg >= HEAVY_KG)
        ? { message: `Stands of ${HEAVY_KG} kg and more.` }
        : null,
  ),
];
