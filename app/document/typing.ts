/**
 * What is typed but not yet handed to the session: fields hand it over a few times a second, and
 * at once when the page saves, leaves or changes.
 */
const waiting = new Set<() => void>();

/** @returns takes the registration back */
export function whenLeaving(handOver: () => void): () => void {
  waiting.add(handOver);
  return () => void waiting.delete(handOver);
}

export function handOverTyped(): void {
  for (const handOver of [...waiting]) handOver();
}
