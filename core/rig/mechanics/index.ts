export * from './clashes';
export * from './stands';
