import { useCallback, useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useStore } from 'zustand';
import type { Answered, Round } from '../../core/drill';
import { newId } from '../document/new-id';
import { drillStore, keepRound, readDrill } from '../keeping/drill-store';
import { notifyFailure } from '../view/notices';

/** Questions of one round. */
export const IN_ROUND = 8;

/** All rounds of this browser; null until they were read. */
export function useRounds(): readonly Round[] | null {
  useEffect(() => void readDrill().catch(notifyFailure), []);
  return useStore(drillStore, ({ rounds }) => rounds);
}

/** Numbers from which questions are made: by chance, or from the one that the address names. */
export function useSeeds(): () => number {
  const [params] = useSearchParams();
  const asked = Number(params.get('seed') ?? NaN);
  const count = useRef(0);
  return useCallback(() => {
    count.current += 1;
    if (Number.isInteger(asked) && asked >= 0) return asked + 101 * (count.current - 1);
    const [value = 1] = crypto.getRandomValues(new Uint32Array(1));
    return value % 1_000_000_007;
  }, [asked]);
}

export interface Going {
  answers: readonly Answered[];
  /** all questions of the round were answered */
  isOver: boolean;
  answer: (answered: Answered) => void;
  again: () => void;
}

/** A round of an exercise, kept answer by answer. */
export function useRound(exercise: string, length = IN_ROUND): Going {
  const begun = useRef({ id: newId(), at: new Date().toISOString() });
  const [answers, setAnswers] = useState<readonly Answered[]>([]);
  const answer = (answered: Answered): void => {
    const now = [...answers, answered];
    setAnswers(now);
    const { id, at } = begun.current;
    keepRound({ id, at, exercise, answers: now }).catch(notifyFailure);
  };
  const again = (): void => {
    begun.current = { id: newId(), at: new Date().toISOString() };
    setAnswers([]);
  };
  return { answers, isOver: answers.length >= length, answer, again };
}
