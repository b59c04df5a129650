import { channelMap, type Input } from '../channels/map';
import type { Session } from '../session/schema';

/** Which input of the channel list each channel of a recording is, by number; null where it is none. */
export type Binding = readonly (number | null)[];

const plain = (name: string): string => name.trim().toLowerCase().replace(/\s+/g, ' ');

/**
 * What channels are by their names: those of the channel list, each once.
 * @param names of the channels of a recording, 1 … 64
 */
export function bindingByNames(session: Session, names: readonly string[]): Binding {
  const byName = new Map(
    channelMap(session).inputs.map(({ name, number }) => [plain(name), number]),
  );
  const taken = new Set<number>();
  return names.map((name) => {
    const number = byName.get(plain(name)) ?? null;
    if (number === null || taken.has(number)) return null;
    taken.add(number);
    return number;
  });
}

/**
 * The inputs in their order, as far as they go: how a recorder that follows the list has them.
 * @param channels of the recording, 1 … 64
 */
export function bindingInOrder(session: Session, channels: number): Binding {
  const { inputs } = channelMap(session);
  return Array.from({ length: channels }, (_, c) => inputs[c]?.number ?? null);
}

/** Whether anything is bound. */
export const isBound = (binding: Binding): boolean => binding.some((number) => number !== null);

/**
 * What channels are called: bound ones like their microphones, others as the recording says.
 * @param own of the recording
 */
export function boundNames(
  session: Session,
  binding: Binding,
  own: readonly string[],
): readonly string[] {
  const { inputs } = channelMap(session);
  return own.map((name, c) => {
    const number = binding[c] ?? null;
    return (number === null ? null : inputs[number - 1]?.name) ?? name;
  });
}

/**
 * The input of a channel.
 * @param channel of the recording, 0 … 63
 * @returns null where it is none, or the list has become shorter
 */
export function inputOf(session: Session, binding: Binding, channel: number): Input | null {
  const number = binding[channel] ?? null;
  return number === null ? null : (channelMap(session).inputs[number - 1] ?? null);
}

/** Two channels that are the left and the right microphone of one pair, from 0; null where none are. */
export function boundPair(
  session: Session,
  binding: Binding,
): [left: number, right: number] | null {
  const { inputs } = channelMap(session);
  for (const first of inputs) {
    const array = session.arrays.find(({ id }) => id === first.arrayId);
    if (first.capsule !== 0 || array?.technique.kind !== 'pair') continue;
    const second = inputs.find((other) => other.arrayId === first.arrayId && other.capsule === 1);
    const [left, right] = [
      binding.indexOf(first.number),
      second ? binding.indexOf(second.number) : -1,
    ];
    if (left >= 0 && right >= 0) return [left, right];
  }
  return null;
}
