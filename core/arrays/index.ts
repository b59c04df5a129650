export * from './capsules';
export * from './frame';
export * from './mid-side';
export * from './routing';
export * from './technique';
