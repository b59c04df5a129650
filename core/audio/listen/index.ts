export * from './scene';
export * from './pose';
export * from './live';
export * from './mixer';
export * from './loops';
export * from './head';
export * from './heard-image';
export { guarded } from './interpolate';
