import { useCallback, useEffect, useMemo } from 'react';
import { useTask } from '../workers/use-task';
import type { Tasks } from '../workers/tasks';
import { useClips } from './clips';
import { useReplay } from './use-replay';

/** One sound that plays once it is made, and again by Space or when it is asked for. */
export function useOneSound(asked: Tasks['ownSound']['ask']): {
  ready: boolean;
  error: string | null;
  replay: () => void;
} {
  const { value, error } = useTask('ownSound', asked);
  const sounds = useMemo(() => value && [{ letter: 'X', sound: value }], [value]);
  const { play } = useClips(sounds);
  const replay = useCallback(() => play(['X']), [play]);
  useReplay(replay);
  useEffect(() => {
    if (sounds) replay();
  }, [sounds, replay]);
  return { ready: value !== null, error, replay };
}
