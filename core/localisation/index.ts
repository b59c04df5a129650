export * from './cues';
export * from './recording-angle';
export * from './schools';
export * from './stage';
