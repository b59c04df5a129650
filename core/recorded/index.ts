export * from './bound';
export * from './planned';
export * from './mid-side';
export * from './mix';
