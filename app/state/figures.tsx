import { createContext, useContext, useMemo, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import {
  createAnalyser,
  findingsOf,
  type ArrayFigures,
  type Finding,
  type SourceFigures,
} from '../../core/analysis';
import type { MicArray, Session } from '../../core/session';
import { uiStore } from './ui-store';
import { useSession } from './use-session';

/** The figures of the active array, as every station shows them. */
export interface LiveFigures {
  /** the array that is looked at; null in a session without one */
  array: MicArray | null;
  /** null while a field that all of them depend on is not valid */
  figures: ArrayFigures | null;
  bySource: ReadonlyMap<string, SourceFigures>;
  findings: readonly Finding[];
  /** why figures are missing */
  missing: string | null;
}

const FiguresContext = createContext<LiveFigures | null>(null);

export function activeArray(session: Session, chosenId: string | null): MicArray | null {
  const enabled = session.arrays.filter((array) => array.enabled);
  return (
    enabled.find(({ id }) => id === chosenId) ??
    enabled.find(({ role }) => role === 'main') ??
    enabled[0] ??
    null
  );
}

function blockingField(invalid: Readonly<Record<string, string>>, arrayId: string): string | null {
  const key = Object.keys(invalid).find(
    (name) => name.startsWith(`array:${arrayId}:`) || name.startsWith('venue:'),
  );
  return key ? (invalid[key] ?? null) : null;
}

export function FiguresProvider({ children }: { children: ReactNode }) {
  const session = useSession();
  const chosenId = useStore(uiStore, (state) => state.activeArrayId);
  const invalid = useStore(uiStore, (state) => state.invalid);
  const [analyser] = useState(createAnalyser);
  const array = activeArray(session, chosenId);

  const live = useMemo<LiveFigures>(() => {
    const missing = array ? blockingField(invalid, array.id) : 'There is no array yet.';
    if (!array || missing !== null) {
      return { array, figures: null, bySource: new Map(), findings: [], missing };
    }
    const figures = analyser.array(session, array);
    const unclear = new Set(
      Object.keys(invalid).flatMap((key) => (key.startsWith('source:') ? key.split(':')[1] : [])),
    );
    const shown = figures.sources.filter(({ id }) => !unclear.has(id));
    return {
      array,
      figures,
      bySource: new Map(shown.map((source) => [source.id, source])),
      findings: findingsOf(session, array, { ...figures, sources: shown }),
      missing: null,
    };
  }, [analyser, session, array, invalid]);

  return <FiguresContext value={live}>{children}</FiguresContext>;
}

export function useFigures(): LiveFigures {
  const live = useContext(FiguresContext);
  if (!live) throw new TypeError('figures are only there inside a session');
  return live;
}
