export * from './constraints';
export * from './extent';
export * from './groups';
export * from './instruments';
export * from './parts';
export * from './radiation';
export * from './section-layout';
export * from './templates';
