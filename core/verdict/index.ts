export * from './take';
export * from './verdict';
export * from './figures';
export * from './causes';
export * from './stand';
export * from './leads';
export * from './to-as-built';
