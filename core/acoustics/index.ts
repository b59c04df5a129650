export * from './mono';
export * from './patterns';
export * from './reverberant-field';
