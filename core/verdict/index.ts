export * from './take';
export * from './verdict';
export * from './figures';
export * from './causes';
export * from './stand';
export * from './to-as-built';
