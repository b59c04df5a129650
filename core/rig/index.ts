export * from './position-sheet';
export * from './two-tapes';
