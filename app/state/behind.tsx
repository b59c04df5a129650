import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { FiguresContext, useFigures } from './figures';
import { uiStore, type Selection } from './ui-store';
import { SessionSnapshot, useSession } from './use-session';

/** As often as changing columns of figures can be read at all. */
const EVERY_MS = 120;

/** A value that, while it changes quickly, is handed on at intervals; its last state always. */
function usePaced<T>(value: T): T {
  const [paced, setPaced] = useState(value);
  const latest = useRef(value);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => {
    latest.current = value;
    timer.current ??= setTimeout(() => {
      timer.current = null;
      setPaced(latest.current);
    }, EVERY_MS);
  }, [value]);
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
}

/**
 * While something is dragged, what stands inside is drawn a few times a second, so that columns of
 * figures never hold up the hand; at rest it is drawn with everything else.
 */
export function Behind({ children, only }: Props) {
  const session = useSession();
  const live = useFigures();
  const lagging = useStore(
    uiStore,
    ({ dragging, selected }) =>
      dragging && (only === undefined || selected.every(({ kind }) => kind === only)),
  );
  const now = useMemo(() => ({ session, live }), [session, live]);
  const paced = usePaced(now);
  const shown = lagging ? paced : now;
  return (
    <SessionSnapshot value={shown.session}>
      <FiguresContext value={shown.live}>{children}</FiguresContext>
    </SessionSnapshot>
  );
}
