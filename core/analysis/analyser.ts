import type { MicArray, Session, Source } from '../session/schema';
import { arrayBasis, assemble, figuresOver, type ArrayFigures } from './array-figures';
import type { PreparedArray } from '../localisation/prepared-array';
import { contextOf, sameContext, type Context } from '../prepare/context';
import { prepareMix } from './mix';
import { sourceFigures, type SourceFigures } from './source-figures';

/** Remembers figures between calls, so that moving one source recomputes one source. */
export interface Analyser {
  /** Same result as arrayFigures; reuses what did not change, by object identity. */
  array(session: Session, array: MicArray): ArrayFigures;
  /**
   * What the estimate of the whole mix makes of every source; null where nothing is heard.
   * Reuses what did not change, by object identity.
   */
  mix(session: Session): readonly SourceFigures[] | null;
  /** how many sources the last call computed anew */
  recomputed(): number;
}

interface MixMemory {
  arrays: readonly MicArray[];
  context: Context;
  prepared: PreparedArray | null;
  perSource: WeakMap<Source, SourceFigures>;
}

interface Memory {
  context: Context;
  last: { sources: readonly Source[]; result: ArrayFigures } | null;
}

/** Sessions must be treated as immutable: a changed source or array is a new object. */
export function createAnalyser(): Analyser {
  const memories = new WeakMap<MicArray, Memory>();
  let fresh = 0;
  let mixMemory: MixMemory | null = null;

  function memoryOf(array: MicArray, context: Context): Memory {
    const known = memories.get(array);
    if (known && sameContext(known.context, context)) return known;
    const memory: Memory = { context, last: null };
    memories.set(array, memory);
    return memory;
  }

  return {
    array(session, array) {
      const memory = memoryOf(array, contextOf(session));
      fresh = 0;
      const { context, last } = memory;
      if (last?.sources === session.sources) return last.result;
      const figures = figuresOver(array, session.sources, context, () => (fresh += 1));
      const result = assemble(array, arrayBasis(array, context), session.sources, figures, context);
      memory.last = { sources: session.sources, result };
      return result;
    },
    mix(session) {
      const context = contextOf(session);
      const known = mixMemory;
      const memory =
        known?.arrays === session.arrays && sameContext(known.context, context)
          ? known
          : {
              arrays: session.arrays,
              context,
              prepared: prepareMix(session),
              perSource: new WeakMap<Source, SourceFigures>(),
            };
      mixMemory = memory;
      fresh = 0;
      const { prepared, perSource } = memory;
      if (!prepared) return null;
      return session.sources.map((source) => {
        const figures = perSource.get(source) ?? sourceFigures(prepared, source, context);
        if (!perSource.has(source)) fresh += 1;
        perSource.set(source, figures);
        return figures;
      });
    },
    recomputed: () => fresh,
  };
}
