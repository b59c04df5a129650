import { enabledArrays } from '../session/lists';
import { mountSpanM, mountsOf } from '../mechanics/mounts';
import { standPlans } from '../mechanics/stands';
import { assignKit } from '../kit/assignment';
import type { Session } from '../session/schema';
import { inputsOfArray } from '../channels/map';
import { lengthText } from '../units/format';

/** One line of what has to be in the van. */
export interface PackLine {
  /** stable, so that a tick stays with it */
  key: string;
  what: string;
  count: number;
  note: string;
}

/** Cable lengths that are customarily carried, m. */
const CABLES_M = [5, 10, 15, 20, 30, 50] as const;
/** Down the stand, along the floor with slack. */
const SLACK = 1.15;

/**
 * Cable for an array: from its height to the floor, along walls rather than across (both plan
 * distances added) to the input box at the datum, with slack.
 */
export function cableLengthM(array: { x: number; y: number; z: number }): number {
  const run = (Math.abs(array.x) + Math.abs(array.y) + array.z) * SLACK + 2;
  return CABLES_M.find((length) => length >= run) ?? Math.ceil(run / 10) * 10;
}

function tally(lines: readonly PackLine[]): PackLine[] {
  const byKey = new Map<string, PackLine>();
  for (const line of lines) {
    const known = byKey.get(line.key);
    byKey.set(
      line.key,
      known
        ? {
            ...known,
            count: known.count + line.count,
            note: [...new Set([...known.note.split('; '), line.note].filter(Boolean))].join('; '),
          }
        : line,
    );
  }
  return [...byKey.values()];
}

/** Microphones, stands, bars, cables, tapes and weights for the enabled arrays. */
export function packList(session: Session): PackLine[] {
  const assigned = assignKit(session).capsules;
  const lines: PackLine[] = assigned.map(
    ({ microphoneId, microphoneName, pattern, arrayName }) => ({
      key: `mic:${microphoneId ?? pattern}`,
      what: microphoneName ?? `${pattern} microphone, not in the kit`,
      count: 1,
      note: arrayName,
    }),
  );
  const { units } = session.settings;
  const plans = standPlans(session);
  for (const { stand, arrayName, ballastKg, heightM } of plans) {
    lines.push({
      key: `stand:${stand?.id ?? 'any'}`,
      what: stand?.name ?? 'stand, not in the kit',
      count: 1,
      note: `${arrayName}, ${lengthText(heightM, units)}`,
    });
    if (ballastKg > 0) {
      lines.push({
        key: 'ballast',
        what: 'weight for bases, kg',
        count: ballastKg,
        note: arrayName,
      });
    }
  }
  for (const array of enabledArrays(session)) {
    for (const mount of mountsOf(array)) {
      if (array.hung) {
        lines.push({
          key: 'hanging',
          what: 'hanging line with a second, independent bond',
          count: mount.capsules.length > 1 ? 2 : 1,
          note: mount.name,
        });
      }
      if (mount.capsules.length < 2) continue;
      const span = mountSpanM(array, mount);
      const bar = [...session.kit.bars]
        .sort((a, b) => a.mostSpacingM - b.mostSpacingM)
        .find(({ mostSpacingM }) => mostSpacingM >= span);
      lines.push({
        key: `bar:${bar?.id ?? 'any'}`,
        what: bar?.name ?? 'bar, not in the kit',
        count: 1,
        note: `${mount.name}, ${lengthText(span, units, 'bar')}`,
      });
    }
    const length = cableLengthM(array);
    lines.push({
      key: `cable:${length}`,
      what: `microphone cable ${length} m`,
      count: inputsOfArray(array),
      note: array.name,
    });
  }
  lines.push(
    { key: 'tape', what: 'measuring tape', count: 2, note: 'for two-tape positions' },
    { key: 'plumb', what: 'plumb line, protractor, gaffer tape', count: 1, note: '' },
    { key: 'phones', what: 'headphones', count: 1, note: '' },
  );
  return tally(lines);
}
