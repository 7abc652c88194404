export * from './question';
export * from './context';
export * from './in-memory';
export * from './in-words';
