export * from './bound';
export * from './planned';
export * from './spots';
export * from './treatment';
export * from './microphones';
export * from './mid-side';
export * from './mix';
