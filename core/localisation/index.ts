export * from './cues';
export * from './curve';
export * from './recording-angle';
export * from './schools';
export * from './solve';
export * from './stage';
export * from './trade-map';
export * from './zones';
