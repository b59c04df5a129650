import { useEffect } from 'react';

/** Keys of letters on this page, before they mean anything else; not while one types. */
export function useLetterKeys(letters: readonly string[], hear: (letter: string) => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
      if (document.querySelector('dialog[open]')) return;
      const { target } = event;
      if (
        target instanceof HTMLElement &&
        target.closest('input:not([type=checkbox]):not([type=radio]), textarea, select')
      ) {
        return;
      }
      const letter = event.key.toUpperCase();
      if (!letters.includes(letter)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (!event.repeat) hear(letter);
    };
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  }, [letters, hear]);
}
