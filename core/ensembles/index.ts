export * from './constraints';
export * from './instruments';
export * from './radiation';
export * from './section-layout';
export * from './templates';
