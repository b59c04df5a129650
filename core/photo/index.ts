export * from './bar';
export type { Pixel } from './camera';
export * from './marked';
