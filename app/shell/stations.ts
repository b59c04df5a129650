/** The stations in working order, lettered like rehearsal marks. */
export const STATIONS = [
  { mark: 'A', path: 'brief', name: 'Brief' },
  { mark: 'B', path: 'floor', name: 'Floor' },
  { mark: 'C', path: 'array', name: 'Array' },
  { mark: 'D', path: 'checks', name: 'Checks' },
  { mark: 'E', path: 'rig', name: 'Rig' },
] as const;

/** The address of a station of a session. */
export const stationPath = (id: string, station: string): string =>
  `/session/${encodeURIComponent(id)}/${station}`;
