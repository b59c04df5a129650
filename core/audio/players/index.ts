export * from './kinds';
export * from './phrase';
export * from './score';
