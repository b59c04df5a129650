import { useEffect } from 'react';
import { useStore } from 'zustand';
import type { MicArray, Session } from '../../core/session';
import { withEngine } from '../audio/actions';
import { shownStore, type HeardPlan } from '../audio/listening';
import type { Beside } from '../document/beside';
import { choiceStore } from '../view/choice';

/** Phrases are made when the page has been left alone for so long. */
const IDLE_MS = 15_000;
/** Beyond so many players that would be a burden nobody asked for. */
const MOST_AHEAD = 24;

/** An array beside the plan, or a whole set-up in its mix. */
const heardOf = (session: Session, { array, setUp }: Beside): HeardPlan =>
  setUp.length > 0
    ? { session: { ...session, arrays: [...setUp] }, heard: 'mix' }
    : { session, heard: array };

/** What is heard follows what the line shows. */
export function useListening(
  session: Session,
  heard: MicArray | 'mix' | null,
  candidate: Beside | null,
): void {
  const dragging = useStore(choiceStore, (state) => state.dragging);
  useEffect(() => {
    const beside = candidate && heardOf(session, candidate);
    shownStore.setState({ shown: heard && { session, heard, candidate: beside, dragging } });
  }, [session, heard, candidate, dragging]);
  useEffect(() => () => shownStore.setState({ shown: null }), []);
  const few = session.sources.length > 0 && session.sources.length <= MOST_AHEAD;
  useEffect(() => {
    if (!few || typeof requestIdleCallback === 'undefined') return;
    let idle = 0;
    const timer = setTimeout(() => {
      idle = requestIdleCallback(() => void withEngine((engine) => engine.prepare()));
    }, IDLE_MS);
    return () => {
      clearTimeout(timer);
      if (idle !== 0) cancelIdleCallback(idle);
    };
  }, [few, session.id]);
}
