import type { ComponentType } from 'react';
import {
  ARRAY_PAGES,
  BENCH_PAGES,
  BRIEF_PAGES,
  CHECKS_PAGES,
  DRILL_PAGES,
  RECALL_PAGES,
  RIG_PAGES,
  SOUNDCHECK_PAGES,
} from './parts/station-pages';

/** A place of work in a session: all that the rest of the product knows of it. */
export interface Station {
  /** its letter, as of a rehearsal mark */
  mark: string;
  /** its part of an address, and the folder of its code */
  path: string;
  name: string;
  /** its pages by name; none where it is one page */
  pages: readonly { id: string; name: string; words?: string }[];
  load: () => Promise<ComponentType>;
}

/**
 * The stations in working order; the keys 1 to 9 go to them. Rail, addresses, palette, keys, the tests of
 * all pages and the rules of what a folder may import are made of this table.
 */
export const STATIONS = [
  {
    mark: 'A',
    path: 'brief',
    name: 'Brief',
    pages: BRIEF_PAGES,
    load: () => import('./brief/brief-station').then((module) => module.BriefStation),
  },
  {
    mark: 'B',
    path: 'floor',
    name: 'Floor',
    pages: [],
    // Comes with the workbench around it.
    load: () => import('./workbench').then((module) => module.FloorStation),
  },
  {
    mark: 'C',
    path: 'array',
    name: 'Array',
    pages: ARRAY_PAGES,
    load: () => import('./array/array-station').then((module) => module.ArrayStation),
  },
  {
    mark: 'D',
    path: 'checks',
    name: 'Checks',
    pages: CHECKS_PAGES,
    load: () => import('./checks/checks-station').then((module) => module.ChecksStation),
  },
  {
    mark: 'E',
    path: 'rig',
    name: 'Rig',
    pages: RIG_PAGES,
    load: () => import('./rig/rig-station').then((module) => module.RigStation),
  },
  {
    mark: 'F',
    path: 'soundcheck',
    name: 'Soundcheck',
    pages: SOUNDCHECK_PAGES,
    load: () =>
      import('./soundcheck/soundcheck-station').then((module) => module.SoundcheckStation),
  },
  {
    mark: 'G',
    path: 'bench',
    name: 'Bench',
    pages: BENCH_PAGES,
    load: () => import('./bench/bench-station').then((module) => module.BenchStation),
  },
  {
    mark: 'H',
    path: 'recall',
    name: 'Recall',
    pages: RECALL_PAGES,
    load: () => import('./recall/recall-station').then((module) => module.RecallStation),
  },
  {
    mark: 'I',
    path: 'drill',
    name: 'Drill',
    pages: DRILL_PAGES,
    load: () => import('./drill/drill-station').then((module) => module.DrillStation),
  },
] as const satisfies readonly Station[];

export type StationPath = (typeof STATIONS)[number]['path'];

/** The address of a station of a session. */
export const stationPath = (id: string, station: string): string =>
  `/session/${encodeURIComponent(id)}/${station}`;
