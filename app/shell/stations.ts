/** The stations in working order, lettered like rehearsal marks. */
export const STATIONS = [
  { mark: 'A', path: 'brief', name: 'Brief' },
  { mark: 'B', path: 'floor', name: 'Floor' },
  { mark: 'C', path: 'array', name: 'Array' },
  { mark: 'D', path: 'checks', name: 'Checks' },
  { mark: 'E', path: 'rig', name: 'Rig' },
] as const;
