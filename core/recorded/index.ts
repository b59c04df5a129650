export * from './bound';
export * from './planned';
export * from './treatment';
export * from './mid-side';
export * from './mix';
