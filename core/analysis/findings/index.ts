export * from './engine';
export * from './finding';
export * from './figure-words';
