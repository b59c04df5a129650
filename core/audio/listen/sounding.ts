/** What is needed while it sounds, and nothing of what makes the loops. */
export { LiveMix, type Thinned } from './live';
export * from './mixer';
export type { Pose } from './pose';
