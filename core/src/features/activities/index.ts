export * from './day';
export * from './read-when';
