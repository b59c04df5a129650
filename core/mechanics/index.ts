export * from './clashes';
export * from './mounts';
export * from './stands';
