/** What is needed while it sounds, and nothing of what makes the loops. */
export { LiveMix, OVERSAMPLED, type Thinned } from './live';
export * from './mixer';
export type { Pose } from './pose';
export { guarded } from './interpolate';
