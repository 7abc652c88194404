export * from './calendar';
export * from './periods';
