export * from './absorption';
export * from './hall-of';
export * from './outline';
export * from './solids';
export * from './words';
export * from './screens';
export * from './facing';
