/**
 * How the hand came to what has the focus, and whether something is being typed there: one rule for
 * keys, the same before and after a click. A key belongs to a control only where the control was
 * reached by Tab or is typed in; else it belongs to the page.
 */

/** Fields whose content is text; a box to tick and a slider are no such thing. */
const TEXT =
  'textarea, [contenteditable], input:not([type=checkbox], [type=radio], [type=range], [type=button], [type=submit], [type=color], [type=file])';

let byKeys = false;
/** the field that has been typed in and not been left since */
let typedIn: EventTarget | null = null;

/** A field for text: letters and Space belong to it however it was reached. */
export const isTextField = (target: Element | null): boolean => target?.closest(TEXT) != null;

/** Whether keys belong to a control: it was reached by Tab, or by arrows from one that was. */
export const reachedByKeys = (): boolean => byKeys;

/**
 * Whether a field has a history of its own: from the first letter until Enter, Escape or leaving
 * it. Before and after, undo is the plan's.
 */
export const isTypedIn = (target: EventTarget | null): boolean =>
  target !== null && target === typedIn;

/** Watches the hand; returns what ends that. */
export function watchHands(): () => void {
  const onPointer = () => (byKeys = false);
  const onKey = (event: KeyboardEvent) => {
    const { key, target } = event;
    if (key === 'Tab' || key === 'F6') byKeys = true;
    const ends = key === 'Escape' || (key === 'Enter' && !(target instanceof HTMLTextAreaElement));
    if (ends) typedIn = null;
  };
  const onInput = (event: Event) => {
    if (event.target instanceof Element && isTextField(event.target)) typedIn = event.target;
  };
  const onLeave = () => (typedIn = null);
  const capture = { capture: true } as const;
  addEventListener('pointerdown', onPointer, capture);
  addEventListener('keydown', onKey, capture);
  addEventListener('input', onInput, capture);
  addEventListener('focusout', onLeave, capture);
  return () => {
    removeEventListener('pointerdown', onPointer, capture);
    removeEventListener('keydown', onKey, capture);
    removeEventListener('input', onInput, capture);
    removeEventListener('focusout', onLeave, capture);
  };
}
