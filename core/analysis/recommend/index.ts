export * from './candidates';
export * from './recommend';
export * from './score';
