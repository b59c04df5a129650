export * from './counts';
export * from './coverage';
export * from './timetable';
