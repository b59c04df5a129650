export * from './map';
