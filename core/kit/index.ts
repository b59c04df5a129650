export * from './address';
export * from './assignment';
export * from './needs';
export * from './starter';
