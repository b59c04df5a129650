import type { Microphone, Session } from '../session/schema';
import { assignKit } from './assignment';

/** Where a microphone's front is: at the end of its body, or on its side. */
export type Address = NonNullable<Microphone['address']>;

/** Kinds that are built both ways, so that the kit has to say it. */
const BOTH_WAYS: readonly Microphone['kind'][] = ['large condenser', 'ribbon'];

/**
 * As the kit says; small condensers and dynamics are addressed at the end unless it says else.
 * @returns null for a kind that is built both ways
 */
export function addressOf({ address, kind }: Pick<Microphone, 'address' | 'kind'>): Address | null {
  if (address) return address;
  return BOTH_WAYS.includes(kind) || kind === 'boundary' ? null : 'end';
}

/** The front of each capsule of an array in the technique's order; null where nobody knows. */
export function fronts(
  session: Pick<Session, 'kit' | 'arrays'>,
  arrayId: string,
): (Address | null)[] {
  const byId = new Map(session.kit.microphones.map((entry) => [entry.id, entry]));
  return assignKit(session)
    .capsules.filter((capsule) => capsule.arrayId === arrayId)
    .map(({ microphoneId }) => {
      const entry = byId.get(microphoneId ?? '');
      return entry ? addressOf(entry) : null;
    });
}

/** Microphones in use of which the kit does not say where their front is, though it matters. */
export function unknownFronts(session: Pick<Session, 'kit' | 'arrays'>): Microphone[] {
  const used = new Set(assignKit(session).capsules.map(({ microphoneId }) => microphoneId));
  return session.kit.microphones.filter(
    (entry) => used.has(entry.id) && BOTH_WAYS.includes(entry.kind) && entry.address === null,
  );
}
