export * from './blind';
export * from './day-left';
export * from './expected';
export * from './significance';
export * from './slate';
export * from './symptoms';
export type { Move, Moves } from './moves';
