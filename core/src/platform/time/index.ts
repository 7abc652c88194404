export * from './calendar';
export * from './office-hours';
export * from './periods';
