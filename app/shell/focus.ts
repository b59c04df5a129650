import { choiceStore } from '../view/choice';

/**
 * Where the keyboard goes when what had the focus is gone, or when an action led elsewhere: never
 * to the page as a whole, from where no arrow key moves anything.
 */

const lost = (): boolean =>
  document.activeElement === null || document.activeElement === document.body;

/** The mark of what is selected on the drawing that is shown, or the drawing's ground. */
function inDrawing(): HTMLElement | SVGElement | null {
  const { selection } = choiceStore.getState();
  const mark = selection
    ? document.querySelector<SVGElement>(`[data-${selection.kind}="${CSS.escape(selection.id)}"]`)
    : null;
  return mark ?? document.querySelector<HTMLElement>('[data-drawing]');
}

function intoStation(): void {
  const main = document.querySelector('main');
  if (!main) return;
  if (!main.hasAttribute('tabindex')) main.tabIndex = -1;
  main.focus({ preventScroll: true });
}

/** Runs once the page shows the change that has just been made. */
const afterDrawing = (work: () => void): void =>
  void requestAnimationFrame(() => requestAnimationFrame(work));

/** After something was added or removed: on with what is selected now. */
export function focusSelection(): void {
  afterDrawing(() => {
    const there = inDrawing();
    if (there) there.focus({ preventScroll: true });
    else if (lost()) intoStation();
  });
}

/**
 * Where the keyboard goes when the row that had the focus is gone: to the one in its place.
 * @param place of it among the rows, from 0; nothing where none had it
 */
export function focusRow(place: number | null): void {
  if (place === null) return;
  afterDrawing(() => {
    if (!lost()) return;
    const rows = [...document.querySelectorAll('main tbody tr')];
    const row = rows[Math.min(place, rows.length - 1)];
    const there = row?.querySelector<HTMLElement>('a, button');
    if (there) there.focus({ preventScroll: true });
    else intoStation();
  });
}

/** After a station was opened, and wherever else the focus was lost. */
export function focusStation(): void {
  afterDrawing(() => {
    const { activeElement } = document;
    if (lost() || activeElement?.closest('main') === null) intoStation();
  });
}

const IMAGE_LINE = 'section[aria-label="Stereo image"]';

export const onImageLine = (target: Element | null): boolean =>
  target !== null && target.closest(IMAGE_LINE) !== null;

export const focusImageLine = (): void =>
  document.querySelector<HTMLElement>(IMAGE_LINE)?.focus({ preventScroll: true });
