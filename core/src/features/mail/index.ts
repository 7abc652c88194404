export * from './message';
export * from './new-text';
export * from './sender';
export * from './seen';
export * from './signature';
