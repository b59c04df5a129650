export * from './estimate';
export * from './layout';
export type { ClapField } from './freedoms';
export * from './take';
export * from './words';
