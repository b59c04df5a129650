export * from './aligned';
export * from './difference';
export { isEqual, withSteps, type Step } from './patch';
