import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { withEngine } from '../audio/actions';
import { listeningStore, type RecordingSide } from '../audio/listening';
import { LOUDNESS } from '../../core/audio/listen/matching';
import { RATE_HZ } from '../../core/drill/ear/sound';
import type { HeardFile } from '../audio/recording-source';
import type { SoundFile } from '../workers/tasks';

/** What a question sounds like, at the engine of everything else: one after another, each from its beginning. */

export interface LetteredSound {
  letter: string;
  sound: SoundFile;
}

export interface Clips {
  /** the letter that sounds; null where nothing does */
  sounding: string | null;
  /** one after another */
  play: (letters: readonly string[]) => void;
  stop: () => void;
}

/** Between one and the next, ms. */
const GAP_MS = 350;
let tokens = 0;
/** A name that says nothing of what it is. */
const token = (): RecordingSide => `recording drill ${(tokens += 1)}`;

/** @param sounds a stable list; null where there are none yet */
export function useClips(sounds: readonly LetteredSound[] | null): Clips {
  const [sounding, setSounding] = useState<string | null>(null);
  const queue = useRef<string[]>([]);
  const waiting = useRef<ReturnType<typeof setTimeout> | null>(null);
  const sides = useMemo(
    () => new Map((sounds ?? []).map(({ letter }) => [letter, token()])),
    [sounds],
  );
  const begin = useCallback(
    (letter: string | undefined): void => {
      const side = letter === undefined ? undefined : sides.get(letter);
      setSounding(side ? (letter ?? null) : null);
      if (!side) return;
      void withEngine((engine) => {
        engine.choose(side);
        engine.setRange(null);
        engine.seek(0);
        if (listeningStore.getState().state === 'silent') void engine.play();
      });
    },
    [sides],
  );
  useEffect(() => {
    if (!sounds) return;
    const files = sounds.flatMap(({ letter, sound }): HeardFile[] => {
      const side = sides.get(letter);
      if (!side) return [];
      return [
        {
          ...{ side, name: letter, file: sound.file, frames: sound.frames, rateHz: RATE_HZ },
          ...{ fromS: 0, processing: {}, loudness: LOUDNESS },
          channels: [
            { id: `${side} left`, channel: 0, left: 1, right: 0 },
            { id: `${side} right`, channel: 1, left: 0, right: 1 },
          ],
        },
      ];
    });
    void withEngine((engine) => engine.setRecordings(files));
    const leave = listeningStore.subscribe(({ state }, before) => {
      if (state !== 'silent' || before.state === 'silent') return;
      const next = queue.current.shift();
      if (next === undefined) return setSounding(null);
      waiting.current = setTimeout(() => begin(next), GAP_MS);
    });
    return () => {
      leave();
      queue.current = [];
      if (waiting.current !== null) clearTimeout(waiting.current);
      setSounding(null);
      void withEngine((engine) => {
        engine.stop();
        engine.setRecordings([]);
      });
    };
  }, [sounds, sides, begin]);
  const play = useCallback(
    (letters: readonly string[]): void => {
      if (waiting.current !== null) clearTimeout(waiting.current);
      const [first, ...rest] = letters;
      queue.current = [...rest];
      begin(first);
    },
    [begin],
  );
  const stop = useCallback((): void => {
    queue.current = [];
    if (waiting.current !== null) clearTimeout(waiting.current);
    setSounding(null);
    void withEngine((engine) => engine.stop());
  }, []);
  return { sounding, play, stop };
}
