export * from './air-absorption';
export * from './diffuse-field';
export * from './mono';
export * from './patterns';
export * from './proximity';
export * from './reflections';
export * from './reverberant-field';
export * from './reverberation-time';
