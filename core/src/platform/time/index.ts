export * from './calendar';
export * from './office-hours';
export * from './period-label';
export * from './periods';
export * from './read-when';
export * from './working-days';
