import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { FiguresContext, useFigures } from './figures';
import { type Selection, choiceStore } from '../view/choice';
import { SessionSnapshot, useSession } from '../document/use-session';

/** As often as changing columns of figures can be read at all. */
const EVERY_MS = 250;
/** The hand has paused. */
const REST_MS = 150;

/**
 * A value that, while it changes quickly, is handed on at intervals, or only when it rests; its
 * last state always.
 */
function usePaced<T>(value: T, atRest: boolean): T {
  const [paced, setPaced] = useState(value);
  const latest = useRef(value);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => {
    latest.current = value;
    if (atRest && timer.current) {
      clearTimeout(timer.current);
      timer.current = null;
    }
    timer.current ??= setTimeout(
      () => {
        timer.current = null;
        setPaced(latest.current);
      },
      atRest ? REST_MS : EVERY_MS,
    );
  }, [value, atRest]);
  useEffect(
    () => () => {
      if (timer.current) clearTimeout(timer.current);
      timer.current = null;
    },
    [],
  );
  return paced;
}

interface Props {
  children: ReactNode;
  /** lags only while nothing but things of this kind is dragged */
  only?: Selection['kind'];
  /** not a few times a second, but only when the hand pauses */
  atRest?: boolean;
}

/**
 * While something is dragged, what stands inside is drawn a few times a second, so that columns of
 * figures never hold up the hand; at rest it is drawn with everything else.
 */
export function Behind({ children, only, atRest = false }: Props) {
  const session = useSession();
  const live = useFigures();
  const lagging = useStore(
    choiceStore,
    ({ dragging, selected }) =>
      dragging && (only === undefined || selected.every(({ kind }) => kind === only)),
  );
  const now = useMemo(() => ({ session, live }), [session, live]);
  const paced = usePaced(now, atRest);
  const shown = lagging ? paced : now;
  return (
    <SessionSnapshot value={shown.session}>
      <FiguresContext value={shown.live}>{children}</FiguresContext>
    </SessionSnapshot>
  );
}
