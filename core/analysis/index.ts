export * from './analyse';
export * from './analyser';
export * from './array-figures';
export * from './context';
export * from './findings';
export * from './source-figures';
