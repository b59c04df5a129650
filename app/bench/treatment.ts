import { useCallback, useEffect } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { UNTREATED, type Treatment } from '../../core/recorded';
import { cacheNamed } from '../keeping/caches';
import type { OpenRecording } from './recordings';

/** What is to be done to each recording, by its key; null while that of before is looked for. */
const treatmentStore = createStore<{ of: Readonly<Record<string, Treatment>> }>(() => ({ of: {} }));

const MOST_BYTES = 2_000_000;
const kept = cacheNamed<{ treatment: Treatment }>('treatments', MOST_BYTES);
const asked = new Set<string>();

function put(key: string, treatment: Treatment): void {
  treatmentStore.setState(({ of }) => ({ of: { ...of, [key]: treatment } }));
}

/** What is to be done to a recording, and a way to change it: it is there again after the page was loaded anew. */
export function useTreatment({
  key,
}: Pick<OpenRecording, 'key'>): [Treatment, (change: Partial<Treatment>) => void] {
  const treatment = useStore(treatmentStore, ({ of }) => of[key] ?? UNTREATED);
  useEffect(() => {
    if (asked.has(key)) return;
    asked.add(key);
    void kept.get(key).then((found) => {
      if (found && !treatmentStore.getState().of[key]) put(key, found.treatment);
    });
  }, [key]);
  const change = useCallback(
    (part: Partial<Treatment>) => {
      const next = { ...(treatmentStore.getState().of[key] ?? UNTREATED), ...part };
      put(key, next);
      void kept.keep(key, { treatment: next }, JSON.stringify(next).length);
    },
    [key],
  );
  return [treatment, change];
}
