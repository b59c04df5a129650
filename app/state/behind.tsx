import { useDeferredValue, useMemo, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { FiguresContext, useFigures } from './figures';
import { uiStore } from './ui-store';
import { SessionSnapshot, useSession } from './use-session';

/**
 * While something is dragged, what stands inside is drawn after the drawings, so that columns of
 * figures never hold up the hand; at rest it is drawn with everything else.
 */
export function Behind({ children }: { children: ReactNode }) {
  const session = useSession();
  const live = useFigures();
  const dragging = useStore(uiStore, (state) => state.dragging);
  const now = useMemo(() => ({ session, live }), [session, live]);
  const later = useDeferredValue(now);
  const shown = dragging ? later : now;
  return (
    <SessionSnapshot value={shown.session}>
      <FiguresContext value={shown.live}>{children}</FiguresContext>
    </SessionSnapshot>
  );
}
