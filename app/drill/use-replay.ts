import { useEffect } from 'react';

/** Space plays it all again, wherever the focus is but in a field or on a button. */
export function useReplay(replay: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== ' ' || event.ctrlKey || event.metaKey || event.altKey) return;
      if (document.querySelector('dialog[open]')) return;
      const { target } = event;
      if (target instanceof HTMLElement && target.closest('button, input, textarea, select, a')) {
        return;
      }
      event.preventDefault();
      event.stopImmediatePropagation();
      replay();
    };
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  }, [replay]);
}
