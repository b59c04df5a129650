import type { MicArray, Microphone, Session } from '../session/schema';
import { formatNumber, formatSigned } from '../units/format';
import { assignKit } from './assignment';

/** How the second microphone of a pair was found against its first. */
export type KeptMatch = Microphone['matches'][number];

/** What a kept match says of an array. */
export interface ArrayMatch {
  microphone: Microphone;
  match: KeptMatch;
}

/**
 * Measured pairs that an array can be: those of the entry that all of its microphones come from.
 * None where the kit does not say.
 */
export function matchesFor(session: Session, array: MicArray): ArrayMatch[] {
  if (array.technique.kind !== 'pair') return [];
  if (!session.kit.microphones.some(({ matches }) => matches.length > 0)) return [];
  const entries = new Set(
    assignKit(session)
      .capsules.filter(({ arrayId }) => arrayId === array.id)
      .map(({ microphoneId }) => microphoneId),
  );
  const [only] = entries;
  const microphone = session.kit.microphones.find(({ id }) => id === only);
  if (entries.size !== 1 || !microphone) return [];
  return microphone.matches.map((match) => ({ microphone, match }));
}

/**
 * The measured pair that an array is: the one it names, else the only one there can be; of two pairs
 * called alike the one that was measured last.
 * @returns null where that is not known
 */
export function matchOfArray(session: Session, array: MicArray): ArrayMatch | null {
  const possible = matchesFor(session, array);
  const named = possible.filter(({ match }) => match.name === array.equipment.pair);
  if (array.equipment.pair !== '' && named.length > 0) {
    return named.reduce((last, one) => (one.match.on >= last.match.on ? one : last));
  }
  const [first] = possible;
  if (!first) return null;
  const pairs = new Set(possible.map(({ match }) => match.name));
  // Two microphones are one pair; of more it is not known which two stand there.
  if (pairs.size > 1 || first.microphone.count > 2) return null;
  return possible.reduce((last, one) => (one.match.on >= last.match.on ? one : last));
}

/** "pair 2: right +0.4 dB, 12 Nov 2026, then within 0.2 dB" */
export function matchText({ name, on, trimDb, leftDb }: KeptMatch): string {
  const day = new Date(`${on.slice(0, 10)}T12:00:00Z`);
  const when = Number.isNaN(day.getTime())
    ? on
    : day.toLocaleDateString('en-GB', {
        day: 'numeric',
        month: 'short',
        year: 'numeric',
        timeZone: 'UTC',
      });
  const parts = [
    `right ${formatSigned(trimDb, 1)} dB`,
    ...(when === '' ? [] : [when]),
    `then within ${formatNumber(leftDb, 1)} dB`,
  ];
  return `${name === '' ? 'pair' : name}: ${parts.join(', ')}`;
}
