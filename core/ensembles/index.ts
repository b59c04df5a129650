export * from './anatomy';
export * from './constraints';
export * from './extent';
export * from './groups';
export * from './instruments';
export * from './naming';
export * from './parts';
export * from './pieces';
export * from './radiation';
export * from './section-layout';
export * from './from-template';
export * from './stage';

export * from './templates';
export * from './state-words';
export * from './surfaces';
