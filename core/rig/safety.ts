import { HIGH_STAND_M, OVER_PEOPLE_M } from '../analysis/criteria';
import { gainPlan } from '../analysis/gain';
import { standPlans, neededReach } from './mechanics/stands';
import { enabledArrays } from '../session/lists';
import { standing } from '../session/journals';
import type { Acknowledgement, Session, Source } from '../session/schema';

/** A caution that this set-up raises, to be read by a person. */
export interface SafetyCaution {
  code: string;
  what: string;
  todo: string;
}

/** Who has read which caution last, by its code; what was taken back is not read. */
export function cautionsRead(session: Session): Map<string, Acknowledgement> {
  return new Map(standing(session.acknowledgements).map((entry) => [entry.code, entry]));
}

export const DEFERENCE =
  'Follow the venue’s rules and local codes, and use a licensed rigger or electrician where they ask for one.';

/** A keyboard whose lid stands open on a prop. */
const hasOpenLid = ({ lid }: Source): boolean => lid === 'full-stick' || lid === 'short-stick';

const MOVING_PARTS = /drum|percussion|piano|timpani|marimba/;

/** Only what this plan really raises; nothing is said of hazards that are not there. */
export function safetyCautions(session: Session): SafetyCaution[] {
  const enabled = enabledArrays(session);
  const cautions: SafetyCaution[] = [];
  const say = (code: string, what: string, todo: string) => cautions.push({ code, what, todo });
  const over = enabled.filter(
    (array) =>
      array.z > 1.8 &&
      session.sources.some((s) => Math.hypot(s.x - array.x, s.y - array.y) < OVER_PEOPLE_M),
  );
  const names = (list: readonly { name: string }[]) => list.map(({ name }) => name).join(', ');
  if (over.length > 0) {
    say(
      'over-people',
      `${names(over)} above people`,
      'Counterweight or sandbag on the base, safety bond on everything overhead, nobody under it while it is raised.',
    );
  }
  const high = enabled.filter(({ z }) => z > HIGH_STAND_M);
  if (high.length > 0) {
    say(
      'high',
      `${names(high)} higher than ${HIGH_STAND_M} m`,
      'Two people to raise it; a ladder only with somebody at its foot.',
    );
  }
  const hung = enabled.filter((array) => array.z > 0.05 && neededReach(session, array) === null);
  if (hung.length > 0) {
    say(
      'flown',
      `${names(hung)} with no spot for a stand: it would have to be hung`,
      'Hanging is for a licensed rigger and the venue’s points only, with a second, independent bond.',
    );
  }
  const tipping = standPlans(session).filter(({ ballastKg }) => ballastKg > 0);
  if (tipping.length > 0) {
    say(
      'tip-over',
      tipping
        .map(({ arrayName, ballastKg }) => `${arrayName} wants ${ballastKg} kg on its base`)
        .join(', '),
      'Weight on the base before the boom goes out; legs spread fully, one under the boom.',
    );
  }
  if (enabled.length > 0) {
    say(
      'cables',
      'Cables across the floor',
      'Keep walkways and exits free; tape down or bridge every crossing.',
    );
  }
  const lids = session.sources.filter(hasOpenLid);
  if (lids.length > 0) {
    say(
      'lid',
      `${names(lids)}: an open lid`,
      'Check the prop before reaching in; two people to open or take off a lid; no hands under it while it moves.',
    );
  }
  const moving = session.sources.filter(
    (source) =>
      MOVING_PARTS.test(source.kind) &&
      enabled.some((a) => Math.hypot(a.x - source.x, a.y - source.y, a.z - source.z) < 0.6),
  );
  if (moving.length > 0) {
    say(
      'moving-parts',
      `Microphones close to moving parts: ${names(moving)}`,
      'Let the player swing everything once before the stand is left.',
    );
  }
  const rows = gainPlan(session);
  if (rows.some(({ phantom }) => phantom === 'on')) {
    say(
      'phantom',
      'Phantom power',
      'Switch it with faders and monitors down; passive ribbons stay off any channel that has it.',
    );
  }
  if (rows.some(({ peakDb }) => (peakDb ?? 0) > 110)) {
    say(
      'hearing',
      'Peaks above 110 dB at a microphone',
      'Headphones down before a line is opened; ear protection beside the loud players.',
    );
  }
  if (session.kit.stands.some(({ massKg }) => massKg >= 15)) {
    say('lifting', 'Stands of 15 kg and more', 'Two people to carry them.');
  }
  return cautions;
}
