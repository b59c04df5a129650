import { enabledArrays } from '../session/lists';
import { mountsOf } from '../mechanics/mounts';
import { planDay } from '../planning/timetable';
import type { Session } from '../session/schema';
import { lengthText } from '../units/format';

export interface BuildStep {
  what: string;
  minutes: number;
  /** minutes after midnight */
  fromMin: number;
}

const ROLE_ORDER = ['main', 'outrigger', 'overhead', 'surround', 'ambience', 'spot'] as const;

/**
 * The build in order, with times from the day's entry for it. Highest and most decisive first,
 * spots last, so that nobody walks around finished stands more than needed. Minutes are customary.
 */
export function buildOrder(session: Session): BuildStep[] {
  const slot = planDay(session.brief.timetable).slots.find(({ entry }) => entry.kind === 'build');
  const arrays = enabledArrays(session).sort(
    (a, b) => ROLE_ORDER.indexOf(a.role) - ROLE_ORDER.indexOf(b.role) || b.z - a.z,
  );
  const steps: Omit<BuildStep, 'fromMin'>[] = [
    { what: 'Find the datum, mark it and the tape points on the floor', minutes: 6 },
    ...arrays.flatMap((array) =>
      mountsOf(array).flatMap(({ name, capsules, z }) => {
        const count = capsules.length;
        if (array.hung) {
          return [
            {
              what: `${name}: hung from the venue’s points by licensed riggers, second bond on; ${count > 1 ? 'the bar and ' : ''}${count === 1 ? 'the microphone' : `${count} microphones`} let down to ${lengthText(z, session.settings.units)}, plumbed over its floor point, aimed`,
              minutes: 20 + 3 * count,
            },
          ];
        }
        return [
          {
            what: `${name}: mark the floor point by two tapes, place and weight the stand`,
            minutes: 4,
          },
          {
            what: `${name}: ${count > 1 ? 'set the bar, ' : ''}mount ${count === 1 ? 'the microphone' : `${count} microphones`}, raise to ${lengthText(z, session.settings.units)}, aim and tilt`,
            minutes: 4 + 2 * count,
          },
        ];
      }),
    ),
    {
      what: 'Run and tape the cables, clear of walkways and exits',
      minutes: 4 + 2 * arrays.length,
    },
    {
      what: 'Patch with faders and monitors down, then phantom power where it is wanted',
      minutes: 5,
    },
    {
      what: 'Line check: each channel by name, polarity, left and right',
      minutes: 3 + arrays.length,
    },
  ];
  let at = slot?.fromMin ?? 540;
  return steps.map((step) => {
    const fromMin = at;
    at += step.minutes;
    return { ...step, fromMin };
  });
}
