import { createStore } from 'zustand/vanilla';
import type { Selection } from './choice';

/** The tools in hand on the floor, and what its drawings show. */

/** What a click on the floor does. */
export type FloorTool = 'select' | 'measure' | 'scale' | 'origin' | 'corners' | 'trace';
export type FloorView = 'plan' | 'section' | 'both' | 'table';

/** One end of the tape: something on the floor, or a point of it. */
export type MeasureEnd = Selection | { x: number; y: number };

/** Guides on the floor that can be switched off one by one. */
export interface FloorLayers {
  grid: 'polar' | 'square';
  zones: boolean;
  criticalDistance: boolean;
  equalDistance: boolean;
  seats: boolean;
}

export interface FloorTools {
  tool: FloorTool;
  /** the dialog that adds ensembles; null while it is closed */
  ensembleDialog: 'template' | 'section' | null;
  floorView: FloorView;
  layers: FloorLayers;
  /** ends of the tape of the measure tool, at most two */
  measure: readonly MeasureEnd[];
  /** corners of the hall that is traced so far, m in the plan frame */
  trace: readonly { x: number; y: number }[];
  /** where the side view cuts the hall, right of the datum, m */
  cutX: number;
  /** where the dragged mark has settled, and why */
  snapped: { x: number; y: number; reasons: readonly string[] } | null;
  /** marks settle on grid, angles, symmetry and equal distances */
  snap: boolean;
}

export const toolStore = createStore<FloorTools>(() => ({
  tool: 'select',
  ensembleDialog: null,
  floorView: 'plan',
  layers: {
    grid: 'polar',
    zones: true,
    criticalDistance: true,
    equalDistance: true,
    seats: true,
  },
  measure: [],
  trace: [],
  cutX: 0,
  snapped: null,
  snap: true,
}));

/** Puts down one end of the tape; a third end begins anew. */
export function measureFrom(end: MeasureEnd): void {
  toolStore.setState(({ measure }) => ({
    measure: measure.length === 1 ? [...measure, end] : [end],
  }));
}

export function chooseTool(tool: FloorTool): void {
  toolStore.setState({ tool, measure: [], ...(tool === 'trace' ? {} : { trace: [] }) });
}
