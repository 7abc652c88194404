export * from './candidates';
export * from './merge';
export * from './pairs';
export * from './similarity';
