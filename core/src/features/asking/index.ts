export * from './print';
export { printed, readPrinted } from './read-printed';
export { printedWording } from './printed-wording';
export * from './read-typed';
export * from './reading';
export { LONGEST_TYPED } from './words';
export { Meanings } from './meanings';
export * from './shown';
export * from './suggest';
