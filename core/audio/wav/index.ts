export * from './bytes';
export * from './decode';
export * from './format';
export * from './header';
export * from './reader';
export * from './stream';
export * from './writer';
export * from './takes';
