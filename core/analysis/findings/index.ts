export * from './engine';
export * from './finding';
export * from './figure-words';
export { SAFETY_RULES } from './safety';
export * from './trials';
