/** What every session needs at once, loaded together; the list of sessions does not wait for it. */
export { FloorStation } from './floor/floor-station';
export { SessionLayout } from './shell/session-layout';
