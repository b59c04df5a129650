export * from './create';
export * from './demo';
export * from './fields';
export * from './migrate';
export * from './read';
export * from './schema';
export { microphoneSchema } from './schema-equipment';
