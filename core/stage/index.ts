export * from './wire';
export * from './channel';
export * from './document';
export * from './instructions';
export * from './patches';
