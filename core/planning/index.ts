export * from './begin';
export * from './counts';
export * from './presets';
export * from './second';
export * from './coverage';
export * from './timetable';
