export * from './bound';
export * from './planned';
export * from './mix';
