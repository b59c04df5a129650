import { createStore } from 'zustand/vanilla';

/** Which parts of the workbench are open. */
export interface Panels {
  inspectorOpen: boolean;
  imageLineOpen: boolean;
  /** as high as the hand made it, px; null: as high as it needs */
  imageLineHeight: number | null;
  imageLineUnit: 'percent' | 'degrees';
  /** every model's recording angle stands on the pair's page */
  modelsOpen: boolean;
  paletteOpen: boolean;
  /** what is typed in the palette, also before it was there to take it */
  paletteText: string;
  /** Enter was pressed before it was there: its first entry is meant */
  paletteTaken: boolean;
  /** the dialog of a simulated take */
  takeOpen: boolean;
  /** somebody is asked where they hear a player: nothing may tell */
  blind: boolean;
}

export const panelStore = createStore<Panels>(() => ({
  inspectorOpen: true,
  imageLineOpen: true,
  imageLineHeight: null,
  imageLineUnit: 'percent',
  modelsOpen: false,
  paletteOpen: false,
  paletteText: '',
  paletteTaken: false,
  takeOpen: false,
  blind: false,
}));

/** Below this the image line would leave nothing of the page, and the inspector nothing of the plan. */
const SHORT = '(max-height: 560px)';
const NARROW = '(max-width: 900px)';
const PHONE = '(max-width: 639px)';

/** Folds the panels where the window is small or zoomed in, and opens them again when it grows. */
export function fitPanels(): () => void {
  const watch = (query: string, fold: (small: boolean) => void) => {
    const list = matchMedia(query);
    const change = () => fold(list.matches);
    if (list.matches) change();
    list.addEventListener('change', change);
    return () => list.removeEventListener('change', change);
  };
  const stops = [
    watch(PHONE, (small) => panelStore.setState({ imageLineOpen: !small })),
    watch(SHORT, (small) => panelStore.setState({ imageLineOpen: !small })),
    watch(NARROW, (small) => panelStore.setState({ inspectorOpen: !small })),
  ];
  return () => stops.forEach((stop) => stop());
}
