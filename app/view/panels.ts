import { createStore } from 'zustand/vanilla';

/** Which parts of the workbench are open. */
export interface Panels {
  inspectorOpen: boolean;
  imageLineOpen: boolean;
  imageLineUnit: 'percent' | 'degrees';
  paletteOpen: boolean;
  /** what is typed in the palette, also before it was there to take it */
  paletteText: string;
}

export const panelStore = createStore<Panels>(() => ({
  inspectorOpen: true,
  imageLineOpen: true,
  imageLineUnit: 'percent',
  paletteOpen: false,
  paletteText: '',
}));
