/**
 * Remembers what was made of an object, by its identity, for as long as the object lives. Sessions
 * and all that is in them are immutable, so what was made of one holds.
 */
export function remembered<K extends object, V>(make: (key: K) => V): (key: K) => V {
  const known = new WeakMap<K, { value: V }>();
  return (key) => {
    const found = known.get(key);
    if (found) return found.value;
    const value = make(key);
    known.set(key, { value });
    return value;
  };
}

/** Remembers the last answer, for as long as the same is asked. */
export function lastOf<K, V>(make: (key: K) => V): (key: K) => V {
  let known: { key: K; value: V } | null = null;
  return (key) => {
    if (known === null || !Object.is(known.key, key)) known = { key, value: make(key) };
    return known.value;
  };
}

/** A figure worked out when it is first asked for. */
export function once<V>(make: () => V): () => V {
  let known: { value: V } | null = null;
  return () => (known ??= { value: make() }).value;
}
