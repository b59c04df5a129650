export * from './candidates';
export * from './recommend';
export * from './score';
export { PART_WORDS } from './words';
