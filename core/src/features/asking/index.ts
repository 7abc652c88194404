export * from './print';
export * from './read-typed';
export * from './reading';
export { LONGEST_TYPED } from './words';
export { Meanings } from './vocabulary';
