import { useEffect, useMemo, useState } from 'react';
import { withEngine } from '../audio/actions';
import { listeningStore, type RecordingSide } from '../audio/listening';
import type { HeardFile } from '../audio/recording-source';
import type { Lines } from './compared';
import type { Made, Matching, Passage } from './use-sounds';

/** What is compared at the engine: all at one place, one of them heard. */

let tokens = 0;
/** A name that says nothing of what it is. */
const token = (): RecordingSide => `recording compared ${(tokens += 1)}`;

export interface AtEngine {
  /** by what is compared */
  sides: ReadonlyMap<string, RecordingSide>;
  /** what is heard now; null where it is something else */
  heard: string | null;
  hear: (id: string) => void;
}

interface Ask {
  made: Made | null;
  lines: Lines | null;
  matching: Matching | null;
  passage: Passage | null;
  /** what each is called where it is said what is heard */
  names: readonly string[];
  /** another one gives everything a new place and a new name */
  round: string;
}

/** In an order that tells nothing. */
export function inAnyOrder<T>(items: readonly T[]): T[] {
  return items
    .map((item) => [Math.random(), item] as const)
    .sort(([a], [b]) => a - b)
    .map(([, item]) => item);
}

/** Gives what is compared to the engine for as long as one is here, and goes round in the passage. */
export function useAtEngine(ask: Ask): AtEngine {
  const { made, lines, matching, passage, names, round } = ask;
  const [heard, setHeard] = useState<string | null>(null);
  const sides = useMemo(() => {
    const ids = (made?.comparables ?? []).map(({ id }) => id);
    return new Map(inAnyOrder(ids).map((id) => [id, token()]));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a new round has new names
  }, [made, round]);
  const called = names.join('\n');
  useEffect(() => {
    if (!made || !lines || !matching) return;
    const files = made.comparables.flatMap(({ id }, i): HeardFile[] => {
      const [sound, side] = [made.sounds[i], sides.get(id)];
      if (!sound || !side) return [];
      return [
        {
          side,
          name: called.split('\n')[i] ?? '',
          file: sound.file,
          rateHz: sound.rateHz,
          frames: sound.frames,
          fromS: lines.fromS[i] ?? 0,
          processing: sound.processing,
          channels: sound.gains.map((gain, channel) => ({
            id: `${side} ${channel}`,
            channel,
            ...gain,
          })),
          loudness: matching.of[i]?.loudness ?? null,
        },
      ];
    });
    const inTurn = [...sides.keys()].flatMap(
      (id) => files.find(({ side }) => side === sides.get(id)) ?? [],
    );
    void withEngine((engine) => {
      const { side } = listeningStore.getState();
      engine.setRecordings(inTurn);
      const there = inTurn.find((one) => one.side === side) ?? inTurn[0];
      if (there) {
        engine.choose(there.side);
        setHeard([...sides].find(([, of]) => of === there.side)?.[0] ?? null);
      }
    });
  }, [made, lines, matching, sides, called]);
  const wholeS = lines?.wholeS ?? 0;
  const [fromS, toS] = [passage?.fromS ?? 0, passage?.toS ?? 0];
  const ready = made !== null && matching !== null;
  useEffect(() => {
    if (!ready || wholeS <= 0 || toS <= fromS) return;
    void withEngine((engine) => engine.setRange([fromS / wholeS, toS / wholeS]));
  }, [ready, fromS, toS, wholeS, sides]);
  useEffect(
    () => () => {
      void withEngine((engine) => {
        engine.stop();
        engine.setRange(null);
        engine.setRecordings([]);
      });
    },
    [],
  );
  const hear = (id: string): void => {
    const side = sides.get(id);
    if (!side) return;
    setHeard(id);
    void withEngine((engine) => {
      engine.choose(side);
      if (listeningStore.getState().state === 'silent') void engine.play();
    });
  };
  return { sides, heard, hear };
}
