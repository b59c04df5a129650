export * from './plan';
export * from './take';
export * from './file';
export * from './fast-spectra';
export * from './spectra';
export * from './size';
