import type { MicArray, Session, Source } from '../session';
import { arrayBasis, assemble, type ArrayBasis, type ArrayFigures } from './array-figures';
import { contextOf, type Context } from './context';
import { sourceFigures, type SourceFigures } from './source-figures';

/** Remembers figures between calls, so that moving one source recomputes one source. */
export interface Analyser {
  /** Same result as arrayFigures; reuses what did not change, by object identity. */
  array(session: Session, array: MicArray): ArrayFigures;
  /** how many sources the last call computed anew */
  recomputed(): number;
}

interface Memory {
  context: Context;
  basis: ArrayBasis;
  perSource: WeakMap<Source, SourceFigures>;
  last: { sources: readonly Source[]; result: ArrayFigures } | null;
}

const sameContext = (a: Context, b: Context): boolean =>
  a.speed === b.speed && a.criticalDistanceM === b.criticalDistanceM;

/** Sessions must be treated as immutable: a changed source or array is a new object. */
export function createAnalyser(): Analyser {
  const memories = new WeakMap<MicArray, Memory>();
  let fresh = 0;

  function memoryOf(array: MicArray, context: Context): Memory {
    const known = memories.get(array);
    if (known && sameContext(known.context, context)) return known;
    const memory: Memory = {
      context,
      basis: arrayBasis(array, context),
      perSource: new WeakMap(),
      last: null,
    };
    memories.set(array, memory);
    return memory;
  }

  return {
    array(session, array) {
      const memory = memoryOf(array, contextOf(session));
      fresh = 0;
      if (memory.last?.sources === session.sources) return memory.last.result;
      const figures = session.sources.map((source) => {
        const known = memory.perSource.get(source);
        if (known) return known;
        fresh += 1;
        const computed = sourceFigures(memory.basis.prepared, source, memory.context);
        memory.perSource.set(source, computed);
        return computed;
      });
      const result = assemble(array, memory.basis, session.sources, figures, memory.context);
      memory.last = { sources: session.sources, result };
      return result;
    },
    recomputed: () => fresh,
  };
}
