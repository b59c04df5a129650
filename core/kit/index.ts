export * from './address';
export * from './assignment';
export * from './kinds';
export * from './matches';
export * from './needs';
export * from './starter';
