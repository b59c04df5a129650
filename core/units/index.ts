export * from './format';
export * from './guard';
export * from './numbers';
export * from './outcome';
export * from './parse';
export * from './sound';
export * from './vector';
export * from './geometry';
