export * from './engine';
export * from './finding';
